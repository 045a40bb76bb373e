import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { CheckboxModule } from 'primeng/checkbox';
import { SelectModule } from 'primeng/select';
import { sizeMm } from '@core';
import { ColourFieldComponent } from '../../controls/colour-field.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { TextFieldDirective } from '../../controls/text-field.directive';
import { DocumentStore } from '../../state/document.store';
import { FlatService } from '../../state/flat.service';
import { ArtworksService } from './artworks.service';

/** The artwork that is chosen: its sheet, its versions, what is put in its place. */
@Component({
  selector: 'chemin-artwork-panel',
  imports: [CheckboxModule, ColourFieldComponent, FormsModule, MeasureFieldComponent, SelectModule, TextFieldDirective],
  templateUrl: './artwork-panel.component.html',
  styleUrls: ['../../styles/bench.css', './artwork-bench.component.css'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArtworkPanelComponent {
  protected readonly artworks = inject(ArtworksService);
  protected readonly flat = inject(FlatService);
  private readonly documents = inject(DocumentStore);
  protected readonly artwork = this.artworks.chosen;
  protected readonly size = computed(() => sizeMm(this.artwork() ?? { width: 0, height: 0 }));
  /** Other artworks that could lie where the chosen one lies now. */
  protected readonly others = computed(() => {
    const versions = new Set(this.artworks.versions().map(({ id }) => id));
    return this.documents
      .whole()
      .artworks.filter(({ id }) => !versions.has(id) && id !== this.artwork()?.id)
      .map(({ id, name }) => ({ label: name, value: id }));
  });

  protected rename(text: string): void {
    const name = text.trim().slice(0, 200);
    if (name && name !== this.artwork()?.name) this.artworks.change({ name }, 'rename');
  }

  protected renameVersion(text: string): void {
    const version = this.artwork()?.version;
    const name = text.trim().slice(0, 200);
    if (version && name && name !== version.name) this.artworks.change({ version: { ...version, name } }, 'name the version of');
  }
}
