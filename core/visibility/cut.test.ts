import { signedArea } from '../math/polygon';
import { randomFrom, runs } from '../testing/random';
import type { Area } from './drawn-body';
import { flattenPath, joinPaths, polygonPath, type Path } from '../shape/path';
import { cutOpenPath, cutPath, type Cut } from './cut';

const face = (polygon: number[], holes: readonly number[][] = []): Area => ({ polygon, holes });
const pathOf = ({ polygon, holes = [] }: Area): Path => joinPaths([polygon, ...holes].map(polygonPath));
const cutFace = (area: Area, others: readonly Area[]): Cut => cutPath(pathOf(area), others);
const square = (x: number, y: number, size: number): number[] => [x, y, x + size, y, x + size, y + size, x, y + size];
const areaOf = (parts: readonly Area[]): number =>
  parts.reduce((sum, { polygon, holes = [] }) => sum + Math.abs(signedArea(polygon)) - holes.reduce((s, hole) => s + Math.abs(signedArea(hole)), 0), 0);

describe('cutting a face', () => {
  it('leaves holes, parts and nothing, each as it is', () => {
    const inner = cutFace(face(square(0, 0, 10)), [face(square(4, 4, 2))]);
    expect([inner.parts.length, inner.parts[0]!.holes?.length, areaOf(inner.parts)]).toEqual([1, 1, 96]);
    const strip = cutFace(face(square(0, 0, 10)), [face([4, -1, 6, -1, 6, 11, 4, 11])]);
    expect([strip.parts.length, areaOf(strip.parts)]).toEqual([2, 80]);
    expect(cutFace(face(square(0, 0, 10)), [face(square(-1, -1, 12))])).toEqual({ parts: [], path: { verbs: '', coords: [] }, failed: false });
    const ring = cutFace(face(square(0, 0, 10), [square(3, 3, 4)]), [face(square(5, 0, 10))]);
    expect(areaOf(ring.parts)).toBeCloseTo(42, 6);
  });

  it('unites what lies in front, so that overlaps of two are not shown', () => {
    const left = cutFace(face(square(0, 0, 10)), [face(square(1, 1, 5)), face(square(3, 3, 5))]);
    expect(areaOf(left.parts)).toBeCloseTo(100 - 41, 6);
  });

  it('manages edges that touch and coincide, thousands of times, and areas that no number holds are left whole', () => {
    const random = randomFrom(5);
    const whole = (n: number): number => Math.floor(random() * n);
    // Sheared as isometric drawings are: coordinates are no whole numbers, edges coincide all the same.
    const [c, s] = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)];
    const iso = (flat: number[]): number[] =>
      flat.flatMap((_, i) => (i % 2 === 0 ? [(flat[i]! - flat[i + 1]!) * c * 8, (flat[i]! + flat[i + 1]!) * s * 8] : []));
    for (let i = 0; i < runs(2000); i++) {
      const others = Array.from({ length: 1 + whole(4) }, () => face(iso(square(whole(6), whole(6), 1 + whole(4)))));
      const cut = cutFace(face(iso(square(whole(4), whole(4), 3 + whole(4)))), others);
      expect(cut.failed).toBe(false);
    }
    const lost = cutFace(face([0, 0, Infinity, 0, 1, 1]), [face(square(0, 0, 1))]);
    expect(lost.failed).toBe(true);
  });

  it('leaves curves as curves, in pieces where they are cut', () => {
    const k = 0.5522847498307936;
    // A circle of radius 10 about (20, 20) in four cubics.
    const quarter = (x0: number, y0: number, x1: number, y1: number): number[] => [20 + 10 * (x0 + k * x1), 20 + 10 * (y0 + k * y1), 20 + 10 * (x1 + k * x0), 20 + 10 * (y1 + k * y0), 20 + 10 * x1, 20 + 10 * y1]; // prettier-ignore
    const disc: Path = {
      verbs: 'MCCCCZ',
      coords: [30, 20, ...quarter(1, 0, 0, 1), ...quarter(0, 1, -1, 0), ...quarter(-1, 0, 0, -1), ...quarter(0, -1, 1, 0)],
    };
    const random = randomFrom(11);
    for (let i = 0; i < runs(300); i++) {
      const at = (): number => 5 + random() * 22;
      const others = Array.from({ length: 1 + Math.floor(random() * 3) }, () => face(square(at(), at(), 2 + random() * 12)));
      const { path, parts, failed } = cutPath(disc, others);
      expect(failed).toBe(false);
      const outlines = flattenPath(path, 0.001);
      const area = Math.abs(outlines.reduce((sum, ring) => sum + signedArea(ring), 0));
      expect(Math.abs(area - areaOf(parts))).toBeLessThan(0.35);
      // A handful of curves and lines, not hundreds of chords; every place of a curve lies on the circle.
      expect(path.verbs.length).toBeLessThan(40);
      for (const ring of outlines) {
        for (let p = 0; p < ring.length; p += 2) {
          const off = Math.abs(Math.hypot(ring[p]! - 20, ring[p + 1]! - 20) - 10);
          const onEdge = others.some(({ polygon: q }) => Math.min(Math.abs(ring[p]! - q[0]!), Math.abs(ring[p]! - q[2]!), Math.abs(ring[p + 1]! - q[1]!), Math.abs(ring[p + 1]! - q[5]!)) < 0.01); // prettier-ignore
          expect(off < 0.01 || onEdge).toBe(true);
        }
      }
    }
  });

  it('leaves of a line what lies outside, as lines, its curves as curves', () => {
    const line: Path = { verbs: 'ML', coords: [0, 5, 20, 5] };
    const left = cutOpenPath(line, [face(square(4, 0, 3)), face(square(6, 0, 6)), face(square(15, 4, 2))]);
    const found = left.parts.map(({ polygon }) => Array.from(polygon)).map((flat) => (flat[0]! < flat[2]! ? flat : [flat[2]!, flat[3]!, flat[0]!, flat[1]!]));
    expect(found.sort((p, q) => p[0]! - q[0]!)).toEqual([[0, 5, 6, 5], [12, 5, 15, 5], [17, 5, 20, 5]]); // prettier-ignore
    expect(left.path.verbs).toBe('MLMLML');
    expect(cutOpenPath(line, [face(square(-1, 0, 30))]).path).toEqual({ verbs: '', coords: [] });
    const bow: Path = { verbs: 'MC', coords: [0, 0, 0, 10, 20, 10, 20, 0] };
    const { path, failed } = cutOpenPath(bow, [face([8, -1, 12, -1, 12, 20, 8, 20])]);
    expect([path.verbs, failed]).toEqual(['MCMC', false]);
    const points = flattenPath(path, 0.001).flatMap((piece) => piece.filter((_, i) => i % 2 === 0));
    expect(points.every((x) => x < 8.001 || x > 11.999)).toBe(true);
    // A closed line is no area: what is cut away opens it.
    expect(cutOpenPath(polygonPath(square(0, 0, 10)), [face(square(8, 8, 5))]).path.verbs).not.toContain('Z');
  });
});
