import svgpath from 'svgpath';
import type { Affine } from '../math/matrix';
import { NO_DETERMINANT } from '../math/tolerances';

/**
 * A path as verbs and flat coordinates: M and L take a point, C two handles and a point, Z closes. Plain data, cheap
 * to map and to paint.
 */
export interface Path {
  readonly verbs: string;
  readonly coords: readonly number[];
}

/** How many coordinates a verb takes. */
export const COORDS_OF: Readonly<Record<string, number>> = { M: 2, L: 2, C: 6, Z: 0 };

/** A closed path through flat coordinates. */
export function polygonPath(polygon: ArrayLike<number>): Path {
  const n = polygon.length;
  const coords: readonly number[] = Array.isArray(polygon) ? (polygon as readonly number[]) : Array.from(polygon);
  return { verbs: n === 0 ? '' : n === 8 ? 'MLLLZ' : 'M' + 'L'.repeat(n / 2 - 1) + 'Z', coords };
}

/** An open path through flat coordinates. */
export function polylinePath(coords: readonly number[]): Path {
  return { verbs: coords.length === 0 ? '' : 'M' + 'L'.repeat(coords.length / 2 - 1), coords };
}

/** Several paths as one. */
export function joinPaths(paths: readonly Path[]): Path {
  if (paths.length === 1) return paths[0]!;
  let verbs = '';
  const all: number[] = [];
  for (const { verbs: own, coords } of paths) {
    verbs += own;
    for (let i = 0; i < coords.length; i++) all.push(coords[i]!);
  }
  return { verbs, coords: all };
}

/** Each ring or line of a path as a path of its own. */
export function splitPath({ verbs, coords }: Path): readonly Path[] {
  let at = 0;
  return (verbs.match(/M[^M]*/g) ?? []).map((own) => {
    const count = [...own].reduce((sum, verb) => sum + COORDS_OF[verb]!, 0);
    return { verbs: own, coords: coords.slice(at, (at += count)) };
  });
}

/** A path run the other way; open pieces stay open, closed ones closed. */
export function reversePath({ verbs, coords }: Path): Path {
  const pieces: Path[] = [];
  let at = 0;
  for (const piece of verbs.match(/M[LC]*Z?/g) ?? []) {
    const size = [...piece].reduce((sum, verb) => sum + COORDS_OF[verb]!, 0);
    const back: number[] = [];
    for (let i = at + size - 2; i >= at; i -= 2) back.push(coords[i]!, coords[i + 1]!);
    const steps = [...piece].filter((verb) => verb === 'L' || verb === 'C').reverse();
    pieces.push({ verbs: `M${steps.join('')}${piece.endsWith('Z') ? 'Z' : ''}`, coords: back });
    at += size;
  }
  return joinPaths(pieces);
}

/** Most chords of one cubic. */
const MOST_CHORDS = 256;

/**
 * The rings and lines of a path as flat corners, curves as chords within a distance of them; how many follows from the
 * second differences of the handles (Farin, 5).
 */
export function flattenPath({ verbs, coords }: Path, tolerance: number): readonly number[][] {
  const rings: number[][] = [];
  let at = 0;
  for (const verb of verbs) {
    const ring = rings.at(-1);
    if (verb === 'M') rings.push([coords[at]!, coords[at + 1]!]);
    else if (verb === 'L') ring!.push(coords[at]!, coords[at + 1]!);
    else if (verb === 'C') {
      const [x0, y0, x1, y1, x2, y2, x3, y3] = [ring!.at(-2)!, ring!.at(-1)!, ...coords.slice(at, at + 6)] as Eight;
      const bend = Math.max(Math.hypot(x0 - 2 * x1 + x2, y0 - 2 * y1 + y2), Math.hypot(x1 - 2 * x2 + x3, y1 - 2 * y2 + y3));
      const count = Math.max(1, Math.min(MOST_CHORDS, Math.ceil(Math.sqrt((0.75 * bend) / tolerance))));
      for (let k = 1; k < count; k++) ring!.push(cubicAt([x0, x1, x2, x3], k / count), cubicAt([y0, y1, y2, y3], k / count));
      ring!.push(x3, y3);
    }
    at += COORDS_OF[verb]!;
  }
  return rings;
}

type Eight = [number, number, number, number, number, number, number, number];

/** A path under an affine map; exact for curves, since Bezier curves are carried over by their handles. */
export function mapPath(path: Path, [a, b, c, d, e, f]: Affine): Path {
  const { coords } = path;
  const out = new Array<number>(coords.length);
  for (let i = 0; i < coords.length; i += 2) {
    const x = coords[i]!;
    const y = coords[i + 1]!;
    out[i] = a * x + c * y + e;
    out[i + 1] = b * x + d * y + f;
  }
  return { verbs: path.verbs, coords: out };
}

/** A length that a path is not longer than: along its corners and handles, moves without a line included. */
export function roughLength({ coords }: Path): number {
  let length = 0;
  for (let i = 3; i < coords.length; i += 2) length += Math.hypot(coords[i - 1]! - coords[i - 3]!, coords[i]! - coords[i - 2]!);
  return length;
}

/** The smallest and largest coordinates of a path. */
export interface PathBox {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

/** A box as a path. */
export const boxPath = ({ minX, minY, maxX, maxY }: PathBox): Path => polygonPath([minX, minY, maxX, minY, maxX, maxY, minX, maxY]);

/** The exact box of a path, curves by the roots of their derivative; null for an empty path. */
export function pathBox(path: Path): PathBox | null {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  const { coords } = path;
  const take = (x: number, y: number): void => {
    minX = Math.min(minX, x);
    maxX = Math.max(maxX, x);
    minY = Math.min(minY, y);
    maxY = Math.max(maxY, y);
  };
  let at = 0;
  for (const verb of path.verbs) {
    if (verb === 'C') {
      const x = coords.slice(at - 2, at + 6).filter((_, i) => i % 2 === 0);
      const y = coords.slice(at - 2, at + 6).filter((_, i) => i % 2 === 1);
      for (const t of [...turningPlaces(x), ...turningPlaces(y)]) take(cubicAt(x, t), cubicAt(y, t));
    }
    const size = COORDS_OF[verb] ?? 0;
    if (size > 0) take(coords[at + size - 2]!, coords[at + size - 1]!);
    at += size;
  }
  return minX <= maxX ? { minX, minY, maxX, maxY } : null;
}

function cubicAt(p: readonly number[], t: number): number {
  const s = 1 - t;
  return s * s * s * p[0]! + 3 * s * s * t * p[1]! + 3 * s * t * t * p[2]! + t * t * t * p[3]!;
}

/** The point of a cubic, its four points as flat coordinates, at a parameter from 0 to 1. */
export function cubicPoint(c: readonly number[], t: number): { readonly x: number; readonly y: number } {
  return { x: cubicAt([c[0]!, c[2]!, c[4]!, c[6]!], t), y: cubicAt([c[1]!, c[3]!, c[5]!, c[7]!], t) };
}

/** Parameters between 0 and 1 where one coordinate of a cubic turns back. */
function turningPlaces(p: readonly number[]): readonly number[] {
  const a = -p[0]! + 3 * p[1]! - 3 * p[2]! + p[3]!;
  const b = 2 * (p[0]! - 2 * p[1]! + p[2]!);
  const c = p[1]! - p[0]!;
  const roots: number[] = [];
  if (Math.abs(a) < NO_DETERMINANT) {
    if (b !== 0) roots.push(-c / b);
  } else {
    const disc = b * b - 4 * a * c;
    if (disc >= 0) roots.push((-b + Math.sqrt(disc)) / (2 * a), (-b - Math.sqrt(disc)) / (2 * a));
  }
  return roots.filter((t) => t > 0 && t < 1);
}

/** The path of SVG path data made of absolute or relative commands of any kind, or what is wrong with it. */
export function pathFromSvg(data: string): Path | string {
  return plainPath(data) ?? anyPath(data);
}

/** Coordinates of the commands that resolved paths are made of. */
const PLAIN: Readonly<Record<string, number>> = { M: 2, L: 2, C: 6, Z: 0 };

/**
 * A path of absolute M, L, C and Z with each command written out, as resolvers leave it, ten times faster than the
 * general reader; null for anything else.
 */
function plainPath(data: string): Path | null {
  let verbs = '';
  const coords: number[] = [];
  let wanted = 0;
  for (const token of data.split(/[\s,]+/)) {
    if (token === '') continue;
    const size = PLAIN[token];
    if (size !== undefined) {
      if (wanted > 0 || (verbs === '' && token !== 'M')) return null;
      verbs += token;
      wanted = size;
      continue;
    }
    const value = Number(token);
    if (wanted === 0 || !Number.isFinite(value)) return null;
    coords.push(value);
    wanted--;
  }
  return wanted === 0 && verbs !== '' ? { verbs, coords } : null;
}

function anyPath(data: string): Path | string {
  const parsed = svgpath(data).abs().unshort().unarc();
  const fault = (parsed as unknown as { err: string }).err;
  if (fault) return fault.replace(/^SvgPath: /, '');
  let verbs = '';
  const coords: number[] = [];
  parsed.iterate(([verb, ...n], _index, x, y) => {
    const v = n as number[];
    if (verb === 'M' || verb === 'L') coords.push(v[0]!, v[1]!);
    else if (verb === 'H') coords.push(v[0]!, y);
    else if (verb === 'V') coords.push(x, v[0]!);
    else if (verb === 'Q') {
      const [cx, cy, ex, ey] = v as [number, number, number, number];
      coords.push(x + (2 / 3) * (cx - x), y + (2 / 3) * (cy - y), ex + (2 / 3) * (cx - ex), ey + (2 / 3) * (cy - ey), ex, ey);
    } else if (verb === 'C') coords.push(...v);
    verbs += verb === 'H' || verb === 'V' ? 'L' : verb === 'Q' ? 'C' : verb;
  });
  return coords.every(Number.isFinite) ? { verbs, coords } : 'a coordinate is not a finite number';
}
