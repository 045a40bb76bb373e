import { alignBoxes, distributeBoxes, gapBoxes, gapOf } from './align';
import { boxOfRectangle, divideEdge, dividedBoxes, divideSpan, parseSizes } from './divide';
import {
  addPoint,
  joinLines,
  movePoints,
  nearestPlace,
  removePoints,
  setClosed,
  setCorners,
  setEdgeLength,
  sharpenPoints,
  smoothPoints,
  splitAt,
} from './edit-points';
import { arcOutline, ellipseOutline } from './forms';
import { doubleAreaOf } from './from-segments';
import { outlineThrough, rectangleOutline, type Outline } from './outline';
import { outlineSegments, pointAt } from './segments';
import { crossSegments, sliceSegment, splitSegment } from './split';
import { badNumbers, randomFrom, runs } from '../testing/random';
import { extendAt, trimAt } from './trim';

const places = (outline: Outline | null | undefined): string[] => (outline?.points ?? []).map((p) => `${p.u} ${p.v}`);
const line = (...flat: number[]): Outline =>
  outlineThrough(
    Array.from({ length: flat.length / 2 }, (_, i) => ({ u: flat[2 * i]!, v: flat[2 * i + 1]! })),
    false,
  );
const box = rectangleOutline({ u: 1, v: 2 }, { u: 11, v: 6 });
const MM = { unit: 'mm', resolution: 300, scale: 1 } as const;

describe('points of an outline', () => {
  it('are added on an edge without changing its course', () => {
    const place = nearestPlace(box, { u: 4.2, v: 1.5 })!;
    expect(place).toMatchObject({ edge: 1, at: { u: 4.2, v: 2 } });
    const added = addPoint(box, place)!;
    expect(places(added.outline)).toEqual(['1 2', '4.2 2', '11 2', '11 6', '1 6']);
    const circle = ellipseOutline({ u: 0, v: 0 }, { u: 5, v: 5 });
    const onCircle = addPoint(circle, nearestPlace(circle, { u: 6, v: 8 })!)!;
    expect(onCircle.outline.points[1]).toMatchObject({ u: 3, v: 4 });
    expect(doubleAreaOf(outlineSegments(onCircle.outline)) / 2).toBeCloseTo(25 * Math.PI, 3);
    for (const s of outlineSegments(onCircle.outline)) for (const t of [0.2, 0.7]) expect(Math.hypot(pointAt(s, t).u, pointAt(s, t).v)).toBeCloseTo(5, 4);
  });

  it('are taken away, and what is left is nothing where too few remain', () => {
    expect(places(removePoints(box, new Set([2])))).toEqual(['1 2', '11 6', '1 6']);
    expect(removePoints(box, new Set([1, 2]))).toBeNull();
  });

  it('are rounded or bevelled by a number that is kept, one by one', () => {
    const rounded = setCorners(box, new Set([1, 3]), 'round', 1.5);
    const kinds = outlineSegments(rounded).map((s) => s.kind);
    expect(kinds.filter((k) => k === 'conic')).toHaveLength(2);
    expect(doubleAreaOf(outlineSegments(rounded)) / 2).toBeCloseTo(40 - 2 * (1.5 ** 2 - (Math.PI * 1.5 ** 2) / 4), 12);
    // Tangency: where the arc begins and ends it runs along the edges.
    const arc = outlineSegments(rounded).find((s) => s.kind === 'conic')!;
    expect([arc.from, arc.to].map(({ u, v }) => `${u} ${v}`).sort()).toEqual(['11 4.5', '9.5 6']);
    expect(doubleAreaOf(outlineSegments(setCorners(box, new Set([2]), 'bevel', 2))) / 2).toBe(38);
    expect(setCorners(rounded, new Set([1, 3]), 'round', 0)).toEqual(box);
  });

  it('turn smooth and sharp again', () => {
    const smooth = smoothPoints(line(0, 0, 3, 3, 6, 0), new Set([2]));
    expect(smooth.points[1]).toMatchObject({ into: { v: 3 }, out: { v: 3 } });
    expect(sharpenPoints(smooth, new Set([2]))).toEqual(line(0, 0, 3, 3, 6, 0));
  });

  it('move together, arcs between them too', () => {
    const arc = arcOutline({ u: 0, v: 0 }, { u: 2, v: 2 }, { u: 4, v: 0 })!;
    const moved = movePoints(arc, new Set(arc.points.map((p) => p.id)), 1 / 3, 0);
    expect(outlineSegments(moved).map((s) => pointAt(s, 0.5).u)).toEqual(outlineSegments(arc).map((s) => expect.closeTo(pointAt(s, 0.5).u + 1 / 3, 4)));
    expect(places(movePoints(box, new Set([2, 3]), 2, 0))).toEqual(['1 2', '13 2', '13 6', '1 6']);
  });
});

describe('lengths and ends', () => {
  it('sets an edge to a typed length, the box staying a box, from either end', () => {
    expect(places(setEdgeLength(box, 1, 9, 'end'))).toEqual(['1 2', '10 2', '10 6', '1 6']);
    expect(places(setEdgeLength(box, 1, 9, 'start'))).toEqual(['2 2', '11 2', '11 6', '2 6']);
    expect(places(setEdgeLength(line(0, 0, 3, 4), 1, 10, 'end'))).toEqual(['0 0', '6 8']);
    expect(setEdgeLength(ellipseOutline({ u: 0, v: 0 }, { u: 1, v: 1 }), 1, 3, 'end')).toBeNull();
  });

  it('opens, closes, splits and joins', () => {
    expect(places(setClosed(box, false, 3))).toEqual(['11 6', '1 6', '1 2', '11 2', '11 6']);
    expect(setClosed(line(0, 0, 1, 0, 1, 1), true)?.closed).toBe(true);
    expect(setClosed(line(0, 0, 1, 0), true)).toBeNull();
    expect(splitAt(line(0, 0, 2, 0, 4, 0), 2)?.map(places)).toEqual([['0 0', '2 0'], ['2 0', '4 0']]); // prettier-ignore
    expect(places(joinLines(line(0, 0, 2, 0), line(5, 5, 2, 0)))).toEqual(['0 0', '2 0', '5 5']);
    expect(places(joinLines(line(2, 0, 0, 0), line(3, 1, 5, 5)))).toEqual(['0 0', '2 0', '3 1', '5 5']);
    const ring = joinLines(line(0, 0, 2, 0, 2, 2), line(2, 2, 0, 2, 0, 0));
    expect([ring?.closed, places(ring)]).toEqual([true, ['0 0', '2 0', '2 2', '0 2']]);
  });

  it('cuts away the part between crossings, on lines, circles and closed outlines', () => {
    const rails = [line(3, -5, 3, 5), line(7, -5, 7, 5)];
    const middle = trimAt(line(0, 0, 10, 0), { u: 5, v: 0.2 }, rails)!;
    expect(middle.left.map(places)).toEqual([['0 0', '3 0'], ['7 0', '10 0']]); // prettier-ignore
    expect(places(middle.gone)).toEqual(['3 0', '7 0']);
    expect(trimAt(line(0, 0, 10, 0), { u: 9, v: 0 }, rails)!.left.map(places)).toEqual([['0 0', '7 0']]);
    expect(trimAt(line(4, 0, 6, 0), { u: 5, v: 0 }, [])!.left).toEqual([]);
    // A circle of radius 5 about the origin, cut at u = 3: what is pressed goes, the long way round stays.
    const cut = trimAt(ellipseOutline({ u: 0, v: 0 }, { u: 5, v: 5 }), { u: 5, v: 0 }, [line(3, -9, 3, 9)])!;
    expect([cut.left[0]?.points[0], cut.left[0]?.points.at(-1)]).toMatchObject([{ u: 3, v: 4 }, { u: 3, v: -4 }]); // prettier-ignore
    expect(outlineSegments(cut.left[0]!).every((s) => s.kind === 'conic')).toBe(true);
    expect(trimAt(box, { u: 1, v: 3 }, [])).toBeNull();
  });

  it('finds nothing to cut away where a closed outline is crossed in one place only, its first corner among them', () => {
    const [along, touching] = [line(1, 2, -5, 2), line(1, 2, -3, -3)];
    for (const other of [along, touching, line(11, 6, 20, 20), line(1, 2, 1, 0)]) {
      for (const at of [{ u: 1, v: 2 }, { u: 1, v: 4 }, { u: 6, v: 2 }, { u: 11, v: 6 }]) expect(trimAt(box, at, [other])).toBeNull(); // prettier-ignore
    }
    // Along a whole edge and beyond it: the edge goes, pressed on it or at its ends.
    const edge = trimAt(box, { u: 6, v: 2 }, [line(-5, 2, 20, 2)])!;
    expect(places(edge.gone)).toEqual(['1 2', '11 2']);
    expect(places(edge.left[0])).toEqual(['11 2', '11 6', '1 6', '1 2']);
  });

  it('cuts every outline with every line somewhere or says that nothing can be, without end or fault', () => {
    const random = randomFrom(9);
    const whole = (n: number): number => Math.floor(random() * n);
    for (let i = 0; i < runs(400); i++) {
      const closed = random() < 0.6;
      const points = Array.from({ length: 3 + whole(3) }, () => ({ u: whole(5), v: whole(5) }));
      const subject = random() < 0.3 ? ellipseOutline({ u: 2, v: 2 }, { u: 1 + whole(2), v: 2 }) : outlineThrough(points, closed);
      const others = Array.from({ length: whole(3) }, () => line(whole(5), whole(5), whole(5), whole(5)));
      const trim = trimAt(subject, { u: random() * 5, v: random() * 5 }, others);
      for (const part of trim ? [...trim.left, trim.gone] : []) expect(badNumbers(part)).toEqual([]);
    }
  });

  it('extends a line to what lies ahead', () => {
    expect(places(extendAt(line(0, 0, 4, 2), { u: 4, v: 2 }, [line(10, -9, 10, 9), line(20, -9, 20, 20)]))).toEqual(['0 0', '10 5']);
    expect(places(extendAt(line(0, 0, 4, 2), { u: 0, v: 0 }, [line(-4, -9, -4, 9)]))).toEqual(['-4 -2', '4 2']);
    expect(extendAt(line(0, 0, 4, 2), { u: 4, v: 2 }, [line(-4, -9, -4, 9)])).toBeNull();
    // On to a circle of radius 5: the 3-4-5 triangle.
    expect(places(extendAt(line(0, 4, 1, 4), { u: 1, v: 4 }, [ellipseOutline({ u: 0, v: 0 }, { u: 5, v: 5 })]))).toEqual(['0 4', '3 4']);
  });
});

describe('dividing', () => {
  it('reads counts, sizes in any unit, repeats and rests', () => {
    const sizes = (text: string): unknown => {
      const read = parseSizes(text, MM, 8);
      return read.ok ? read.sizes : read.message;
    };
    expect(sizes('3')).toEqual(['rest', 'rest', 'rest']);
    expect(sizes('20 mm, rest, 20 mm')).toEqual([2.5, 'rest', 2.5]);
    expect(sizes('2, 3 of rest, 2')).toEqual([2, 'rest', 'rest', 'rest', 2]);
    expect(sizes('1,5; 2')).toEqual([1.5, 2]);
    expect(sizes('2, , 2')).toMatch(/missing/);
    expect(sizes('2, x')).toMatch(/not a number/);
    expect(sizes('9000')).toMatch(/from 1 to 500/);
    expect(sizes('2, -1')).toMatch(/above 0/);
  });

  it('lays pieces with gaps and margins, to the tick', () => {
    expect(divideSpan(0, 40, ['rest', 'rest', 'rest'], 2, 3)).toEqual({ ok: true, spans: [[3, 13], [15, 25], [27, 37]] }); // prettier-ignore
    expect(divideSpan(10, 20, [2, 'rest', 2])).toEqual({ ok: true, spans: [[10, 12], [12, 18], [18, 20]] }); // prettier-ignore
    const thirds = divideSpan(0, 1, ['rest', 'rest', 'rest']);
    expect(thirds.ok && thirds.spans[1]).toEqual([1 / 3, 2 / 3]);
    expect(divideSpan(0, 10, [6, 'rest', 6])).toMatchObject({ ok: false, message: expect.stringContaining('12 of 10') });
    expect(divideSpan(0, 10, [3, 3])).toMatchObject({ ok: true, spans: [[0, 3], [3, 6]] }); // prettier-ignore
  });

  it('makes boxes of rows and columns, and knows what is a box', () => {
    const boxes = dividedBoxes([[0, 2], [3, 5]], [[0, 1], [2, 3]]); // prettier-ignore
    expect(boxes.map((o) => places(o)[0])).toEqual(['0 0', '3 0', '0 2', '3 2']);
    expect(boxOfRectangle(box)).toEqual({ minU: 1, minV: 2, maxU: 11, maxV: 6 });
    expect(boxOfRectangle(ellipseOutline({ u: 0, v: 0 }, { u: 1, v: 1 }))).toBeNull();
  });

  it('puts points on an edge', () => {
    expect(places(divideEdge(box, 1, [2, 'rest', 2]))).toEqual(['1 2', '3 2', '9 2', '11 2', '11 6', '1 6']);
    expect(places(divideEdge(line(0, 0, 3, 4), 1, ['rest', 'rest']))).toEqual(['0 0', '1.5 2', '3 4']);
    expect(divideEdge(box, 1, [20])).toBeNull();
  });
});

describe('aligning', () => {
  const at = (minU: number, minV: number, w: number, h: number): { minU: number; minV: number; maxU: number; maxV: number } => ({
    minU,
    minV,
    maxU: minU + w,
    maxV: minV + h,
  });
  const three = [at(0, 0, 2, 1), at(5, 3, 1, 4), at(12, 1, 3, 2)];

  it('brings sides and middles to one line', () => {
    expect(alignBoxes(three, 'v', 'low').map((m) => m.v)).toEqual([0, -3, -1]);
    expect(alignBoxes(three, 'v', 'high').map((m) => m.v)).toEqual([6, 0, 4]);
    expect(alignBoxes(three, 'u', 'middle').map((m) => m.u)).toEqual([6.5, 2, -6]);
    expect(alignBoxes([at(0, 0, 2, 2)], 'u', 'middle', at(10, 0, 10, 10))).toEqual([{ u: 14, v: 0 }]);
  });

  it('distributes with equal gaps, or sets one', () => {
    // 15 cells, 6 of them filled: two gaps of 4.5.
    expect(distributeBoxes(three, 'u').map((m) => m.u)).toEqual([0, 1.5, 0]);
    expect(gapBoxes(three, 'u', 1).map((m) => m.u)).toEqual([0, -2, -7]);
    expect(gapOf(three, 'u')).toBe(3);
    expect(gapOf([three[0]!], 'u')).toBeNull();
  });
});

describe('pieces of segments', () => {
  const circle = outlineSegments(ellipseOutline({ u: 0, v: 0 }, { u: 5, v: 3 }));
  const cubic = { kind: 'cubic', id: 1, from: { u: 0, v: 0 }, out: { u: 1, v: 4 }, into: { u: 5, v: -3 }, to: { u: 6, v: 2 } } as const;

  it('are the same curve', () => {
    for (const whole of [circle[0]!, cubic]) {
      const [a, b] = splitSegment(whole, 0.3);
      expect(a.to).toEqual(b.from);
      const part = sliceSegment(whole, 0.25, 0.8);
      expect(part.from.u).toBeCloseTo(pointAt(whole, 0.25).u, 12);
      expect(part.to.v).toBeCloseTo(pointAt(whole, 0.8).v, 12);
      for (const t of [0.1, 0.5, 0.9]) {
        const p = pointAt(part, t);
        if (whole.kind === 'conic') expect((p.u / 5) ** 2 + (p.v / 3) ** 2).toBeCloseTo(1, 12);
        else expect(p.u).toBeCloseTo(pointAt(whole, 0.25 + t * 0.55).u, 12);
      }
    }
  });

  it('cross where they do', () => {
    const cut = { kind: 'line', id: 9, from: { u: 3, v: -9 }, to: { u: 3, v: 9 } } as const;
    expect(circle.flatMap((s) => crossSegments(s, cut)).map((c) => Math.round(c.at.v * 1e9) / 1e9).sort()).toEqual([-2.4, 2.4]); // prettier-ignore
    expect(crossSegments(cubic, { kind: 'line', id: 2, from: { u: -1, v: 0.5 }, to: { u: 7, v: 0.5 } }).map((c) => c.at.v)).toEqual([0.5, 0.5, 0.5].map((v) => expect.closeTo(v, 9))); // prettier-ignore
  });
});
