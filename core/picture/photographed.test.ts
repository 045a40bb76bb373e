import type { ImageMark, Mark } from '../artwork/marks';
import { applyEdit } from '../document/edits';
import { documentFault } from '../document/gate';
import { emptyDocument, type CheminDocument, type PlacementNode } from '../document/types';
import { pxUnder } from '../imaging/place';
import { practicePlace } from '../photo/practice';
import type { Crossing } from '../photo/find-crossings';
import { fitSurface } from '../photo/fit-surface';
import { keptFit, openedFit } from '../photo/kept-fit';
import { photoSide } from '../photo/photo-side';
import { placesUnder } from '../photo/side-field';
import { PRACTICE_LATTICE } from '../photo/practice-setups';
import { practiceOf } from '../testing/practice';
import { pathBox } from '../shape/path';
import { PictureMaker } from './picture';

const { columns, rows, box } = PRACTICE_LATTICE;
/** mm of the sheet to a px. */
const PX = 0.25;
const CELL = 8;

/** A funnel as the practice camera sees it, its crossings where they are, and the fit of these. */
function funnel(seed = 4) {
  const { setup } = practiceOf(seed);
  const crossings = Array.from({ length: (columns + 1) * (rows + 1) }, (_, k) => ({ column: k % (columns + 1), row: Math.floor(k / (columns + 1)) })).flatMap(
    ({ column, row }): Crossing[] => {
      const place = practicePlace(setup, column * box, row * box);
      return place && place.angle > 0.3 ? [{ column, row, at: place.at, error: 0.05, sure: 1 }] : [];
    },
  );
  const { width, height } = setup.camera;
  const fit = keptFit(fitSurface('cone', crossings, PRACTICE_LATTICE, { width, height })!);
  return { setup, crossings, fit, width, height };
}

function drawing({ crossings, fit, width, height }: ReturnType<typeof funnel>, svg: string, more: Partial<PlacementNode> = {}, light = false): CheminDocument {
  const part = { bitmap: 'shade', x: 0, y: 0, width, height };
  const surface = {
    id: 'band',
    name: 'band',
    lattice: PRACTICE_LATTICE,
    crossings: crossings.map(({ column, row, at, error }) => ({ column, row, ...at, error })),
    fit,
    ...(light && { light: { shade: part, shadeStrength: 0.8, gloss: part, glossStrength: 0 } }),
  };
  const anchor = { at: { a: (2 * box) / CELL, b: box / CELL, h: 0 }, width: (4 * box) / CELL, height: (3 * box) / CELL };
  const target = { kind: 'plane', plane: { kind: 'sheet', offset: 0 }, photographed: 'band' } as const;
  const node: PlacementNode = { kind: 'placement', id: 'label', name: 'label', hidden: false, locked: false, artwork: 'art', target, anchor, ...more };
  const asset = 'a'.repeat(64);
  return {
    ...emptyDocument('d', 'd'),
    artworks: [{ id: 'art', name: 'art', svg, width: 40, height: 30 }],
    bitmaps: ['bare', 'shade', 'art'].map((id) => ({ id, asset, type: 'image/png', width, height })),
    nodes: [node],
    photos: [{ id: 'photo', name: 'funnel', bitmap: 'bare', x: 10, y: 5, width: width * PX, height: height * PX, surfaces: [surface] }],
  };
}

const SQUARE = '<svg viewBox="0 0 40 30"><path fill="#123456" d="M0 0L40 0L40 30L0 30Z"/></svg>';
const flat = (marks: readonly Mark[]): readonly Mark[] => marks.flatMap((mark) => (mark.kind === 'group' ? [mark, ...flat(mark.marks)] : [mark]));

describe('artwork on a photographed surface', () => {
  it('lies where the thing has it, in true size, its corners within a tenth of a px', () => {
    const there = funnel();
    const document = drawing(there, SQUARE);
    expect(documentFault(document)).toBeNull();
    const picture = new PictureMaker().make(document);
    const [photo, label] = [picture.marks[0]!, picture.marks.find(({ node }) => node === 'label')!];
    expect(flat([photo]).some((mark) => mark.kind === 'image' && mark.bitmap === 'bare')).toBe(true);
    const path = flat([label]).find((mark) => mark.kind === 'path')!;
    const { coords } = (path as Extract<Mark, { kind: 'path' }>).path;
    for (const [u, v] of [[2, 1], [6, 1], [6, 4], [2, 4]] as const) {
      const { at } = practicePlace(there.setup, u * box, v * box)!;
      const [x, y] = [10 + at.x * PX, 5 + at.y * PX];
      const nearest = Math.min(...Array.from({ length: coords.length / 2 }, (_, i) => Math.hypot(coords[2 * i]! - x, coords[2 * i + 1]! - y)));
      expect(nearest / PX).toBeLessThan(0.1);
    } // prettier-ignore
    expect(picture.visible.find(({ node }) => node === 'label')!.polygon.length).toBeGreaterThan(8);
  });

  it('is found again under what is shown, for bitmaps too', () => {
    const there = funnel();
    const side = photoSide(there.fit);
    const [left, right] = side.limits(30);
    for (let i = 1; i < 20; i++) {
      const u = left + ((right - left) * i) / 20;
      const at = side.shown(u, 30)!;
      const place = side.under(at.x, at.y)!;
      expect(Math.hypot(place.u - u, place.v - 30)).toBeLessThan(0.01);
    }
    const document = { ...drawing(there, ''), artworks: [{ id: 'art', name: 'art', svg: '', bitmap: 'art', width: 40, height: 30 }] };
    const image = flat(new PictureMaker().make(document).marks).find((mark): mark is ImageMark => mark.kind === 'image' && mark.bitmap === 'art')!;
    const under = pxUnder(image.place, { width: 400, height: 300 })!;
    const { at } = practicePlace(there.setup, 4 * box, 2.5 * box)!;
    const out = new Float64Array(2);
    under(10 + at.x * PX, 5 + at.y * PX, out, 0);
    expect(Math.abs(out[0]! - 200)).toBeLessThan(1);
    expect(Math.abs(out[1]! - 150)).toBeLessThan(1);
    // Between the corners of a grid as well as at the rim it is what is shown there, within a tenth of a px of the photograph.
    const fast = placesUnder(there.fit);
    for (let i = 1; i < 40; i++) {
      const [from, to] = side.limits(33);
      const u = from + ((to - from) * i) / 40;
      const px = side.shown(u, 33)!;
      fast(px.x, px.y, out, 0);
      const back = side.shown(out[0]!, out[1]!)!;
      expect(Math.hypot(back.x - px.x, back.y - px.y)).toBeLessThan(0.1);
    }
  });

  it('ends at the rim of what is turned away, and goes on beyond the lattice before', () => {
    const there = funnel();
    const anchor = { at: { a: -100, b: box / CELL, h: 0 }, width: 200, height: 5 };
    const label = new PictureMaker().make(drawing(there, SQUARE, { anchor })).marks.find(({ node }) => node === 'label')!;
    const paths = flat([label]).flatMap((mark) => (mark.kind === 'path' ? [mark.path] : []));
    const own = pathBox(paths[0]!)!;
    const [left, right] = [practicePlace(there.setup, 0, 2 * box)!, practicePlace(there.setup, columns * box, 2 * box)];
    expect(own.minX).toBeLessThan(10 + left.at.x * PX + 0.5);
    expect(Number.isFinite(own.maxX)).toBe(true);
    if (right) expect(own.maxX).toBeGreaterThan(10 + right.at.x * PX - 0.5);
  });

  it('is multiplied with the light where it covers, and nowhere else', () => {
    const there = funnel();
    const half = '<svg viewBox="0 0 40 30"><path fill="#123456" d="M0 0L20 0L20 30L0 30Z"/></svg>';
    const label = new PictureMaker().make(drawing(there, half, {}, true)).marks.find(({ node }) => node === 'label')!;
    const shade = flat([label]).find((mark) => mark.kind === 'group' && mark.blend === 'multiply') as Extract<Mark, { kind: 'group' }>;
    expect(shade.strength).toBe(0.8);
    const [clip, fill] = [pathBox(shade.clip!.path)!, pathBox((flat([label]).find((mark) => mark.kind === 'path') as Extract<Mark, { kind: 'path' }>).path)!];
    for (const key of ['minX', 'minY', 'maxX', 'maxY'] as const) expect(Math.abs(clip[key] - fill[key])).toBeLessThan(0.02);
    // Highlights without strength are not painted.
    expect(flat([label]).filter((mark) => mark.kind === 'group' && mark.blend === 'screen')).toEqual([]);
  });

  it('is lit in its own order: bitmaps on their px alone, what lets through not at all, what is multiplied not again', () => {
    const there = funnel();
    const picture = (more: Partial<PlacementNode>, svg: string, bitmap = false): readonly Mark[] => {
      const document = drawing(there, svg, more, true);
      const artworks = bitmap ? [{ id: 'art', name: 'art', svg: '', bitmap: 'art', width: 40, height: 30 }] : document.artworks;
      return flat([new PictureMaker().make({ ...document, artworks }).marks.find(({ node }) => node === 'label')!]);
    };
    const shades = (marks: readonly Mark[]): number => marks.filter((mark) => mark.kind === 'group' && mark.blend === 'multiply').length;
    const image = picture({}, '', true);
    const own = image.find((mark): mark is ImageMark => mark.kind === 'image' && mark.bitmap === 'art')!;
    expect(own.lights).toEqual([{ bitmap: 'shade', map: [there.width * PX, 0, 0, there.height * PX, 10, 5], share: 0.8, blend: 'multiply' }]);
    expect(shades(image)).toBe(0);
    const glass = '<svg viewBox="0 0 40 30"><path fill="#123456" fill-opacity="0.5" d="M0 0L40 0L40 30L0 30Z"/></svg>';
    expect(shades(picture({}, glass))).toBe(0);
    expect(shades(picture({}, SQUARE))).toBe(1);
    expect(shades(picture({ blend: 'multiply' }, SQUARE))).toBe(1);
    // Grain lies on bitmaps as on everything else.
    const grained = (bitmap: boolean): readonly Mark[] => {
      const document = drawing(there, SQUARE, {}, true);
      const photos = document.photos!.map((photo) => ({ ...photo, surfaces: photo.surfaces.map((surface) => ({ ...surface, light: { ...surface.light!, grain: surface.light!.shade } })) })); // prettier-ignore
      const artworks = bitmap ? [{ id: 'art', name: 'art', svg: '', bitmap: 'art', width: 40, height: 30 }] : document.artworks;
      return flat([new PictureMaker().make({ ...document, photos, artworks }).marks.find(({ node }) => node === 'label')!]);
    };
    const lights = grained(true).flatMap((mark) => (mark.kind === 'image' ? (mark.lights ?? []) : []));
    expect(lights.map(({ blend }) => blend)).toEqual(['multiply', 'overlay']);
    expect(grained(false).flatMap((mark) => (mark.kind === 'group' && mark.blend ? [mark.blend] : []))).toEqual(['multiply', 'overlay']);
    // Thinned as one with its light.
    const thin = picture({ strength: 0.4 }, SQUARE).find((mark) => mark.kind === 'group' && mark.strength === 0.4);
    expect(shades(flat((thin as Extract<Mark, { kind: 'group' }>).marks))).toBe(1);
  });

  it('is as soft as the photograph where that is asked for, less what a px has itself', () => {
    const there = funnel();
    const document = drawing(there, SQUARE, {}, true);
    const photos = document.photos!.map((photo) => ({ ...photo, surfaces: photo.surfaces.map((surface) => ({ ...surface, light: { ...surface.light!, blur: 1.5 } })) })); // prettier-ignore
    expect(documentFault({ ...document, photos })).toBeNull();
    const label = new PictureMaker().make({ ...document, photos }).marks.find(({ node }) => node === 'label')!;
    const soft = flat([label]).filter((mark): mark is Extract<Mark, { kind: 'group' }> => mark.kind === 'group' && mark.blur !== undefined);
    expect(soft).toHaveLength(1);
    expect(soft[0]!.blur! / PX).toBeCloseTo(Math.sqrt(1.5 ** 2 - 1 / 12), 9);
    expect(soft[0]!.clip).toBeNull();
  });

  it('stays on its surface when it is moved, in cells of its sheet', () => {
    const there = funnel();
    const document = drawing(there, SQUARE);
    const moved = applyEdit(document, { kind: 'move', ids: ['label'], by: { a: box / CELL, b: 0, h: 0 } });
    const [before, after] = [document, moved].map((one) => new PictureMaker().make(one).visible.find(({ node }) => node === 'label')!.polygon);
    const { at } = practicePlace(there.setup, 3 * box, box)!;
    // The corner from which it is drawn.
    const off = (polygon: ArrayLike<number>): number => Math.hypot(polygon[0]! - 10 - at.x * PX, polygon[1]! - 5 - at.y * PX) / PX;
    expect(off(after!)).toBeLessThan(0.2);
    expect(off(before!)).toBeGreaterThan(5);
    const target = (one: CheminDocument): unknown => (one.nodes[0] as PlacementNode).target;
    for (const edit of [{ kind: 'recount', cell: 4 }, { kind: 'name', id: 'label', name: 'x' }] as const) expect(target(applyEdit(document, edit))).toEqual(target(document)); // prettier-ignore
  });

  it('waits where its surface is gone, and a fit is opened with its misses again', () => {
    const there = funnel();
    const document = drawing(there, SQUARE);
    const gone = { ...document, photos: [] };
    expect(documentFault(gone)).toBeNull();
    expect(new PictureMaker().make(gone).marks.some(({ node }) => node === 'label')).toBe(false);
    const opened = openedFit(there.fit, document.photos![0]!.surfaces[0]!.crossings)!;
    expect(opened.misses).toHaveLength(there.crossings.length);
    expect(opened.largest).toBeLessThan(0.05);
  });
});
