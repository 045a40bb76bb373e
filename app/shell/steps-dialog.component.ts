import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { DialogComponent } from '../controls/dialog.component';
import { DocumentStore } from '../state/document.store';
import { ViewStore } from '../state/view.store';

/** Most steps that are listed; older ones are reached by going back to the oldest shown. */
const MOST = 400;

/** Every step of the drawing by name, the newest first: pressing one goes there, and nothing after it is lost. */
@Component({
  selector: 'chemin-steps-dialog',
  imports: [DialogComponent],
  template: `
    <chemin-dialog title="Steps" width="420px" (closed)="view.patch({ panel: 'none' })">
      <ol aria-label="Steps, the newest first">
        @for (step of steps(); track step.position) {
          <li>
            <button
              type="button"
              class="plain"
              [class.undone]="step.position > now()"
              [attr.aria-current]="step.position === now() ? 'step' : null"
              (click)="store.goTo(step.position)"
            >
              <span class="number">{{ step.position }}</span>{{ step.label }}
            </button>
          </li>
        }
      </ol>
      <p class="note">Steps that are undone stay here until you do something else.</p>
    </chemin-dialog>
  `,
  styles: `
    ol {
      display: grid;
      gap: 1px;
      max-height: 60vh;
      overflow: auto;
    }
    button {
      width: 100%;
      min-height: 30px;
      justify-content: start;
      gap: 10px;
      text-align: left;
    }
    .number {
      width: 34px;
      text-align: right;
      color: var(--ink-2);
    }
    .undone {
      color: var(--ink-2);
      font-style: italic;
    }
    [aria-current] {
      background: var(--violet-wash);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StepsDialogComponent {
  protected readonly store = inject(DocumentStore);
  protected readonly view = inject(ViewStore);
  protected readonly now = computed(() => this.store.history().position);
  protected readonly steps = computed(() => {
    const { steps } = this.store.history();
    const all = [{ position: 0, label: 'as it was opened' }, ...steps.map((step, i) => ({ position: i + 1, label: step.label }))];
    return all.slice(-MOST).reverse();
  });
}
