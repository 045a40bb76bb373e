import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { nameProjection } from '@core';
import { IconComponent } from '../../controls/icon.component';
import type { StoredSetup } from '../../platform/database';
import { SetupsService } from '../../platform/setups.service';
import { DocumentStore } from '../../state/document.store';

/** Projections and grids kept by name: used in any drawing, handed on as files. */
@Component({
  selector: 'chemin-setups',
  imports: [IconComponent],
  template: `
    <section aria-label="Kept set-ups">
      <h3 class="panel-title">Kept set-ups</h3>
      <form (submit)="keep(field); $event.preventDefault()">
        <input #field aria-label="Name of the set-up" autocomplete="off" [placeholder]="usual()" />
        <button type="submit" class="plain">Keep</button>
      </form>
      <ul>
        @for (setup of setups.kept(); track setup.id) {
          <li>
            <button type="button" class="plain use" [attr.aria-label]="'Use ' + setup.name" (click)="use(setup)">
              <strong>{{ setup.name }}</strong><small>{{ words(setup) }}</small>
            </button>
            <button type="button" class="plain" [attr.aria-label]="'Export ' + setup.name" (click)="setups.export(setup)"><chemin-icon name="export" /></button>
            <button type="button" class="plain" [attr.aria-label]="'Delete ' + setup.name" (click)="setups.delete(setup)"><chemin-icon name="delete" /></button>
          </li>
        } @empty {
          <li class="note">None yet. A kept set-up is projection and grid, to start the next drawing with.</li>
        }
      </ul>
      <button type="button" class="plain" (click)="setups.import()"><chemin-icon name="import" />Open a set-up file</button>
    </section>
  `,
  styleUrls: ['../../styles/bench.css', './setups.component.css'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SetupsComponent {
  protected readonly setups = inject(SetupsService);
  private readonly store = inject(DocumentStore);
  protected readonly usual = signal('name');

  protected keep(field: HTMLInputElement): void {
    const { projection, grid } = this.store.kept();
    void this.setups.keep(field.value.trim() || nameProjection(projection).name, projection, grid);
    field.value = '';
  }

  protected use({ projection, grid, name }: StoredSetup): void {
    this.store.commit({ kind: 'setup', projection, grid }, `use set-up ${name}`);
  }

  protected words({ projection, grid }: StoredSetup): string {
    return `${nameProjection(projection).name}, cell ${Math.round(grid.cell * 100) / 100}\u2009mm`;
  }
}
