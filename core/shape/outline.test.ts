import fc from 'fast-check';
import { boxAround, doubleAreaTicks, edgeLength, moveOutline, outlineCentre, outlineEdges, outlineThrough, rectangleOutline, spanBetween } from './outline';
import { boundsArea } from './segments';
import { mapPath, pathBox, pathFromSvg, polygonPath, polylinePath } from './path';

describe('outlines', () => {
  it('keep a length of ten cells through any moves', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.double({ min: -50, max: 50, noNaN: true }), fc.double({ min: -50, max: 50, noNaN: true })), { maxLength: 40 }),
        (moves) => {
          let outline = rectangleOutline({ u: 1, v: 1 }, { u: 11, v: 4 });
          for (const [du, dv] of moves) outline = moveOutline(outline, du, dv);
          const [p, q, r] = outline.points;
          expect(edgeLength(p!, q!)).toBe(10);
          expect(spanBetween(q!, r!)).toEqual({ u: 0, v: 3 });
        },
      ),
      { seed: 9, numRuns: 300 },
    );
  });

  it('know their edges, box and centre', () => {
    const open = outlineThrough([{ u: 0, v: 0 }, { u: 4, v: 0 }, { u: 4, v: 3 }], false); // prettier-ignore
    expect(outlineEdges(open)).toHaveLength(2);
    expect(outlineEdges({ ...open, closed: true })).toHaveLength(3);
    expect(edgeLength(open.points[0]!, open.points[2]!)).toBe(5);
    expect(boxAround(open.points)).toEqual({ minU: 0, minV: 0, maxU: 4, maxV: 3 });
    expect(outlineCentre(open)).toEqual({ u: 2, v: 1.5 });
    expect(boxAround([])).toBeNull();
    expect(outlineCentre({ points: [], closed: true })).toBeNull();
  });

  it('bound an area only when they are closed and not on one line, exactly', () => {
    expect(boundsArea(rectangleOutline({ u: 0, v: 0 }, { u: 5, v: 0 }))).toBe(false);
    expect(boundsArea(outlineThrough([{ u: 0.1, v: 0.1 }, { u: 0.2, v: 0.2 }, { u: 0.7, v: 0.7 }], true))).toBe(false); // prettier-ignore
    expect(doubleAreaTicks(rectangleOutline({ u: 0, v: 0 }, { u: 0, v: 1 }).points)).toBe(0);
    expect(boundsArea({ points: [], closed: true })).toBe(false);
  });
});

describe('paths', () => {
  it('are read from any SVG path data, with their exact box', () => {
    const path = pathFromSvg('m1 1h4v4q-2 2-4 0z');
    expect(typeof path).toBe('object');
    if (typeof path === 'string') return;
    expect(path.verbs).toBe('MLLCZ');
    expect(pathBox(path)).toEqual({ minX: 1, minY: 1, maxX: 5, maxY: expect.closeTo(6, 9) });
    const circle = pathFromSvg('M10 0A10 10 0 1 1 -10 0A10 10 0 1 1 10 0Z');
    expect(pathBox(circle as never)!.maxY).toBeCloseTo(10, 2);
  });

  it('are refused with the reason where they cannot be read', () => {
    expect(pathFromSvg('M0 0 L nope')).toMatch(/should start with/);
    expect(pathFromSvg('M0 0L1e999 0')).toMatch(/finite|should/);
  });

  it('are mapped by their points and handles', () => {
    expect(mapPath({ verbs: 'MC', coords: [0, 0, 1, 0, 1, 1, 0, 1] }, [2, 0, 0, 3, 1, 1]).coords).toEqual([1, 1, 3, 1, 3, 4, 1, 4]);
    expect(polygonPath([0, 0, 1, 0, 1, 1]).verbs).toBe('MLLZ');
    expect(polylinePath([]).verbs).toBe('');
    expect(pathBox({ verbs: '', coords: [] })).toBeNull();
  });
});
