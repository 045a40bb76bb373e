import fc from 'fast-check';
import { bodyVolume, surfaceArea } from '../geometry/body-measures';
import { surfaceNamed, worldPoints, type Body } from '../geometry/body';
import { depthBody } from '../geometry/depth-recipe';
import { crossWorld, dotWorld, subtractWorld } from '../math/points';
import { planeThrough } from '../projection/free-planes';
import type { Plane } from '../projection/planes';
import { runs } from '../testing/random';
import type { Measures } from './forms';
import { SOLID_KINDS, type SolidKind } from './kinds';
import { measuresOf, solidOn, withMeasure, type MadeSolid, type SolidBase } from './solids';

const PLANES: readonly Plane[] = [
  { kind: 'floor', offset: 2 },
  { kind: 'left', offset: -3 },
  { kind: 'right', offset: 1 },
  planeThrough({ a: 0, b: 0, h: 0 }, { a: 4, b: 0, h: 3 }, { a: 0, b: 5, h: 0 })!,
];

/** What fits a base of 6 x 4 x 3, whichever way it is turned. */
const OTHERS: Measures = { ridge: 1.5, wall: 0.5, bar: 0.75, pier: 0.75, crown: 0.25, sides: 6, count: 4, top: 0.5 };

const base = (turn: number, plane = PLANES[0]!, height = 3): SolidBase => ({ plane, from: { u: 1, v: 2 }, to: { u: 7, v: 6 }, height, turn });

function made(kind: SolidKind, on: SolidBase, others: Measures = OTHERS): MadeSolid {
  const result = solidOn(kind, on, others);
  if (!result.ok) throw new Error(`${kind}: ${result.reason}`);
  return result.value;
}

/** Height that suits each kind on a base of 6 x 4. */
const heightOf = (kind: SolidKind): number => (kind === 'dome' ? 1.5 : kind === 'arch' ? 4 : 3);

const bodyOf = (solid: MadeSolid): Body => depthBody(solid)!;
const areaOf = (body: Body): number => body.surfaces.reduce((sum, surface) => sum + surfaceArea(surface), 0);

/** Circumference of an ellipse by its half axes (Gauss and Kummer's series). */
function circumference(a: number, b: number): number {
  const h = ((a - b) / (a + b)) ** 2;
  let [sum, term] = [1, 1];
  for (let n = 1; n < 60; n++) {
    term *= ((2 * n - 3) / (2 * n)) ** 2 * h;
    sum += term;
  }
  return Math.PI * (a + b) * sum;
}

describe('solids drawn at once', () => {
  const q = Math.PI;
  // Width 6, length 4 (turned: 4 and 6), by textbook formulas.
  const volumes: Readonly<Record<SolidKind, (w: number, l: number, h: number) => number>> = {
    box: (w, l, h) => w * l * h,
    cylinder: (w, l, h) => (q / 4) * w * l * h,
    prism: (w, _, h) => ((3 * Math.sqrt(3)) / 8) * w * w * h,
    wedge: (w, l, h) => (w * l * h) / 2,
    pyramid: (w, _, h) => ((((3 * Math.sqrt(3)) / 8) * w * w * h) / 3) * (1 + 0.5 + 0.25),
    cone: (w, l, h) => (((q / 4) * w * l * h) / 3) * (1 + 0.5 + 0.25),
    steps: (w, l, h) => w * l * h * (5 / 8),
    arch: (w, l, h) => l * (w * h - (w - 1.5) * (h - 0.25 - (w - 1.5) / 2) - (q / 8) * (w - 1.5) ** 2),
    tube: (w, l, h) => (q / 4) * (w * l - (w - 1) * (l - 1)) * h,
    frame: (w, l, h) => (w * l - (w - 1.5) * (l - 1.5)) * h,
    ball: (w) => (q / 6) * w ** 3,
    dome: (w, _, h) => ((q * h) / 6) * (3 * (w / 2) ** 2 + h * h),
  };

  it.each(SOLID_KINDS)('%s: has the volume of its formula on every plane, both ways up, in every turn', (kind) => {
    for (const plane of PLANES) {
      for (const turn of [0, 1, 2, 3]) {
        for (const sign of [1, -1]) {
          const h = heightOf(kind);
          const [w, l] = turn % 2 === 0 ? [6, 4] : [4, 6];
          const body = bodyOf(made(kind, base(turn, plane, h * sign)));
          const wanted = volumes[kind](w, l, h);
          // Corners of slanting planes and of regular polygons lie on whole ticks, off by up to a 50,000th of a cell.
          const exact = plane.kind !== 'free' && kind !== 'prism' && kind !== 'pyramid';
          expect(Math.abs(bodyVolume(body)! / wanted - 1)).toBeLessThan(exact ? 1e-9 : 1e-4);
          expect(body.closed).toBe(true);
        }
      }
    }
  });

  it('has surfaces of the areas of their formulas', () => {
    const cylinder = bodyOf(made('cylinder', base(0)));
    expect(areaOf(cylinder)).toBeCloseTo(2 * Math.PI * 6 + circumference(3, 2) * 3, 8);
    const cone = bodyOf(made('cone', { ...base(0), to: { u: 7, v: 8 } }, { top: 0 }));
    expect(areaOf(cone)).toBeCloseTo(Math.PI * 9 + Math.PI * 3 * Math.hypot(3, 3), 8);
    const frustum = bodyOf(made('cone', { ...base(0), to: { u: 7, v: 8 } }, { top: 0.5 }));
    expect(areaOf(frustum)).toBeCloseTo(Math.PI * (9 + 2.25) + Math.PI * 4.5 * Math.hypot(1.5, 3), 8);
    expect(areaOf(bodyOf(made('ball', base(0))))).toBeCloseTo(Math.PI * 36, 9);
    const dome = bodyOf(made('dome', base(0, PLANES[0], 1.5)));
    expect(areaOf(dome)).toBeCloseTo(Math.PI * 9 + Math.PI * (9 + 2.25), 9);
    expect(areaOf(bodyOf(made('box', base(0))))).toBe(2 * (24 + 18 + 12));
    const wedge = bodyOf(made('wedge', base(0), { ridge: 4 }));
    expect(areaOf(wedge)).toBeCloseTo(2 * 6 + 24 + 6 * 3 + 6 * 5, 9);
  });

  it.each(SOLID_KINDS)('%s: closes without a gap and turns all its pieces outwards', (kind) => {
    for (const turn of [0, 1, 2, 3]) {
      for (const sign of [1, -1]) {
        const body = bodyOf(made(kind, base(turn, PLANES[turn % 3], heightOf(kind) * sign)));
        const facets = body.surfaces.flatMap((surface) => surface.facets);
        for (const { corners, normal } of facets) {
          const [p, r, s] = worldPoints(corners);
          expect(dotWorld(crossWorld(subtractWorld(r!, p!), subtractWorld(s!, r!)), normal)).toBeGreaterThan(0);
        }
        const wanted = kind === 'tube' || kind === 'frame' ? 0 : 2;
        expect(eulerNumber(facets.map(({ corners }) => worldPoints(corners)))).toBe(wanted);
      }
    }
  });

  it.each(SOLID_KINDS)('%s: is measured by what it was made with, and again after each measure was changed', (kind) => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 3 }), fc.constantFrom(...PLANES), fc.boolean(), fc.integer({ min: 41, max: 200 }), (turn, plane, down, tenths) => {
        const solid = made(kind, base(turn, plane, heightOf(kind) * (down ? -1 : 1)));
        const before = measuresOf(solid)!;
        expect(before.kind).toBe(kind);
        const [w, l] = turn % 2 === 0 ? [6, 4] : [4, 6];
        expect(before.measures.width).toBeCloseTo(w, 3);
        if (before.measures.length !== undefined && !['prism', 'ball', 'dome'].includes(kind) && (kind !== 'pyramid' || before.measures.sides === 4)) {
          expect(before.measures.length).toBeCloseTo(l, 3);
        }
        const value = tenths / 10;
        const changed = withMeasure(solid, 'width', value);
        if (!changed.ok) {
          expect(changed.reason).toMatch(/^(The|A) /);
          return;
        }
        const after = measuresOf({ ...solid, ...changed.value });
        expect(after?.measures.width).toBeCloseTo(value, 3);
        expect(after?.measures.height).toBeCloseTo(kind === 'ball' ? value : before.measures.height!, 3);
        const named = bodyOf(solid).surfaces.map(({ name }) => name);
        expect(bodyOf({ ...solid, ...changed.value }).surfaces.map(({ name }) => name)).toEqual(named);
      }),
      { seed: 7, numRuns: runs(60) },
    );
  });

  it('keeps its corner where it is when it is measured anew, and corners of the grid on the grid', () => {
    const box = made('box', base(0));
    const wider = withMeasure(box, 'width', 9);
    expect(wider.ok && wider.value.outline.points.map(({ u, v }) => [u, v])).toEqual([[1, 2], [10, 2], [10, 6], [1, 6]]); // prettier-ignore
    const pyramid = made('pyramid', base(0), { sides: 4, top: 0 });
    const wide = withMeasure(pyramid, 'width', 10);
    expect(wide.ok && wide.value.outline.points.map(({ u, v }) => [u, v])).toEqual([[-1, 2], [9, 2], [9, 6], [-1, 6]]); // prettier-ignore
  });

  it('counts steps, and gives them their rise and run', () => {
    const steps = made('steps', base(0), { count: 4 });
    expect(measuresOf(steps)!.measures).toEqual({ width: 6, length: 4, height: 3, count: 4, rise: 0.75, run: 1 });
    const more = withMeasure(steps, 'count', 6);
    expect(more.ok && measuresOf({ ...steps, ...more.value })!.measures).toMatchObject({ count: 6, height: 3, rise: 0.5 });
    const higher = withMeasure(steps, 'rise', 1);
    expect(higher.ok && measuresOf({ ...steps, ...higher.value })!.measures).toMatchObject({ count: 4, height: 4, rise: 1 });
    // The lowest tread keeps its name however many are added above.
    const names = (solid: MadeSolid): (number | undefined)[] => [2, 5, 7].map((id) => worldPoints(surfaceNamed(bodyOf(solid), `side:${id}`)!.loops[0]!)[0]?.h);
    expect(names(steps)[1]).toBe(2.75);
    expect(more.ok && names({ ...steps, ...more.value })[1]).toBe(2.5);
  });

  it('knows no measures of what no longer has the form', () => {
    const box = made('box', base(0));
    const [first, ...rest] = box.outline.points;
    expect(measuresOf({ ...box, outline: { ...box.outline, points: [{ ...first!, u: first!.u - 1 }, ...rest] } })).toBeNull();
    expect(measuresOf({ plane: box.plane, outline: box.outline, depth: box.depth })).toBeNull();
    expect(measuresOf({ ...box, depth: 0 })).toBeNull();
  });

  it('refuses measures that make no solid, with the reason', () => {
    const reason = (kind: SolidKind, on: Partial<SolidBase>, others: Measures = OTHERS): string => {
      const result = solidOn(kind, { ...base(0), ...on }, others);
      return result.ok ? '' : result.reason;
    };
    for (const kind of SOLID_KINDS) {
      expect(reason(kind, { to: { u: 1, v: 2 } })).toContain('more than 0');
      if (kind !== 'ball') expect(reason(kind, { height: 0 })).toContain('Height is more than 0');
      expect(reason(kind, { plane: { kind: 'sheet', offset: 0 } })).toMatch(/sheet has no depth/);
      expect(reason(kind, { to: { u: NaN, v: 6 } })).toMatch(/not a number|more than 0/);
    }
    expect(reason('prism', {}, { sides: 2 })).toContain('from 3 to 120');
    expect(reason('prism', {}, { sides: 4.5 })).toContain('whole number');
    expect(reason('steps', {}, { count: 0 })).toContain('from 1 to 200');
    expect(reason('tube', {}, { wall: 2 })).toContain('2 cells');
    expect(reason('frame', {}, { bar: 3 })).toContain('thinner');
    expect(reason('arch', {}, { pier: 3, crown: 1 })).toContain('no opening');
    expect(reason('arch', {}, { pier: 1, crown: 2 })).toContain('4 cells high');
    expect(reason('dome', {})).toBe('');
    expect(reason('dome', { height: 3.5 })).toContain('3 cells');
    expect(reason('cone', {}, { top: -1 })).toContain('0 for a point');
  });
});

/** Corners less edges plus faces of a mesh; every edge is run along once each way, or there is a gap. */
function eulerNumber(faces: readonly (readonly { readonly a: number; readonly b: number; readonly h: number }[])[]): number {
  const key = ({ a, b, h }: { readonly a: number; readonly b: number; readonly h: number }): string =>
    [a, b, h].map((n) => (Math.round(n * 1e6) + 0).toString()).join(' ');
  const corners = new Set<string>();
  const edges = new Map<string, number>();
  for (const face of faces) {
    face.forEach((p, i) => {
      const [from, to] = [key(p), key(face[(i + 1) % face.length]!)];
      corners.add(from);
      edges.set(`${from}>${to}`, (edges.get(`${from}>${to}`) ?? 0) + 1);
    });
  }
  for (const [edge, count] of edges) {
    const [from, to] = edge.split('>');
    if (edges.get(`${to}>${from}`) !== count) throw new Error(`a gap along ${edge}`);
  }
  return corners.size - edges.size / 2 + faces.length;
}
