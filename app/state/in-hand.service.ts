import { computed, Injectable, signal, type Signal } from '@angular/core';

/** What is being drawn and not finished: it has steps of its own, which are taken back before those of the drawing. */
export interface InHand {
  readonly canUndo: Signal<boolean>;
  readonly canRedo: Signal<boolean>;
  undo(): void;
  redo(): void;
}

/** Knows what is in hand: told by what drives the tools, asked by undo and redo. */
@Injectable({ providedIn: 'root' })
export class InHandService {
  private readonly held = signal<InHand | null>(null);
  readonly canUndo = computed(() => this.held()?.canUndo() ?? false);
  readonly canRedo = computed(() => this.held()?.canRedo() ?? false);

  hold(held: InHand): void {
    this.held.set(held);
  }

  undo(): void {
    this.held()?.undo();
  }

  redo(): void {
    this.held()?.redo();
  }
}
