import { boxIn, CORNERS, freeCorner } from './message-place';

const AREA = { width: 1000, height: 700 };
const STACK = { width: 400, height: 90 };

describe('messages', () => {
  it('lie low on the left as long as nothing is there', () => {
    expect(freeCorner(AREA, STACK, [], [])).toBe('low left');
    expect(freeCorner(AREA, STACK, [{ x: 420, y: 100, width: 300, height: 300 }], [])).toBe('low left');
    for (const corner of CORNERS) {
      const { x, y, width, height } = boxIn(corner, AREA, STACK);
      expect([x >= 12, y >= 12, x + width <= 988, y + height <= 688]).toEqual([true, true, true, true]);
    }
  });

  it('keep away from what is drawn and from handles, from handles first', () => {
    const drawn = [{ x: 0, y: 600, width: 500, height: 100 }];
    expect(freeCorner(AREA, STACK, drawn, [])).toBe('low right');
    expect(freeCorner(AREA, STACK, drawn, [{ x: 900, y: 650 }])).toBe('top right');
    expect(freeCorner(AREA, STACK, [{ x: 0, y: 0, width: 1000, height: 700 }], [{ x: 100, y: 650 }, { x: 900, y: 650 }, { x: 900, y: 40 }])).toBe('top left'); // prettier-ignore
    // A handle just beside it belongs to itself too.
    expect(freeCorner(AREA, STACK, [], [{ x: 420, y: 650 }])).toBe('low right');
  });
});
