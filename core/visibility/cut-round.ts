import type { Facet, Rim, Surface } from '../geometry/body';
import { generatorAt } from '../geometry/contact';
import { apexOf, ruledPoint, type Ruled } from '../geometry/ruled';
import { arcSegments, directionsAcross, onSphere, type Sphere } from '../geometry/sphere';
import { addWorld, crossWorld, dotWorld, scaleWorld, subtractWorld, type WorldPoint } from '../math/points';
import { sheetFromFrame, worldFromPlane, type PlaneFrame } from '../projection/planes';
import { sheetFromWorld, type EyeMatrix } from '../projection/projection';
import { drawSegments } from '../shape/draw-segments';
import { joinPaths, type Path } from '../shape/path';
import { pointAt, type Segment } from '../shape/segments';
import { sliceSegment } from '../shape/split';
import { seenCap } from './sphere-view';
import { withinStretch, type Stretch } from './stretches';

/** A stretch of a boundary that is seen, as a path without its end, and where it starts and ends in the world. */
interface Chain {
  readonly path: Path;
  readonly from: WorldPoint;
  readonly to: WorldPoint;
  /** It is a whole ring. */
  readonly closed: boolean;
}

/** Places along each piece of a boundary at which it is looked whether it is seen. */
const LOOKS = 8;
/** Halvings that find where it turns away. */
const HALVINGS = 40;

/**
 * The exact path of what is seen of a stretch of a cut ruled surface: its boundary as far as it is in front, and the
 * generators where the surface turns away between. Null where a part lies before the near plane.
 */
export function cutRuledPath(projection: EyeMatrix, surface: Surface, stretch: Stretch): Path | null {
  const form = surface.form as Ruled;
  const n = form.directrix.length;
  const whole = form.closed && stretch.to - stretch.from >= n;
  const isSeen = (p: WorldPoint): boolean => {
    const s = generatorAt(form, p);
    return whole || (s !== null && withinStretch(stretch, s, n));
  };
  const chains = seenChains(projection, surface.cut!, isSeen);
  if (!chains) return null;
  const rings = chains.filter(({ closed }) => closed).map(({ path }) => closedPath(path));
  const open = chains.filter(({ closed }) => !closed);
  // What is inside runs between every second place along the two generators where the surface turns away.
  const ends = open.flatMap(({ from, to }, chain) => [
    { chain, start: true, at: from },
    { chain, start: false, at: to },
  ]);
  const partner = new Map<string, number>();
  // Of a cone that keeps its point, what is inside runs up to it along both generators, and down again along the other.
  const upToApex: (typeof ends)[number][] = [];
  for (const edge of [stretch.from, stretch.to]) {
    const along = ends
      .filter(
        ({ at }) =>
          distanceAround(generatorAt(form, at) ?? 0, edge, n, form.closed) <=
          distanceAround(generatorAt(form, at) ?? 0, edge === stretch.from ? stretch.to : stretch.from, n, form.closed),
      ) // prettier-ignore
      .map((end) => ({ ...end, k: alongGenerator(form, end.at) }))
      .sort((p, q) => p.k - q.k);
    if (form.kind === 'cone' && along.length % 2 === 1) upToApex.push(along.pop()!);
    for (let i = 0; i + 1 < along.length; i += 2) {
      const [p, q] = [along[i]!, along[i + 1]!];
      partner.set(`${p.chain} ${p.start}`, q.chain);
      partner.set(`${q.chain} ${q.start}`, p.chain);
    }
  }
  const [up, down] = upToApex;
  const apex = up && down ? sheetFromWorld(projection, apexOf(form)) : null;
  if (up && down) {
    if (!apex) return null;
    partner.set(`${up.chain} ${up.start}`, down.chain);
    partner.set(`${down.chain} ${down.start}`, up.chain);
  }
  const turns = upToApex.find(({ start }) => !start)?.chain;
  const next = (chain: number): number | undefined => partner.get(`${chain} false`);
  return joinPaths([...rings, ...linked(open, next, (chain) => (apex && chain === turns ? { verbs: 'ML', coords: [apex.x, apex.y, apex.x, apex.y] } : null))]);
}

/** How far apart two parameters are, the short way round where the directrix is closed. */
function distanceAround(s: number, t: number, n: number, closed: boolean): number {
  const d = Math.abs(s - t) % n;
  return closed ? Math.min(d, n - d) : Math.abs(s - t);
}

function alongGenerator(form: Ruled, p: WorldPoint): number {
  const s = generatorAt(form, p) ?? 0;
  const [from, to] = [ruledPoint(form, s, 0), ruledPoint(form, s, 1)];
  const d = subtractWorld(to, from);
  return dotWorld(subtractWorld(p, from), d) / dotWorld(d, d);
}

/** Chains linked end to start into closed paths, with what leads from one to the next between. */
function linked(
  chains: readonly Chain[],
  next: (chain: number) => number | undefined,
  between: (chain: number, following: number) => Path | null,
): readonly Path[] {
  const used = new Set<number>();
  const paths: Path[] = [];
  chains.forEach((_, start) => {
    if (used.has(start)) return;
    let path: Path | null = null;
    let at: number | undefined = start;
    while (at !== undefined && !used.has(at)) {
      used.add(at);
      path = path ? continued(path, chains[at]!.path) : chains[at]!.path;
      const following: number = next(at) ?? start;
      const bridge = between(at, following);
      if (bridge) path = continued(path, bridge);
      at = following;
    }
    if (path) paths.push(closedPath(path));
  });
  return paths;
}

const closedPath = ({ verbs, coords }: Path): Path => ({ verbs: `${verbs}Z`, coords });

/** A path that goes on with another, by a line to its start where they do not meet. */
function continued(path: Path, { verbs, coords }: Path): Path {
  const [x, y] = path.coords.slice(-2) as [number, number];
  const meets = Math.hypot(x - coords[0]!, y - coords[1]!) < 1e-9;
  return meets ? { verbs: path.verbs + verbs.slice(1), coords: [...path.coords, ...coords.slice(2)] } : { verbs: `${path.verbs}L${verbs.slice(1)}`, coords: [...path.coords, ...coords] }; // prettier-ignore
}

/** A piece of a boundary that can be cut at parameters from 0 to 1. */
interface Piece {
  readonly place: (t: number) => WorldPoint;
  readonly path: (from: number, to: number) => Path | null;
}

function piecesOf(projection: EyeMatrix, ring: readonly Rim[]): readonly Piece[] {
  return ring.flatMap((rim): readonly Piece[] => {
    if ('points' in rim) return linePieces(projection, rim.points);
    const map = sheetFromFrame(projection, rim.frame);
    return rim.segments.map((segment) => ({
      place: (t) => worldFromPlane(rim.frame, pointAt(segment, t)),
      path: (from, to) => drawSegments([from === 0 && to === 1 ? segment : sliceSegment(segment, from, to)], false, map, projection.near),
    }));
  });
}

function linePieces(projection: EyeMatrix, points: readonly number[]): readonly Piece[] {
  const at = (i: number): WorldPoint => ({ a: points[3 * i]!, b: points[3 * i + 1]!, h: points[3 * i + 2]! });
  return Array.from({ length: points.length / 3 - 1 }, (_, i): Piece => {
    const place = (t: number): WorldPoint => addWorld(at(i), scaleWorld(subtractWorld(at(i + 1), at(i)), t));
    return {
      place,
      path: (from, to) => {
        const [p, q] = [sheetFromWorld(projection, place(from)), sheetFromWorld(projection, place(to))];
        return p && q && { verbs: 'ML', coords: [p.x, p.y, q.x, q.y] };
      },
    };
  });
}

/** The parts of some rings that are seen, each a chain of pieces; null where one cannot be drawn. */
function seenChains(projection: EyeMatrix, cut: readonly (readonly Rim[])[], isSeen: (p: WorldPoint) => boolean): readonly Chain[] | null {
  const chains: Chain[] = [];
  for (const ring of cut) {
    const parts: { path: Path; from: WorldPoint; to: WorldPoint; begins: boolean; ends: boolean }[] = [];
    for (const { place, path } of piecesOf(projection, ring)) {
      for (const [from, to] of seenParts(place, isSeen)) {
        const drawn = path(from, to);
        if (!drawn) return null;
        parts.push({ path: drawn, from: place(from), to: place(to), begins: from > 0, ends: to < 1 });
      }
    }
    chains.push(...chained(parts, ring.length === 0 ? 0 : piecesOf(projection, ring).length));
  }
  return chains;
}

/** Parts of a ring in their order as chains: cut where one does not begin at the end of the one before. */
function chained(parts: readonly { readonly path: Path; readonly from: WorldPoint; readonly to: WorldPoint }[], pieces: number): readonly Chain[] {
  if (parts.length === 0) return [];
  const meets = (i: number): boolean => {
    const [p, q] = [parts[(i + parts.length - 1) % parts.length]!.to, parts[i]!.from];
    return Math.abs(p.a - q.a) + Math.abs(p.b - q.b) + Math.abs(p.h - q.h) < 1e-6;
  };
  const breaks = parts.findIndex((_, i) => !meets(i));
  if (breaks < 0 && parts.length >= pieces) return [{ ...gathered(parts), closed: true }];
  const start = Math.max(0, breaks);
  const lists: (typeof parts)[number][][] = [];
  for (let k = 0; k < parts.length; k++) {
    const i = (start + k) % parts.length;
    if (k === 0 || !meets(i)) lists.push([]);
    lists.at(-1)!.push(parts[i]!);
  }
  return lists.map((list) => ({ ...gathered(list), closed: false }));
}

function gathered(parts: readonly { readonly path: Path; readonly from: WorldPoint; readonly to: WorldPoint }[]): Omit<Chain, 'closed'> {
  const [first, ...rest] = parts;
  return { path: rest.reduce((path, part) => continued(path, part.path), first!.path), from: first!.from, to: parts.at(-1)!.to };
}

/** The parameters between which a piece is seen. */
function seenParts(place: (t: number) => WorldPoint, isSeen: (p: WorldPoint) => boolean): readonly (readonly [number, number])[] {
  const looks = Array.from({ length: LOOKS + 1 }, (_, i) => Math.min(1 - 1e-7, Math.max(1e-7, i / LOOKS)));
  const seen = looks.map((t) => isSeen(place(t)));
  const parts: [number, number][] = [];
  let from = seen[0] ? 0 : -1;
  for (let i = 1; i <= LOOKS; i++) {
    if (seen[i] === seen[i - 1]) continue;
    let [low, high] = [looks[i - 1]!, looks[i]!];
    for (let k = 0; k < HALVINGS; k++) {
      const middle = (low + high) / 2;
      if (isSeen(place(middle)) === seen[i - 1]) low = middle;
      else high = middle;
    }
    const turn = (low + high) / 2;
    if (seen[i]) from = turn;
    else {
      parts.push([from, turn]);
      from = -1;
    }
  }
  if (from >= 0) parts.push([from, 1]);
  return parts;
}

/**
 * The exact path of what is seen of a cut sphere: its boundary as far as it is in front, and its silhouette between.
 * Null where a part lies before the near plane.
 */
export function cutSpherePath(projection: EyeMatrix, surface: Surface): Path | null {
  const sphere = surface.form as Sphere;
  const cap = seenCap(projection, sphere);
  if (!cap) return { verbs: '', coords: [] };
  const out = (p: WorldPoint): WorldPoint => scaleWorld(subtractWorld(p, sphere.centre), 1 / sphere.radius);
  const chains = seenChains(projection, surface.cut!, (p) => dotWorld(out(p), cap.axis) >= cap.low);
  if (!chains) return null;
  const rings = chains.filter(({ closed }) => closed).map(({ path }) => closedPath(path));
  const open = chains.filter(({ closed }) => !closed);
  const [u] = directionsAcross(cap.axis);
  const v = crossWorld(cap.axis, u);
  const size = Math.sqrt(Math.max(0, 1 - cap.low * cap.low)) * sphere.radius;
  const frame: PlaneFrame = { origin: onSphere(sphere, scaleWorld(cap.axis, cap.low)), u: scaleWorld(u, size), v: scaleWorld(v, size), normal: cap.axis };
  const arc = (segments: readonly Segment[], closed: boolean): Path | null =>
    drawSegments(segments, closed, sheetFromFrame(projection, frame), projection.near);
  if (open.length === 0) {
    const rim = addWorld(frame.origin, frame.u);
    const circle = holdsDirection(surface.facets, sphere, out(rim)) ? arc(arcSegments(0, 2 * Math.PI), true) : null;
    return joinPaths(circle ? [circle, ...rings] : rings);
  }
  const angle = (p: WorldPoint): number => Math.atan2(dotWorld(out(p), v), dotWorld(out(p), u));
  // What is seen lies to the left of the silhouette run anticlockwise about the line of sight; from within, the other way.
  const way = sphere.hollow ? -1 : 1;
  const turn = (from: WorldPoint, to: WorldPoint): number => {
    const d = (way * (angle(to) - angle(from))) % (2 * Math.PI);
    return d < 0 ? d + 2 * Math.PI : d;
  };
  const next = (chain: number): number =>
    open.reduce((best, { from }, i) => (turn(open[chain]!.to, from) < turn(open[chain]!.to, open[best]!.from) ? i : best), 0);
  const bridge = (chain: number, following: number): Path | null => {
    const [from, to] = [open[chain]!.to, open[following]!.from];
    return arc(arcSegments(angle(from), angle(from) + way * turn(from, to)), false);
  };
  return joinPaths([...rings, ...linked(open, next, bridge)]);
}

/** Whether a direction from the centre passes through one of the facets. */
function holdsDirection(facets: readonly Facet[], { centre }: Sphere, unit: WorldPoint): boolean {
  return facets.some(({ corners }) => {
    const points = Array.from({ length: corners.length / 3 }, (_, i) =>
      subtractWorld({ a: corners[3 * i]!, b: corners[3 * i + 1]!, h: corners[3 * i + 2]! }, centre),
    );
    const sides = points.map((p, i) => dotWorld(crossWorld(p, points[(i + 1) % points.length]!), unit));
    const towards = points.reduce((sum, p) => sum + dotWorld(p, unit), 0) > 0;
    return towards && (sides.every((side) => side >= 0) || sides.every((side) => side <= 0));
  });
}
