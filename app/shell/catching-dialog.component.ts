import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { CheckboxModule } from 'primeng/checkbox';
import { CATCH_GROUPS, type CatchGroup } from '@core';
import { DialogComponent } from '../controls/dialog.component';
import { ViewStore } from '../state/view.store';

const WORDS: Readonly<Record<CatchGroup, string>> = {
  point: 'Points and corners',
  intersection: 'Intersections of lines',
  middle: 'Middles of edges',
  centre: 'Centres of shapes and faces',
  crossing: 'Crossings of the grid',
  perpendicular: 'Feet of perpendiculars',
  spacing: 'Equal spacing',
  edge: 'Edges and curves',
  'grid line': 'Lines of the grid',
  alignment: 'In line with points passed over',
};

/** What the pointer catches, in its rank: each kind can be switched off; and parts of a cell. */
@Component({
  selector: 'chemin-catching-dialog',
  imports: [CheckboxModule, DialogComponent, FormsModule],
  template: `
    <chemin-dialog title="What the pointer catches" width="400px" (closed)="view.patch({ panel: 'none' })">
      <p class="note">The first in this list wins where several are near. Hold Alt to catch nothing.</p>
      <ul>
        @for (group of groups; track group) {
          <li>
            <p-checkbox [inputId]="'catch-' + group" [binary]="true" [ngModel]="!view.catchOff().includes(group)" (ngModelChange)="toggle(group)" /><label
              [for]="'catch-' + group"
              >{{ words[group] }}</label
            >
          </li>
        }
      </ul>
      <div class="chips" role="group" aria-label="Parts of a cell">
        @for (part of parts; track part.count) {
          <button type="button" class="plain" [attr.aria-pressed]="view.parts() === part.count" (click)="view.patch({ parts: part.count })">
            {{ part.title }}
          </button>
        }
      </div>
    </chemin-dialog>
  `,
  styles: `
    ul {
      display: grid;
      margin: 10px 0;
    }
    li {
      display: flex;
      align-items: center;
      gap: 8px;
      min-height: 28px;
    }
    label {
      flex: 1;
    }
    .chips {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
    }
    .chips .plain {
      border: 1px solid var(--stone-3);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CatchingDialogComponent {
  protected readonly view = inject(ViewStore);
  protected readonly groups = CATCH_GROUPS;
  protected readonly words = WORDS;
  protected readonly parts = [
    { count: 1, title: 'Whole cells' },
    { count: 2, title: 'Halves' },
    { count: 3, title: 'Thirds' },
    { count: 10, title: 'Tenths' },
  ];

  protected toggle(group: CatchGroup): void {
    const off = this.view.catchOff();
    this.view.patch({ catchOff: off.includes(group) ? off.filter((other) => other !== group) : [...off, group] });
  }
}
