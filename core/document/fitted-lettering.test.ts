import type { LaidText } from '../lettering/laid-text';
import type { CellLettering } from '../lettering/lettering';
import { rectangleOutline } from '../shape/outline';
import { frameWithin, laidBox, scaledLettering, shareThatFits } from './fitted-lettering';
import { letterFrame } from './lettering-group';

const laid = (width: number, height: number): LaidText => ({ letters: [{ text: 'I', outlines: [rectangleOutline({ u: 0, v: 0 }, { u: width, v: height })] }], missing: [] }); // prettier-ignore
const FACE = { minU: 0, minV: 0, maxU: 10, maxV: 6 };

describe('text on a face', () => {
  it.each(['floor', 'left', 'right'] as const)('is no larger than it and lies on it, wherever it was pressed: %s', (kind) => {
    for (const at of [
      { u: 0, v: 0 },
      { u: 9, v: 5 },
      { u: 5, v: 3 },
    ]) {
      // prettier-ignore
      const frame = letterFrame({ kind, offset: 0 }, at);
      expect(shareThatFits(laid(2, 1), FACE, frame)).toBe(1);
      const share = shareThatFits(laid(40, 10), FACE, frame);
      expect(share).toBeLessThan(0.3);
      const text = laid(40 * share, 10 * share);
      const { origin, x, y } = frameWithin(text, FACE, frame);
      const box = laidBox(text)!;
      for (const [u, v] of [
        [box.minU, box.minV],
        [box.maxU, box.maxV],
      ] as const) {
        // prettier-ignore
        const p = { u: origin.u + x.u * u + y.u * v, v: origin.v + x.v * u + y.v * v };
        expect(Math.min(p.u - FACE.minU, FACE.maxU - p.u, p.v - FACE.minV, FACE.maxV - p.v)).toBeGreaterThan(-1e-6);
      }
    }
  });

  it('keeps its proportions, and its place where it lies on the face already', () => {
    const cells: CellLettering = { kind: 'cells', text: 'I', stem: 1, width: 5, height: 7, corner: 'square', letter: 0.5, line: 9, align: 'left' };
    expect(scaledLettering(cells, 0.5)).toMatchObject({ stem: 0.5, width: 2.5, height: 3.5, letter: 0.25, line: 4.5 });
    const frame = letterFrame({ kind: 'floor', offset: 0 }, { u: 4, v: 3 });
    expect(frameWithin(laid(1, 1), FACE, frame).origin).toEqual(frame.origin);
    expect(shareThatFits({ letters: [], missing: [] }, FACE, frame)).toBe(1);
  });
});
