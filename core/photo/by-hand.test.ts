import { practicePair, SEEN_AT } from '../testing/practice';
import { snappedTo } from './by-hand';
import { grayOf } from './gray';
import type { KeptCrossing } from './photo';
import { practicePlace, type PracticeSetup } from './practice';
import { PRACTICE_LATTICE } from './practice-setups';
import { registeredPlace, type Registration } from './register';
import { kindsOf, solvePhoto, type SolvedPhoto } from './solve-photo';
import { findSurface } from './find-surface';

const { columns, rows, box } = PRACTICE_LATTICE;

/** Where a crossing is shown; null where it is hardly seen. */
function seen(setup: PracticeSetup, column: number, row: number): { x: number; y: number } | null {
  const place = practicePlace(setup, column * box, row * box);
  return place && place.angle > SEEN_AT ? place.at : null;
}

/** A crossing as a hand sets it, some px beside where it is. */
function byHand(setup: PracticeSetup, column: number, row: number, dx: number, dy: number): KeptCrossing {
  const at = seen(setup, column, row)!;
  return { column, row, x: at.x + dx, y: at.y + dy, error: 0.3, hand: true };
}

/** A larger lattice, whose printed numbers are others: those in the photograph say nothing of it. */
const LARGER = { ...PRACTICE_LATTICE, columns: columns + 3, rows: rows + 2 };

describe('crossings set by hand', () => {
  it('snap to the lines of the photograph, through its registration, and stay where there are none', () => {
    for (const seed of [0]) {
      const { setup, pair } = practicePair(seed, 640);
      const gray = grayOf(pair.latticed);
      const corners = [byHand(setup, 0, 0, 2, 1), byHand(setup, columns, 0, -1.5, 2), byHand(setup, columns, rows, 1, -2), byHand(setup, 0, rows, -2, -1)];
      const { fit } = kindsOf(corners, PRACTICE_LATTICE, pair.latticed)[0]!;
      for (const { column, row, x, y } of corners) {
        const found = snappedTo({ gray, registration: null }, fit, column, row, { x, y })!;
        const truth = seen(setup, column, row)!;
        expect(Math.hypot(found.x - truth.x, found.y - truth.y)).toBeLessThan(0.5);
      }
      expect(snappedTo({ gray, registration: null }, fit, 0, 0, { x: 20, y: 20 })).toBeNull();
    }
    // The same in px of a bare photograph that lies elsewhere.
    const { setup, pair } = practicePair(2, 480);
    const gray = grayOf(pair.latticed);
    const moved: Registration = { dx: 7, dy: -5, turn: 0, scale: 1, agrees: 1 };
    const corners = [[0, 0], [columns, 0], [columns, rows], [0, rows]].map(([column, row]) => byHand(setup, column!, row!, -6, 6)); // prettier-ignore
    const { fit } = kindsOf(corners, PRACTICE_LATTICE, pair.latticed)[0]!;
    const found = snappedTo({ gray, registration: moved }, fit, 0, 0, corners[0]!)!;
    const there = registeredPlace(moved, gray, found);
    const truth = seen(setup, 0, 0)!;
    expect(Math.hypot(there.x - truth.x, there.y - truth.y)).toBeLessThan(0.3);
  });

  it('tell which is which where the numbers do not, and are kept', () => {
    for (const seed of [4]) {
      const { setup, pair } = practicePair(seed, 640);
      const gray = grayOf(pair.latticed);
      expect(findSurface(gray, LARGER)).toBe('numbers-unclear');
      const set = [byHand(setup, 3, 1, 1, 0), byHand(setup, 5, rows - 1, 0, -1)];
      const known = set.map(({ column, row, x, y }) => ({ column, row, at: { x, y } }));
      const found = findSurface(gray, LARGER, known);
      if (typeof found === 'string') throw new Error(found);
      let [all, right] = [0, 0];
      for (let column = 0; column <= columns; column++)
        for (let row = 0; row <= rows; row++) {
          const truth = seen(setup, column, row);
          if (!truth) continue;
          all++;
          const own = found.crossings.find((one) => one.column === column && one.row === row);
          if (own && Math.hypot(own.at.x - truth.x, own.at.y - truth.y) < 1) right++;
        }
      expect(right / all).toBeGreaterThan(0.95);
      // One alone may be held in four ways.
      expect(typeof findSurface(gray, LARGER, known.slice(0, 1))).toBe('string');
    }
    const { setup, pair } = practicePair(2, 480);
    const own = byHand(setup, 4, 3, 0.4, 0.3);
    const solved = solvePhoto(pair.bare, pair.latticed, PRACTICE_LATTICE, [own, byHand(setup, 6, 2, 0, 0.2)], () => undefined) as SolvedPhoto;
    expect(solved.crossings.filter(({ column, row }) => column === 4 && row === 3)).toEqual([own]);
    expect(solved.crossings.length).toBeGreaterThan(60);
    // What was set wrongly is found instead.
    const off = { ...own, x: own.x + 40 };
    const mended = solvePhoto(pair.bare, pair.latticed, PRACTICE_LATTICE, [off, byHand(setup, 6, 2, 0, 0.2)], () => undefined) as SolvedPhoto;
    const there = mended.crossings.filter(({ column, row }) => column === 4 && row === 3);
    expect(there).toHaveLength(1);
    expect(there[0]!.hand).toBeUndefined();
    expect(mended.kinds[0]!.fit.wrong).toEqual([]);
  });
});
