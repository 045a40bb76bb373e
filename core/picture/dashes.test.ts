import { apply33, type Mat33 } from '../math/matrix';
import { MAX_DASHES, MIN_DASH_MM } from '../math/tolerances';
import { emptyDocument, type ShapeNode } from '../document/types';
import { PictureMaker } from './picture';
import { seenBox, seenDashes } from './dashes';

const SEEN = seenBox({ width: 300, height: 200 });
const SCALE: Mat33 = [8, 0, 0, 0, 8, 0, 0, 0, 1];
/** A plane that recedes: w grows with v, and the line runs to a vanishing point. */
const RECEDING: Mat33 = [8, 1, 150, 0, 0.6, 20, 0, 0.02, 1];

const lengthOf = (piece: readonly { u: number; v: number }[]): number =>
  piece.slice(1).reduce((sum, p, i) => sum + Math.hypot(p.u - piece[i]!.u, p.v - piece[i]!.v), 0);

describe('dashes', () => {
  it('have their lengths along a straight line, gaps left out', () => {
    const pieces = seenDashes([{ u: 0, v: 0 }, { u: 10, v: 0 }], [2, 1], SCALE, 0, SEEN); // prettier-ignore
    expect(pieces.map(([p, q]) => [p!.u, q!.u])).toEqual([[0, 2], [3, 5], [6, 8], [9, 10]]); // prettier-ignore
  });

  it('go on round corners, and an odd list is taken twice', () => {
    const pieces = seenDashes([{ u: 0, v: 0 }, { u: 3, v: 0 }, { u: 3, v: 4 }], [4, 1], SCALE, 0, SEEN); // prettier-ignore
    expect(pieces.map(lengthOf)).toEqual([4, 2]);
    expect(pieces[0]).toHaveLength(3);
    const odd = seenDashes([{ u: 0, v: 0 }, { u: 7, v: 0 }], [1], SCALE, 0, SEEN); // prettier-ignore
    expect(odd.map(([p, q]) => [p!.u, q!.u])).toEqual([[0, 1], [2, 3], [4, 5], [6, 7]]); // prettier-ignore
  });

  it('are bounded by what is seen, however long the line is: all that are drawn long enough are there', () => {
    const pieces = seenDashes([{ u: 0, v: 0 }, { u: 0, v: 900_000 }], [0.03, 0.03], RECEDING, 0.001, SEEN); // prettier-ignore
    expect(pieces.length).toBeLessThan(MAX_DASHES + 2);
    const at = (v: number): { x: number; y: number } => apply33(RECEDING, 0, v)!;
    const drawn = (v: number): number => Math.hypot(at(v + 0.06).x - at(v).x, at(v + 0.06).y - at(v).y);
    const last = pieces.at(-2)![1]!.v;
    expect(drawn(last)).toBeLessThan(MIN_DASH_MM * 1.1);
    // Beyond, the line runs unbroken to its end.
    expect(pieces.at(-1)![1]!.v).toBeCloseTo(900_000, 3);
  });

  it('are not made off the sheet or before the eye', () => {
    expect(seenDashes([{ u: -9e5, v: -9e5 }, { u: 9e5, v: -9e5 }], [0.1, 0.1], SCALE, 0, SEEN)).toEqual([]); // prettier-ignore
    const behind = seenDashes([{ u: 0, v: -60 }, { u: 0, v: 5 }], [1, 1], RECEDING, 0.1, SEEN); // prettier-ignore
    for (const piece of behind) for (const p of piece) expect(1 + 0.02 * p.v).toBeGreaterThanOrEqual(0.1 - 1e-9);
  });

  it('keep a line of a thousand cells in perspective, and a dash too short to be told apart, cheap', () => {
    const line = (length: number, dashes: number[], on: object): ShapeNode => ({
      kind: 'shape',
      id: 'l',
      name: 'l',
      hidden: false,
      locked: false,
      plane: { kind: 'floor', offset: 0 },
      outline: { points: [{ id: 1, u: 0, v: 0 }, { id: 2, u: length, v: length }], closed: false }, // prettier-ignore
      depth: 0,
      paint: { fill: null, line: { colour: '#000000', width: 0.05, dashes, ...on } },
    });
    const perspective = { kind: 'perspective', chosen: 'two-point', focal: 200, principal: { x: 150, y: 80 }, turnDeg: 45, tiltDeg: 0, rollDeg: 0, eye: { a: -200, b: -200, h: 80 } } as const; // prettier-ignore
    const sizes = [1000, 999_000].flatMap((length) =>
      [
        [1, 1],
        [1e-9, 0],
      ].map((dashes) => {
        // prettier-ignore
        const document = { ...emptyDocument('d', 'd'), projection: perspective, nodes: [line(length, dashes, { on: 'plane' as const })] };
        return JSON.stringify(new PictureMaker().make(document).marks).length;
      }),
    );
    for (const size of sizes) expect(size).toBeLessThan(3e6);
    const [flat] = new PictureMaker().make({ ...emptyDocument('d', 'd'), nodes: [line(999_000, [1, 1], {})] }).marks;
    expect(flat!.marks[0]).toMatchObject({ line: { dashes: [] } });
  });
});
