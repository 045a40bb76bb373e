import { emptyDocument, mapBitmap, PictureMaker, pxUnder, pyramidOf, applyEdit, type CheminDocument, type Pixels, type PlacementNode } from '../core/index';
import { compareSurfaces, findSurface, fitSurface, grayOf, keptFit, practicePlace, practiceSetup, sampleGray, takePractice, type Crossing, type Gray } from '../core/later'; // prettier-ignore
import { randomFrom } from '../core/testing/random';
import { median, type Row } from './measure';

const LATTICE = { columns: 9, rows: 6, box: 12 };

/** A photograph of the practice camera, larger by so many times. */
function enlarged(gray: Gray, k: number): Gray {
  const [width, height] = [gray.width * k, gray.height * k];
  const data = new Float32Array(width * height);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) data[y * width + x] = sampleGray(gray, (x + 0.5) / k - 0.5, (y + 0.5) / k - 0.5);
  return { width, height, data };
}

/** Photographs: crossings among 12 megapixels, fits, artwork of 12 megapixels laid round, and a frame while it is dragged. */
export function photoRows(): Row[] {
  const random = randomFrom(7);
  const wish = { thing: 'funnel', lattice: LATTICE, width: 1000, height: 750, arc: 2, noise: 1.5, blur: 0.7 } as const;
  const setup = practiceSetup(wish, random);
  const large = enlarged(grayOf(takePractice(setup, random).latticed), 4);
  const start = performance.now();
  const found = findSurface(large, LATTICE);
  const crossings = performance.now() - start;
  const note = typeof found === 'string' ? found : `${found.crossings.length} of 70 crossings, once`;

  const many = { columns: 19, rows: 9, box: 6 };
  const seen = practiceSetup({ ...wish, lattice: many, arc: 1.2 }, random);
  const places = Array.from({ length: 200 }, (_, i) => ({ column: i % 20, row: Math.floor(i / 20) })).flatMap(({ column, row }): Crossing[] => {
    const place = practicePlace(seen, column * many.box, row * many.box);
    return place ? [{ column, row, at: place.at, error: 0.05, sure: 1 }] : [];
  });
  const { width, height } = seen.camera;
  const fits = median(() => compareSurfaces(places, many, { width, height }), 3, 1);

  const fit = keptFit(fitSurface('cone', places, many, { width, height })!);
  const side = 3464;
  const pixels: Pixels = { width: side, height: side, data: new Uint8ClampedArray(4 * side * side).fill(200) };
  const pyramid = pyramidOf(pixels);
  const place = { kind: 'photographed', map: [114, 0, 0, 0, 54, 0, 0, 0, 1], fit, after: [4, 0, 0, 4, 0, 0] } as const;
  const [under, roughly] = [pxUnder(place, pixels)!, pxUnder(place, pixels, true)!];
  const whole = { x: 0, y: 0, perPx: 1, width: 4000, height: 3000 };
  const out = new Uint32Array(whole.width * whole.height);
  const mapped = median(() => mapBitmap(pyramid, under, whole, 'full', out), 1, 0);
  const small = { x: 0, y: 0, perPx: 4000 / 260, width: 260, height: 195 };
  const preview = median(() => mapBitmap(pyramid, roughly, small, 'quick', out), 7);
  const memory = (4 * side * side * 2.34 + 4 * out.length) / 1e6;

  const svg = `<svg viewBox="0 0 80 40">${Array.from({ length: 40 }, (_, i) => `<path fill="#20${(i % 90) + 10}40" d="M${(i * 7) % 74} ${(i * 11) % 34}l5 1l-3 4Z"/>`).join('')}</svg>`; // prettier-ignore
  const target = { kind: 'plane', plane: { kind: 'sheet', offset: 0 }, photographed: 'side' } as const;
  const anchor = { at: { a: 2, b: 1, h: 0 }, width: 8, height: 4 };
  const node: PlacementNode = { kind: 'placement', id: 'label', name: 'label', hidden: false, locked: false, artwork: 'art', target, anchor };
  const photo = {
    id: 'photo',
    name: 'photo',
    bitmap: 'bare',
    x: 0,
    y: 0,
    width: 100,
    height: 75,
    surfaces: [{ id: 'side', name: 'side', lattice: many, crossings: [], fit }],
  };
  const document: CheminDocument = {
    ...emptyDocument('d', 'd'),
    artworks: [{ id: 'art', name: 'art', svg, width: 80, height: 40 }],
    bitmaps: [{ id: 'bare', type: 'image/png', width, height, asset: 'a'.repeat(64) }],
    nodes: [node],
    photos: [photo],
  };
  const maker = new PictureMaker();
  let step = 0;
  const dragged = median(() => maker.make(applyEdit(document, { kind: 'move', ids: ['label'], by: { a: (++step % 9) / 8, b: 0, h: 0 } }), 'quick'), 30, 10);
  return [
    { what: 'lattice and surface in a photograph of 12 megapixels', ms: crossings, note },
    { what: '200 crossings: panel, cylinder, cone and patch fitted', ms: fits, note: 'in a worker' },
    { what: '12 megapixels laid round a fitted side: full quality', ms: mapped, note: `in a worker; ${memory.toFixed(0)} MB of source, its sizes and result` },
    { what: 'preview of 260 × 195 px round a fitted side', ms: preview, note: 'wanted within a frame of 16 ms' },
    { what: 'artwork of 40 paths dragged round a fitted side, one frame', ms: dragged, note: 'wanted within a frame of 16 ms' },
  ];
}
