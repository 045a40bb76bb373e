import { computed } from '@angular/core';
import { patchState, signalStore, withComputed, withMethods, withState } from '@ngrx/signals';
import {
  applyEdit,
  commitEdit,
  CoreError,
  emptyDocument,
  flattenTree,
  goToStep,
  presentDocument,
  startHistory,
  type CheminDocument,
  type Edit,
  type History,
  type Plane,
  type PlanePoint,
} from '@core';

/** An outline that is being drawn: kept with the drawing, so that leaving the page loses none of it. */
export interface Draft {
  readonly plane: Plane;
  readonly points: readonly PlanePoint[];
}

interface DocumentState {
  readonly history: History;
  /** An edit that is shown while a gesture lasts, and made at its end. */
  readonly preview: Edit | null;
  readonly draft: Draft | null;
  /** Whether a drawing has been opened yet. */
  readonly open: boolean;
}

/** The open drawing with its history: the one place where documents change. */
export const DocumentStore = signalStore(
  { providedIn: 'root' },
  withState<DocumentState>({ history: startHistory(emptyDocument('none', '')), preview: null, draft: null, open: false }),
  withComputed(({ history, preview }) => {
    const kept = computed(() => presentDocument(history()));
    return {
      /** The document as it is kept. */
      kept,
      /** The document as it is shown: with the gesture that is going on. */
      shown: computed((): CheminDocument => {
        const edit = preview();
        return edit ? applyEdit(kept(), edit) : kept();
      }),
      entries: computed(() => flattenTree(kept().nodes)),
      canUndo: computed(() => history().position > 0),
      canRedo: computed(() => history().position < history().steps.length),
      undoLabel: computed(() => history().steps[history().position - 1]?.label ?? ''),
      redoLabel: computed(() => history().steps[history().position]?.label ?? ''),
    };
  }),
  withMethods((store) => ({
    load(history: History, draft: Draft | null = null): void {
      patchState(store, { history, draft, preview: null, open: true });
    },
    commit(edit: Edit, label?: string): void {
      patchState(store, { history: commitEdit(store.history(), edit, label), preview: null });
    },
    show(preview: Edit | null): void {
      if (preview) {
        try {
          applyEdit(store.kept(), preview);
        } catch (error) {
          if (error instanceof CoreError) return;
          throw error;
        }
      }
      patchState(store, { preview });
    },
    setDraft(draft: Draft | null): void {
      if (draft !== store.draft()) patchState(store, { draft });
    },
    /** Goes to the document after so many steps. */
    goTo(position: number): void {
      patchState(store, { history: goToStep(store.history(), position), preview: null });
    },
    undo(): void {
      patchState(store, { history: goToStep(store.history(), store.history().position - 1), preview: null });
    },
    redo(): void {
      patchState(store, { history: goToStep(store.history(), store.history().position + 1), preview: null });
    },
  })),
);
