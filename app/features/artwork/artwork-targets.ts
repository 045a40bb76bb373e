import { computed, inject, Injectable } from '@angular/core';
import {
  bodyOf,
  figure,
  findNode,
  flattenTree,
  idsWithin,
  isRuled,
  isTurned,
  planeKey,
  planeName,
  samePlane,
  seenStretches,
  surfaceWord,
  type DocumentNode,
  type PlacementTarget,
  type Plane,
  type ShapeNode,
  type Surface,
} from '@core';
import { DocumentStore } from '../../state/document.store';
import { PictureService } from '../../state/picture.service';
import { ViewStore } from '../../state/view.store';

/** A place that artwork can lie on, as people call it. */
export interface TargetOption {
  readonly label: string;
  readonly value: string;
  readonly target: PlacementTarget;
}

const PLANES: readonly Plane[] = (['floor', 'left', 'right', 'sheet'] as const).map((kind) => ({ kind, offset: 0 }));

const idsOf = (node: DocumentNode | null): readonly string[] => (node ? idsWithin(node) : []);

/** What artwork can lie on in the drawing, and the placement that is selected. */
@Injectable({ providedIn: 'root' })
export class ArtworkTargets {
  private readonly store = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly pictures = inject(PictureService);

  readonly placement = computed(() => {
    const node = findNode(this.store.kept(), this.view.selection()[0] ?? '');
    return node?.kind === 'placement' ? node : null;
  });

  /** The faces and round sides that are seen, each with its thing. */
  private readonly faces = computed((): readonly { readonly node: ShapeNode; readonly surface: Surface }[] => {
    const { view } = this.pictures.geometry();
    return flattenTree(this.store.kept().nodes).flatMap(({ node, hidden }) => {
      if (hidden || node.kind !== 'shape') return [];
      const seen = (surface: Surface): boolean =>
        isRuled(surface.form) ? seenStretches(view.sight.projection, surface.form).length > 0 : isTurned(view, surface);
      return (bodyOf(node)?.surfaces ?? []).flatMap((surface) => (seen(surface) ? [{ node, surface }] : []));
    });
  });

  /**
   * Every place that artwork can lie on: the plane that it lies on now, the active one, those of the axes and the sheet,
   * and each face that is turned to the viewer.
   */
  readonly targets = computed((): TargetOption[] => {
    const target = this.placement()?.target;
    const { projection } = this.store.shown();
    const planes = [...(target?.kind === 'plane' ? [target.plane] : []), this.view.plane(), ...PLANES];
    const unlike = planes.filter((plane, i) => planes.findIndex((other) => samePlane(other, plane)) === i);
    const options: TargetOption[] = unlike.map((plane) => {
      const at = plane.kind === 'sheet' || plane.kind === 'free' ? '' : `, offset ${figure(plane.offset)}`;
      return { label: `${planeName(plane.kind, projection)}${at}`, value: planeKey(plane), target: { kind: 'plane', plane } };
    });
    for (const { node, surface } of this.faces()) {
      const label = node.depth === 0 ? node.name : `${node.name}, ${surfaceWord(surface)}`;
      options.push({ label, value: `${node.id} ${surface.name}`, target: { kind: 'face', node: node.id, face: surface.name } });
    }
    return options;
  });

  /** The faces of what is selected by what they are called, where several things have them and they are seen. */
  readonly alike = computed((): readonly { readonly word: string; readonly targets: readonly PlacementTarget[] }[] => {
    const document = this.store.kept();
    const inside = new Set(this.view.selection().flatMap((id) => idsOf(findNode(document, id))));
    const byWord = new Map<string, PlacementTarget[]>();
    for (const { node, surface } of this.faces()) {
      if (!inside.has(node.id)) continue;
      const word = surfaceWord(surface);
      byWord.set(word, [...(byWord.get(word) ?? []), { kind: 'face', node: node.id, face: surface.name }]);
    }
    return [...byWord].flatMap(([word, targets]) => (targets.length > 1 ? [{ word, targets }] : []));
  });
}
