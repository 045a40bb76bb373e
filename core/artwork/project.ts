import { keptBy } from '../math/keep';
import { affineOf, apply33, multiply33, type Affine, type Mat33 } from '../math/matrix';
import { COORDS_OF, pathBox, type Path } from '../shape/path';
import { mapMarks } from './artwork';
import { mappedGradient, type Mapping } from './gradient-fields';
import { cubicOf, mappedPiece, type FlatMap } from './map-path';
import type { ImageMark, Ink, LineStyle, Mark, PathMark } from './marks';
import { strokeArea } from './stroke-area';

/** Distance in mm of the sheet within which the chords of a line's edges follow its curves. */
const LINE_EDGES = 0.002;

/**
 * Marks of flat artwork under a homography. Affine ones are exact. In perspective, corners and straight lines are
 * exact, curves stray from their true images by less than a hundredth of a px; lines become the areas that they cover,
 * whose width diminishes along them; gradients keep their true lines of equal colour.
 * @param near smallest w that is drawn; paths that come nearer are cut there
 */
export function projectMarks(marks: readonly Mark[], homography: Mat33, near: number): readonly Mark[] {
  const affine = affineOf(homography);
  if (affine) return mapMarks(marks, affine);
  const carry = (path: Path): Path => projectPath(path, homography, near);
  const map: FlatMap = (x, y) => {
    const p = apply33(homography, x, y);
    return p && [p.x, p.y];
  };
  return marks.flatMap((mark): Mark[] => {
    if (mark.kind === 'group') {
      const clip = mark.clip && { ...mark.clip, path: carry(mark.clip.path) };
      return [{ ...mark, clip, marks: projectMarks(mark.marks, homography, near) }];
    }
    if (mark.kind === 'image') return [projectImage(mark, homography, carry(mark.path))];
    return [...mappedMark(mark, { map, carry, tangentAt: (path) => tangentAt(path, homography) })];
  });
}

function projectImage(mark: ImageMark, homography: Mat33, path: Path): ImageMark {
  const { place } = mark;
  // What lies round a side or on a photographed surface lies on the sheet already.
  return place.kind !== 'flat' ? mark : { ...mark, path, place: { ...place, map: multiply33(homography, place.map) } };
}

/** A path under a map that is not affine: its fill, and then its line as the area that it covers. */
export function mappedMark({ path, fill, rule, line }: PathMark, mapping: Mapping): readonly Mark[] {
  const filled = (flat: Path, ink: Ink, by: PathMark['rule']): readonly Mark[] => {
    const shown = mapping.carry(flat);
    if (shown.verbs === '') return [];
    return [ink.kind === 'flat' ? { kind: 'path', path: shown, fill: ink, rule: by, line: null } : mappedGradient(flat, shown, by, ink, mapping)];
  };
  const tangent = line && mapping.tangentAt(path);
  const scale = tangent ? Math.sqrt(Math.abs(tangent[0] * tangent[3] - tangent[1] * tangent[2])) : 1;
  const area = line && areaOf(path, line, LINE_EDGES / Math.max(scale, 1e-9));
  return [...(fill ? filled(path, fill, rule) : []), ...(area ? filled(area, line.ink, 'nonzero') : [])];
}

const areas = keptBy((line: LineStyle, path: Path, tolerance: number): Path => strokeArea(path, line, tolerance));

/** The area of a line at least as fine as is asked for, in steps of fineness, so that it is kept while the view changes a little. */
const areaOf = (path: Path, line: LineStyle, tolerance: number): Path =>
  areas(line, path, STEP_OF_FINENESS ** Math.floor(Math.log(tolerance) / Math.log(STEP_OF_FINENESS)));

const STEP_OF_FINENESS = 4;

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
  const on: FlatMap = (x, y) => {
    const w = wAt(x, y);
    return [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w];
  };
  const curve = (c: readonly number[]): void => {
    for (const [verb, ...places] of mappedPiece(cubicOf(c), on)) {
      verbs += verb;
      out.push(...places);
    }
  };
  for (const verb of path.verbs) {
    const size = COORDS_OF[verb] ?? 0;
    if (verb === 'C') curve(coords.slice(at - 2, at + 6));
    else {
      if (size > 0) put(coords[at]!, coords[at + 1]!);
      verbs += verb;
    }
    at += size;
  }
  return { verbs, coords: out };
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
