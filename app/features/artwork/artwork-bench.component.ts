import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonModule } from 'primeng/button';
import { SelectModule } from 'primeng/select';
import type { Artwork, PlacementTarget } from '@core';
import { IconComponent } from '../../controls/icon.component';
import { MissingDirective } from '../../controls/missing.directive';
import { CommandsService } from '../../state/commands.service';
import { ImportsService } from '../../state/imports.service';
import { DocumentStore } from '../../state/document.store';
import { FlatService } from '../../state/flat.service';
import { ViewStore } from '../../state/view.store';
import { ArtworkThumbComponent } from './artwork-thumb.component';
import { ArtworkPanelComponent } from './artwork-panel.component';
import { ArtworkTargets } from './artwork-targets';
import { ArtworksService } from './artworks.service';
import { PlacementPanelComponent } from './placement-panel.component';

/** The artworks of the drawing, and where they are placed: chosen here or by pressing a face. */
@Component({
  selector: 'chemin-artwork-bench',
  imports: [ArtworkPanelComponent, ArtworkThumbComponent, ButtonModule, FormsModule, IconComponent, MissingDirective, PlacementPanelComponent, SelectModule],
  templateUrl: './artwork-bench.component.html',
  styleUrls: ['../../styles/bench.css', './artwork-bench.component.css'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArtworkBenchComponent {
  protected readonly store = inject(DocumentStore);
  protected readonly view = inject(ViewStore);
  protected readonly imports = inject(ImportsService);
  protected readonly commands = inject(CommandsService);
  protected readonly artworks = inject(ArtworksService);
  protected readonly flat = inject(FlatService);
  private readonly lieable = inject(ArtworkTargets);
  protected readonly targets = this.lieable.targets;
  protected readonly alike = this.lieable.alike;

  protected choose(artwork: Artwork): void {
    this.view.patch({ artwork: artwork.id });
    this.view.setTool('place');
  }

  /** Places the chosen artwork on all faces of one name. */
  protected placeOnAll(word: string, targets: readonly PlacementTarget[]): void {
    this.artworks.place(targets, ` on ${targets.length} × ${word}`);
  }

  /** Places the chosen artwork without the pointer. */
  protected placeOn(value: string): void {
    const option = this.targets().find((one) => one.value === value);
    if (option) this.artworks.place([option.target], '');
  }
}
