import type { Photo, PhotoSurface } from '../photo/photo';
import { applyEdit } from './edits';
import { flattenTree } from './tree';
import { emptyDocument, type CheminDocument, type CopyNode, type DocumentNode, type PlacementNode } from './types';

const base = (id: string) => ({ id, name: id, hidden: false, locked: false });
const placement = (id: string, artwork: string, photographed?: string): PlacementNode => ({
  ...base(id),
  kind: 'placement',
  artwork,
  target: { kind: 'plane', plane: { kind: 'sheet', offset: 0 }, ...(photographed !== undefined && { photographed }) },
  anchor: { at: { a: 0, b: 0, h: 0 }, width: 4, height: 2 },
});
const copy = (id: string, of: string): CopyNode => ({ ...base(id), kind: 'copy', of, by: { a: 3, b: 0, h: 0 } });
const art = (id: string) => ({ id, name: id, svg: '<svg viewBox="0 0 4 2"><path d="M0 0H4V2H0Z"/></svg>', width: 4, height: 2 });
const ids = ({ nodes }: CheminDocument): readonly string[] => flattenTree(nodes).map(({ node }) => node.id);

function drawing(...nodes: DocumentNode[]): CheminDocument {
  return { ...applyEdit(emptyDocument('d', 'd'), { kind: 'add', nodes: [], artworks: [art('label'), art('other')] }), nodes };
}

describe('what is removed', () => {
  it('takes the placements of an artwork along, and the copies that showed nothing else', () => {
    const before = drawing(placement('one', 'label'), copy('two', 'one'), copy('three', 'two'), placement('kept', 'other'));
    expect(ids(applyEdit(before, { kind: 'delete-artworks', ids: ['label'] }))).toEqual(['kept']);
  });

  it('takes along what lay on a photographed surface that is gone, and leaves what lies on another', () => {
    const surface = (id: string) => ({ id, name: id, crossings: [], masks: [] }) as unknown as PhotoSurface;
    const photo = (...surfaces: PhotoSurface[]) => ({ id: 'photo', name: 'photo', bitmap: 'px', x: 0, y: 0, width: 100, height: 80, surfaces }) as unknown as Photo; // prettier-ignore
    const [front, side] = [surface('front'), surface('side')];
    const before = { ...drawing(placement('one', 'label', 'front'), copy('two', 'one'), placement('kept', 'label', 'side'), placement('free', 'label')), photos: [photo(front, side)] }; // prettier-ignore
    expect(ids(applyEdit(before, { kind: 'photos', photos: [photo(side)] }))).toEqual(['kept', 'free']);
    expect(applyEdit(before, { kind: 'photos', photos: [photo(side, front)] }).nodes).toBe(before.nodes);
    expect(ids(applyEdit(before, { kind: 'photos', photos: [] }))).toEqual(['free']);
  });
});
