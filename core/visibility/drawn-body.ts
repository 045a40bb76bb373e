import { signedArea } from '../math/polygon';
import { areasOf } from './areas-of';
import { CLEAR_OF_NEAR, CLOSE_BY, CORNERS, EDGE_ON, SQUARE } from '../math/tolerances';
import { flatPoints, worldPoints, type Body, type Facet, type Surface, type Wire } from '../geometry/body';
import { ruledNormal, type Ruled } from '../geometry/ruled';
import type { Sphere } from '../geometry/sphere';
import { finerCutFacets } from '../geometry/finer-cut';
import { FACET, finerFacets } from '../geometry/facets';
import { clipLineNear, clipNear } from '../projection/near';
import { sheetFromFrame, worldFromPlane } from '../projection/planes';
import { facing, type EyeMatrix } from '../projection/projection';
import { nearnessOf, type Nearness, type Sight } from '../projection/sight';
import { drawSegments } from '../shape/draw-segments';
import { chordsOf } from '../shape/segments';
import { flattenPath, joinPaths, polygonPath, polylinePath, type Path } from '../shape/path';
import { FacetIndex } from './facet-index';
import { cutRuledPath, cutSpherePath } from './cut-round';
import { seenCap, spherePath } from './sphere-view';
import { ruledPath, seenStretches, withinStretch, type Stretch } from './stretches';
import { dotWorld, scaleWorld, type WorldPoint } from '../math/points';

/** What bodies are drawn in: the lines of sight for places in cells, and the directions that ranges are measured along. */
export interface View {
  readonly sight: Sight;
  /** Flat sheet vectors; see `rangeDirections`. */
  readonly directions: readonly number[];
}

/** A convex piece of a drawn surface on the sheet, clockwise. */
export interface DrawnFacet {
  readonly polygon: readonly number[];
  /** How near its plane is everywhere; null where it lies in the plane of its surface: see `DrawnSurface.nearness`. */
  readonly near: Nearness | null;
}

/** An area of the sheet: flat coordinates in mm of its boundary and of what is left out inside. */
export interface Area {
  readonly polygon: ArrayLike<number>;
  readonly holes?: readonly ArrayLike<number>[];
}

/** How many times closer than usual facets come to the true surface where surfaces cut through each other. */
export const FINER = 64;

/**
 * Square of the cosine between a facet of a round surface and the line of sight below which it is left out of the order:
 * it is thinner than a hair, and how near it is would change without measure along it.
 */
const FACET_ON_EDGE = 1e-8;

/** Half the width in mm that a line has for the order, where its paint does not say. */
export const THIN = 0.1;

/**
 * A part of a body that the viewer sees, whole as if nothing lay in front: a surface turned to him, a stretch of a
 * ruled surface between two outlines, or a line. Its identity is what order and picture remember it by.
 */
export class DrawnSurface {
  private areas: readonly Area[] | null = null;
  private drawn: Path | null = null;
  private measured: readonly number[] | null = null;
  private fine: DrawnSurface | null = null;
  private plane: Nearness | null = null;
  private near: FacetIndex | null = null;
  /** Its path is made of its facets. */
  private inPieces = false;

  constructor(
    readonly view: View,
    /** What it is a part of: null for lines. */
    readonly surface: Surface | null,
    readonly facets: readonly DrawnFacet[],
    /** Unit normal to the side that is seen; of ruled stretches in their middle. */
    readonly normal: WorldPoint,
    /** Of ruled surfaces: the stretch that is seen. */
    readonly stretch: Stretch | null = null,
    /** Lines only, and their coordinates: the part that lies behind the near plane. */
    readonly wire: Wire | null = null,
    private readonly line: readonly number[] = [],
  ) {}

  /** Its exact boundary on the sheet; of a line, the line itself. */
  get path(): Path {
    return (this.drawn ??= this.make());
  }

  /** Its area as corners, for cutting and pointing; of a line, the lines that it is made of. */
  get outline(): readonly Area[] {
    return (this.areas ??= this.makeAreas());
  }

  /** Its path is less than the outline of its stretch or its ball: something was cut out of it, or a part lies before the near plane. */
  get isBounded(): boolean {
    return this.surface?.cut !== undefined || (this.path.verbs !== '' && this.inPieces);
  }

  /** Smallest and largest value along each of the view's directions, curves a little widened. */
  get ranges(): readonly number[] {
    return (this.measured ??= rangesOf([this], this.view.directions));
  }

  /** Places among its facets of those whose boxes on the sheet meet the box of one of another surface, in their order. */
  facetsNear({ polygon }: DrawnFacet): readonly number[] {
    return (this.near ??= new FacetIndex(this.facets.map((facet) => facet.polygon))).near(polygon);
  }

  /** Room round the facets within which the true boundary lies. */
  get room(): number {
    return this.surface !== null && !this.surface.straight ? CORNERS : 0;
  }

  /** Its facets lie beside it. */
  get isRound(): boolean {
    return this.surface !== null && this.surface.form.kind !== 'flat';
  }

  /** How near the plane of one of its facets is to the viewer; made when it is first asked for. */
  nearness({ near }: DrawnFacet): Nearness {
    return near ?? (this.plane ??= this.planeNearness());
  }

  private planeNearness(): Nearness {
    const { form, loops } = this.surface!;
    const [loop] = loops;
    const on = loop ? { a: loop[0]!, b: loop[1]!, h: loop[2]! } : form.kind === 'flat' ? form.frame.origin : null;
    // Surfaces along the line of sight are not drawn, so there is one.
    return nearnessOf(this.view.sight, this.normal, on!)!;
  }

  /** The same with facets so close to the true surface that cuts along them are seen as they are. */
  get finer(): DrawnSurface {
    if (this.room === 0) return this;
    if (!this.fine) {
      this.fine = finerSurface(this);
      this.fine.fine = this.fine;
    }
    return this.fine;
  }

  private get isOneFacet(): boolean {
    return this.surface !== null && this.stretch === null && this.surface.facets.length === 1 && this.surface.straight;
  }

  private roundPath(projection: EyeMatrix, form: Ruled | Sphere, surface: Surface): Path | null {
    if (form.kind === 'sphere') return surface.cut ? cutSpherePath(projection, surface) : spherePath(projection, form);
    if (!this.stretch) return null;
    return surface.cut ? cutRuledPath(projection, surface, this.stretch) : ruledPath(projection, form, this.stretch);
  }

  private makeAreas(): readonly Area[] {
    if (this.isOneFacet) return this.facets;
    const { path } = this;
    if (this.inPieces) return this.finer.facets;
    return this.wire ? flattenPath(path, CORNERS).map((polygon) => ({ polygon })) : areasOf(path);
  }

  private make(): Path {
    const { projection } = this.view.sight;
    const { surface, wire } = this;
    if (wire) {
      const curved = wire.segments.some((segment) => segment.kind !== 'line');
      const exact = curved ? drawSegments(wire.segments, wire.closed, sheetFromFrame(projection, wire.frame), projection.near) : null;
      return exact ?? polylinePath(this.line);
    }
    if (!surface || this.isOneFacet) return polygonPath(this.facets[0]?.polygon ?? []);
    const { form } = surface;
    if (form.kind !== 'flat') {
      const exact = this.roundPath(projection, form, surface);
      if (exact) return exact;
      // A part of it lies before the near plane: its facets are clipped there.
      this.inPieces = true;
      return joinPaths(this.finer.facets.map((facet) => polygonPath(facet.polygon)));
    }
    const map = sheetFromFrame(projection, form.frame);
    const paths = surface.rings.map((ring) => drawSegments(ring, true, map, projection.near));
    if (paths.every((path) => path !== null)) return joinPaths(paths);
    // A part of it lies before the near plane: its curves are chords there, fine enough for what is seen from close by.
    const loops = surface.rings.length === 0 ? surface.loops : surface.rings.map((ring) => flatPoints(ring.flatMap((s) => chordsOf(s, CLOSE_BY)).map((p) => worldFromPlane(form.frame, p)))); // prettier-ignore
    return joinPaths(loops.map((loop) => polygonPath(projectLoop(projection, loop, false) ?? [])));
  }
}

/** A body as the viewer sees it. */
export interface DrawnBody {
  readonly body: Body;
  readonly surfaces: readonly DrawnSurface[];
  /** The ranges of all its surfaces together. */
  readonly ranges: readonly number[];
}

/** The parts of a body that are turned to the viewer. @param half of the width in mm that lines are painted in */
export function drawBody(view: View, body: Body, half = THIN): DrawnBody {
  const surfaces = [...body.surfaces.flatMap((surface) => surfaceParts(view, surface)), ...body.wires.flatMap((wire) => wireParts(view, wire, half))];
  const ranges = surfaces.length === 1 ? surfaces[0]!.ranges : rangesOf(surfaces, view.directions);
  return { body, surfaces, ranges };
}

function surfaceParts(view: View, surface: Surface): readonly DrawnSurface[] {
  const { form } = surface;
  if (form.kind === 'sphere') return spherePart(view, surface, form);
  if (form.kind !== 'flat') return ruledParts(view, surface, form);
  const part = flatPart(view, surface);
  return part ? [part] : [];
}

/** Whether a flat surface is turned to the viewer, or seen from both sides. */
export function isTurned({ sight: { projection } }: View, { form, loops, bothSides }: Surface): boolean {
  const [loop] = loops;
  if (form.kind !== 'flat' || !loop) return false;
  const turned = facing(projection, form.frame.normal, { a: loop[0]!, b: loop[1]!, h: loop[2]! });
  return bothSides ? turned !== 0 : turned > SQUARE;
}

/** Square of the distance from a point to the eye, or of the length of the eye's direction. */
function sightSquare({ eye }: EyeMatrix, a: number, b: number, h: number): number {
  const w = eye[3];
  return (eye[0] - w * a) ** 2 + (eye[1] - w * b) ** 2 + (eye[2] - w * h) ** 2;
}

function flatPart(view: View, surface: Surface): DrawnSurface | null {
  const { projection } = view.sight;
  const [loop] = surface.loops;
  if (!loop || loop.length < 9) return null;
  const first = { a: loop[0]!, b: loop[1]!, h: loop[2]! };
  const form = surface.form.kind === 'flat' ? surface.form : null;
  let normal = form!.frame.normal;
  let turned = facing(projection, normal, first);
  if (turned < 0 && surface.bothSides) {
    normal = scaleWorld(normal, -1);
    turned = -turned;
  }
  if (turned <= 0 || turned * turned < EDGE_ON * sightSquare(projection, first.a, first.b, first.h)) return null;
  const back = normal !== form!.frame.normal;
  const facets = drawnFacets(projection, surface.facets, back);
  return facets.length === 0 ? null : new DrawnSurface(view, surface, facets, normal);
}

function drawnFacets(projection: EyeMatrix, facets: readonly Facet[], back: boolean): readonly DrawnFacet[] {
  const drawn: DrawnFacet[] = [];
  for (const facet of facets) {
    const polygon = projectLoop(projection, facet.corners, back);
    if (polygon) drawn.push({ polygon, near: null });
  }
  return drawn;
}

/**
 * A loop of the world on the sheet, clockwise on screen where it runs anticlockwise towards the viewer; without what
 * lies before the near plane; null where nothing is left.
 * @param back the loop is seen from behind
 */
function projectLoop(projection: EyeMatrix, loop: readonly number[], back: boolean): number[] | null {
  const m = projection.matrix;
  const near = projection.near * CLEAR_OF_NEAR;
  const n = loop.length / 3;
  const out = new Array<number>(2 * n);
  for (let i = 0; i < n; i++) {
    const a = loop[3 * i]!;
    const b = loop[3 * i + 1]!;
    const h = loop[3 * i + 2]!;
    const w = m[8] * a + m[9] * b + m[10] * h + m[11];
    if (!(w >= near && w > 0)) return projectClipped(projection, loop, back);
    const at = 2 * (back ? i : n - 1 - i);
    out[at] = (m[0] * a + m[1] * b + m[2] * h + m[3]) / w;
    out[at + 1] = (m[4] * a + m[5] * b + m[6] * h + m[7]) / w;
  }
  return out;
}

function projectClipped(projection: EyeMatrix, loop: readonly number[], back: boolean): number[] | null {
  const kept = clipNear(projection, worldPoints(loop));
  if (kept.length < 3) return null;
  const flat = flatPoints(kept);
  // Rounding may leave corners a hair before the near plane.
  return projectLoop({ ...projection, near: projection.near / 2 }, flat, back);
}

/** The facets of a round surface, or those that stand for one of its stretches, that are turned to the viewer. */
function roundFacets(view: View, facets: readonly Facet[], stretch: Stretch | null, n: number): readonly DrawnFacet[] {
  const { projection } = view.sight;
  const drawn: DrawnFacet[] = [];
  for (const facet of facets) {
    if (stretch && !withinStretch(stretch, (facet.from! + facet.to!) / 2, n)) continue;
    const corner = { a: facet.corners[0]!, b: facet.corners[1]!, h: facet.corners[2]! };
    const turned = facing(projection, facet.normal, corner);
    const seen = turned > 0 && turned * turned > FACET_ON_EDGE * sightSquare(projection, corner.a, corner.b, corner.h);
    const near = seen ? nearnessOf(view.sight, facet.normal, corner) : null;
    const polygon = near && projectLoop(projection, facet.corners, false);
    if (near && polygon && signedArea(polygon) > 0) drawn.push({ polygon, near });
  }
  return drawn;
}

function finerSurface({ view, surface, normal, stretch }: DrawnSurface): DrawnSurface {
  const finer = surface!.cut ? finerCutFacets(surface!, FACET / FINER) : finerFacets(surface!, FACET / FINER);
  const { form } = surface!;
  if (form.kind !== 'flat') {
    const n = form.kind === 'sphere' ? 0 : form.directrix.length;
    return new DrawnSurface(view, surface, roundFacets(view, finer, stretch, n), normal, stretch);
  }
  return new DrawnSurface(view, surface, drawnFacets(view.sight.projection, finer, dotWorld(normal, form.frame.normal) < 0), normal);
}

function spherePart(view: View, surface: Surface, sphere: Sphere): readonly DrawnSurface[] {
  const cap = seenCap(view.sight.projection, sphere);
  const facets = cap ? roundFacets(view, surface.facets, null, 0) : [];
  return cap && facets.length > 0 ? [new DrawnSurface(view, surface, facets, cap.axis)] : [];
}

function ruledParts(view: View, surface: Surface, ruled: Ruled): readonly DrawnSurface[] {
  const { projection } = view.sight;
  const n = ruled.directrix.length;
  return seenStretches(projection, ruled).flatMap((stretch) => {
    const drawn = roundFacets(view, surface.facets, stretch, n);
    if (drawn.length === 0) return [];
    const normal = ruledNormal(ruled, ((stretch.from + stretch.to) / 2) % n);
    const length = Math.hypot(normal.a, normal.b, normal.h) || 1;
    return [new DrawnSurface(view, surface, drawn, scaleWorld(normal, 1 / length), stretch)];
  });
}

function wireParts(view: View, wire: Wire, half: number): readonly DrawnSurface[] {
  const { projection } = view.sight;
  const { frame } = wire;
  const near = nearnessOf(view.sight, frame.normal, frame.origin);
  if (!near) return [];
  return clipLineNear(projection, worldPoints(wire.points)).flatMap((piece): readonly DrawnSurface[] => {
    const m = projection.matrix;
    const line = piece.flatMap(({ a, b, h }) => {
      const w = m[8] * a + m[9] * b + m[10] * h + m[11];
      return [(m[0] * a + m[1] * b + m[2] * h + m[3]) / w, (m[4] * a + m[5] * b + m[6] * h + m[7]) / w];
    });
    const facets: DrawnFacet[] = [];
    for (let i = 0; i + 3 < line.length; i += 2) {
      const polygon = ribbon(line[i]!, line[i + 1]!, line[i + 2]!, line[i + 3]!, half);
      if (polygon) facets.push({ polygon, near });
    }
    return facets.length === 0 ? [] : [new DrawnSurface(view, null, facets, frame.normal, null, wire, line)];
  });
}

/** A line's own area on the sheet, so that it can be compared with faces like one. */
function ribbon(x0: number, y0: number, x1: number, y1: number, half: number): number[] | null {
  const length = Math.hypot(x1 - x0, y1 - y0);
  if (length === 0) return null;
  const nx = (-(y1 - y0) / length) * half;
  const ny = ((x1 - x0) / length) * half;
  return [x0 - nx, y0 - ny, x1 - nx, y1 - ny, x1 + nx, y1 + ny, x0 + nx, y0 + ny];
}

/** The directions that ranges are measured along, as flat sheet vectors; made once for a projection. */
export function rangeDirections({ projection: { matrix: m } }: Sight): readonly number[] {
  const directions = [1, 0, 0, 1];
  if (m[8] !== 0 || m[9] !== 0 || m[10] !== 0) return directions;
  for (let axis = 0; axis < 3; axis++) {
    const length = Math.hypot(m[axis]!, m[axis + 4]!);
    if (length > 0) directions.push(-m[axis + 4]! / length, m[axis]! / length);
  }
  return directions;
}

function rangesOf(surfaces: readonly DrawnSurface[], directions: readonly number[]): readonly number[] {
  const out = new Array<number>(directions.length);
  for (let d = 0; d < directions.length; d += 2) {
    const dx = directions[d]!;
    const dy = directions[d + 1]!;
    let min = Infinity;
    let max = -Infinity;
    for (const { facets, room } of surfaces) {
      for (const { polygon } of facets) {
        for (let i = 0; i < polygon.length; i += 2) {
          const value = polygon[i]! * dx + polygon[i + 1]! * dy;
          if (value - room < min) min = value - room;
          if (value + room > max) max = value + room;
        }
      }
    }
    out[d] = min;
    out[d + 1] = max;
  }
  return out;
}
