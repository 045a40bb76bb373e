import { TestBed } from '@angular/core/testing';
import {
  applyEdit,
  emptyDocument,
  frameFamily,
  PictureMaker,
  rectangleOutline,
  startHistory,
  type CheminDocument,
  type FamilyKey,
  type ShapeNode,
} from '@core';
import { DocumentStore } from '../../state/document.store';
import { LightService } from './light.service';

const box: ShapeNode = { kind: 'shape', id: 'box', name: 'box', hidden: false, locked: false, plane: { kind: 'floor', offset: 0 }, outline: rectangleOutline({ u: 0, v: 0 }, { u: 4, v: 4 }), depth: 4, paint: { fill: '#c98a4b', line: null } }; // prettier-ignore

function opened(change: (document: CheminDocument) => CheminDocument): { readonly store: InstanceType<typeof DocumentStore>; readonly lights: LightService } {
  const store = TestBed.inject(DocumentStore);
  store.load(startHistory(change(applyEdit(emptyDocument('d', 'd'), { kind: 'add', nodes: [box], artworks: [] }))));
  return { store, lights: TestBed.inject(LightService) };
}

describe('the first shadow', () => {
  it.each(['isometric', 'trimetric', 'two-point', 'planometric'] as FamilyKey[])('falls beside what throws it, where it is seen: %s', (family) => {
    const room = { middle: { x: 150, y: 110 }, width: 160, height: 120 };
    const projection = frameFamily(family, { min: { a: 0, b: 0, h: 0 }, max: { a: 32, b: 32, h: 32 } }, room);
    const { store, lights } = opened((document) => ({ ...document, projection }));
    lights.castShadows(true);
    const picture = new PictureMaker().make(store.kept());
    const xs = (name: string): readonly number[] => {
      const group = picture.marks.find((mark) => mark.name === name)!;
      const all = (marks: typeof group.marks): readonly number[] => marks.flatMap((mark) => (mark.kind === 'group' ? all(mark.marks) : Array.from(mark.path.coords).filter((_, i) => i % 2 === 0))); // prettier-ignore
      return all(group.marks);
    };
    const [shadow, solid] = [xs('shadow on the floor'), xs('box')];
    // A good part of it lies beside the solid.
    expect(Math.max(...shadow) - Math.max(...solid)).toBeGreaterThan(0.3 * (Math.max(...solid) - Math.min(...solid)));
  });

  it('falls from where the sun stands once somebody has set it', () => {
    const { store, lights } = opened((document) => ({ ...document, light: { ...document.light, sun: { azimuthDeg: 30, elevationDeg: 60 } } }));
    lights.castShadows(true);
    expect(store.kept().light.sun).toEqual({ azimuthDeg: 30, elevationDeg: 60 });
    expect(store.kept().light.shadows).toEqual({ on: true, floor: 0 });
  });
});
