import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { DialogModule } from 'primeng/dialog';
import { returnFocusAtEnd } from './return-focus';

/** A window over the drawing: closed by its button, by Escape, or by pressing beside it. */
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
      [position]="top() ? 'top' : 'center'"
      [style]="{ width: width(), maxHeight: '86vh' }"
    >
      <ng-content />
    </p-dialog>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DialogComponent {
  readonly title = input.required<string>();
  readonly width = input('440px');
  readonly top = input(false);
  readonly closed = output();

  constructor() {
    returnFocusAtEnd();
  }
}
