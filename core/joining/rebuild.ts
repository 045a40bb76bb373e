import { exactCells } from '../math/exact';
import { addWorld, crossWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, unitWorld, type PlanePoint, type WorldPoint } from '../math/points';
import { SAME_PLACE } from '../math/tolerances';
import type { PlaneFrame } from '../projection/planes';
import type { Segment } from '../shape/segments';
import { boundsOf, flatPoints, flippedForm, type Body, type Facet, type Form, type Rim, type Surface, type SurfaceOrigin } from '../geometry/body';
import { bodyVolume, surfaceArea } from '../geometry/body-measures';
import { flatFacets } from '../geometry/facets';
import type { Part } from '../geometry/joined-recipe';
import { partName } from '../geometry/names';
import { placeOn } from '../geometry/contact';
import { placeIn, ruledCut, sphereCut } from './edge-curves';
import type { JoinedMesh } from './kernel';
import type { Meshes } from './mesh';
import { patchesOf, type Patch, type Ring } from './mesh-loops';

/** Part of an area by which triangles may miss the facets that they came from and still be all of them. */
const WHOLE = 1e-6;
/** Cells within which a place that rounding has moved off a tick is put back onto it. */
const ON_TICK = 1e-8;
/** Sine of the angle below which two edges run on straight. */
const STRAIGHT = 1e-7;
/** Distance in cells that a curve which no plane holds may keep from its places. */
const WITHIN = 5e-4;

/**
 * The body of a joined mesh on the parts' own exact surfaces: each corner is put where its surfaces meet, pieces of one
 * surface are one again, edges between planes are straight and those along round sides the curves that they are. Null
 * where nothing is left.
 */
export function rebuiltBody(parts: readonly Part[], { owners, middle, scale }: Meshes, joined: JoinedMesh): Body | null {
  const { corners, faces, places } = joined;
  if (faces.length === 0) return null;
  const first = parts.map((_, i) => parts.slice(0, i).reduce((sum, { body }) => sum + body.surfaces.length, 0));
  const surfaceOf = Uint32Array.from(faces, (face) => first[owners[face]!.part]! + owners[face]!.surface);
  const all = parts.flatMap(({ id, body }) => body.surfaces.map((surface) => ({ id, surface })));
  const rough = Array.from({ length: places.length / 3 }, (_, i) => ({ a: places[3 * i]! / scale + middle.a, b: places[3 * i + 1]! / scale + middle.b, h: places[3 * i + 2]! / scale + middle.h })); // prettier-ignore
  const exact = exactPlaces(rough, corners, surfaceOf, all.map(({ surface }) => surface.form)); // prettier-ignore
  const pieces = new Map<number, number>();
  const facetOf = owners.map(({ facet }) => facet);
  const surfaces = patchesOf({ places: rough, corners, surfaceOf }).flatMap((patch): readonly Surface[] => {
    const { id, surface } = all[patch.surface]!;
    const count = pieces.get(patch.surface) ?? 0;
    const piece = new PatchSurface(surface, patch, exact, corners, faces, facetOf, all.map((one) => one.surface.form)); // prettier-ignore
    const made = piece.make();
    if (!made) return [];
    pieces.set(patch.surface, count + 1);
    const { inside, ...origin } = surface.from ?? { node: id, name: surface.name };
    const from: SurfaceOrigin = piece.flipped === (inside === undefined) ? { ...origin, inside: true } : origin;
    return [{ ...made, name: partName(id, surface.name, count), also: surface.also.map((name) => partName(id, name, count)), from }];
  });
  const points = flatPoints([...new Set(corners)].map((corner) => exact[corner]!));
  if (surfaces.length === 0) return null;
  const body: Body = { surfaces, wires: [], points, bounds: boundsOf(points), closed: true, convex: false };
  return isThick(body) ? body : null;
}

/** Cells of mean thickness below which a body is none: the two sides of where solids touch. */
const THINNEST = 1e-7;

const isThick = (body: Body): boolean => bodyVolume(body)! > THINNEST * body.surfaces.reduce((sum, surface) => sum + surfaceArea(surface), 0);

/** Every corner where the surfaces around it meet; flat ones first, so that planes are kept to exactly. */
function exactPlaces(rough: readonly WorldPoint[], corners: Uint32Array, surfaceOf: Uint32Array, forms: readonly Form[]): readonly WorldPoint[] {
  const around = rough.map(() => new Set<number>());
  corners.forEach((corner, i) => around[corner]!.add(surfaceOf[Math.floor(i / 3)]!));
  const onTick = (x: number): number => (Math.abs(exactCells(x) - x) < ON_TICK ? exactCells(x) : x);
  return rough.map((p, i) => {
    const met = [...around[i]!].map((surface) => forms[surface]!).sort((f, g) => Number(f.kind !== 'flat') - Number(g.kind !== 'flat'));
    const at = met.length === 0 ? p : placeOn(met, p);
    return { a: onTick(at.a), b: onTick(at.b), h: onTick(at.h) };
  });
}

/** One patch as a surface. */
class PatchSurface {
  /** Its outside is the inside of what it comes from. */
  readonly flipped: boolean;

  constructor(
    private readonly source: Surface,
    private readonly patch: Patch,
    private readonly exact: readonly WorldPoint[],
    private readonly corners: Uint32Array,
    private readonly faces: Uint32Array,
    private readonly facetOf: readonly Facet[],
    private readonly forms: readonly Form[],
  ) {
    // Of all together: single triangles may have no area.
    this.flipped = patch.triangles.reduce((sum, t) => sum + dotWorld(this.across(t), facetOf[faces[t]!]!.normal), 0) < 0;
  }

  make(): Omit<Surface, 'name' | 'also' | 'from'> | null {
    const form = this.flipped ? flippedForm(this.source.form) : this.source.form;
    if (this.isWhole()) return this.whole(form);
    return form.kind === 'flat' ? this.flat(form.frame) : this.round(form);
  }

  /** Twice a triangle's area along its normal. */
  private across(t: number): WorldPoint {
    const [p, q, r] = [0, 1, 2].map((k) => this.exact[this.corners[3 * t + k]!]!) as [WorldPoint, WorldPoint, WorldPoint];
    return crossWorld(subtractWorld(q, p), subtractWorld(r, p));
  }

  /** Nothing was cut out of it. */
  private isWhole(): boolean {
    const own = this.patch.triangles.reduce((sum, t) => sum + lengthWorld(this.across(t)), 0) / 2;
    const all = this.source.facets.reduce((sum, facet) => sum + facetArea(facet), 0);
    return Math.abs(own - all) <= WHOLE * all;
  }

  private whole(form: Form): Omit<Surface, 'name' | 'also' | 'from'> {
    const { rings, loops, facets, straight, bothSides, cut } = this.source;
    const shared = { form, straight, bothSides, ...(cut && { cut }) };
    if (!this.flipped) return { ...shared, rings, loops, facets };
    return { ...shared, rings, loops: loops.map(turnedLoop), facets: facets.map(turnedFacet) };
  }

  private ringPoints({ corners }: Ring): readonly WorldPoint[] {
    return corners.map((corner) => this.exact[corner]!);
  }

  private flat(frame: PlaneFrame): Omit<Surface, 'name' | 'also' | 'from'> | null {
    const { normal } = frame;
    const area = (ring: Ring): number => {
      const points = this.ringPoints(ring);
      return points.reduce((sum, p, i) => sum + dotWorld(crossWorld(subtractWorld(p, points[0]!), subtractWorld(points[(i + 1) % points.length]!, points[0]!)), normal), 0); // prettier-ignore
    };
    const rings = [...this.patch.rings].sort((p, q) => area(q) - area(p));
    if (!(area(rings[0]!) > SAME_PLACE)) return null;
    const runs = rings.map((ring) => this.runsOf(ring));
    const loops = runs.map((list) => flatPoints(list.flatMap(({ points, curved }) => (curved ? points.slice(0, -1) : points.slice(0, 1)))));
    const segments = runs.map((list) =>
      list.flatMap((run): readonly Segment[] => this.segmentsOf(frame, run)).map((segment, i) => ({ ...segment, id: i + 1 })),
    );
    const flat = loops.map((loop) => planePoints(frame, loop));
    const straight = rings.length === 1 && segments[0]!.every(({ kind }) => kind === 'line');
    return { form: { kind: 'flat', frame }, rings: segments, loops, facets: flatFacets(flat, loops, frame), straight, bothSides: false };
  }

  private segmentsOf(frame: PlaneFrame, { points, beyond, closed, curved }: Run): readonly Segment[] {
    const form = this.forms[beyond]!;
    const exact = !curved || form.kind === 'flat' ? null : form.kind === 'sphere' ? sphereCut(frame, form, points, closed) : ruledCut(frame, form, points);
    if (exact) return exact;
    const places = (curved ? points : [points[0]!, points.at(-1)!]).map((p) => placeIn(frame, p));
    return places.slice(1).map((to, i) => ({ kind: 'line', id: i + 1, from: places[i]!, to }));
  }

  private round(form: Form): Omit<Surface, 'name' | 'also' | 'from'> {
    const cut = this.patch.rings.map((ring) => this.runsOf(ring).map((run) => this.rimOf(form, run)));
    const facets = this.patch.triangles.flatMap((t): readonly Facet[] => {
      const normal = unitWorld(this.across(t));
      if (!normal) return [];
      const { from, to } = this.facetOf[this.faces[t]!]!;
      const corners = flatPoints([0, 1, 2].map((k) => this.exact[this.corners[3 * t + k]!]!));
      return [{ corners, normal, ...(from !== undefined && to !== undefined && { from, to }) }];
    });
    return { form, rings: [], loops: [], facets, straight: false, bothSides: false, cut };
  }

  /** A run of a round surface's boundary: in the plane of what is beyond it, or as places close together. */
  private rimOf(form: Form, run: Run): Rim {
    const beyond = this.forms[run.beyond]!;
    if (beyond.kind === 'flat') {
      const { frame } = beyond;
      const exact = form.kind === 'sphere' ? sphereCut(frame, form, run.points, run.closed) : form.kind === 'flat' ? null : ruledCut(frame, form, run.points);
      const places = run.points.map((p) => placeIn(frame, p));
      return { frame, segments: exact ?? places.slice(1).map((to, i): Segment => ({ kind: 'line', id: i + 1, from: places[i]!, to })) };
    }
    return { points: flatPoints(refined([form, beyond], run.points)) };
  }

  /** A ring cut where the surface beyond it changes, or where a straight edge bends; each run with both of its ends. */
  private runsOf(ring: Ring): readonly Run[] {
    const points = this.ringPoints(ring);
    const n = points.length;
    const isRound = (beyond: number): boolean => this.forms[beyond]!.kind !== 'flat' || this.source.form.kind !== 'flat';
    const begins = (i: number): boolean => {
      const [before, beyond] = [ring.beyond[(i + n - 1) % n]!, ring.beyond[i]!];
      if (before !== beyond) return true;
      return !isRound(beyond) && bends(points[(i + n - 1) % n]!, points[i]!, points[(i + 1) % n]!);
    };
    const start = points.findIndex((_, i) => begins(i));
    if (start < 0) return [{ points: [...points, points[0]!], beyond: ring.beyond[0]!, closed: true, curved: true }];
    const runs: { points: WorldPoint[]; beyond: number }[] = [];
    for (let k = 0; k < n; k++) {
      const i = (start + k) % n;
      if (begins(i)) runs.push({ points: [points[i]!], beyond: ring.beyond[i]! });
      runs.at(-1)!.points.push(points[(i + 1) % n]!);
    }
    return runs.map((run) => ({ ...run, closed: false, curved: isRound(run.beyond) && run.points.slice(2).some((p, i) => bends(run.points[i]!, run.points[i + 1]!, p)) })); // prettier-ignore
  }
}

interface Run {
  readonly points: readonly WorldPoint[];
  readonly beyond: number;
  /** It is all of its ring; the first place comes again at its end. */
  readonly closed: boolean;
  readonly curved: boolean;
}

/** Whether the way over three places bends at the middle one; where two are one it does not. */
function bends(p: WorldPoint, q: WorldPoint, r: WorldPoint): boolean {
  const [d, e] = [unitWorld(subtractWorld(q, p)), unitWorld(subtractWorld(r, q))];
  return d !== null && e !== null && (lengthWorld(crossWorld(d, e)) > STRAIGHT || dotWorld(d, e) < 0);
}

/** Places along a curve in which two surfaces meet, close enough that its chords keep within a thousandth of a cell. */
function refined(forms: readonly Form[], points: readonly WorldPoint[]): readonly WorldPoint[] {
  const out: WorldPoint[] = [points[0]!];
  const run = (p: WorldPoint, q: WorldPoint, halvings: number): void => {
    const chord = scaleWorld(addWorld(p, q), 0.5);
    const on = placeOn(forms, chord);
    if (halvings === 0 || lengthWorld(subtractWorld(on, chord)) < WITHIN) return void out.push(q);
    run(p, on, halvings - 1);
    run(on, q, halvings - 1);
  };
  for (let i = 0; i + 1 < points.length; i++) run(points[i]!, points[i + 1]!, 5);
  return out;
}

function facetArea({ corners, normal }: Facet): number {
  let twice = 0;
  const at = (i: number): WorldPoint => ({ a: corners[i]!, b: corners[i + 1]!, h: corners[i + 2]! });
  for (let i = 3; i + 5 < corners.length; i += 3) twice += dotWorld(crossWorld(subtractWorld(at(i), at(0)), subtractWorld(at(i + 3), at(0))), normal);
  return twice / 2;
}

function turnedLoop(loop: readonly number[]): readonly number[] {
  const out: number[] = [];
  for (let i = loop.length - 3; i >= 0; i -= 3) out.push(loop[i]!, loop[i + 1]!, loop[i + 2]!);
  return out;
}

const turnedFacet = (facet: Facet): Facet => ({ ...facet, corners: turnedLoop(facet.corners), normal: scaleWorld(facet.normal, -1) });

function planePoints(frame: PlaneFrame, loop: readonly number[]): readonly PlanePoint[] {
  const points: PlanePoint[] = [];
  for (let i = 0; i < loop.length; i += 3) points.push(placeIn(frame, { a: loop[i]!, b: loop[i + 1]!, h: loop[i + 2]! }));
  return points;
}
