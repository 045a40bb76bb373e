import { rectangleOutline, type ShapeNode } from '@core';
import { letterColours, withLetterColour } from './letter-colours';

function letter(depth: number, hole: boolean, surfaces: ShapeNode['surfaces'] = {}): ShapeNode {
  const outline = rectangleOutline({ u: 0, v: 0 }, { u: 6, v: 6 });
  const inner = rectangleOutline({ u: 2, v: 2 }, { u: 4, v: 4 }).points.map((point, i) => ({ ...point, id: 11 + i }));
  const base = { kind: 'shape', id: 'o', name: 'o', hidden: false, locked: false, plane: { kind: 'right', offset: 0 } } as const;
  return { ...base, outline: hole ? { ...outline, holes: [inner] } : outline, depth, paint: { fill: '#808080', line: null }, surfaces };
}

describe('the colours of letters', () => {
  it('paint the front that looks out, whichever way the depth goes', () => {
    expect(Object.keys(withLetterColour(letter(2, false), 'front', '#ff0000').surfaces!)).toEqual(['end']);
    const pressed = withLetterColour(letter(-2, false), 'front', '#ff0000');
    expect(Object.keys(pressed.surfaces!)).toEqual(['base']);
    expect(letterColours([pressed], []).front).toBe('#ff0000');
  });

  it('leave the front as it was when the sides are painted', () => {
    for (const depth of [2, -2]) {
      const painted = withLetterColour(letter(depth, false), 'sides', '#00ff00');
      expect(letterColours([painted], [])).toMatchObject({ front: '#808080', sides: '#00ff00' });
    }
  });

  it('tell the counters by the first letter that has one', () => {
    const open = withLetterColour(letter(2, true), 'counters', '#0000ff');
    expect(letterColours([letter(2, false), open], []).counters).toBe('#0000ff');
    expect(Object.keys(open.surfaces!)).toEqual(['side:11', 'side:12', 'side:13', 'side:14']);
    expect(letterColours([letter(2, false), letter(2, true)], []).counters).toBe('#808080');
    expect(letterColours([], []).counters).toBe('#ffffff');
  });
});
