import { emptyDocument } from '../document/types';
import { projectionFrom } from '../projection/projection';
import type { ProjectionSetup } from '../projection/setup';
import type { Mark } from '../artwork/marks';
import { gridMarks } from './grid-marks';

const FLOOR = { kind: 'floor', offset: 0 } as const;
const SEEN = { minX: 0, minY: 0, maxX: 300, maxY: 200 };

/** Ends of every line that is drawn, in one direction, to a thousandth of a mm. */
function linesOf(marks: readonly Mark[]): string[] {
  return marks.flatMap((mark): string[] => {
    if (mark.kind === 'group') return linesOf(mark.marks);
    const { coords } = mark.path;
    return Array.from({ length: coords.length / 4 }, (_, i) => {
      const [x0, y0, x1, y1] = coords.slice(4 * i, 4 * i + 4).map((n) => Math.round(n * 1000));
      return x0! < x1! || (x0 === x1 && y0! < y1!) ? `${x0} ${y0} ${x1} ${y1}` : `${x1} ${y1} ${x0} ${y0}`;
    });
  });
}

describe('the grid of all planes', () => {
  const { projection, grid } = emptyDocument('d', 'd');
  const all = { ...grid, planes: ['floor', 'left', 'right'] as const };
  const marksOf = (setup: ProjectionSetup, planes: readonly ('floor' | 'left' | 'right')[] = all.planes): readonly Mark[] =>
    gridMarks(projectionFrom(setup), { ...all, planes }, FLOOR, SEEN, { pxPerMm: 96 / 25.4, leastWidth: 0 });

  it('has every line once, where lines of two planes fall on each other', () => {
    const lines = linesOf(marksOf(projection));
    expect(new Set(lines).size).toBe(lines.length);
    const one = new Set(linesOf(marksOf(projection, ['floor'])));
    expect([...one].every((line) => lines.includes(line))).toBe(true);
    // Three families of lines in all, not six: along a, b and h.
    expect(lines.length).toBeLessThan(1.7 * one.size);
  });

  it('leaves none out that stands alone', () => {
    const oblique: ProjectionSetup = { kind: 'oblique', chosen: 'cabinet', angleDeg: 45, ratio: 0.5, origin: { x: 150, y: 150 } };
    const lines = new Set(linesOf(marksOf(oblique)));
    for (const plane of ['floor', 'left', 'right'] as const) {
      for (const line of linesOf(marksOf(oblique, [plane]))) expect(lines.has(line)).toBe(true);
    }
  });
});
