import { ruledUnitNormal } from '../geometry/ruled';
import { boundsOf } from '../geometry/body';
import { keptBy, Rounds } from '../math/keep';
import { addWorld, dotWorld, scaleWorld, subtractWorld, type WorldPoint } from '../math/points';
import { ClipType, combineRings, FillRule, type Path64 } from '../shape/flat-areas';
import { grownRings } from '../shape/grow';
import { COORDS_OF, flattenPath, joinPaths, reversePath, roughLength, splitPath, type Path } from '../shape/path';
import { CORNERS } from '../math/tolerances';
import type { Shade, Shades } from '../shadow/shade';
import { shadeOnSheet } from '../shadow/shade-on-sheet';
import { coverInputs, coversOf, type Cover } from '../visibility/covers';
import { cutLinesBy } from '../visibility/cut';
import type { Area, DrawnBody, DrawnSurface } from '../visibility/drawn-body';
import { PairKeeper } from '../visibility/pairs';

/** A body, and what it is outlined together with. */
export interface OutlinedBody {
  readonly drawn: DrawnBody;
  /** Null for what only hides others. */
  readonly key: string | null;
}

/** The lines of what is outlined together, as far as they are seen. */
export interface ThingLines {
  readonly key: string;
  /** Where it ends against everything else. */
  readonly contour: Path;
  /** Where its faces meet in an edge. */
  readonly creases: Path;
  /** Where they meet smoothly. */
  readonly smooth: Path;
  /** Of the edges those that stand out and have both faces turned to the light. */
  readonly lit: Path;
}

/** Whole numbers to a mm of the sheet. */
const PER_MM = 1000;
/** By how much surfaces are grown before they are united, so that corners that stand for one curve leave no crack, in mm. */
const CLOSING = 0.006;
/** How far inside of its outline something begins to lie inside of a thing, in mm: more than curves and their corners differ by. */
const INSIDE = 0.012;
/** Pieces of lines that are shorter, in mm, are what is left where an inner edge meets the outline. */
const SHORTEST = 0.03;
/** Mm within which ends of lines are one. */
const SAME = 0.02;
/** Cosine between two faces above which they meet smoothly. */
const SMOOTH = 1 - 1e-6;

interface Part {
  readonly surface: DrawnSurface;
  readonly covers: readonly Cover[];
  readonly shades: readonly Shade[];
}

/** The light that edges are lit by. */
export interface EdgeLight {
  readonly towards: WorldPoint;
  readonly shades: Shades;
}

/**
 * Keeps the lines of things from one picture to the next. The outline of a thing is where its drawn surfaces together
 * end; of each surface's own boundary it keeps what lies there and has nothing else in front. No line is made where two
 * faces lie in one plane, and each edge once.
 */
export class ContourKeeper {
  private readonly pairs = new PairKeeper();
  private readonly kept = new Rounds<string, ThingLines>();

  /**
   * @param edges whether inner edges are wanted too
   * @param light where it comes from and what lies in shadow, where the edges that it falls on are asked for
   */
  update(bodies: readonly OutlinedBody[], edges: boolean, light: EdgeLight | null = null): readonly ThingLines[] {
    const keyOf = new Map(bodies.map(({ drawn, key }) => [drawn, key]));
    const things = new Map<string, Part[]>();
    for (const links of this.pairs.update(bodies.map(({ drawn }) => drawn))) {
      const key = keyOf.get(links.drawn) ?? null;
      if (key === null) continue;
      const covers = coversOf(links);
      const parts = things.get(key) ?? [];
      links.drawn.surfaces.forEach(
        (surface, i) => surface.surface && parts.push({ surface, covers: covers[i]!, shades: light?.shades.get(surface.surface) ?? [] }),
      );
      things.set(key, parts);
    }
    const towards = light?.towards ?? null;
    const lit = towards && [towards.a, towards.b, towards.h];
    this.kept.begin();
    const lines = Array.from(things, ([key, parts]) => {
      const other = (drawn: DrawnBody): boolean => keyOf.get(drawn) !== key;
      const of = parts.map(({ surface, covers, shades }) => [surface, coverInputs(covers), covers.map((cover) => other(cover.of)), shades]);
      return this.kept.of(key, [edges, lit, of], () => linesOf(key, parts, edges, towards, other));
    });
    this.kept.end();
    return lines;
  }
}

/** The lines of one thing. @param other whether a body is of something else */
function linesOf(key: string, parts: readonly Part[], inner: boolean, towards: WorldPoint | null, other: (drawn: DrawnBody) => boolean): ThingLines {
  const inside = insideOf(parts.map(({ surface }) => surface));
  const contour: Path[] = [];
  for (const part of parts) {
    contour.push(...leftOf(part.surface.path, [...inside, ...part.covers.filter(({ of }) => other(of)).flatMap(ringsOfCover)]));
  }
  const { creases, smooth, lit } = inner ? innerLines(parts, aroundOf(inside), towards) : NO_EDGES;
  return { key, contour: chained(contour), creases: chained(creases), smooth: chained(smooth), lit: chained(lit) };
}

const NO_EDGES = { creases: [], smooth: [], lit: [] };

/** The edges inside of a thing, each once. */
function innerLines(
  parts: readonly Part[],
  around: readonly Path64[],
  towards: WorldPoint | null,
): Readonly<Record<'creases' | 'smooth' | 'lit', readonly Path[]>> {
  const edges = new Map<string, { readonly path: Path; readonly parts: Part[] }>();
  for (const part of parts) {
    for (const path of edgesOf(part.surface.path)) {
      const name = edgeName(path);
      const known = edges.get(name);
      if (known) known.parts.push(part);
      else edges.set(name, { path, parts: [part] });
    }
  }
  const found = { creases: [] as Path[], smooth: [] as Path[], lit: [] as Path[] };
  for (const { path, parts: of } of edges.values()) {
    const smooth = of.length > 1 ? meetSmoothly(of[0]!.surface, of[1]!.surface) : null;
    // Two faces in one plane are one to the eye.
    if (smooth === 'flat') continue;
    const left = leftOf(path, [...around, ...of[0]!.covers.flatMap(ringsOfCover)]);
    found[smooth ? 'smooth' : 'creases'].push(...left);
    if (!smooth && towards && of.length > 1 && standsOut(of[0]!.surface, of[1]!.surface, towards)) found.lit.push(...outOfShadow(left, of));
  }
  return found;
}

/** What of an edge no shadow lies on, on either of its faces. */
function outOfShadow(edge: readonly Path[], parts: readonly Part[]): readonly Path[] {
  const rings = parts.flatMap(({ surface, shades }) =>
    shades.flatMap((shade): readonly Path64[] => {
      if (shade.contact) return [];
      const flat = flattenPath(shadeOnSheet(surface, shade), CORNERS).map(scaled);
      return grown(combineRings(ClipType.Union, flat, [], shade.rough ? FillRule.NonZero : FillRule.EvenOdd), CLOSING);
    }),
  );
  return rings.length === 0 ? edge : edge.flatMap((piece) => leftOf(piece, rings));
}

/** What is left of a boundary outside of some rings, without crumbs. */
function leftOf(path: Path, rings: readonly Path64[]): readonly Path[] {
  return splitPath(cutLinesBy(path, rings, PER_MM)).filter((piece) => roughLength(piece) > SHORTEST);
}

const scaled = (flat: ArrayLike<number>): Path64 => Array.from({ length: flat.length / 2 }, (_, i) => ({ x: Math.round(flat[2 * i]! * PER_MM), y: Math.round(flat[2 * i + 1]! * PER_MM) })); // prettier-ignore

const grown = (rings: readonly Path64[], by: number): Path64[] => grownRings(rings, by * PER_MM, 'sharp');

/** The rings of an area on whole numbers, a little grown, the outer one and its holes turned against each other. */
const grownArea = ({ polygon, holes = [] }: Area): Path64[] => grown(combineRings(ClipType.Union, [polygon, ...holes].map(scaled), [], FillRule.EvenOdd), CLOSING); // prettier-ignore

const ringsOfSurface = keptBy(({ outline }: DrawnSurface): readonly Path64[] => outline.flatMap(grownArea));

/**
 * What lies in front, a little grown: what runs along the edge of something in front is drawn by that, and what runs
 * along the edge between two of them, which then overlap, by nothing.
 */
const ringsOfCover = ({ surface, areas }: Cover): readonly Path64[] => (areas ? areas.flatMap((polygon) => grownArea({ polygon })) : ringsOfSurface(surface));

/** What lies well inside of some surfaces together. */
function insideOf(surfaces: readonly DrawnSurface[]): Path64[] {
  const closed = combineRings(ClipType.Union, surfaces.flatMap(ringsOfSurface), [], FillRule.NonZero);
  return grown(closed, -2 * CLOSING - INSIDE);
}

/** Everything around some rings: a box with them as its holes. */
function aroundOf(rings: readonly Path64[]): readonly Path64[] {
  const all = rings.flat();
  const least = (of: (p: Path64[number]) => number): number => all.reduce((least, p) => Math.min(least, of(p)), 0) - PER_MM;
  const most = (of: (p: Path64[number]) => number): number => all.reduce((most, p) => Math.max(most, of(p)), 0) + PER_MM;
  const [minX, minY, maxX, maxY] = [least(({ x }) => x), least(({ y }) => y), most(({ x }) => x), most(({ y }) => y)];
  const box = [{ x: minX, y: minY }, { x: maxX, y: minY }, { x: maxX, y: maxY }, { x: minX, y: maxY }]; // prettier-ignore
  return [box, ...rings.map((ring) => [...ring].reverse())];
}

/** Each edge of a boundary as a line of its own. */
function edgesOf(path: Path): readonly Path[] {
  return splitPath(path).flatMap(({ verbs, coords }): readonly Path[] => {
    const edges: Path[] = [];
    let at = 2;
    for (const verb of verbs.slice(1)) {
      const [x, y] = coords.slice(at - 2, at) as [number, number];
      const size = COORDS_OF[verb]!;
      if (verb === 'Z') {
        if (Math.hypot(coords[0]! - x, coords[1]! - y) > SAME) edges.push({ verbs: 'ML', coords: [x, y, coords[0]!, coords[1]!] });
      } else edges.push({ verbs: `M${verb}`, coords: [x, y, ...coords.slice(at, at + size)] });
      at += size;
    }
    return edges;
  });
}

/** Tells an edge from others by its ends and its middle. */
function edgeName({ coords }: Path): string {
  const n = coords.length;
  const place = (x: number, y: number): string => `${Math.round(x / SAME)} ${Math.round(y / SAME)}`;
  const ends = [place(coords[0]!, coords[1]!), place(coords[n - 2]!, coords[n - 1]!)].sort();
  return [...ends, n > 4 ? place((coords[2]! + coords[n - 4]!) / 2, (coords[3]! + coords[n - 3]!) / 2) : ''].join(' ');
}

/** Whether two surfaces go over into each other without an edge: `flat` where they lie in one plane. */
function meetSmoothly(p: DrawnSurface, q: DrawnSurface): 'flat' | 'round' | null {
  const [some, others] = [normalsOf(p), normalsOf(q)];
  if (!some.some((n) => others.some((m) => dotWorld(n, m) > SMOOTH))) return null;
  return p.isRound || q.isRound ? 'round' : 'flat';
}

/** Cosine between a face and the light from which on it counts as turned to it. */
const LIT = 0.02;

/** Whether two faces turned to the light meet in an edge that stands out, not in one between them as in a corner of a room. */
function standsOut(p: DrawnSurface, q: DrawnSurface, towards: WorldPoint): boolean {
  if (p.isRound || q.isRound || dotWorld(p.normal, towards) < LIT || dotWorld(q.normal, towards) < LIT) return false;
  const middle = ({ surface }: DrawnSurface): WorldPoint => {
    const { min, max } = boundsOf(surface!.loops[0] ?? []);
    return scaleWorld(addWorld(min, max), 0.5);
  };
  return dotWorld(subtractWorld(middle(q), middle(p)), p.normal) < 0;
}

/** The normals that a surface has along the edges at which it may meet others smoothly. */
function normalsOf({ surface, normal, stretch }: DrawnSurface): readonly WorldPoint[] {
  const form = surface!.form;
  if (form.kind === 'flat' || form.kind === 'sphere' || !stretch) return [normal];
  const n = form.directrix.length;
  return [stretch.from, stretch.to].flatMap((s) => ruledUnitNormal(form, s === n ? n - 1e-9 : s % n) ?? []);
}

/** Lines that meet at their ends as one line each, so that corners are drawn as corners. */
function chained(lines: readonly Path[]): Path {
  const name = (x: number, y: number): string => `${Math.round(x / SAME)} ${Math.round(y / SAME)}`;
  const start = ({ coords }: Path): string => name(coords[0]!, coords[1]!);
  const end = ({ coords }: Path): string => name(coords.at(-2)!, coords.at(-1)!);
  const at = new Map<string, Set<Path>>();
  const put = (line: Path): void => [start(line), end(line)].forEach((place) => at.set(place, (at.get(place) ?? new Set()).add(line)));
  const waiting = new Set(lines);
  waiting.forEach(put);
  const take = (place: string): Path | null => {
    const there = [...(at.get(place) ?? [])].filter((line) => waiting.has(line));
    // Where more than two lines meet none of them is the one that goes on.
    if (there.length !== 1) return null;
    const [line] = there as [Path];
    waiting.delete(line);
    return start(line) === place ? line : reversePath(line);
  };
  const out: Path[] = [];
  for (const first of lines) {
    if (!waiting.delete(first)) continue;
    let whole = first;
    for (let next = take(end(whole)); next; next = take(end(whole))) whole = followed(whole, next);
    for (let before = take(start(whole)); before; before = take(start(whole))) whole = followed(reversePath(before), whole);
    whole = withoutStubs(whole);
    out.push(start(whole) === end(whole) && whole.coords.length > 4 && !whole.verbs.endsWith('Z') ? closed(whole) : whole);
  }
  return joinPaths(out);
}

/** A line that comes back to its start, closed; a last straight edge is what closing draws. */
function closed({ verbs, coords }: Path): Path {
  return verbs.endsWith('L') ? { verbs: `${verbs.slice(0, -1)}Z`, coords: coords.slice(0, -2) } : { verbs: `${verbs}Z`, coords };
}

/** A line without the corners that inner edges leave where they meet the outline. */
function withoutStubs({ verbs, coords }: Path): Path {
  let kept = 'M';
  const out = coords.slice(0, 2);
  let at = 2;
  for (const verb of verbs.slice(1)) {
    const size = COORDS_OF[verb]!;
    const [x, y] = coords.slice(at + size - 2, at + size);
    const short = verb === 'L' && Math.hypot(x! - out.at(-2)!, y! - out.at(-1)!) < SHORTEST;
    if (!short) {
      kept += verb;
      for (let i = at; i < at + size; i++) out.push(coords[i]!);
    }
    at += size;
  }
  return { verbs: kept, coords: out };
}

const followed = (path: Path, { verbs, coords }: Path): Path => ({ verbs: path.verbs + verbs.slice(1), coords: [...path.coords, ...coords.slice(2)] });
