import { inject, Injectable } from '@angular/core';
import {
  apply33,
  ellipseOf4,
  ellipseOutline,
  exactCells,
  findShape,
  type Outline,
  type OutlinePoint,
  type PlanePoint,
  type SheetPoint,
  type ShapeNode,
} from '@core';
import { DocumentStore } from '../state/document.store';
import { PictureService } from '../state/picture.service';
import { catchPointer } from '../tools/catching';
import type { SheetHandle } from './projection-handles.service';

/** Most points of a shape that are all given handles. */
const MOST = 80;

/** Handles of a shape's boundary: its points, the handles of its curves, the radii of an ellipse; moved with snapping. */
@Injectable({ providedIn: 'root' })
export class PointHandlesService {
  private readonly documents = inject(DocumentStore);
  private readonly pictures = inject(PictureService);

  handles(shape: ShapeNode): readonly SheetHandle[] {
    const { points } = shape.outline;
    if (points.length > MOST) return [];
    if (ellipseOf4(shape.outline))
      return points.flatMap((_, i) => this.handle(shape, i % 2 === 0 ? 'radius along u' : 'radius along v', points[i]!, (o, at) => withRadius(o, i, at)));
    if (points.some((p) => p.arc)) return [];
    return points.flatMap((point, i) => [
      ...this.handle(shape, `point ${i + 1}`, point, (o, at) => withPoint(o, i, at)),
      ...(point.into ? this.handle(shape, `curve into point ${i + 1}`, point.into, (o, at) => withCurve(o, i, 'into', at)) : []),
      ...(point.out ? this.handle(shape, `curve out of point ${i + 1}`, point.out, (o, at) => withCurve(o, i, 'out', at)) : []),
    ]);
  }

  private handle(shape: ShapeNode, name: string, place: PlanePoint, change: (outline: Outline, at: PlanePoint) => Outline): SheetHandle[] {
    const on = this.pictures.planeContext(shape.plane);
    const at = apply33(on.options.sheetFromPlane, place.u, place.v);
    if (!at) return [];
    const drag = (to: SheetPoint, free: boolean, end: boolean): void => {
      const kept = findShape(this.documents.kept(), shape.id);
      const caught = kept && catchPointer(on, to, [], { lock: false, free });
      if (!kept || !caught) return;
      const outline = change(kept.outline, { u: caught.u, v: caught.v });
      const edit = { kind: 'outline', id: shape.id, outline } as const;
      if (!end) this.documents.show(edit);
      else if (JSON.stringify(outline) === JSON.stringify(kept.outline)) this.documents.show(null);
      else this.documents.commit(edit, `move ${name} of ${shape.name}`);
    };
    return [{ name, at, quiet: name.startsWith('curve') ? 'curve' : 'point', drag }];
  }
}

const exact = (p: PlanePoint): PlanePoint => ({ u: exactCells(p.u), v: exactCells(p.v) });

const replaced = (outline: Outline, i: number, point: OutlinePoint): Outline => ({ ...outline, points: outline.points.map((p, k) => (k === i ? point : p)) });

/** A point moved, its curve handles with it. */
function withPoint(outline: Outline, i: number, at: PlanePoint): Outline {
  const p = outline.points[i]!;
  const by = { u: at.u - p.u, v: at.v - p.v };
  const along = (q: PlanePoint): PlanePoint => exact({ u: q.u + by.u, v: q.v + by.v });
  return replaced(outline, i, { ...p, ...exact(at), ...(p.into && { into: along(p.into) }), ...(p.out && { out: along(p.out) }) });
}

/** A curve handle moved; its opposite turns with it, at its own distance, so that the point stays smooth. */
function withCurve(outline: Outline, i: number, side: 'into' | 'out', at: PlanePoint): Outline {
  const p = outline.points[i]!;
  const other = side === 'into' ? p.out : p.into;
  const reach = Math.hypot(at.u - p.u, at.v - p.v);
  if (!other || reach === 0) return replaced(outline, i, { ...p, [side]: exact(at) });
  const k = Math.hypot(other.u - p.u, other.v - p.v) / reach;
  const opposite = exact({ u: p.u - (at.u - p.u) * k, v: p.v - (at.v - p.v) * k });
  return replaced(outline, i, side === 'into' ? { ...p, into: exact(at), out: opposite } : { ...p, into: opposite, out: exact(at) });
}

/** An ellipse with one of its extremes at a point: that radius changes, the centre stays. */
function withRadius(outline: Outline, i: number, at: PlanePoint): Outline {
  const now = ellipseOf4(outline);
  if (!now) return outline;
  const circle = now.radii.u === now.radii.v;
  const radius = Math.abs(i % 2 === 0 ? at.u - now.centre.u : at.v - now.centre.v);
  if (radius === 0) return outline;
  const radii = circle ? { u: radius, v: radius } : i % 2 === 0 ? { ...now.radii, u: radius } : { ...now.radii, v: radius };
  const { points } = ellipseOutline(now.centre, radii);
  return { ...outline, points: points.map((p, k) => ({ ...p, id: outline.points[k]!.id })) };
}
