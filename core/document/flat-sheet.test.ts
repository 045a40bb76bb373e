import { rectangleOutline } from '../shape/outline';
import { applyEdit, type Edit } from './edits';
import { flatSheetOf, FROM_FILE, sizeMm } from './flat-sheet';
import { documentFault } from './gate';
import { partOf, pastePart } from './part';
import { emptyDocument, type Artwork, type CheminDocument, type PlacementNode, type ShapeNode } from './types';

const SHEET = { kind: 'sheet', offset: 0 } as const;
const SVG = '<svg viewBox="0 0 96 48"><path d="M0 0L96 0L96 48Z"/></svg>';
const file: Artwork = { id: 'file', name: 'sign', svg: SVG, width: 96, height: 48 };
const blank: Artwork = { id: 'blank', name: 'blank', svg: '', width: 50, height: 40, unitMm: 1, background: '#ffffff' };

const shape = (id: string): ShapeNode => ({ kind: 'shape', id, name: id, hidden: false, locked: false, plane: SHEET, outline: rectangleOutline({ u: 1, v: 1 }, { u: 3, v: 2 }), depth: 0, paint: { fill: '#c2533b', line: null } }); // prettier-ignore
const placed = (id: string, artwork: string): PlacementNode => ({ kind: 'placement', id, name: id, hidden: false, locked: false, artwork, target: { kind: 'plane', plane: SHEET }, anchor: { at: { a: 0, b: 0, h: 0 }, width: 2, height: 1 } }); // prettier-ignore

const bitmap = { id: 'seen', type: 'image/png', width: 4, height: 4, asset: 'a'.repeat(64) } as const;
const reference = { id: 'r', name: 'r', bitmap: 'seen', x: 0, y: 0, width: 9, height: 9, strength: 1, over: false, hidden: false, locked: false };
const document: CheminDocument = {
  ...emptyDocument('d', 'd'),
  bitmaps: [bitmap],
  references: [reference],
  artworks: [file, blank],
  nodes: [placed('p', 'file')],
};

const flat = (artwork: string, edit: Extract<Edit, { kind: 'flat' }>['edit'], to = document): CheminDocument => applyEdit(to, { kind: 'flat', artwork, edit });
const add = (...nodes: (ShapeNode | PlacementNode)[]) => ({ kind: 'add' as const, nodes, artworks: [] }); // prettier-ignore
const artworkOf = ({ artworks }: CheminDocument, id: string): Artwork => artworks.find((one) => one.id === id)!;

describe('the sheet of an artwork as a drawing', () => {
  it('has its size in mm, and what came from its file lying under the rest', () => {
    const sheet = flatSheetOf(document, 'file')!;
    expect([sheet.sheet.width, sheet.sheet.height]).toEqual([25.4, 12.7]);
    expect(sheet.nodes.map(({ id }) => id)).toEqual([FROM_FILE]);
    expect(sizeMm(blank)).toEqual({ width: 50, height: 40 });
    expect(flatSheetOf(document, 'nothing')).toBeNull();
    expect(documentFault(sheet)).toBeNull();
  });

  it('keeps its file while things are drawn on it, and the drawing as it is', () => {
    const next = flat('file', add(shape('s')));
    expect(artworkOf(next, 'file')).toMatchObject({ svg: SVG, nodes: [{ id: 's' }] });
    expect(next.nodes).toBe(document.nodes);
    expect(documentFault(next)).toBeNull();
  });

  it('has its file as an artwork of its own once that is moved, and none once it is deleted', () => {
    const moved = flat('file', { kind: 'all', edits: [{ kind: 'lock', ids: [FROM_FILE], locked: false }, { kind: 'move', ids: [FROM_FILE], by: { a: 1, b: 0, h: 0 } }] }); // prettier-ignore
    expect(artworkOf(moved, 'file')).toMatchObject({ svg: '', nodes: [{ artwork: 'file-file' }] });
    expect(artworkOf(moved, 'file-file').svg).toBe(SVG);
    expect(documentFault(moved)).toBeNull();
    const gone = flat('file', { kind: 'delete', ids: [FROM_FILE] });
    expect(artworkOf(gone, 'file')).toEqual({ id: 'file', name: 'sign', svg: '', width: 96, height: 48 });
    expect(gone.artworks).toHaveLength(2);
  });

  it('keeps bitmaps that only the drawing shows, and takes over size, background and palette', () => {
    const sheet = flatSheetOf(document, 'blank')!.sheet;
    const next = flat('blank', { kind: 'all', edits: [{ kind: 'sheet', sheet: { ...sheet, width: 80, background: '#102030' } }, { kind: 'delete-reference', id: 'r' }, { kind: 'swatches', swatches: [{ id: 'k', name: 'k', colour: '#aabbcc' }] }] }); // prettier-ignore
    expect(artworkOf(next, 'blank')).toMatchObject({ width: 80, background: '#102030' });
    expect([next.bitmaps, next.references, next.swatches.length]).toEqual([[bitmap], [reference], 1]);
  });

  it('never holds itself, and nothing that is not flat', () => {
    const held = flat('blank', add(placed('q', 'file')));
    expect(flatSheetOf(held, 'file')!.artworks.map(({ id }) => id)).toEqual(['file-file']);
    const around = { ...held, artworks: held.artworks.map((one) => (one.id === 'file' ? { ...one, nodes: [placed('x', 'blank')] } : one)) };
    expect(documentFault(around)?.message).toMatch(/holds itself/);
    expect(documentFault(flat('blank', add({ ...shape('s'), plane: { kind: 'floor', offset: 0 } })))?.message).toMatch(/lies on its sheet/);
  });

  it('goes with all its placements, on other sheets too', () => {
    const next = applyEdit(flat('blank', add(placed('q', 'file'), shape('s'))), { kind: 'delete-artworks', ids: ['file'] });
    expect(next.nodes).toEqual([]);
    expect(artworkOf(next, 'blank').nodes!.map(({ id }) => id)).toEqual(['s']);
    expect(documentFault(next)).toBeNull();
  });

  it('is copied with what is placed on it, and told from other empty sheets', () => {
    const full = { ...flat('blank', add(placed('q', 'file'))), nodes: [placed('p', 'blank')] };
    let serial = 0;
    const part = partOf(full, ['p']);
    expect(part.artworks.map(({ id }) => id)).toEqual(['file', 'blank']);
    const pasted = pastePart({ ...emptyDocument('e', 'e'), artworks: [{ ...blank, width: 90 }] }, part, () => `n${++serial}`);
    expect(pasted.artworks).toHaveLength(2);
    expect((pasted.artworks[1]!.nodes![0] as PlacementNode).artwork).toBe(pasted.artworks[0]!.id);
    expect(pastePart(full, part, () => `n${++serial}`).artworks).toEqual([]);
  });
});
