import { computed, inject, Injectable } from '@angular/core';
import {
  faceTarget,
  facesOf,
  figure,
  findNode,
  idsWithin,
  isRuled,
  isTurned,
  planeKey,
  planeName,
  samePlane,
  seenStretches,
  sheetFromWorld,
  surfaceWord,
  targetFace,
  type DocumentNode,
  type PlacementTarget,
  type Plane,
  type SeenFace,
  type ShapeNode,
  type Surface,
  type WorldPoint,
} from '@core';
import { DocumentStore } from '../../state/document.store';
import { PictureService } from '../../state/picture.service';
import { ViewStore } from '../../state/view.store';
import { faceWords } from './placing';
import { toldApart } from './told-apart';

/** A place that artwork can lie on, as people call it. */
export interface TargetOption {
  readonly label: string;
  readonly value: string;
  readonly target: PlacementTarget;
}

/** A face with the shape that has it. */
interface FaceThere {
  readonly seen: SeenFace;
  readonly shape: ShapeNode;
  readonly target: PlacementTarget;
  readonly value: string;
}

/** A target as the value of an option. */
export function valueOf(target: PlacementTarget): string {
  return target.kind === 'plane' ? planeKey(target.plane) : `${target.node} ${target.face}${target.inside ? ' inside' : ''}`;
}

const PLANES: readonly Plane[] = (['floor', 'left', 'right', 'sheet'] as const).map((kind) => ({ kind, offset: 0 }));

/** About the middle of a surface, in cells of the world: that of its corners. */
function middleOf({ facets }: Surface): WorldPoint {
  const corners = facets.flatMap((facet) => facet.corners);
  const mean = (k: number): number => (3 * corners.reduce((sum, value, i) => sum + (i % 3 === k ? value : 0), 0)) / corners.length;
  return { a: mean(0), b: mean(1), h: mean(2) };
}

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

  /** The faces and round sides that are turned to the viewer, each once, with its thing. */
  private readonly faces = computed((): readonly FaceThere[] => {
    const { view } = this.pictures.geometry();
    const document = this.store.kept();
    const turned = ({ surface }: SeenFace): boolean =>
      isRuled(surface.form) ? seenStretches(view.sight.projection, surface.form).length > 0 : surface.form.kind === 'flat' && isTurned(view, surface);
    const faces = new Map<string, FaceThere>();
    for (const seen of facesOf(document)) {
      const target = faceTarget(seen);
      const value = valueOf(target);
      const shape = targetFace(document, target)?.shape;
      // What copies show is named by its original.
      if (shape && !faces.has(value) && turned(seen)) faces.set(value, { seen, shape, target, value });
    }
    return [...faces.values()];
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
    const { projection: eye } = this.pictures.geometry().view.sight;
    const faces = this.faces();
    const called = faces.map(({ seen, shape, target }) => ({
      label: faceWords(shape, seen.map ? targetFace(this.store.kept(), target)!.surface : seen.surface),
      at: sheetFromWorld(eye, middleOf(seen.surface)),
    }));
    toldApart(called).forEach((label, i) => options.push({ label, value: faces[i]!.value, target: faces[i]!.target }));
    return options;
  });

  /** The faces of what is selected by what they are called, where several things have them and they are seen. */
  readonly alike = computed((): readonly { readonly word: string; readonly targets: readonly PlacementTarget[] }[] => {
    const document = this.store.kept();
    const inside = new Set(this.view.selection().flatMap((id) => idsOf(findNode(document, id))));
    const byWord = new Map<string, PlacementTarget[]>();
    for (const { seen, shape, target } of this.faces()) {
      if (!inside.has(shape.id)) continue;
      const word = surfaceWord(seen.surface);
      byWord.set(word, [...(byWord.get(word) ?? []), target]);
    }
    return [...byWord].flatMap(([word, targets]) => (targets.length > 1 ? [{ word, targets }] : []));
  });
}
