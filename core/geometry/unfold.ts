import { addWorld, crossWorld, dotWorld, lengthWorld, scaleWorld, subtractWorld, unitWorld, type PlanePoint, type WorldPoint } from '../math/points';
import { exactCells } from '../math/exact';
import { applyAffine, composeAffine, invertAffine, type Affine } from '../math/matrix';
import { containsPoint, signedArea } from '../math/polygon';
import { SAME_FOUND } from '../math/tolerances';
import { anchorThrough, type ArtworkAnchor } from './anchor';
import type { Body, Surface } from './body';
import { edgesOf } from './corner';
import { isRuled, ruledCoordinates, ruledPoint, ruledTangent, type Ruled } from './ruled';
import { anchorOnRuled, artworkOnRuled, ruledOf } from './wrapping';

/** A surface as it lies in a net. */
export interface NetFace {
  readonly surface: Surface;
  /** From its own flat coordinates, seen from outside with x to the right and y down, to the net, all in cells. */
  readonly map: Affine;
  /** Its rings in the net, `[x0, y0, ...]`, the outer one first; curves as corners close together. */
  readonly rings: readonly (readonly number[])[];
}

/** A body's surfaces laid out flat, seen from outside, x to the right and y down, in cells from the upper left corner. */
export interface Net {
  readonly width: number;
  readonly height: number;
  readonly faces: readonly NetFace[];
  /** Lines along which it is folded, and those along which it is cut: `[x0, y0, x1, y1, ...]`. */
  readonly folds: readonly (readonly number[])[];
  readonly cuts: readonly (readonly number[])[];
  /** Tabs for gluing, each with the edge that it is folded along first. */
  readonly tabs: readonly (readonly number[])[];
}

type Flat = readonly [x: number, y: number];

/** A surface with its own flat coordinates, seen from outside. */
interface Piece {
  readonly surface: Surface;
  readonly rings: readonly (readonly Flat[])[];
  readonly flatOf: (p: WorldPoint) => Flat;
}

/** Where two surfaces hold together: two places of the world on both, in the order in which the first runs by them. */
interface Joint {
  readonly other: number;
  readonly own: readonly [Flat, Flat];
  readonly others: readonly [Flat, Flat];
  /** They meet in a line; else they only touch, such as a round end and its side. */
  readonly fold: boolean;
}

/** Room round a net and between its parts, in cells. */
const ROOM = 0.5;
/** Corners of a rim for each piece of its directrix. */
const RIM = 48;
/** How deep tabs are, in parts of their edge and in cells at most; how much narrower they end. */
const TAB_PART = 0.3;
const TAB_CELLS = 1;

/**
 * A body's surfaces as a net of cardboard: each next to one that it meets in an edge, without lying over others. What
 * would lie over others, or meets no surface in an edge, is laid beside. Balls, which cannot be unrolled, are left out.
 */
export function unfolded(body: Body, options: { readonly tabs: boolean } = { tabs: false }): Net {
  const pieces = body.surfaces.flatMap((surface): readonly Piece[] => pieceOf(surface) ?? []);
  const joints = pieces.map((_, i) => jointsOf(pieces, i));
  const placed: (Affine | null)[] = pieces.map(() => null);
  const rings: (readonly (readonly Flat[])[] | null)[] = pieces.map(() => null);
  const folds: Flat[][] = [];
  const folded = new Set<string>();
  const put = (i: number, map: Affine): void => {
    placed[i] = map;
    rings[i] = pieces[i]!.rings.map((ring) => ring.map((p) => onto(map, p)));
  };
  const free = (i: number, map: Affine): boolean => {
    const outer = pieces[i]!.rings[0]!.map((p) => onto(map, p));
    return rings.every((other) => !other || !overlap(outer, other[0]!));
  };
  for (;;) {
    const first = biggest(pieces, placed);
    if (first === null) break;
    const box = boundsOf(rings.flatMap((list) => list?.flat() ?? []));
    const own = boundsOf(pieces[first]!.rings.flat());
    put(first, [1, 0, 0, 1, box ? box.maxX + 2 * ROOM - own!.minX : 0, (box?.minY ?? 0) - (box ? own!.minY : 0)]);
    const queue = [first];
    for (let at = queue.shift(); at !== undefined; at = queue.shift()) {
      // Edges before touches: a round end is laid at its side only where nothing else holds it.
      for (const joint of [...joints[at]!].sort((p, q) => Number(q.fold) - Number(p.fold))) {
        if (placed[joint.other]) continue;
        const map = composeAffine(placed[at]!, besides(joint));
        if (!free(joint.other, map)) continue;
        put(joint.other, map);
        queue.push(joint.other);
        const line = joint.own.map((p) => onto(placed[at]!, p));
        if (joint.fold) folds.push(line);
        if (joint.fold) folded.add(edgeKey(line));
      }
    }
  }
  return finished(pieces, placed as Affine[], rings as (readonly (readonly Flat[])[])[], folds, folded, options.tabs ? tabsOf(pieces, joints, placed as Affine[], rings as (readonly (readonly Flat[])[])[], folded) : []); // prettier-ignore
}

const onto = (map: Affine, [x, y]: Flat): Flat => {
  const p = applyAffine(map, x, y);
  return [p.x, p.y];
};

/** The surface that is laid next without a neighbour: of those that are left the one with the largest area. */
function biggest(pieces: readonly Piece[], placed: readonly (Affine | null)[]): number | null {
  let [best, most]: [number | null, number] = [null, -1];
  pieces.forEach(({ rings }, i) => {
    const area = Math.abs(signedArea(rings[0]!.flat()));
    if (!placed[i] && area > most + 1e-9) [best, most] = [i, area];
  });
  return best;
}

function pieceOf(surface: Surface): Piece[] | null {
  const { form, loops } = surface;
  if (form.kind === 'flat') {
    const { normal, u } = form.frame;
    const along = unitWorld(subtractWorld(u, scaleWorld(normal, dotWorld(u, normal))));
    if (!along || loops.length === 0) return null;
    const down = crossWorld(along, normal);
    const from = { a: loops[0]![0]!, b: loops[0]![1]!, h: loops[0]![2]! };
    const flatOf = (p: WorldPoint): Flat => {
      const off = subtractWorld(p, from);
      return [dotWorld(off, along), dotWorld(off, down)];
    };
    return [{ surface, flatOf, rings: loops.map((loop) => pointsOf(loop).map(flatOf)) }];
  }
  if (!isRuled(form)) return null;
  const flip = standsUp(form) ? -1 : 1;
  const n = form.directrix.length;
  const own = (s: number, k: number): Flat => {
    const { u, v } = ruledCoordinates(form, Math.min(s, n - 1e-12), k);
    return [u, v * flip];
  };
  const rim = (k: number): Flat[] => Array.from({ length: RIM * n + 1 }, (_, i) => own(i / RIM, k));
  const ring = [...rim(0), ...rim(1).reverse()].filter(([x, y], i, all) => i === 0 || Math.hypot(x - all[i - 1]![0], y - all[i - 1]![1]) > 1e-9);
  const flatOf = (p: WorldPoint): Flat => {
    const { u, v } = nearOwn(form, p);
    return [u, v * flip];
  };
  return [{ surface, flatOf, rings: [ring] }];
}

const pointsOf = (loop: readonly number[]): readonly WorldPoint[] =>
  Array.from({ length: loop.length / 3 }, (_, i) => ({ a: loop[3 * i]!, b: loop[3 * i + 1]!, h: loop[3 * i + 2]! }));

/** Whether a side's own coordinates, with v up, are seen from outside as they are; else they are seen mirrored. */
function standsUp(ruled: Ruled): boolean {
  const s = ruled.directrix.length / 3;
  const [p, q, r] = [ruledCoordinates(ruled, s, 0.5), ruledCoordinates(ruled, s + 1e-4, 0.5), ruledCoordinates(ruled, s, 0.5001)];
  const turns = (q.u - p.u) * (r.v - p.v) - (q.v - p.v) * (r.u - p.u);
  return turns > 0 === ruled.sense > 0;
}

/** The own coordinates of a place of one of a side's straight edges. */
function nearOwn(ruled: Ruled, p: WorldPoint): PlanePoint {
  const n = ruled.directrix.length;
  const ends = [[0, 0], [0, 1], [n - 1e-12, 0], [n - 1e-12, 1]] as const; // prettier-ignore
  const near = ends.map(([s, k]) => ({ s, k, off: lengthWorld(subtractWorld(p, ruledPoint(ruled, s, k))) }));
  const best = near.reduce((least, one) => (one.off < least.off ? one : least));
  return ruledCoordinates(ruled, best.s, best.k);
}

/** A surface's straight edges in the world, with the surface to the left, seen from outside. */
function straightEdges({ surface }: Piece): readonly (readonly [WorldPoint, WorldPoint])[] {
  const { form } = surface;
  if (form.kind === 'flat') return edgesOf(surface);
  if (!isRuled(form) || form.closed) return [];
  const n = form.directrix.length - 1e-12;
  const [p, q, r, s] = [ruledPoint(form, 0, 0), ruledPoint(form, n, 0), ruledPoint(form, n, 1), ruledPoint(form, 0, 1)];
  return form.sense > 0 ? [[q, r], [s, p]] : [[p, s], [r, q]]; // prettier-ignore
}

const near = (p: WorldPoint, q: WorldPoint): boolean => lengthWorld(subtractWorld(p, q)) < 1e3 * SAME_FOUND;

function jointsOf(pieces: readonly Piece[], i: number): readonly Joint[] {
  const own = pieces[i]!;
  const edges = straightEdges(own);
  return pieces.flatMap((other, at): readonly Joint[] => {
    if (at === i) return [];
    const others = straightEdges(other);
    const folds = edges.flatMap(([p, q]): readonly Joint[] => {
      if (near(p, q) || !others.some(([r, s]) => near(r, q) && near(s, p))) return [];
      return [{ other: at, own: [own.flatOf(p), own.flatOf(q)], others: [other.flatOf(p), other.flatOf(q)], fold: true }];
    });
    return folds.length > 0 ? folds : touching(own, other, at);
  });
}

/** A flat end and the round side whose rim bounds it, where they touch in the middle of the rim as it is laid out. */
function touching(own: Piece, other: Piece, at: number): readonly Joint[] {
  const side = isRuled(own.surface.form) ? own : isRuled(other.surface.form) ? other : null;
  const end = side === own ? other : own;
  if (!side || !isRuled(side.surface.form) || end.surface.form.kind !== 'flat') return [];
  const ruled = side.surface.form;
  const s = ruled.directrix.length / 2;
  const flip = standsUp(ruled) ? -1 : 1;
  for (const k of [0, 1]) {
    const place = ruledPoint(ruled, s, k);
    const tangent = unitWorld(ruledTangent(ruled, s));
    const { origin, normal } = end.surface.form.frame;
    const on = Math.abs(dotWorld(subtractWorld(place, origin), normal)) < 1e-4;
    const bounds = on && end.surface.loops.some((loop) => pointsOf(loop).some((p) => lengthWorld(subtractWorld(p, place)) < 0.05 + radiusOf(loop) * 0.2));
    if (!tangent || !bounds) continue;
    const [p, q] = [ruledCoordinates(ruled, s, k), ruledCoordinates(ruled, s + 1e-4, k)];
    const long = Math.hypot(q.u - p.u, q.v - p.v);
    if (!(long > 0)) continue;
    const sides: readonly [Flat, Flat] = [[p.u, p.v * flip], [p.u + (q.u - p.u) / long, (p.v + (q.v - p.v) / long) * flip]]; // prettier-ignore
    const ends: readonly [Flat, Flat] = [end.flatOf(place), end.flatOf(addWorld(place, tangent))];
    return [side === own ? { other: at, own: sides, others: ends, fold: false } : { other: at, own: ends, others: sides, fold: false }];
  }
  return [];
}

function radiusOf(loop: readonly number[]): number {
  const points = pointsOf(loop);
  return lengthWorld(subtractWorld(points[0]!, points[points.length >> 1]!)) / 2;
}

/** The move that lays a neighbour's flat coordinates beside the surface that it meets. */
function besides({ own: [p, q], others: [r, s] }: Joint): Affine {
  const [dx, dy, ex, ey] = [q[0] - p[0], q[1] - p[1], s[0] - r[0], s[1] - r[1]];
  const long = Math.hypot(dx, dy) * Math.hypot(ex, ey) || 1;
  const [cos, sin] = [(dx * ex + dy * ey) / long, (dy * ex - dx * ey) / long];
  return [cos, sin, -sin, cos, p[0] - cos * r[0] + sin * r[1], p[1] - sin * r[0] - cos * r[1]];
}

/** By how much pieces may lie over each other where they only touch, in cells. */
const TOUCH = 1e-4;

/** Whether two rings lie over each other by more than touching. */
function overlap(p: readonly Flat[], q: readonly Flat[]): boolean {
  const [a, b] = [boundsOf(p)!, boundsOf(q)!];
  if (a.maxX < b.minX + TOUCH || b.maxX < a.minX + TOUCH || a.maxY < b.minY + TOUCH || b.maxY < a.minY + TOUCH) return false;
  const [inner, outer] = [shrunk(p), shrunk(q)];
  const [flatP, flatQ] = [inner.flat(), outer.flat()];
  if (inner.some(([x, y]) => containsPoint(flatQ, x, y)) || outer.some(([x, y]) => containsPoint(flatP, x, y))) return true;
  return inner.some((from, i) => outer.some((at, k) => crosses(from, inner[(i + 1) % inner.length]!, at, outer[(k + 1) % outer.length]!)));
}

/** A ring drawn in towards its middle by a little. */
function shrunk(ring: readonly Flat[]): readonly Flat[] {
  const box = boundsOf(ring)!;
  const [x, y] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
  const k = 1 - (4 * TOUCH) / Math.max(box.maxX - box.minX, box.maxY - box.minY, 1e-9);
  return ring.map(([u, v]) => [x + (u - x) * k, y + (v - y) * k]);
}

function crosses(a: Flat, b: Flat, c: Flat, d: Flat): boolean {
  const side = (p: Flat, q: Flat, r: Flat): number => (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]);
  return side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
}

interface Bounds {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

function boundsOf(points: readonly Flat[]): Bounds | null {
  if (points.length === 0) return null;
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x, y] of points) {
    minX = Math.min(minX, x);
    minY = Math.min(minY, y);
    maxX = Math.max(maxX, x);
    maxY = Math.max(maxY, y);
  }
  return { minX, minY, maxX, maxY };
}

/** What tells an edge from others wherever it was found: its ends, to a part of a cell, whichever comes first. */
function edgeKey(line: readonly Flat[]): string {
  const words = line.map(([x, y]) => `${Math.round(x * 1e4)},${Math.round(y * 1e4)}`);
  return [...words].sort().join(' ');
}

/** Tabs on one of both sides of every edge that is glued, where there is room for them. */
function tabsOf(
  pieces: readonly Piece[],
  joints: readonly (readonly Joint[])[],
  placed: readonly Affine[],
  rings: readonly (readonly (readonly Flat[])[])[],
  folded: ReadonlySet<string>,
): readonly Flat[][] {
  const tabs: Flat[][] = [];
  const done = new Set<string>();
  pieces.forEach((_, i) => {
    for (const joint of joints[i]!) {
      const [own, others] = [joint.own.map((p) => onto(placed[i]!, p)), joint.others.map((p) => onto(placed[joint.other]!, p))];
      if (!joint.fold || folded.has(edgeKey(own)) || done.has(edgeKey(own)) || done.has(edgeKey(others))) continue;
      // Out of either side: seen from outside a surface lies to the left of its edge, with y down to the right of it.
      const found = [tabAt(own[0]!, own[1]!), tabAt(others[1]!, others[0]!)].find((tab) =>
        [...rings.map((list) => list[0]!), ...tabs].every((other) => !overlap(tab, other)),
      );
      done.add(edgeKey(own)).add(edgeKey(others));
      if (found) tabs.push(found);
    }
  });
  return tabs;
}

/** A tab that stands out of an edge, its own surface to the left, seen with y down. */
function tabAt(p: Flat, q: Flat): Flat[] {
  const long = Math.hypot(q[0] - p[0], q[1] - p[1]);
  const deep = Math.min(TAB_CELLS, TAB_PART * long);
  const [x, y] = [(q[0] - p[0]) / long, (q[1] - p[1]) / long];
  // With y down, left of the way is (y, -x): out of the surface is the other side.
  const out = (at: Flat, along: number): Flat => [at[0] + x * along - y * deep, at[1] + y * along + x * deep];
  return [p, q, out(q, -deep * 0.7), out(p, deep * 0.7)];
}

/** The net from its upper left corner, with the lines along which it is cut. */
function finished(
  pieces: readonly Piece[],
  placed: readonly Affine[],
  rings: readonly (readonly (readonly Flat[])[])[],
  folds: readonly (readonly Flat[])[],
  folded: ReadonlySet<string>,
  tabs: readonly (readonly Flat[])[],
): Net {
  const box = boundsOf([...rings.flat(2), ...tabs.flat()]) ?? { minX: 0, minY: 0, maxX: 0, maxY: 0 };
  const [dx, dy] = [ROOM - box.minX, ROOM - box.minY];
  const flat = (points: readonly Flat[]): readonly number[] => points.flatMap(([x, y]) => [x + dx, y + dy]);
  const tabbed = new Set(tabs.map(([p, q]) => edgeKey([p!, q!])));
  const cuts = rings.flat().flatMap((ring) => cutLines(ring, (line) => folded.has(edgeKey(line)) || tabbed.has(edgeKey(line))));
  return {
    width: box.maxX - box.minX + 2 * ROOM,
    height: box.maxY - box.minY + 2 * ROOM,
    faces: pieces.map(({ surface }, i) => ({ surface, map: composeAffine([1, 0, 0, 1, dx, dy], placed[i]!), rings: rings[i]!.map(flat) })),
    folds: [...folds.map(flat), ...tabs.map(([p, q]) => flat([p!, q!]))],
    cuts: [...cuts.map(flat), ...tabs.map(([p, q, r, s]) => flat([q!, r!, s!, p!]))],
    tabs: tabs.map(flat),
  };
}

/** The parts of a ring that are cut: its edges without those that are folded, joined where they follow one another. */
function cutLines(ring: readonly Flat[], isFold: (line: readonly Flat[]) => boolean): readonly Flat[][] {
  const lines: Flat[][] = [];
  let open: Flat[] | null = null;
  ring.forEach((p, i) => {
    const q = ring[(i + 1) % ring.length]!;
    if (isFold([p, q])) open = null;
    else if (open) open.push(q);
    else lines.push((open = [p, q]));
  });
  const [first, last] = [lines[0], lines.at(-1)];
  if (first && last && first !== last && last.at(-1) === first[0]) {
    lines.pop();
    lines[0] = [...last, ...first.slice(1)];
  }
  return lines;
}

/** The anchor by which the part of a net's artwork that a surface wears lies on it, and that part in cells of the net. */
export function anchorOfNetFace({ surface, map, rings }: NetFace): { readonly anchor: ArtworkAnchor; readonly box: Bounds } | null {
  const box = boundsOf(pairs(rings[0]!));
  const back = invertAffine(map);
  if (!box || !back) return null;
  const size = { width: box.maxX - box.minX, height: box.maxY - box.minY };
  const own = (x: number, y: number): Flat => onto(back, [x, y]);
  const { form } = surface;
  if (form.kind === 'flat') {
    const { normal, u } = form.frame;
    const along = unitWorld(subtractWorld(u, scaleWorld(normal, dotWorld(u, normal))));
    const from = { a: surface.loops[0]![0]!, b: surface.loops[0]![1]!, h: surface.loops[0]![2]! };
    if (!along) return null;
    const down = crossWorld(along, normal);
    const world = ([x, y]: Flat): WorldPoint => addWorld(from, addWorld(scaleWorld(along, x), scaleWorld(down, y)));
    const corners = [own(box.minX, box.minY), own(box.maxX, box.minY), own(box.maxX, box.maxY), own(box.minX, box.maxY)].map(world);
    return { anchor: anchorThrough(corners, normal), box };
  }
  if (!isRuled(form)) return null;
  const flip = standsUp(form) ? -1 : 1;
  const [middle, right] = [own((box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2), own((box.minX + box.maxX) / 2 + 1, (box.minY + box.maxY) / 2)];
  const place = ruledOf(form, { u: middle[0], v: middle[1] * flip });
  const reading = artworkOnRuled({ ...anchorOnRuled(form, place, size), middle: { u: middle[0], v: middle[1] * flip } }, form);
  const [x, y] = [right[0] - middle[0], (right[1] - middle[1]) * flip];
  const turn = (Math.atan2(x * reading.down.u + y * reading.down.v, x * reading.right.u + y * reading.right.v) * 180) / Math.PI;
  const whole = Math.abs(turn - Math.round(turn)) < 1e-6 ? Math.round(turn) : turn;
  const anchor = anchorOnRuled(form, place, size, whole === 0 ? {} : { turn: whole });
  return { anchor: { ...anchor, middle: { u: exactCells(middle[0]), v: exactCells(middle[1] * flip) } }, box };
}

const pairs = (flat: readonly number[]): readonly Flat[] => Array.from({ length: flat.length / 2 }, (_, i) => [flat[2 * i]!, flat[2 * i + 1]!]);
