import type { GroupMark } from '../artwork/marks';
import { flatInk } from '../artwork/marks';
import type { DocumentNode } from '../document/types';
import { emptyDocument } from '../document/types';
import { rectangleOutline } from '../shape/outline';
import { boxPath } from '../shape/path';
import { inGroups, trimmedSheet } from './in-groups';
import { svgFromSheet } from './paint-svg';

const base = (id: string) => ({ id, name: `the ${id}`, hidden: false, locked: false });
const shape = (id: string): DocumentNode => ({ ...base(id), kind: 'shape', plane: { kind: 'floor', offset: 0 }, outline: rectangleOutline({ u: 0, v: 0 }, { u: 1, v: 1 }), depth: 0, paint: { fill: '#123456', line: null } }); // prettier-ignore
const group = (id: string, children: readonly DocumentNode[], joined?: 'join'): DocumentNode => ({ ...base(id), kind: 'group', children, ...(joined && { joined }) }); // prettier-ignore
const mark = (node: string, minX = 10): GroupMark => ({ kind: 'group', node, name: node, clip: null, strength: 1, marks: [{ kind: 'path', path: boxPath({ minX, minY: 20, maxX: minX + 30, maxY: 60 }), fill: flatInk('#123456'), rule: 'nonzero', line: null }] }); // prettier-ignore
const told = (marks: readonly GroupMark[]): unknown => marks.map(({ node, name, marks: own }) => (node !== null ? node : [name, told(own as readonly GroupMark[])])); // prettier-ignore

describe('marks in the groups of the contents', () => {
  const nodes = [group('kiosk', [shape('wall'), group('lamp', [shape('post'), shape('bulb')]), group('one', [shape('x')], 'join')]), shape('quay')];

  it('lie in their groups, one in the other, a group that painting order parts in parts of its name', () => {
    expect(
      told(
        inGroups(
          nodes,
          ['wall', 'post', 'bulb', 'quay', 'one', 'post'].map((id) => mark(id)),
        ),
      ),
    ).toEqual([['the kiosk', ['wall', ['the lamp', ['post', 'bulb']]]], 'quay', ['the kiosk', ['one', ['the lamp', ['post']]]]]);
    expect(told(inGroups(nodes, [mark('floor shadow'), mark('quay')]))).toEqual(['floor shadow', 'quay']);
  });

  it('are named in the file, each id once', () => {
    const { sheet } = emptyDocument('d', 'd');
    const svg = svgFromSheet({ sheet, background: false, marks: inGroups(nodes, ['wall', 'quay', 'wall'].map((id) => mark(id))) }, 'd'); // prettier-ignore
    expect(svg.match(/<title>the kiosk<\/title>/g)).toHaveLength(2);
    const ids = [...svg.matchAll(/ id="([^"]+)"/g)].map(([, id]) => id);
    expect(new Set(ids).size).toBe(ids.length);
  });

  it('of a copy are cut down to what is painted', () => {
    const { sheet } = emptyDocument('d', 'd');
    const trimmed = trimmedSheet({ sheet, background: false, marks: [mark('wall'), mark('quay', 50)] });
    expect([trimmed.sheet.width, trimmed.sheet.height]).toEqual([70, 40]);
    expect(svgFromSheet(trimmed, 'd')).toContain('viewBox="0 0 70 40"');
    expect(trimmedSheet({ sheet, background: false, marks: [] }).sheet).toBe(sheet);
  });
});
