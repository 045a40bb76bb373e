import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { ButtonModule } from 'primeng/button';
import { DialogComponent } from '../controls/dialog.component';
import { KeepingService, type UnsavedAnswer } from '../state/keeping.service';
import { DocumentStore } from '../state/document.store';
import { ViewStore } from '../state/view.store';

/** What can be done with work that is not in storage: asked before it is left, and offered from the state line. */
@Component({
  selector: 'chemin-unsaved-dialog',
  imports: [ButtonModule, DialogComponent],
  template: `
    <chemin-dialog [title]="'“' + store.whole().name + '” is not saved'" (closed)="answer('stay')">
      <p>{{ keeping.reason() }}</p>
      <p class="note">
        {{ keeping.asking() ? 'Opening another drawing leaves what is here.' : 'Work goes on; what is here stays as long as this page is open.' }}
      </p>
      <div class="choices">
        <button pButton type="button" (click)="copy()">Keep as a copy</button>
        <button pButton type="button" severity="secondary" [outlined]="true" (click)="keeping.saveFile()">Save as a file</button>
        @if (keeping.saving() === 'failed') {
          <button pButton type="button" severity="secondary" [outlined]="true" (click)="again()">Try again</button>
        }
        @if (keeping.asking()) {
          <button pButton type="button" severity="danger" [text]="true" (click)="answer('leave')">Leave it unsaved</button>
        }
        <button pButton type="button" severity="secondary" [text]="true" (click)="answer('stay')">Stay here</button>
      </div>
    </chemin-dialog>
  `,
  styles: `
    p {
      margin: 0 0 8px;
    }
    .choices {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      margin-top: 14px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class UnsavedDialogComponent {
  protected readonly keeping = inject(KeepingService);
  protected readonly store = inject(DocumentStore);
  private readonly view = inject(ViewStore);

  protected answer(answer: UnsavedAnswer): void {
    this.keeping.asking()?.(answer);
    this.view.patch({ panel: 'none' });
  }

  protected copy(): void {
    if (this.keeping.asking()) this.answer('copy');
    else void this.keeping.keepAsCopy().then((kept) => kept && this.view.patch({ panel: 'none' }));
  }

  protected async again(): Promise<void> {
    await this.keeping.saveNow();
    if (!this.keeping.stuck()) this.answer(this.keeping.asking() ? 'leave' : 'stay');
  }
}
