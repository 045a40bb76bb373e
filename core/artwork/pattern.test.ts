import { MOST_TILES, tilesIn, type Pattern } from './pattern';

const STRAIGHT: Pattern = { gapX: 0, gapY: 0, along: 'rows', shift: 0 };
const BOX = { minX: -0.5, minY: -0.5, maxX: 6, maxY: 4 };

/** How many repetitions lie over a place. */
const over = (tiles: readonly (readonly [number, number])[], x: number, y: number): number =>
  tiles.filter(([a, b]) => x >= a && x < a + 2 && y >= b && y < b + 1).length;

describe('a repeating pattern', () => {
  const size = { width: 2, height: 1 };

  it.each([
    ['straight', STRAIGHT],
    ['rows set off by a half', { ...STRAIGHT, shift: 0.5 }],
    ['rows set off by a third', { ...STRAIGHT, shift: 1 / 3 }],
    ['half-drop', { ...STRAIGHT, along: 'columns', shift: 0.5 }],
  ] as const)('covers every place of its box exactly once: %s', (_, pattern) => {
    const tiles = tilesIn(pattern, size, BOX);
    expect(tiles.some(([x, y]) => x === 0 && y === 0)).toBe(true);
    for (let x = -0.45; x < 6; x += 0.31) for (let y = -0.45; y < 4; y += 0.23) expect(over(tiles, x, y)).toBe(1);
  });

  it('leaves its gaps, and sets rows off against each other', () => {
    const tiles = tilesIn({ gapX: 1, gapY: 0.5, along: 'rows', shift: 0.5 }, size, BOX);
    const rows = new Map<number, number[]>();
    for (const [x, y] of tiles) rows.set(y, [...(rows.get(y) ?? []), x]);
    expect([...rows.keys()]).toEqual([-1.5, 0, 1.5, 3]);
    expect(rows.get(0)).toEqual([0, 3, 6]);
    expect(rows.get(1.5)).toEqual([-1.5, 1.5, 4.5]);
    expect(over(tiles, 2.5, 0.5)).toBe(0);
    expect(over(tiles, 0.5, 1.2)).toBe(0);
  });

  it('is bounded, and lies once where steps lead nowhere', () => {
    expect(tilesIn(STRAIGHT, { width: 1e-4, height: 1e-4 }, BOX)).toHaveLength(MOST_TILES);
    expect(tilesIn({ ...STRAIGHT, gapX: -2 }, size, BOX)).toEqual([[0, 0]]);
  });
});
