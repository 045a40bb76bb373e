import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { ButtonModule } from 'primeng/button';
import { CheckboxModule } from 'primeng/checkbox';
import { SelectModule } from 'primeng/select';
import {
  anchorOfBox,
  artworkRoom,
  bodyOf,
  figure,
  findNode,
  flattenTree,
  isRuled,
  isTurned,
  placementGround,
  planeKey,
  planeName,
  readBox,
  samePlane,
  seenStretches,
  surfaceWord,
  type Artwork,
  type PlacementNode,
  type PlacementTarget,
  type Plane,
} from '@core';
import { IconComponent } from '../../controls/icon.component';
import { MeasureFieldComponent } from '../../controls/measure-field.component';
import { ImportsService } from '../../state/imports.service';
import { newId } from '../../platform/ids';
import { DocumentStore } from '../../state/document.store';
import { PictureService } from '../../state/picture.service';
import { ViewStore } from '../../state/view.store';
import { ArtworkThumbComponent } from './artwork-thumb.component';
import { fittedBox, laidOn, placementOn, type Fit } from './place.tool';

interface TargetOption {
  readonly label: string;
  readonly value: string;
  readonly target: PlacementTarget;
}

const PLANES: readonly Plane[] = (['floor', 'left', 'right', 'sheet'] as const).map((kind) => ({ kind, offset: 0 }));

/** The artworks of the drawing, and where a placement lies: chosen here or by pressing a face. */
@Component({
  selector: 'chemin-artwork-bench',
  imports: [ArtworkThumbComponent, ButtonModule, CheckboxModule, MeasureFieldComponent, FormsModule, IconComponent, SelectModule],
  templateUrl: './artwork-bench.component.html',
  styleUrls: ['../../styles/bench.css', './artwork-bench.component.css'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArtworkBenchComponent {
  protected readonly store = inject(DocumentStore);
  protected readonly view = inject(ViewStore);
  protected readonly imports = inject(ImportsService);
  private readonly pictures = inject(PictureService);

  protected readonly placement = computed(() => {
    const node = findNode(this.store.kept(), this.view.selection()[0] ?? '');
    return node?.kind === 'placement' ? node : null;
  });

  /**
   * Every place that artwork can lie on: the plane that it lies on now, the active one, those of the axes and the sheet,
   * and each face that is turned to the viewer.
   */
  protected readonly targets = computed((): TargetOption[] => {
    const { view } = this.pictures.geometry();
    const target = this.placement()?.target;
    const { projection } = this.store.shown();
    const planes = [...(target?.kind === 'plane' ? [target.plane] : []), this.view.plane(), ...PLANES];
    const unlike = planes.filter((plane, i) => planes.findIndex((other) => samePlane(other, plane)) === i);
    const options: TargetOption[] = unlike.map((plane) => {
      const at = plane.kind === 'sheet' || plane.kind === 'free' ? '' : `, offset ${figure(plane.offset)}`;
      return { label: `${planeName(plane.kind, projection)}${at}`, value: planeKey(plane), target: { kind: 'plane', plane } };
    });
    for (const { node, hidden } of flattenTree(this.store.kept().nodes)) {
      if (hidden || node.kind !== 'shape') continue;
      for (const surface of bodyOf(node)?.surfaces ?? []) {
        const seen = isRuled(surface.form) ? seenStretches(view.sight.projection, surface.form).length > 0 : isTurned(view, surface);
        if (!seen) continue;
        const label = node.depth === 0 ? node.name : `${node.name}, ${surfaceWord(surface)}`;
        options.push({ label, value: `${node.id} ${surface.name}`, target: { kind: 'face', node: node.id, face: surface.name } });
      }
    }
    return options;
  });

  /** The option that the selected placement lies on. */
  protected readonly lies = computed(() => {
    const target = this.placement()?.target;
    return target?.kind === 'plane' ? planeKey(target.plane) : target ? `${target.node} ${target.face}` : '';
  });

  protected choose(artwork: Artwork): void {
    this.view.patch({ artwork: artwork.id });
    this.view.setTool('place');
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
