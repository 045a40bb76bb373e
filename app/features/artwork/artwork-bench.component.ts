import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonModule } from 'primeng/button';
import { SelectModule } from 'primeng/select';
import { flattenTree, type Artwork, type PlacementTarget } from '@core';
import { IconComponent } from '../../controls/icon.component';
import { ImportsService } from '../../state/imports.service';
import { newId } from '../../platform/ids';
import { DocumentStore } from '../../state/document.store';
import { PictureService } from '../../state/picture.service';
import { ViewStore } from '../../state/view.store';
import { ArtworkThumbComponent } from './artwork-thumb.component';
import { ArtworkTargets } from './artwork-targets';
import { PlacementPanelComponent } from './placement-panel.component';
import { exchangedIn, placementOn } from './placing';

/** The artworks of the drawing, and where they are placed: chosen here or by pressing a face. */
@Component({
  selector: 'chemin-artwork-bench',
  imports: [ArtworkThumbComponent, ButtonModule, FormsModule, IconComponent, PlacementPanelComponent, SelectModule],
  templateUrl: './artwork-bench.component.html',
  styleUrls: ['../../styles/bench.css', './artwork-bench.component.css'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArtworkBenchComponent {
  protected readonly store = inject(DocumentStore);
  protected readonly view = inject(ViewStore);
  protected readonly imports = inject(ImportsService);
  private readonly pictures = inject(PictureService);
  private readonly lieable = inject(ArtworkTargets);
  protected readonly targets = this.lieable.targets;
  protected readonly alike = this.lieable.alike;

  protected choose(artwork: Artwork): void {
    this.view.patch({ artwork: artwork.id });
    this.view.setTool('place');
  }

  /** Places the chosen artwork on all faces of one name. */
  protected placeOnAll(word: string, targets: readonly PlacementTarget[]): void {
    const document = this.store.kept();
    const artwork = document.artworks.find(({ id }) => id === this.view.artwork());
    if (!artwork) return;
    const nodes = targets.map((target) => placementOn(artwork, target, { document, geometry: this.pictures.geometry(), newId }, null));
    this.store.commit({ kind: 'add', nodes, artworks: [] }, `place ${artwork.name} on ${targets.length} × ${word}`);
    this.view.select(nodes.map(({ id }) => id));
    this.view.setTool('pick');
  }

  /** Other artworks that could lie where the chosen one lies now, and how often that is placed. */
  protected readonly others = computed(() =>
    this.store
      .kept()
      .artworks.filter(({ id }) => id !== this.view.artwork())
      .map(({ id, name }) => ({ label: name, value: id })),
  );
  protected readonly placedTimes = computed(
    () => flattenTree(this.store.kept().nodes).filter(({ node }) => node.kind === 'placement' && node.artwork === this.view.artwork()).length,
  );

  /** Puts another artwork in the place of the chosen one everywhere. */
  protected exchange(to: string | null): void {
    const document = this.store.kept();
    const [from, artwork] = [this.view.artwork(), document.artworks.find(({ id }) => id === to)];
    const nodes = flattenTree(document.nodes).flatMap(({ node }) =>
      node.kind === 'placement' && node.artwork === from && artwork ? [exchangedIn(document, node, artwork)] : [],
    );
    if (!artwork || nodes.length === 0) return;
    this.store.commit({ kind: 'change', nodes }, `put ${artwork.name} in place`);
    this.view.patch({ artwork: artwork.id });
  }

  /** Places the chosen artwork without the pointer. */
  protected placeOn(value: string): void {
    const option = this.targets().find((o) => o.value === value);
    const artwork = this.store.kept().artworks.find((a) => a.id === this.view.artwork());
    if (!option || !artwork) return;
    const node = placementOn(artwork, option.target, { document: this.store.kept(), geometry: this.pictures.geometry(), newId }, null);
    this.store.commit({ kind: 'add', nodes: [node], artworks: [] }, `place ${artwork.name}`);
    this.view.select([node.id]);
    this.view.setTool('pick');
  }
}
