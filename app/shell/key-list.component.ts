import { CdkTableModule } from '@angular/cdk/table';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { DialogComponent } from '../controls/dialog.component';
import { CommandsService } from '../state/commands.service';
import { HELD_KEYS } from '../state/keys';
import { ViewStore } from '../state/view.store';

/** The list of keys, from the one table. */
@Component({
  selector: 'chemin-key-list',
  imports: [CdkTableModule, DialogComponent],
  template: `
    <chemin-dialog title="Keys" width="1040px" (closed)="close()">
      <div class="scroller" tabindex="0" role="region" aria-label="Keys and what they do">
        <div class="columns">
          @for (group of groups(); track group.name) {
            <section>
              <h3 class="panel-title">{{ group.name }}</h3>
              <table cdk-table [dataSource]="group.rows" [attr.aria-label]="group.name">
                <ng-container cdkColumnDef="what">
                  <td cdk-cell *cdkCellDef="let row">{{ row.title }}</td>
                </ng-container>
                <ng-container cdkColumnDef="keys">
                  <td cdk-cell *cdkCellDef="let row" class="signs">
                    @for (key of row.keys; track key) {
                      <kbd>{{ key }}</kbd>
                    }
                  </td>
                </ng-container>
                <tr cdk-row *cdkRowDef="let row; columns: columns"></tr>
              </table>
            </section>
          }
        </div>
      </div>
    </chemin-dialog>
  `,
  styles: `
    .scroller {
      max-height: 68vh;
      overflow: hidden auto;
    }
    .columns {
      columns: 260px;
      column-gap: 28px;
    }
    section {
      break-inside: avoid;
      margin-bottom: 14px;
    }
    table {
      width: 100%;
      border-collapse: collapse;
    }
    td {
      padding: 3px 0;
      border-bottom: 1px solid var(--stone-2);
      font-size: 13px;
      vertical-align: top;
    }
    .signs {
      padding-left: 12px;
      text-align: right;
      white-space: nowrap;
    }
    kbd + kbd {
      margin-left: 4px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeyListComponent {
  private readonly view = inject(ViewStore);
  protected readonly columns = ['what', 'keys'];
  private readonly commands = inject(CommandsService);
  protected readonly groups = computed(() => {
    const all = this.commands.all();
    return [
      { name: 'While drawing', rows: HELD_KEYS.map(({ keys, title }) => ({ title, keys: [keys] as readonly string[] })) },
      ...[...new Set(all.map((command) => command.group))].map((name) => ({
        name: name as string,
        rows: all.filter((command) => command.group === name && command.keys.length > 0).map(({ title, keys }) => ({ title, keys })),
      })),
    ].filter((group) => group.rows.length > 0);
  });

  protected close(): void {
    this.view.patch({ panel: 'none' });
  }
}
