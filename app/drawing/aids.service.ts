import { computed, inject, Injectable } from '@angular/core';
import {
  apply33,
  bodyOf,
  chordsOf,
  findNode,
  isPart,
  scaleWorld,
  surfaceRings,
  worldFromPlane,
  type PlaneFrame,
  type PlanePoint,
  type SpaceNode,
  coneRadius,
  cornerOf,
  drawnAt,
  figure,
  findShape,
  guideOnSheet,
  lengthInUnit,
  PLANE_COLOURS,
  horizonOf,
  sheetFromWorld,
  standingFigure,
  trialEdges,
  vanishingPoints,
  type Axis,
  type PerspectiveSetup,
  type Projection,
  type SheetPoint,
} from '@core';
import { DocumentStore } from '../state/document.store';
import { PictureService } from '../state/picture.service';
import { SteeringService } from '../state/steering.service';
import { TraceService } from '../state/trace.service';
import { AidsStore, type AidTrail } from '../state/aids.store';
import { ViewStore } from '../state/view.store';

/** A construction line, circle or figure over the drawing, in mm of the sheet; never handed over. */
export type Aid =
  | {
      readonly kind: 'line';
      readonly from: SheetPoint;
      readonly to: SheetPoint;
      readonly dash: readonly number[];
      readonly tone: AidTone;
      readonly label?: string;
      /** A colour of its own, `#rrggbb`, in place of the tone's. */
      readonly colour?: string;
    }
  | { readonly kind: 'circle'; readonly centre: SheetPoint; readonly radius: number; readonly label: string }
  | ({ readonly kind: 'trail' } & AidTrail)
  | { readonly kind: 'figure'; readonly outline: readonly number[] };

export type AidTone = 'soft' | 'plain' | 'strong' | 'warn';

const AXES = ['a', 'b', 'h'] as const;
/** Strokes along a are whole, along b dashed, along h dotted, so that they are not told apart by colour. */
const DASHES: Readonly<Record<Axis, readonly number[]>> = { a: [], b: [9, 5], h: [2, 4] };

/** Px from an edge of the trial box at which its measure stands. */
const MEASURE_PX = 34;

/** How finely curves of parts are shown, in cells. */
const PART_CHORDS = 0.02;

/** Everything that helps to see how the projection is made. */
@Injectable({ providedIn: 'root' })
export class AidsService {
  private readonly view = inject(ViewStore);
  private readonly chosen = inject(AidsStore);
  private readonly documents = inject(DocumentStore);
  private readonly pictures = inject(PictureService);
  private readonly steering = inject(SteeringService);
  private readonly trace = inject(TraceService);

  readonly aids = computed((): readonly Aid[] => {
    const { projection } = this.pictures.geometry().sight;
    const setup = this.steering.perspective();
    const steering = this.view.tool() === 'projection';
    return [
      ...(setup && steering ? perspectiveLines(setup) : []),
      ...(setup && (steering || this.chosen.cone() || this.chosen.figure()) ? this.horizon(setup) : []),
      ...(setup && this.chosen.cone() ? [{ kind: 'circle', centre: setup.principal, radius: coneRadius(setup), label: 'cone of vision, 60°' } as const] : []),
      ...(this.chosen.figure() ? this.figure(projection) : []),
      ...(!setup && steering ? this.axes(projection) : []),
      ...this.guides(projection),
      ...this.trialBox(projection),
      ...this.chosen.trails().map((trail) => ({ kind: 'trail', ...trail }) as const),
      ...(this.view.tool() === 'trace' ? this.strokes() : []),
      ...(this.view.tool() === 'pick' ? this.parts(projection) : []),
      ...(this.view.stage() === 'draw' && this.view.tool() === 'pick' ? this.curveArms() : []),
    ];
  });

  /** The trial box: its edges, those behind dashed, its measures beside those in front, and in perspective how they run to their vanishing points. */
  private trialBox(projection: Projection): Aid[] {
    const { trial, grid, sheet } = this.documents.shown();
    if (!trial) return [];
    const edges = trialEdges(projection, trial, grid.cell);
    const mean = (pick: (p: SheetPoint) => number): number => edges.reduce((sum, { from, to }) => sum + pick(from) + pick(to), 0) / (2 * edges.length || 1);
    const centre = { x: mean((p) => p.x), y: mean((p) => p.y) };
    const setup = this.steering.perspective();
    const points = setup && this.view.stage() === 'projection' ? vanishingPoints(setup) : null;
    const measures = AXES.flatMap((axis): Aid[] => {
      // Beside the lowest edge of the outline, so that no two lie on each other.
      const low = edges.filter((edge) => edge.axis === axis && edge.outer).sort((p, q) => q.from.y + q.to.y - p.from.y - p.to.y)[0];
      if (!low) return [];
      const middle = { x: (low.from.x + low.to.x) / 2, y: (low.from.y + low.to.y) / 2 };
      const away = [middle.x - centre.x, middle.y - centre.y] as const;
      const k = MEASURE_PX / this.view.zoom() / (Math.hypot(...away) || 1);
      const at = { x: middle.x + away[0] * k, y: middle.y + away[1] * k };
      const length = trial.size[axis];
      return [{ kind: 'line', from: at, to: at, dash: [], tone: 'strong', label: `${axis} ${figure(length)}, ${lengthInUnit(length * grid.cell, sheet)}` }];
    });
    const lines = edges.flatMap(({ axis, from, to, hidden }): Aid[] => {
      const to0 = points?.[axis];
      const nearer = to0 && Math.hypot(from.x - to0.x, from.y - to0.y) < Math.hypot(to.x - to0.x, to.y - to0.y) ? from : to;
      return [
        ...(to0?.w === 1 && !hidden ? [{ kind: 'line', from: nearer, to: to0, dash: [2, 5], tone: 'soft' } as const] : []),
        { kind: 'line', from, to, dash: hidden ? [3, 4] : [], tone: hidden ? 'soft' : 'strong' },
      ];
    });
    return [...lines, ...measures];
  }

  /** Guides across all that is seen, in the hue of their planes; the chosen one stronger. */
  private guides(projection: Projection): Aid[] {
    const { guides, grid } = this.documents.shown();
    const [zoom, panX, panY] = [this.view.zoom(), this.view.panX(), this.view.panY()];
    const box = { minX: -panX / zoom, minY: -panY / zoom, maxX: (this.view.width() - panX) / zoom, maxY: (this.view.height() - panY) / zoom };
    return (guides ?? []).flatMap((guide): Aid[] => {
      const ends = guide.hidden ? null : guideOnSheet(projection, guide, grid.cell, box);
      if (!ends) return [];
      const colour = PLANE_COLOURS[guide.plane.kind];
      return [{ kind: 'line', from: ends[0], to: ends[1], dash: [8, 5], tone: guide.id === this.chosen.guide() ? 'strong' : 'soft', colour }];
    });
  }

  /** The horizon across all that is seen. */
  private horizon(setup: PerspectiveSetup): Aid[] {
    const horizon = horizonOf(setup);
    if (!horizon) return [];
    const { at, along } = horizon;
    const reach = (this.view.width() + this.view.height()) / this.view.zoom() + Math.hypot(at.x, at.y);
    const end = (k: number): SheetPoint => ({ x: at.x + along.x * reach * k, y: at.y + along.y * reach * k });
    return [{ kind: 'line', from: end(-1), to: end(1), dash: [10, 4, 2, 4], tone: 'plain' }];
  }

  private figure(projection: Projection): Aid[] {
    const { grid, sheet } = this.documents.shown();
    const { u, v } = this.chosen.figureAt();
    const outline = standingFigure(projection, { a: u * grid.cell, b: v * grid.cell, h: 0 }, 1000 / sheet.scale);
    return outline ? [{ kind: 'figure', outline }] : [];
  }

  /** The axes of a parallel projection from its origin, five cells long. */
  private axes(projection: Projection): Aid[] {
    const zero = { a: 0, b: 0, h: 0 };
    const from = sheetFromWorld(projection, zero);
    if (!from) return [];
    const length = 5 * this.documents.shown().grid.cell;
    return AXES.flatMap((axis): Aid[] => {
      const v = drawnAt(projection, zero, axis);
      return v
        ? [
            {
              kind: 'line',
              from,
              to: { x: from.x + v.x * length, y: from.y + v.y * length },
              dash: DASHES[axis],
              tone: 'strong',
              ...(axis === 'h' && { label: 'h' }),
            },
          ]
        : [];
    });
  }

  /** Lines from the points of the one selected curve to its handles. */
  private curveArms(): Aid[] {
    const [id, ...more] = this.view.selection();
    const shape = id === undefined || more.length > 0 ? null : findShape(this.documents.shown(), id);
    if (!shape) return [];
    const map = this.pictures.planeContext(shape.plane).options.sheetFromPlane;
    return shape.outline.points.flatMap((point) =>
      [point.into, point.out].flatMap((handle): Aid[] => {
        const from = handle && apply33(map, point.u, point.v);
        const to = handle && apply33(map, handle.u, handle.v);
        return from && to ? [{ kind: 'line', from, to, dash: [], tone: 'soft' }] : [];
      }),
    );
  }

  /** The edges of selected parts of solids that are one, which are not painted by themselves. */
  private parts(projection: Projection): Aid[] {
    const document = this.documents.shown();
    const seen = new Set(this.pictures.picture().visible.map(({ node }) => node));
    return this.view.selection().flatMap((id): Aid[] => {
      const node = seen.has(id) ? null : findNode(document, id);
      if (!node || !isPart(node)) return [];
      const body = bodyOf(node as SpaceNode);
      return (body?.surfaces ?? []).flatMap((surface): Aid[] => {
        const { form } = surface;
        if (form.kind !== 'flat') return [];
        return surfaceRings(surface).flat().flatMap((segment) => [segment.from, ...chordsOf(segment, PART_CHORDS)].flatMap((p, i, all): Aid[] => this.partLine(projection, form.frame, all[i - 1], p))); // prettier-ignore
      });
    });
  }

  private partLine(projection: Projection, frame: PlaneFrame, p: PlanePoint | undefined, q: PlanePoint): Aid[] {
    const { cell } = this.pictures.geometry();
    const [from, to] = [p, q].map((at) => at && sheetFromWorld(projection, scaleWorld(worldFromPlane(frame, at), cell)));
    return from && to ? [{ kind: 'line', from, to, dash: [4, 3], tone: 'strong' }] : [];
  }

  private strokes(): Aid[] {
    const solution = this.trace.solution();
    const bad = solution?.ok ? (solution.wrong ?? (solution.rmsPx > 0.3 ? solution.worst : null)) : null;
    return this.trace.strokes().map(({ id, from, to, axis }) => {
      return { kind: 'line', from, to, dash: DASHES[axis], tone: id === bad ? 'warn' : 'strong', label: axis };
    });
  }
}

/** Lines from the nearest corner to the vanishing points, along which everything recedes. */
function perspectiveLines(setup: PerspectiveSetup): Aid[] {
  const corner = cornerOf(setup);
  if (!corner) return [];
  const points = vanishingPoints(setup);
  return AXES.flatMap((axis): Aid[] => {
    const p = points[axis];
    return p.w === 1 ? [{ kind: 'line', from: corner.at, to: p, dash: [3, 4], tone: 'soft' }] : [];
  });
}
