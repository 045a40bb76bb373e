import { computed, inject } from '@angular/core';
import { patchState, signalStore, withComputed, withMethods, withState } from '@ngrx/signals';
import {
  commitEdit,
  CoreError,
  emptyDocument,
  flatSheetOf,
  flattenTree,
  geometry,
  goToStep,
  passEdit,
  presentDocument,
  startHistory,
  type CheminDocument,
  type Edit,
  type History,
} from '@core';
import type { Draft } from '../platform/database';
import { MessageStore } from '../platform/messages.store';

interface DocumentState {
  readonly history: History;
  /** An edit that is shown while a gesture lasts, and made at its end, and the document with it. */
  readonly preview: Edit | null;
  readonly previewed: CheminDocument | null;
  /** The last change that could not be made, told apart by its number: why, and the message that says so. */
  readonly refusal: { readonly serial: number; readonly reason: string; readonly message: number; readonly offer: Offer | null };
  readonly draft: Draft | null;
  /** The artwork whose sheet is worked on in place of the drawing; null while it is the drawing. */
  readonly sheetOf: string | null;
  /** Whether a drawing has been opened yet. */
  readonly open: boolean;
}

/** What can be had in place of what was refused. */
export interface Offer {
  readonly label: string;
  readonly run: () => void;
}

/** The open drawing with its history: the one place where documents change. */
export const DocumentStore = signalStore(
  { providedIn: 'root' },
  withState<DocumentState>({
    history: startHistory(emptyDocument('none', '')),
    preview: null,
    previewed: null,
    refusal: { serial: 0, reason: '', message: 0, offer: null },
    draft: null,
    sheetOf: null,
    open: false,
  }),
  withComputed(({ history, previewed, sheetOf }) => {
    const whole = computed(() => presentDocument(history()));
    const wholeShown = computed((): CheminDocument => previewed() ?? whole());
    const worked = (document: CheminDocument): CheminDocument => {
      const id = sheetOf();
      return id === null ? document : (flatSheetOf(document, id) ?? document);
    };
    const kept = computed(() => worked(whole()));
    return {
      /** The whole document as it is kept, and as it is shown: with the gesture that is going on. */
      whole,
      wholeShown,
      /** What is worked on, the document or the sheet of one of its artworks, as it is kept. */
      kept,
      /** The same as it is shown. */
      shown: computed(() => worked(wholeShown())),
      entries: computed(() => flattenTree(kept().nodes)),
      canUndo: computed(() => history().position > 0),
      canRedo: computed(() => history().position < history().steps.length),
      undoLabel: computed(() => history().steps[history().position - 1]?.label ?? ''),
      redoLabel: computed(() => history().steps[history().position]?.label ?? ''),
    };
  }),
  withMethods((store, messages = inject(MessageStore)) => {
    /** An edit of what is worked on as one of the document. */
    const whole = (edit: Edit): Edit => {
      const artwork = store.sheetOf();
      return artwork === null || edit.kind === 'flat' || edit.kind === 'artworks' || edit.kind === 'delete-artworks' ? edit : { kind: 'flat', artwork, edit };
    };
    return {
      load(history: History, draft: Draft | null = null): void {
        // Things of another drawing may have the same ids.
        geometry.turnTo();
        patchState(store, { history, draft, preview: null, previewed: null, sheetOf: null, open: true });
      },
      /** Works on the sheet of an artwork, or on the drawing again. */
      work(sheetOf: string | null): void {
        patchState(store, { sheetOf, preview: null, previewed: null });
      },
      /**
       * Makes an edit of what is worked on, as one step. What does not fit, or could not be opened again, is not made and said.
       * @param on the drawing, where an edit is of that whatever is worked on
       * @returns whether it was made
       */
      commit(edit: Edit, label?: string, on: 'worked' | 'drawing' = 'worked'): boolean {
        try {
          patchState(store, { history: commitEdit(store.history(), on === 'drawing' ? edit : whole(edit), label), preview: null, previewed: null });
          if (store.refusal().reason !== '') patchState(store, { refusal: { serial: store.refusal().serial + 1, reason: '', message: 0, offer: null } });
          return true;
        } catch (error) {
          if (!(error instanceof CoreError)) throw error;
          const message = messages.say('warn', 'Not possible here', [sentence(error.message), 'Nothing was changed.']);
          patchState(store, {
            preview: null,
            previewed: null,
            refusal: { serial: store.refusal().serial + 1, reason: sentence(error.message), message, offer: null },
          });
          return false;
        }
      },
      /**
       * Says why a wish cannot be followed, where it was typed; an empty reason takes back what was said, as its cause is gone.
       * @param message that says the same, which a field closes that says it itself
       * @param offer what can be had in its place
       */
      refuse(reason: string, message = 0, offer: Offer | null = null): void {
        if (reason !== '' || store.refusal().reason !== '') patchState(store, { refusal: { serial: store.refusal().serial + 1, reason, message, offer } });
      },
      /** Shows an edit without making it; one that could not be made leaves what was shown before. */
      show(preview: Edit | null): void {
        try {
          const edit = preview && whole(preview);
          patchState(store, { preview: edit, previewed: edit && passEdit(store.whole(), edit).document });
        } catch (error) {
          if (!(error instanceof CoreError)) throw error;
        }
      },
      setDraft(draft: Draft | null): void {
        if (draft !== store.draft()) patchState(store, { draft });
      },
      /** Goes to the document after so many steps. */
      goTo(position: number): void {
        patchState(store, { history: goToStep(store.history(), position), preview: null, previewed: null });
      },
      undo(): void {
        patchState(store, { history: goToStep(store.history(), store.history().position - 1), preview: null, previewed: null });
      },
      redo(): void {
        patchState(store, { history: goToStep(store.history(), store.history().position + 1), preview: null, previewed: null });
      },
    };
  }),
);

/** A reason with a capital letter and a full stop. */
function sentence(text: string): string {
  const whole = text.charAt(0).toUpperCase() + text.slice(1);
  return /[.!?]$/.test(whole) ? whole : `${whole}.`;
}
