import { TestBed } from '@angular/core/testing';
import { applyEdit, emptyDocument, findShape, rectangleOutline, startHistory, type ShapeNode } from '@core';
import { DocumentStore } from '../../state/document.store';
import { ViewStore } from '../../state/view.store';
import { LightService } from './light.service';

const box = (id: string, depth: number): ShapeNode => ({
  kind: 'shape',
  id,
  name: id,
  hidden: false,
  locked: false,
  plane: { kind: 'floor', offset: 0 },
  outline: rectangleOutline({ u: 0, v: 0 }, { u: 4, v: 4 }),
  depth,
  paint: { fill: '#c98a4b', line: null },
  ...(depth !== 0 && { surfaces: { 'side:1': { fill: '#112233', line: null } } }),
});

describe('colours that light does not change', () => {
  it('are kept for everything selected in one act, a group’s things and their faces too, and let go again', () => {
    const store = TestBed.inject(DocumentStore);
    const added = applyEdit(emptyDocument('d', 'd'), { kind: 'add', nodes: [box('one', 3), box('two', 0), box('three', 2)], artworks: [] });
    store.load(startHistory(applyEdit(added, { kind: 'group', ids: ['two', 'three'], id: 'pair', name: 'pair' })));
    const [view, light] = [TestBed.inject(ViewStore), TestBed.inject(LightService)];
    expect(light.unlit()).toBeNull();
    view.select(['one', 'pair']);
    expect(light.unlit()).toBe('none');
    light.setUnlit(true);
    const paints = ['one', 'two', 'three'].flatMap((id) => [findShape(store.kept(), id)!.paint, ...Object.values(findShape(store.kept(), id)!.surfaces ?? {})]);
    expect(paints.map(({ unlit }) => unlit)).toEqual([true, true, true, true, true]);
    expect(store.history().steps).toHaveLength(1);
    view.select(['one'], 'side:1');
    light.setUnlit(false);
    expect(findShape(store.kept(), 'one')!.surfaces!['side:1']!.unlit).toBeUndefined();
    expect(findShape(store.kept(), 'one')!.paint.unlit).toBe(true);
    view.select(['one', 'pair']);
    expect(light.unlit()).toBe('some');
    // From one face, all of them in one act; the face stays chosen.
    view.select(['one'], 'side:1');
    light.setAllUnlit(true);
    expect([light.faceOf(), view.face(), findShape(store.kept(), 'one')!.surfaces!['side:1']!.unlit]).toEqual([{ name: 'one', kept: true }, 'side:1', true]);
  });
});
