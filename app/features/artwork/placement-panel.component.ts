import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { CheckboxModule } from 'primeng/checkbox';
import { SelectModule } from 'primeng/select';
import { figure, anchorOfBox, artworkRoom, isRuled, placementGround, readBox, type PlacementNode } from '@core';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { DocumentStore } from '../../state/document.store';
import { PictureService } from '../../state/picture.service';
import { ArtworkTargets, valueOf } from './artwork-targets';
import { ArtworksService } from './artworks.service';
import { PatternPanelComponent } from './pattern-panel.component';
import { fittedBox, laidOn, type Fit } from './placing';

/** The placement that is selected: where it lies, how it is fitted, and how it takes the light. */
@Component({
  selector: 'chemin-placement-panel',
  imports: [CheckboxModule, FormsModule, MeasureFieldComponent, PatternPanelComponent, SelectModule],
  templateUrl: './placement-panel.component.html',
  styleUrls: ['../../styles/bench.css'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlacementPanelComponent {
  private readonly store = inject(DocumentStore);
  private readonly lieable = inject(ArtworkTargets);
  private readonly pictures = inject(PictureService);
  protected readonly artworks = inject(ArtworksService);
  protected readonly placement = this.lieable.placement;
  protected readonly targets = this.lieable.targets;

  /** The option that the selected placement lies on. */
  protected readonly lies = computed(() => {
    const target = this.placement()?.target;
    return target ? valueOf(target) : '';
  });

  /** Where its bitmap is stretched beyond its px at the sheet's resolution: by how much, where it is largest. */
  protected readonly stretched = computed(() => {
    const placed = this.placement();
    const { artworks, bitmaps, sheet } = this.store.kept();
    const artwork = artworks.find(({ id }) => id === placed?.artwork);
    const bitmap = bitmaps.find(({ id }) => id === artwork?.bitmap);
    const polygon = placed && this.pictures.picture().visible.find(({ node }) => node === placed.id)?.polygon;
    if (!bitmap || !polygon || polygon.length !== 8) return '';
    const edge = (i: number): number => Math.hypot(polygon[(i + 2) % 8]! - polygon[i]!, polygon[(i + 3) % 8]! - polygon[i + 1]!);
    const mmPerPx = Math.max(edge(0) / bitmap.width, edge(4) / bitmap.width, edge(2) / bitmap.height, edge(6) / bitmap.height);
    const ratio = (mmPerPx * sheet.resolution) / 25.4;
    if (ratio <= 1.02) return '';
    return `Its ${bitmap.width} × ${bitmap.height}\u2009px are stretched ${figure(ratio, 1)} times at ${figure(sheet.resolution, 0)}\u2009px to the inch: ${figure(sheet.resolution / ratio, 0)} are there.`;
  });

  /** The room that the selected placement has on its face; null on planes. */
  protected readonly room = computed(() => {
    const node = this.placement();
    const ground = node && placementGround(this.store.kept(), node);
    return ground && 'form' in ground ? artworkRoom(ground) : null;
  });
  /** Whether it lies on a side that goes round. */
  protected readonly isRound = computed(() => {
    const node = this.placement();
    const ground = node && placementGround(this.store.kept(), node);
    return ground !== null && 'form' in ground && isRuled(ground.form);
  });
  protected readonly fits = computed((): readonly { readonly key: Fit; readonly title: string }[] => [
    ...(this.room()
      ? ([
          { key: 'inside', title: 'Inside' },
          { key: 'cover', title: 'Cover' },
          { key: 'stretch', title: this.isRound() ? 'All round' : 'Stretch' },
        ] as const)
      : []),
    { key: 'true', title: 'True size' },
  ]);

  /** Changes how the selected placement takes the light and covers; what is undefined is taken away. */
  protected change(part: { readonly [K in 'lit' | 'shaded' | 'overhangs' | 'strength' | 'blend']?: PlacementNode[K] | undefined }): void {
    const node = this.placement();
    if (!node) return;
    const changed = Object.fromEntries(Object.entries({ ...node, ...part }).filter(([, value]) => value !== undefined)) as unknown as PlacementNode;
    this.store.commit({ kind: 'change', nodes: [changed] }, `change ${node.name}`);
  }

  /** Fits the selected placement to its face, about the face's middle, or gives it the size that its file says. */
  protected fit(how: Fit): void {
    const node = this.placement();
    const document = this.store.kept();
    const ground = node && placementGround(document, node);
    const artwork = document.artworks.find(({ id }) => id === node?.artwork);
    if (!node || !ground || !artwork) return;
    const before = readBox(ground, node.anchor);
    const room = this.room();
    const anchor = anchorOfBox(ground, fittedBox(how, artwork, before, room, document), node.anchor);
    this.store.commit({ kind: 'place', id: node.id, target: node.target, anchor, ...(node.overhangs && { overhangs: node.overhangs }) }, `fit ${node.name}`);
  }

  /** Moves the selected placement to another face or plane; its size stays. */
  protected moveTo(value: string): void {
    const placed = this.placement();
    const option = this.targets().find((o) => o.value === value);
    if (!placed || !option || value === this.lies()) return;
    this.store.commit(laidOn(this.store.kept(), placed, option.target), `move ${placed.name}`);
  }
}
