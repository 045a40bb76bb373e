import { bodyOf } from '../geometry/book';
import { surfaceNamed } from '../geometry/body';
import type { Ruled } from '../geometry/ruled';
import { crossWorld, dotWorld, lengthWorld, subtractWorld, type WorldPoint } from '../math/points';
import { ellipseOutline, arcOutline } from '../shape/forms';
import { outlineBox } from '../shape/transform';
import { layCells } from './cell-letters';
import { seatOn, textLineFrom, turnedLine, type RoundLine } from './baseline';
import { roundStart } from '../document/round-line';
import type { CellLettering } from './lettering';

const cells = (text: string, more: Partial<CellLettering>): CellLettering => ({ kind: 'cells', text, stem: 0.2, width: 1, height: 1, corner: 'square', letter: 0, line: 2, align: 'left', ...more }); // prettier-ignore

/** The round side of a drum about (3, 2), 6 high; narrowing to a part of its base. */
function drum(taper?: number, kind: 'floor' | 'right' = 'floor'): Ruled {
  const node = { kind: 'shape', id: 'd', plane: { kind, offset: 0 }, outline: ellipseOutline({ u: 3, v: 2 }, { u: 5, v: 5 }), depth: 6, ...(taper !== undefined && { taper }) } as const; // prettier-ignore
  const body = bodyOf(node)!;
  return surfaceNamed(body, body.surfaces.find(({ form }) => form.kind !== 'flat')!.name)!.form as Ruled;
}

const around = (ruled: Ruled, s: number, k: number): RoundLine => {
  const start = roundStart(ruled, s, k);
  if (start?.kind !== 'round') throw new Error('no line around');
  return start.round;
};
const outOf = ({ u, v }: { u: WorldPoint; v: WorldPoint }): WorldPoint => crossWorld(u, v);

describe('text along a line of its plane', () => {
  it('stands on it, each letter upright on the line at its middle', () => {
    const line = textLineFrom(arcOutline({ u: -8, v: 0 }, { u: 0, v: 8 }, { u: 8, v: 0 })!, { u: 0, v: 8 })!;
    const { letters } = layCells(cells('IIIII', { along: line, align: 'centre' }));
    for (const { outlines } of letters) {
      const box = outlineBox(outlines[0]!)!;
      const middle = Math.hypot((box.minU + box.maxU) / 2, (box.minV + box.maxV) / 2);
      expect(middle).toBeCloseTo(8.5, 1);
    }
    // It is read to the right wherever it begins, and the other way round when it is turned.
    expect(textLineFrom(ellipseOutline({ u: 0, v: 0 }, { u: 4, v: 4 }), { u: 0, v: -4 })!.from).toBeGreaterThanOrEqual(0);
    const back = turnedLine(line);
    expect([turnedLine(back).from, turnedLine(back).against]).toEqual([line.from, line.against]);
  });
});

describe('text around a round side', () => {
  it('has each letter touch the side at its middle, upright, facing out, at true distances', () => {
    const line = around(drum(), 0.3, 0.5);
    const seats = [0, 2, 5, 9, 14].map((middle) => seatOn(line, middle, 0, 0.5)!);
    for (const { stance, behind } of seats) {
      const out = { a: stance.at.a - 3, b: stance.at.b - 2, h: 0 };
      expect(lengthWorld(out)).toBeCloseTo(5, 4);
      expect(stance.at.h).toBeCloseTo(3, 5);
      expect(dotWorld(out, outOf(stance))).toBeCloseTo(5, 3);
      expect(stance.v.h).toBeCloseTo(1, 5);
      expect(behind).toBeCloseTo(5 - 5 * Math.cos(0.1), 4);
    }
    const angle = ({ stance: { at } }: (typeof seats)[0]): number => Math.atan2(at.b - 2, at.a - 3);
    const turn = angle(seats[1]!) - angle(seats[0]!);
    expect(((turn + 3 * Math.PI) % (2 * Math.PI)) - Math.PI).toBeCloseTo(0.4, 3);
    // Text that is read to the right goes round to the right.
    expect(dotWorld(subtractWorld(seats[1]!.stance.at, seats[0]!.stance.at), seats[0]!.stance.u)).toBeGreaterThan(0);
  });

  it('leans with a cone, higher lines going round smaller circles', () => {
    for (const taper of [0.5, 2]) {
      const line = around(drum(taper), 0.3, 0.5);
      expect(line.meets).toBe(taper < 1 ? 'above' : 'below');
      const [low, high] = [seatOn(line, 4, 0, 0.5)!, seatOn(line, 4, 2, 0.5)!];
      expect(high.stance.at.h).toBeGreaterThan(low.stance.at.h);
      for (const { stance } of [low, high]) {
        const radius = Math.hypot(stance.at.a - 3, stance.at.b - 2);
        expect(radius).toBeCloseTo(5 + ((taper - 1) * 5 * stance.at.h) / 6, 3);
        expect(Math.sign(outOf(stance).h)).toBe(taper < 1 ? 1 : -1);
      }
    }
  });

  it('is read along a lying drum on the plane that touches it', () => {
    const ruled = drum(undefined, 'right');
    const kinds = [0.1, 0.5, 0.9, 1.5, 2.5, 3.5].map((s) => roundStart(ruled, s, 0.5)?.kind);
    expect(kinds).toEqual(kinds.map(() => 'plane'));
  });
});
