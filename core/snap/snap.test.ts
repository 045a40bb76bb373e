import { sheetFromPlane } from '../projection/planes';
import { projectionFrom } from '../projection/projection';
import { isometricSetup } from '../projection/setup';
import { catchAt, lockToAxis, type CatchOptions } from './snap';
import { joinSources, NO_SOURCE, type CatchSource } from './source';

const projection = projectionFrom(isometricSetup({ x: 150, y: 150 }));
const options = (grid: boolean, pxPerUnit = 4): CatchOptions => ({
  sheetFromPlane: sheetFromPlane(projection, { kind: 'floor', offset: 0 }, 8),
  pxPerUnit,
  grid,
});
const shape: CatchSource = {
  points: [
    { u: 0.5, v: 0.5 },
    { u: 6.5, v: 0.5 },
  ],
  edges: [[{ u: 0.5, v: 0.5 }, { u: 6.5, v: 0.5 }]], // prettier-ignore
  centres: [{ u: 3.5, v: 2.25 }],
  chords: [],
};

describe('catching', () => {
  it('takes the nearest crossing on the grid, however far it is', () => {
    expect(catchAt({ u: 3.4, v: -1.6 }, NO_SOURCE, options(true))).toMatchObject({ u: 3, v: -2, kind: 'crossing' });
    expect(catchAt({ u: 3.4, v: -1.6 }, NO_SOURCE, options(false))).toMatchObject({ u: 3.4, v: -1.6, kind: 'free' });
  });

  it('prefers points, middles and centres within reach', () => {
    expect(catchAt({ u: 0.6, v: 0.45 }, shape, options(true))).toMatchObject({ u: 0.5, v: 0.5, kind: 'point' });
    expect(catchAt({ u: 3.45, v: 0.55 }, shape, options(true))).toMatchObject({ u: 3.5, v: 0.5, kind: 'middle' });
    expect(catchAt({ u: 3.4, v: 2.3 }, shape, options(true))).toMatchObject({ u: 3.5, v: 2.25, kind: 'centre' });
  });

  it('takes an edge between them, and a crossing that is as near before it', () => {
    const onEdge = catchAt({ u: 1.5, v: 0.52 }, shape, options(true, 8));
    expect(onEdge).toMatchObject({ v: 0.5, kind: 'edge' });
    expect(catchAt({ u: 2.02, v: 0.93 }, { ...shape, edges: [[{ u: 0, v: 0.95 }, { u: 6, v: 0.95 }]] }, options(true, 8))).toMatchObject({ u: 2, v: 1, kind: 'crossing' }); // prettier-ignore
  });

  it('aligns with known points where there is no grid, and says with which', () => {
    const caught = catchAt({ u: 9, v: 0.52 }, shape, { ...options(false), hints: shape.points });
    expect(caught).toMatchObject({ v: 0.5, kind: 'along u' });
    expect(caught.with).not.toBeNull();
  });

  it('reaches as far on the screen at every zoom', () => {
    expect(catchAt({ u: 0.8, v: 0.5 }, shape, options(false, 3)).kind).toBe('point');
    expect(catchAt({ u: 0.8, v: 0.5 }, shape, options(false, 30)).kind).not.toBe('point');
  });

  it('gives exact coordinates', () => {
    const third = catchAt({ u: 1 / 3 + 1e-7, v: 0.2 }, NO_SOURCE, options(false));
    expect(third.u).toBe(1 / 3);
    expect(joinSources([shape, shape]).points).toHaveLength(4);
  });

  it('locks to the nearer axis and keeps the other coordinate', () => {
    const from = { u: 2, v: 3 };
    const along = (u: number, v: number): unknown => lockToAxis(from, { u, v, kind: 'crossing', with: null }, { u, v }, options(true));
    expect(along(7, 4)).toMatchObject({ u: 7, v: 3, axis: 'u', kind: 'along u' });
    expect(along(2.5, 9)).toMatchObject({ u: 2, v: 9, axis: 'v' });
  });
});
