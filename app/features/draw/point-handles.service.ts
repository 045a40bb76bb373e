import { inject, Injectable } from '@angular/core';
import {
  apply33,
  ellipseOf4,
  ellipseOutline,
  exactCells,
  FORM_LIMITS,
  findNode,
  findShape,
  mapOutline,
  NO_SOURCE,
  outlineEdges,
  placedForm,
  ringsOf,
  type Edit,
  type Fill,
  type Outline,
  type OutlinePoint,
  type PlacedForm,
  type PlanePoint,
  type SheetPoint,
  type ShapeNode,
  type SpiralForm,
} from '@core';
import { DocumentStore } from '../../state/document.store';
import { PictureService } from '../../state/picture.service';
import type { StageHandles } from '../../state/stage';
import { GuidesService } from '../../state/guides.service';
import { ShapingService } from '../../state/shaping.service';
import { ViewStore } from '../../state/view.store';
import { reformed } from './reformed';
import { catchPointer } from '../../tools/catching';
import type { SheetHandle } from '../../tools/handle';

/** Most points of all selected shapes together that are given handles. */
const MOST = 160;
/** Most guides that are given handles at once. */
const MOST_GUIDE_HANDLES = 60;
/** Px on the screen under which a shape is moved as a whole only. */
const SMALL_PX = 40;

/**
 * Handles of boundaries: points, the handles of curves, the middles of edges, the radii of an ellipse, the ends of
 * gradients; moved with snapping. Chosen points of several shapes move together.
 */
@Injectable({ providedIn: 'root' })
export class PointHandlesService implements StageHandles {
  private readonly documents = inject(DocumentStore);
  private readonly pictures = inject(PictureService);
  private readonly view = inject(ViewStore);
  private readonly shaping = inject(ShapingService);
  private readonly guides = inject(GuidesService);

  handles(current: boolean): readonly SheetHandle[] {
    if (!current) return [];
    return [...(this.view.tool() === 'pick' ? this.ofShapes(this.selected()) : []), ...this.ofGuides()];
  }

  /** The place through which a guide runs: of all of them while the tool for guides is in hand, else of the chosen one. */
  private ofGuides(): readonly SheetHandle[] {
    const [all, chosen] = [this.guides.guides(), this.guides.chosen()];
    const shown = this.view.tool() === 'guide' ? all.slice(0, MOST_GUIDE_HANDLES) : chosen ? [chosen] : [];
    return shown.flatMap((guide): readonly SheetHandle[] => {
      const on = this.pictures.planeContext(guide.plane);
      const at = guide.hidden || guide.locked ? null : apply33(on.options.sheetFromPlane, guide.at.u, guide.at.v);
      if (!at) return [];
      const drag = (to: SheetPoint, free: boolean, end: boolean): void => {
        const caught = catchPointer({ ...on, source: NO_SOURCE }, to, [], { lock: false, free });
        if (caught) this.guides.moveTo(guide.id, caught, end);
      };
      return [{ name: guide.name, at, quiet: 'point', chosen: guide.id === chosen?.id, press: () => this.guides.choose(guide.id), drag }];
    });
  }

  /** Selected shapes of which the points can be moved; none while a group or anything else is selected too. */
  private selected(): readonly ShapeNode[] {
    const document = this.documents.shown();
    const nodes = this.view.selection().map((id) => findNode(document, id));
    const shapes = nodes.filter((node) => node?.kind === 'shape' && !node.locked && !node.hidden) as ShapeNode[];
    return shapes.length === nodes.length ? shapes : [];
  }

  private ofShapes(shapes: readonly ShapeNode[]): readonly SheetHandle[] {
    const count = shapes.reduce((sum, shape) => sum + ringsOf(shape.outline).reduce((n, ring) => n + ring.points.length, 0), 0);
    if (count > MOST) return [];
    const several = shapes.length > 1;
    return shapes.flatMap((shape, i) => [
      ...(this.isSmall(shape) ? [] : this.ofShape(shape, several ? ` of shape ${i + 1}` : '')),
      ...(several ? [] : this.ofGradient(shape)),
    ]);
  }

  /** Whether a shape is drawn so small that its handles would cover it: it can still be moved, and zoomed to. */
  private isSmall(shape: ShapeNode): boolean {
    const map = this.pictures.planeContext(shape.plane).options.sheetFromPlane;
    const drawn = shape.outline.points.flatMap(({ u, v }) => apply33(map, u, v) ?? []);
    const [xs, ys] = [drawn.map((p) => p.x), drawn.map((p) => p.y)];
    return Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)) * this.view.zoom() < SMALL_PX;
  }

  private ofShape(shape: ShapeNode, suffix: string): readonly SheetHandle[] {
    const { points } = shape.outline;
    if (ellipseOf4(shape.outline)) {
      return points.flatMap((_, i) =>
        this.handle(shape, `${i % 2 === 0 ? 'radius along u' : 'radius along v'}${suffix}`, points[i]!, (o, at) => withRadius(o, i, at)),
      );
    }
    const placed = shape.form && !suffix ? placedForm(shape.outline, shape.form) : null;
    if (placed) return this.ofForm(shape, placed);
    let serial = 0;
    return ringsOf(shape.outline).flatMap((ring) => [
      ...(suffix || shape.depth !== 0 ? [] : outlineEdges(ring).flatMap(([p, q]) => this.edgeHandle(shape, p, q))),
      ...ring.points.flatMap((point) => {
        serial++;
        return [
          ...this.pointHandle(shape, `point ${serial}${suffix}`, point),
          ...(point.into ? this.handle(shape, `curve into point ${serial}${suffix}`, point.into, (o, at) => withCurve(o, point.id, 'into', at)) : []),
          ...(point.out ? this.handle(shape, `curve out of point ${serial}${suffix}`, point.out, (o, at) => withCurve(o, point.id, 'out', at)) : []),
        ];
      }),
    ]);
  }

  /** The measures of a star or a spiral: its outer point or end, and its first inner corner or its beginning. */
  private ofForm(shape: ShapeNode, placed: PlacedForm): readonly SheetHandle[] {
    const { points } = shape.outline;
    const isStar = placed.form.kind === 'star';
    const inner = isStar ? points[1]! : around(placed, placed.form.inner, placed.startDeg - placed.way * 360 * (placed.form as SpiralForm).turns);
    const outer = isStar ? points[0]! : around(placed, placed.form.outer, placed.startDeg);
    const handle = (name: string, place: PlanePoint, change: (now: PlacedForm, to: PlanePoint) => PlacedForm): readonly SheetHandle[] => {
      const on = this.pictures.planeContext(shape.plane);
      const at = apply33(on.options.sheetFromPlane, place.u, place.v);
      if (!at) return [];
      const drag = (to: SheetPoint, free: boolean, end: boolean): void => {
        const kept = findShape(this.documents.kept(), shape.id);
        const now = kept?.form && placedForm(kept.outline, kept.form);
        const caught = kept && catchPointer(on, to, [], { lock: false, free });
        const next = now && caught && reformed(kept, change(now, caught));
        if (!next || typeof next === 'string') return void (end && this.documents.show(null));
        const moved = JSON.stringify(next.outline) !== JSON.stringify(kept.outline);
        this.finish({ kind: 'change', nodes: [next] }, `set ${name} of ${shape.name}`, end, moved);
      };
      return [{ name, at, drag }];
    };
    return [...handle(isStar ? 'outer radius' : 'outer end', outer, withOuter), ...handle(isStar ? 'inner radius' : 'inner end', inner, withInner)];
  }

  /** A point: pressing chooses it, dragging moves all that are chosen. */
  private pointHandle(shape: ShapeNode, name: string, point: OutlinePoint): SheetHandle[] {
    const key = `${shape.id} ${point.id}`;
    const on = this.pictures.planeContext(shape.plane);
    const at = apply33(on.options.sheetFromPlane, point.u, point.v);
    if (!at) return [];
    const press = (add: boolean): void => {
      const chosen = this.view.points();
      if (add) this.view.patch({ points: chosen.includes(key) ? chosen.filter((other) => other !== key) : [...chosen, key] });
      else if (!chosen.includes(key)) this.view.patch({ points: [key], edge: null });
    };
    const drag = (to: SheetPoint, free: boolean, end: boolean): void => {
      if (!this.view.points().includes(key)) press(false);
      const kept = findShape(this.documents.kept(), shape.id);
      const before =
        kept &&
        ringsOf(kept.outline)
          .flatMap((ring) => ring.points)
          .find((p) => p.id === point.id);
      const caught = before && catchPointer(on, to, [], { lock: false, free });
      if (!kept || !before || !caught) return;
      const edit = this.shaping.moveChosen(exactCells(caught.u - before.u), exactCells(caught.v - before.v));
      const moved = caught.u !== before.u || caught.v !== before.v;
      if (edit) this.finish(edit, `move ${this.view.points().length > 1 ? `${this.view.points().length} points` : `${name} of ${shape.name}`}`, end, moved);
    };
    return [{ name, at, quiet: 'point', chosen: this.view.points().includes(key), press, drag }];
  }

  /** The middle of a straight edge: pressing shows its figures, dragging moves the whole edge. */
  private edgeHandle(shape: ShapeNode, p: OutlinePoint, q: OutlinePoint): SheetHandle[] {
    if (p.arc || p.out || q.into) return [];
    const on = this.pictures.planeContext(shape.plane);
    const middle = { u: (p.u + q.u) / 2, v: (p.v + q.v) / 2 };
    const at = apply33(on.options.sheetFromPlane, middle.u, middle.v);
    if (!at) return [];
    const edge = this.view.edge();
    const [start, stop] = [p, q].map((o) => apply33(on.options.sheetFromPlane, o.u, o.v));
    const turnDeg = start && stop ? (Math.atan2(stop.y - start.y, stop.x - start.x) * 180) / Math.PI : 0;
    const drag = (to: SheetPoint, free: boolean, end: boolean): void => {
      const kept = findShape(this.documents.kept(), shape.id);
      const caught = kept && catchPointer(on, to, [], { lock: false, free });
      const was =
        kept &&
        ringsOf(kept.outline)
          .flatMap(outlineEdges)
          .find(([start]) => start.id === p.id);
      if (!kept || !caught || !was) return;
      // Along its own direction an edge only slides: what is dragged is its distance.
      const [from, till] = was;
      const [du, dv] = [caught.u - (from.u + till.u) / 2, caught.v - (from.v + till.v) / 2];
      const [x, y] = [till.u - from.u, till.v - from.v];
      const k = (du * -y + dv * x) / (x * x + y * y || 1);
      const by = y === 0 ? { u: 0, v: dv } : x === 0 ? { u: du, v: 0 } : { u: -y * k, v: x * k };
      const ids = new Set([from.id, till.id]);
      const outline = mapOutline(kept.outline, (o) => (ids.has(o.id) ? { ...o, u: exactCells(o.u + by.u), v: exactCells(o.v + by.v) } : o));
      this.finish({ kind: 'outline', id: shape.id, outline }, `move edge of ${shape.name}`, end, by.u !== 0 || by.v !== 0);
    };
    const press = (): void => this.view.patch({ edge: { node: shape.id, point: p.id }, points: [] });
    const chosen = edge?.node === shape.id && edge.point === p.id;
    return [{ name: `edge ${p.id}`, at, quiet: 'edge', chosen, turnDeg, press, drag }];
  }

  /** Where a gradient begins and ends, in the plane of its shape. */
  private ofGradient(shape: ShapeNode): readonly SheetHandle[] {
    const { fill } = shape.paint;
    if (fill === null || typeof fill === 'string') return [];
    const places = fill.kind === 'linear' ? (['from', 'to'] as const) : (['centre', 'edge'] as const);
    const on = this.pictures.planeContext(shape.plane);
    return places.flatMap((place): SheetHandle[] => {
      const p = (fill as unknown as Record<string, PlanePoint>)[place]!;
      const at = apply33(on.options.sheetFromPlane, p.u, p.v);
      if (!at) return [];
      const drag = (to: SheetPoint, free: boolean, end: boolean): void => {
        const kept = findShape(this.documents.kept(), shape.id);
        const caught = kept && catchPointer(on, to, [], { lock: false, free });
        if (!kept || !caught || kept.paint.fill === null || typeof kept.paint.fill === 'string') return;
        const next = { ...kept.paint.fill, [place]: { u: caught.u, v: caught.v } } as Fill;
        this.finish(
          { kind: 'paints', items: [{ id: shape.id, paint: { ...kept.paint, fill: next } }] },
          `move gradient of ${shape.name}`,
          end,
          caught.u !== p.u || caught.v !== p.v || this.documents.preview() !== null,
        );
      };
      return [{ name: place !== 'edge' ? place : fill.kind === 'conic' ? 'start' : 'rim', at, drag }];
    });
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
      const moved = JSON.stringify(outline) !== JSON.stringify(kept.outline);
      this.finish({ kind: 'outline', id: shape.id, outline }, `move ${name} of ${shape.name}`, end, moved);
    };
    return [{ name, at, quiet: name.startsWith('curve') ? 'curve' : 'point', drag }];
  }

  private finish(edit: Edit, label: string, end: boolean, moved: boolean): void {
    if (!end) this.documents.show(edit);
    else if (moved) this.documents.commit(edit, label);
    else this.documents.show(null);
  }
}

const around = ({ centre }: PlacedForm, radius: number, deg: number): PlanePoint => ({
  u: centre.u + radius * Math.cos((deg * Math.PI) / 180),
  v: centre.v + radius * Math.sin((deg * Math.PI) / 180),
});

const degTo = ({ centre }: PlacedForm, at: PlanePoint): number => (Math.atan2(at.v - centre.v, at.u - centre.u) * 180) / Math.PI;
const reachTo = ({ centre }: PlacedForm, at: PlanePoint): number => exactCells(Math.hypot(at.u - centre.u, at.v - centre.v));

/** The outer point of a star, or the end of a spiral, at a place: its radius and all of it turned; what is inside keeps its radius. */
function withOuter(now: PlacedForm, at: PlanePoint): PlacedForm {
  return { ...now, form: { ...now.form, outer: reachTo(now, at) }, startDeg: degTo(now, at) };
}

/** An inner corner of a star at a place: its radius, and how far it is turned; or the beginning of a spiral: its radius, and how many turns it has. */
function withInner(now: PlacedForm, at: PlanePoint): PlacedForm {
  const { form, way, startDeg } = now;
  const turned = way * (degTo(now, at) - startDeg);
  if (form.kind === 'star') {
    const deg = turned - 180 / form.points;
    const near = deg - 360 * Math.round(deg / 360);
    // What is nearly in the middle is meant to be.
    return { ...now, form: { ...form, inner: reachTo(now, at), turnedDeg: Math.abs(near) < STRAIGHT_DEG ? 0 : Number(near.toFixed(2)) } };
  }
  const part = -turned / 360;
  const turns = part + Math.round(form.turns - part);
  return { ...now, form: { ...form, inner: reachTo(now, at), turns: Number(Math.max(FORM_LIMITS.turns[0], turns).toFixed(4)) } };
}

/** Degrees within which an inner corner is taken for one in the middle between two points. */
const STRAIGHT_DEG = 2;

const exact = (p: PlanePoint): PlanePoint => ({ u: exactCells(p.u), v: exactCells(p.v) });

/** A curve handle moved; its opposite turns with it, at its own distance, so that the point stays smooth. */
function withCurve(outline: Outline, id: number, side: 'into' | 'out', at: PlanePoint): Outline {
  return mapOutline(outline, (p) => {
    if (p.id !== id) return p;
    const other = side === 'into' ? p.out : p.into;
    const reach = Math.hypot(at.u - p.u, at.v - p.v);
    if (!other || reach === 0) return { ...p, [side]: exact(at) };
    const k = Math.hypot(other.u - p.u, other.v - p.v) / reach;
    const opposite = exact({ u: p.u - (at.u - p.u) * k, v: p.v - (at.v - p.v) * k });
    return side === 'into' ? { ...p, into: exact(at), out: opposite } : { ...p, into: opposite, out: exact(at) };
  });
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
