import { COORDS_OF, type Path } from '../shape/path';

/** A straight edge of the plane: places with `nx x + ny y >= d` are kept. */
export interface Edge {
  readonly nx: number;
  readonly ny: number;
  readonly d: number;
}

type Cubic = readonly [number, number, number, number, number, number, number, number];

/**
 * What of an area lies on one side of a straight edge, with its curves (Sutherland & Hodgman 1974, by pieces of curves
 * instead of edges): what is cut away is gone round along the edge, which bounds nothing there.
 */
export function clippedArea({ verbs, coords }: Path, edge: Edge): Path {
  let out = '';
  const kept: number[] = [];
  let at = 0;
  let ring: Cubic[] = [];
  let [x, y, startX, startY] = [0, 0, 0, 0];
  const line = (x0: number, y0: number, x1: number, y1: number): Cubic => [x0, y0, (2 * x0 + x1) / 3, (2 * y0 + y1) / 3, (x0 + 2 * x1) / 3, (y0 + 2 * y1) / 3, x1, y1]; // prettier-ignore
  const straight = new Set<Cubic>();
  const put = (piece: Cubic, isLine: boolean): void => {
    if (isLine) straight.add(piece);
    ring.push(piece);
  };
  const close = (): void => {
    if (x !== startX || y !== startY) put(line(x, y, startX, startY), true);
    const pieces = ring.flatMap((piece) => insideOf(piece, edge).map((part) => ({ part, isLine: straight.has(piece) })));
    ring = [];
    const [first] = pieces;
    if (!first) return;
    out += 'M';
    kept.push(first.part[0], first.part[1]);
    let [px, py]: [number, number] = [first.part[0], first.part[1]];
    for (const { part, isLine } of pieces) {
      if (part[0] !== px || part[1] !== py) {
        out += 'L';
        kept.push(part[0], part[1]);
      }
      out += isLine ? 'L' : 'C';
      kept.push(...(isLine ? part.slice(6) : part.slice(2)));
      [px, py] = [part[6], part[7]];
    }
    out += 'Z';
  };
  for (const verb of verbs) {
    const size = COORDS_OF[verb] ?? 0;
    const c = coords.slice(at, at + size);
    if (verb === 'M') {
      if (ring.length > 0) close();
      [x, y, startX, startY] = [c[0]!, c[1]!, c[0]!, c[1]!];
    } else if (verb === 'L') {
      put(line(x, y, c[0]!, c[1]!), true);
      [x, y] = [c[0]!, c[1]!];
    } else if (verb === 'C') {
      put([x, y, ...c] as unknown as Cubic, false);
      [x, y] = [c[4]!, c[5]!];
    } else {
      close();
      [x, y] = [startX, startY];
    }
    at += size;
  }
  if (ring.length > 0) close();
  return { verbs: out, coords: kept };
}

/** The parts of a cubic on the kept side of an edge, in their order. */
function insideOf(piece: Cubic, { nx, ny, d }: Edge): readonly Cubic[] {
  const off = [0, 2, 4, 6].map((i) => nx * piece[i]! + ny * piece[i + 1]! - d) as [number, number, number, number];
  if (off.every((value) => value >= 0)) return [piece];
  if (off.every((value) => value < 0)) return [];
  const places = [0, ...crossings(off), 1];
  const parts: Cubic[] = [];
  for (let i = 0; i + 1 < places.length; i++) {
    const [from, to] = [places[i]!, places[i + 1]!];
    if (to <= from || bernstein(off, (from + to) / 2) < 0) continue;
    parts.push(sliced(piece, from, to));
  }
  return parts;
}

const bernstein = ([p, q, r, w]: readonly [number, number, number, number], t: number): number => {
  const s = 1 - t;
  return s * s * s * p + 3 * s * s * t * q + 3 * s * t * t * r + t * t * t * w;
};

/** Where a cubic of one coordinate is 0 between its ends: between the places where it turns, by halves. */
function crossings(off: readonly [number, number, number, number]): readonly number[] {
  const [p, q, r, w] = off;
  // Its derivative over 3: p' (1 - t)^2 + 2 q' t (1 - t) + r' t^2.
  const [d0, d1, d2] = [q - p, r - q, w - r];
  const [a, b, c] = [d0 - 2 * d1 + d2, 2 * (d1 - d0), d0];
  const turns: number[] = [];
  const disc = b * b - 4 * a * c;
  if (a === 0) {
    if (b !== 0) turns.push(-c / b);
  } else if (disc >= 0) turns.push((-b - Math.sqrt(disc)) / (2 * a), (-b + Math.sqrt(disc)) / (2 * a));
  const ends = [0, ...turns.filter((t) => t > 0 && t < 1).sort((s, t) => s - t), 1];
  const found: number[] = [];
  for (let i = 0; i + 1 < ends.length; i++) {
    let [low, high] = [ends[i]!, ends[i + 1]!];
    const rises = bernstein(off, low) < 0;
    if (rises === bernstein(off, high) < 0) continue;
    for (let k = 0; k < 60; k++) {
      const middle = (low + high) / 2;
      if (bernstein(off, middle) < 0 === rises) low = middle;
      else high = middle;
    }
    found.push((low + high) / 2);
  }
  return found;
}

/** The part of a cubic between two parameters (de Casteljau, blossoms). */
function sliced(c: Cubic, from: number, to: number): Cubic {
  const blossom = (i: 0 | 1, r: number, s: number, t: number): number => {
    const mix = (p: number, q: number, k: number): number => p + (q - p) * k;
    const [p, q, v, w] = [c[i]!, c[2 + i]!, c[4 + i]!, c[6 + i]!];
    const [a, b, d] = [mix(p, q, r), mix(q, v, r), mix(v, w, r)];
    return mix(mix(a, b, s), mix(b, d, s), t);
  };
  const place = (r: number, s: number, t: number): readonly [number, number] => [blossom(0, r, s, t), blossom(1, r, s, t)];
  return [...place(from, from, from), ...place(from, from, to), ...place(from, to, to), ...place(to, to, to)] as unknown as Cubic;
}
