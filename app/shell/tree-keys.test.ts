import { flattenTree, type GroupNode } from '@core';
import { boxNode } from '../testing/page';
import { treeAct, TypeAhead, type TreeAct } from './tree-keys';

const group: GroupNode = { kind: 'group', id: 'g', name: 'crates', hidden: false, locked: false, children: [boxNode('c1'), boxNode('c2')] };
const rows = flattenTree([boxNode('awning'), group, boxNode('counter'), boxNode('crane')]);
const press = (key: string, at: string, how: object = {}, open = true): TreeAct | null =>
  treeAct({ key, altKey: false, ctrlKey: false, metaKey: false, shiftKey: false, ...how }, { rows, at, open: () => open });

describe('keys in a tree', () => {
  it('walk, to the ends too, and nowhere beyond them', () => {
    expect(press('ArrowDown', 'awning')).toEqual({ kind: 'go', to: 'g', extend: false });
    expect(press('ArrowUp', 'g', { shiftKey: true })).toEqual({ kind: 'go', to: 'awning', extend: true });
    expect([press('ArrowUp', 'awning'), press('ArrowDown', 'crane')]).toEqual([null, null]);
    expect([press('End', 'g'), press('Home', 'c2')]).toMatchObject([{ to: 'crane' }, { to: 'awning' }]);
    expect(press('ArrowDown', 'nobody')).toBeNull();
  });

  it('open and close groups, go into them and out', () => {
    expect(press('ArrowRight', 'g', {}, false)).toEqual({ kind: 'unfold', id: 'g' });
    expect(press('ArrowRight', 'g')).toMatchObject({ kind: 'go', to: 'c1' });
    expect(press('ArrowLeft', 'c2')).toMatchObject({ kind: 'go', to: 'g' });
    expect(press('ArrowLeft', 'g')).toEqual({ kind: 'fold', id: 'g' });
    expect([press('ArrowRight', 'crane'), press('ArrowLeft', 'crane')]).toEqual([null, null]);
  });

  it('choose, rename, delete and move', () => {
    expect(press('Enter', 'g')).toEqual({ kind: 'choose', id: 'g' });
    expect(press(' ', 'g', { ctrlKey: true })).toEqual({ kind: 'add', id: 'g' });
    expect(press('F2', 'g')).toEqual({ kind: 'rename', id: 'g' });
    expect(press('Delete', 'g')).toEqual({ kind: 'delete', id: 'g' });
    expect(press('ArrowUp', 'g', { altKey: true })).toEqual({ kind: 'move', id: 'g', by: 1 });
    expect(press('z', 'g', { ctrlKey: true })).toBeNull();
  });
});

describe('typing ahead', () => {
  it('goes to the next name that begins so, letter by letter, and begins anew after a pause', () => {
    const ahead = new TypeAhead();
    expect(ahead.find('c', rows, 'awning', 1000)).toBe('g');
    expect(ahead.find('o', rows, 'g', 1100)).toBe('counter');
    expect(ahead.find('c', rows, 'counter', 3000)).toBe('crane');
    expect(ahead.find('x', rows, 'crane', 9000)).toBeNull();
  });
});
