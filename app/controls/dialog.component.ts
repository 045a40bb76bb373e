import { ChangeDetectionStrategy, Component, DestroyRef, inject, input, output } from '@angular/core';
import { DialogModule } from 'primeng/dialog';
import { returnFocusAtEnd } from './return-focus';

/** The open windows, the one on top last. */
const open: DialogComponent[] = [];

/**
 * A window over the drawing: closed by its button, by Escape, or by pressing beside it.
 * Escape is heard here: the library's own hearing is deaf while a list that was just left still fades out above the window.
 */
@Component({
  selector: 'chemin-dialog',
  imports: [DialogModule],
  template: `
    <p-dialog
      [header]="title()"
      [visible]="true"
      (visibleChange)="closed.emit()"
      [modal]="true"
      closeAriaLabel="Close"
      [draggable]="false"
      [resizable]="false"
      [dismissableMask]="true"
      [closeOnEscape]="false"
      [position]="top() ? 'top' : 'center'"
      [style]="{ width: width(), maxHeight: '86vh' }"
    >
      <ng-content />
    </p-dialog>
  `,
  host: { '(document:keydown.escape)': 'escaped($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DialogComponent {
  readonly title = input.required<string>();
  readonly width = input('440px');
  readonly top = input(false);
  readonly closed = output();

  constructor() {
    returnFocusAtEnd();
    open.push(this);
    inject(DestroyRef).onDestroy(() => open.splice(open.indexOf(this), 1));
  }

  /** Closes the window on top, unless what is in hand in it took the key for itself. */
  protected escaped(event: Event): void {
    if (!event.defaultPrevented && open.at(-1) === this) this.closed.emit();
  }
}
