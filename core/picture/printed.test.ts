import { emptyDocument, type CheminDocument, type PlacementNode, type ShapeNode } from '../document/types';
import type { GroupMark, Mark } from '../artwork/marks';
import { ellipseOutline } from '../shape/forms';
import { rectangleOutline } from '../shape/outline';
import { PictureMaker } from './picture';

const svg = '<svg viewBox="0 0 4 4"><path fill="#ffffff" d="M0 0L4 0L4 4L0 4Z"/></svg>';
const box: ShapeNode = { kind: 'shape', id: 'box', name: 'box', hidden: false, locked: false, plane: { kind: 'floor', offset: 0 }, outline: rectangleOutline({ u: 0, v: 0 }, { u: 4, v: 4 }), depth: 4, paint: { fill: '#808080', line: null } }; // prettier-ignore
const post: ShapeNode = { ...box, id: 'post', outline: ellipseOutline({ u: 2, v: 2 }, { u: 2, v: 2 }) };
const on = (host: ShapeNode, face: string, more: Partial<PlacementNode> = {}): PlacementNode => ({ kind: 'placement', id: 'p', name: 'p', hidden: false, locked: false, artwork: 'art', target: { kind: 'face', node: host.id, face }, anchor: { at: { a: 0, b: 2, h: 3 }, width: 2, height: 2 }, ...more }); // prettier-ignore

function picture(host: ShapeNode, placement: PlacementNode, shadows = false): readonly GroupMark[] {
  const empty = emptyDocument('d', 'd');
  const roof: ShapeNode = {
    ...box,
    id: 'roof',
    plane: { kind: 'floor', offset: 6 },
    outline: rectangleOutline({ u: -6, v: -6 }, { u: 10, v: 10 }),
    depth: 0.1,
  };
  const document: CheminDocument = {
    ...empty,
    light: { ...empty.light, ...(shadows && { shadows: { on: true } }) },
    artworks: [{ id: 'art', name: 'art', svg, width: 4, height: 4 }],
    nodes: [host, placement, ...(shadows ? [roof] : [])],
  };
  const groups = (marks: readonly Mark[]): readonly GroupMark[] => marks.flatMap((mark) => (mark.kind === 'group' ? [mark, ...groups(mark.marks)] : []));
  return groups(new PictureMaker().make(document).marks);
}

const fills = (marks: readonly Mark[]): readonly string[] => marks.flatMap((mark) => (mark.kind === 'group' ? fills(mark.marks) : mark.kind === 'path' && mark.fill?.kind === 'flat' ? [mark.fill.colour] : [])); // prettier-ignore
const printed = (groups: readonly GroupMark[]): readonly string[] => fills(groups.filter(({ node }) => node === 'p').slice(0, 1));

describe('artwork in the light of what it lies on', () => {
  it('is as it is, takes the tone of its face, or a part of it', () => {
    const tone = (lit?: number): string => printed(picture(box, on(box, 'side:4', lit === undefined ? {} : { lit })))[0]!;
    expect(tone()).toBe('#ffffff');
    const [half, whole] = [tone(0.5), tone(1)].map((colour) => parseInt(colour.slice(1, 3), 16));
    expect(whole!).toBeLessThan(half!);
    expect(half!).toBeLessThan(255);
    // The top is turned to the light: what is printed there stays nearly as it is.
    expect(parseInt(printed(picture(box, on(box, 'end', { lit: 1 })))[0]!.slice(1, 3), 16)).toBeGreaterThan(whole!);
  });

  it('takes the tones round a side in strips', () => {
    const colours = new Set(printed(picture(post, on(post, 'side:1', { lit: 1 }))));
    expect(colours.size).toBeGreaterThan(8);
    expect(printed(picture(post, on(post, 'side:1')))).toEqual(['#ffffff']);
  });

  it('lies over shadows where they do not fall on it, and covers as much as it says', () => {
    const order = (more: Partial<PlacementNode>): readonly string[] => picture(box, on(box, 'side:4', more), true).flatMap(({ node, name }) => (node === 'p' ? ['art'] : name === 'shadow' ? ['shadow'] : [])); // prettier-ignore
    expect(order({}).at(-1)).toBe('shadow');
    expect(order({ shaded: false }).at(-1)).toBe('art');
    expect(picture(box, on(box, 'side:4', { strength: 0.4, blend: 'multiply' })).find(({ node }) => node === 'p')).toMatchObject({
      strength: 0.4,
      blend: 'multiply',
    });
  });
});
