import { applyEdit, emptyDocument, findNode, rectangleOutline, type CheminDocument, type PlacementNode, type PlacementTarget, type ShapeNode } from '@core';
import { laidOn } from './placing';

const crate: ShapeNode = {
  kind: 'shape',
  id: 'crate',
  name: 'crate',
  hidden: false,
  locked: false,
  plane: { kind: 'floor', offset: 0 },
  outline: rectangleOutline({ u: 0, v: 0 }, { u: 6, v: 6 }),
  depth: 4,
  paint: { fill: '#c98a4b', line: null },
};
const ART = { id: 'art', name: 'poster', svg: '<svg viewBox="0 0 4 2"><path d="M0 0H4V2H0Z"/></svg>', width: 4, height: 2 };
const face = (name: string): PlacementTarget => ({ kind: 'face', node: 'crate', face: name });

function hung(name: string): CheminDocument {
  const placement: PlacementNode = { kind: 'placement', id: 'p', name, hidden: false, locked: false, artwork: 'art', target: face('end'), anchor: { at: { a: 1, b: 1, h: 4 }, width: 2, height: 1 } }; // prettier-ignore
  return applyEdit(emptyDocument('d', 'd'), { kind: 'add', nodes: [crate, placement], artworks: [ART] });
}

describe('artwork that is laid elsewhere', () => {
  it('has a name that follows where it lies, unless one was given', () => {
    const laid = (name: string, target: PlacementTarget): string => {
      const document = hung(name);
      const moved = findNode(applyEdit(document, laidOn(document, findNode(document, 'p') as PlacementNode, target)), 'p') as PlacementNode;
      expect(moved.target).toEqual(target);
      return moved.name;
    };
    expect(laid('poster, crate, top', face('side:1'))).toBe('poster, crate, right side');
    expect(laid('poster, crate, top', { kind: 'plane', plane: { kind: 'left', offset: 3 } })).toBe('poster, left wall');
    expect(laid('timetable of autumn', face('side:1'))).toBe('timetable of autumn');
  });
});
