import fc from 'fast-check';
import { crossWorld, dotWorld, scaleWorld, subtractWorld, type WorldPoint } from '../math/points';
import { planeFrame, type Plane } from '../projection/planes';
import { outlineThrough, rectangleOutline } from '../shape/outline';
import { axisOf, depthFaces, faceWord, flatFace, readingFrame } from './faces';

const frameOf = (kind: 'floor' | 'left' | 'right', offset = 0): NonNullable<ReturnType<typeof planeFrame>> => planeFrame({ kind, offset } as Plane, 10)!;
const lShape = outlineThrough(
  [[0, 0], [4, 0], [4, 3], [2, 3], [2, 6], [0, 6]].map(([u, v]) => ({ u: u!, v: v! })), // prettier-ignore
  true,
);

/** Volume by the divergence theorem, triangle by triangle from each face's first corner. */
function volume(faces: readonly { readonly corners: readonly WorldPoint[] }[]): number {
  let six = 0;
  for (const { corners } of faces) {
    for (let i = 1; i + 1 < corners.length; i++) six += dotWorld(corners[0]!, crossWorld(corners[i]!, corners[i + 1]!));
  }
  return six / 6;
}

describe('depth', () => {
  it('makes two ends and a side for each edge, named after its first point', () => {
    const faces = depthFaces(lShape, frameOf('floor'), 3, 10);
    expect(faces.map((face) => face.name)).toEqual(['base', 'end', 'side:1', 'side:2', 'side:3', 'side:4', 'side:5', 'side:6']);
    expect(faces[1]!.corners.every((corner) => corner.h === 30)).toBe(true);
  });

  it('encloses its outline times its depth, all faces turned outwards', () => {
    fc.assert(
      fc.property(fc.constantFrom('floor', 'left', 'right'), fc.integer({ min: -9, max: 9 }), fc.integer({ min: -5, max: 5 }), (kind, depth, offset) => {
        fc.pre(depth !== 0);
        for (const outline of [lShape, { ...lShape, points: [...lShape.points].reverse() }]) {
          const faces = depthFaces(outline, frameOf(kind, offset), depth, 10);
          expect(volume(faces)).toBeCloseTo(18 * Math.abs(depth) * 1000, 6);
          for (const { corners, normal } of faces) {
            const [p, q] = [subtractWorld(corners[1]!, corners[0]!), subtractWorld(corners[2]!, corners[1]!)];
            if (corners.length === 4) expect(dotWorld(crossWorld(p, q), normal)).toBeGreaterThan(0);
          }
        }
      }),
      { seed: 4, numRuns: 200 },
    );
  });

  it('comes towards the viewer when positive', () => {
    const box = depthFaces(rectangleOutline({ u: 0, v: 0 }, { u: 2, v: 2 }), frameOf('left', 1), 4, 10);
    expect(box.find((face) => face.name === 'end')!.corners[0]!.a).toBe(-30);
  });

  it('makes nothing of an outline without area or of no depth', () => {
    const line = outlineThrough([{ u: 0, v: 0 }, { u: 5, v: 0 }, { u: 9, v: 0 }], true); // prettier-ignore
    expect(depthFaces(line, frameOf('floor'), 3, 10)).toEqual([]);
    expect(depthFaces(lShape, frameOf('floor'), 0, 10)).toEqual([]);
    expect(depthFaces({ ...lShape, closed: false }, frameOf('floor'), 2, 10)).toEqual([]);
  });
});

describe('faces', () => {
  it('have words by direction', () => {
    const word = (a: number, b: number, h: number): string => faceWord({ a, b, h });
    expect([word(0, 0, 1), word(-1, 0, 0), word(0, -1, 0), word(0, 0, -1)]).toEqual(['top', 'left side', 'right side', 'underside']);
    expect([word(1, 0, 0), word(0, 1, 0), word(0.6, 0, 0.8), word(0.6, 0.8, 0)]).toEqual(['far right side', 'far left side', 'slope', 'slanting side']);
    expect(axisOf({ a: 0, b: -1, h: 0 })).toEqual({ axis: 'b', sense: -1 });
  });

  it('are read upright: left sides towards b backwards, right sides along a, tops along a', () => {
    const face = flatFace(rectangleOutline({ u: 2, v: 1 }, { u: 8, v: 4 }), frameOf('left', 0));
    const frame = readingFrame(face, 10);
    expect(frame.u.b).toBeCloseTo(-10);
    expect(frame.v.h).toBeCloseTo(-10);
    expect(frame.origin).toMatchObject({ b: 80, h: 40 });
    expect([frame.width, frame.height]).toEqual([6, 3]);
    const top = readingFrame(flatFace(rectangleOutline({ u: 0, v: 0 }, { u: 3, v: 2 }), frameOf('floor', 2)), 10);
    expect(top.u).toEqual({ a: 10, b: 0, h: 0 });
    expect(scaleWorld(top.v, 1).b).toBe(-10);
    expect(top.origin).toEqual({ a: 0, b: 20, h: 20 });
  });
});
