import { affineOf, apply33, type Affine, type Mat33 } from '../math/matrix';
import { COORDS_OF, pathBox, type Path } from '../shape/path';
import { mapInk, mapLine, mapMarks } from './artwork';
import type { Mark } from './marks';

/** Largest ratio of depths within one piece of a curve; its error then stays below a thousandth of the piece. */
const DEPTH_RATIO = 1.12;
/** Most halvings of a curve. */
const MAX_HALVINGS = 7;

/**
 * Marks of flat artwork under a homography. Affine ones are exact. In perspective, corners and straight lines are
 * exact; curves, which become rational, are halved until plain ones follow them; pens and gradients take the map's
 * tangent at the middle of their path.
 * @param near smallest w that is drawn; paths that come nearer are cut there
 */
export function projectMarks(marks: readonly Mark[], homography: Mat33, near: number): readonly Mark[] {
  const affine = affineOf(homography);
  if (affine) return mapMarks(marks, affine);
  return marks.flatMap((mark): Mark[] => {
    if (mark.kind === 'group') {
      const clip = mark.clip && { ...mark.clip, path: projectPath(mark.clip.path, homography, near) };
      return [{ ...mark, clip, marks: projectMarks(mark.marks, homography, near) }];
    }
    const path = projectPath(mark.path, homography, near);
    const tangent = tangentAt(mark.path, homography);
    if (!tangent || path.verbs === '') return [];
    return [{ ...mark, path, fill: mark.fill && mapInk(mark.fill, tangent), line: mark.line && mapLine(mark.line, tangent, path) }];
  });
}

/** The affine map that touches a homography at the middle of a path, or null where that lies behind the eye. */
function tangentAt(path: Path, h: Mat33): Affine | null {
  const box = pathBox(path);
  return box && tangentOf(h, (box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2);
}

/** The affine map that touches a homography at a point, or null where that lies behind the eye. */
export function tangentOf(h: Mat33, x: number, y: number): Affine | null {
  const p = apply33(h, x, y);
  if (!p) return null;
  const w = h[6] * x + h[7] * y + h[8];
  const [a, b, c, d] = [(h[0] - p.x * h[6]) / w, (h[3] - p.y * h[6]) / w, (h[1] - p.x * h[7]) / w, (h[4] - p.y * h[7]) / w];
  return [a, b, c, d, p.x - a * x - c * y, p.y - b * x - d * y];
}

/** A path under a homography; see `projectMarks`. What comes nearer than `near` is cut as a polygon of short chords. */
export function projectPath(path: Path, h: Mat33, near: number): Path {
  const { coords } = path;
  const wAt = (x: number, y: number): number => h[6] * x + h[7] * y + h[8];
  for (let i = 0; i < coords.length; i += 2) if (!(wAt(coords[i]!, coords[i + 1]!) > near)) return projectClipped(path, h, near);
  const out: number[] = [];
  let verbs = '';
  let at = 0;
  const put = (x: number, y: number): void => {
    const w = wAt(x, y);
    out.push((h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w);
  };
  const curve = (c: readonly number[], halvings: number): void => {
    const w = [0, 2, 4, 6].map((k) => wAt(c[k]!, c[k + 1]!)) as [number, number, number, number];
    if (Math.max(...w) > DEPTH_RATIO * Math.min(...w) && halvings < MAX_HALVINGS) {
      const [first, second] = halved(c);
      curve(first, halvings + 1);
      curve(second, halvings + 1);
      return;
    }
    // The rational curve's end tangents: 3 (w1/w0) (P1 - P0), and likewise at the other end (Farin, 13.4).
    const from = apply33(h, c[0]!, c[1]!)!;
    const [p, q] = [apply33(h, c[2]!, c[3]!)!, apply33(h, c[4]!, c[5]!)!];
    const to = apply33(h, c[6]!, c[7]!)!;
    const [k, l] = [w[1] / w[0], w[2] / w[3]];
    out.push(from.x + k * (p.x - from.x), from.y + k * (p.y - from.y), to.x + l * (q.x - to.x), to.y + l * (q.y - to.y), to.x, to.y);
    verbs += 'C';
  };
  for (const verb of path.verbs) {
    const size = COORDS_OF[verb] ?? 0;
    if (verb === 'C') curve(coords.slice(at - 2, at + 6), 0);
    else {
      if (size > 0) put(coords[at]!, coords[at + 1]!);
      verbs += verb;
    }
    at += size;
  }
  return { verbs, coords: out };
}

/** A cubic in two halves (de Casteljau). */
export function halved(c: readonly number[]): readonly [number[], number[]] {
  const mid = (i: number, j: number): [number, number] => [(c[i]! + c[j]!) / 2, (c[i + 1]! + c[j + 1]!) / 2];
  const [ab, bc, cd] = [mid(0, 2), mid(2, 4), mid(4, 6)];
  const half = (p: [number, number], q: [number, number]): [number, number] => [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
  const [abc, bcd] = [half(ab, bc), half(bc, cd)];
  const middle = half(abc, bcd);
  return [
    [c[0]!, c[1]!, ...ab, ...abc, ...middle],
    [...middle, ...bcd, ...cd, c[6]!, c[7]!],
  ];
}

function projectClipped(path: Path, h: Mat33, near: number): Path {
  const rings = flattened(path);
  let verbs = '';
  const coords: number[] = [];
  for (const ring of rings) {
    const kept: number[] = [];
    for (let i = 0; i < ring.length; i += 2) {
      const j = (i + ring.length - 2) % ring.length;
      const [x0, y0, x1, y1] = [ring[j]!, ring[j + 1]!, ring[i]!, ring[i + 1]!];
      const d = h[6] * x0 + h[7] * y0 + h[8] - near * 1.001;
      const e = h[6] * x1 + h[7] * y1 + h[8] - near * 1.001;
      if (d >= 0 !== e >= 0) kept.push(x0 + ((x1 - x0) * d) / (d - e), y0 + ((y1 - y0) * d) / (d - e));
      if (e >= 0) kept.push(x1, y1);
    }
    for (let i = 0; i < kept.length; i += 2) {
      const p = apply33(h, kept[i]!, kept[i + 1]!);
      if (p) coords.push(p.x, p.y);
    }
    if (kept.length > 0) verbs += 'M' + 'L'.repeat(kept.length / 2 - 1) + 'Z';
  }
  return { verbs, coords };
}

/** The subpaths of a path as polygons, curves in sixteen chords. */
function flattened({ verbs, coords }: Path): number[][] {
  const rings: number[][] = [];
  let at = 0;
  for (const verb of verbs) {
    if (verb === 'M') rings.push([]);
    const ring = rings.at(-1);
    const size = COORDS_OF[verb] ?? 0;
    if (verb === 'C' && ring) {
      const c = coords.slice(at - 2, at + 6);
      for (let k = 1; k <= 16; k++) {
        const [t, s] = [k / 16, 1 - k / 16];
        for (const o of [0, 1]) ring.push(s * s * s * c[o]! + 3 * s * s * t * c[2 + o]! + 3 * s * t * t * c[4 + o]! + t * t * t * c[6 + o]!);
      }
    } else if (size > 0) ring?.push(coords[at]!, coords[at + 1]!);
    at += size;
  }
  return rings;
}
