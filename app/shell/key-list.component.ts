import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { DialogComponent } from '../controls/dialog.component';
import { COMMANDS, HELD_KEYS } from '../state/keys';
import { ViewStore } from '../state/view.store';

/** The list of keys, from the one table. */
@Component({
  selector: 'chemin-key-list',
  imports: [DialogComponent],
  template: `
    <chemin-dialog title="Keys" width="1040px" (closed)="close()">
      <div class="columns" tabindex="0" role="region" aria-label="Keys and what they do">
        @for (group of groups; track group.name) {
          <section>
            <h3 class="panel-title">{{ group.name }}</h3>
            @for (row of group.rows; track row.title) {
              <p>
                <span>{{ row.title }}</span>
                <span class="signs">
                  @for (key of row.keys; track key) {
                    <kbd>{{ key }}</kbd>
                  }
                </span>
              </p>
            }
          </section>
        }
      </div>
    </chemin-dialog>
  `,
  styles: `
    .columns {
      max-height: 68vh;
      overflow: auto;
      columns: 260px;
      column-gap: 28px;
    }
    section {
      break-inside: avoid;
      margin-bottom: 14px;
    }
    p {
      display: flex;
      justify-content: space-between;
      gap: 12px;
      padding: 3px 0;
      border-bottom: 1px solid var(--stone-2);
      font-size: 13px;
    }
    .signs {
      white-space: nowrap;
      display: flex;
      gap: 4px;
      align-items: start;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeyListComponent {
  private readonly view = inject(ViewStore);
  protected readonly groups = [
    { name: 'While drawing', rows: HELD_KEYS.map(({ keys, title }) => ({ title, keys: [keys] })) },
    ...[...new Set(Object.values(COMMANDS).map((command) => command.group))].map((name) => ({
      name: name as string,
      rows: Object.values(COMMANDS)
        .filter((command) => command.group === name && command.keys.length > 0)
        .map(({ title, keys }) => ({ title: title as string, keys: keys as readonly string[] })),
    })),
  ].filter((group) => group.rows.length > 0);

  protected close(): void {
    this.view.patch({ panel: 'none' });
  }
}
