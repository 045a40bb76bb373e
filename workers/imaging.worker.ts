import { expose, transfer } from 'comlink';
import type { ImagePlace, ToneTable } from '../core/artwork/marks';
import { canvasOf, imageOf } from '../app/platform/px-canvas';
import type { PxBox } from '../core/imaging/map-bitmap';
import { mappedPx } from '../core/imaging/mapped-px';
import { pyramidOf, type Pyramid } from '../core/imaging/pyramid';
import { toneBy } from '../core/imaging/tone-table';

/** Most px of bitmaps that are kept decoded; the one that was needed longest ago goes first. */
const MOST_PX = 80_000_000;

const known = new Map<string, Pyramid>();

async function decoded(blob: Blob): Promise<Pyramid> {
  const image = await createImageBitmap(blob, { imageOrientation: 'from-image' });
  const canvas = new OffscreenCanvas(image.width, image.height);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('the browser gave no canvas to draw on');
  context.drawImage(image, 0, 0);
  image.close();
  return pyramidOf(context.getImageData(0, 0, canvas.width, canvas.height));
}

/** A bitmap's sizes, decoded where its bytes are given; null where it is not known (any more). */
async function pyramid(id: string, blob: Blob | null): Promise<Pyramid | null> {
  const found = known.get(id) ?? (blob && (await decoded(blob)));
  if (!found) return null;
  known.delete(id);
  known.set(id, found);
  let px = [...known.values()].reduce((sum, { width, height }) => sum + width * height, 0);
  for (const [other, { width, height }] of known) {
    if (px <= MOST_PX || other === id) break;
    known.delete(other);
    px -= width * height;
  }
  return found;
}

/** A whole bitmap in other tones. */
function toned({ straight }: Pyramid, tones: ToneTable | null): Uint32Array<ArrayBuffer> {
  const out = new Uint32Array(straight);
  if (tones) toneBy(tones, out);
  return out;
}

/** Bitmaps as they are seen, away from the page. */
const api = {
  /** @param blob its bytes, or null where they were sent before @returns null where the bitmap is not known (any more) */
  async map(id: string, blob: Blob | null, place: ImagePlace, box: PxBox, tones: ToneTable | null): Promise<ImageBitmap | null> {
    const source = await pyramid(id, blob);
    if (!source) return null;
    const image = await createImageBitmap(imageOf(mappedPx(source, place, box, tones ?? undefined, 'full'), box.width, box.height));
    return transfer(image, [image]);
  },
  /** The same as a PNG file; the whole bitmap without a place. */
  async png(id: string, blob: Blob | null, place: ImagePlace | null, box: PxBox | null, tones: ToneTable | null): Promise<Uint8Array | null> {
    const source = await pyramid(id, blob);
    if (!source) return null;
    const canvas =
      place && box
        ? canvasOf(mappedPx(source, place, box, tones ?? undefined, 'full'), box.width, box.height)
        : canvasOf(toned(source, tones), source.width, source.height);
    const bytes = new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
    return transfer(bytes, [bytes.buffer]);
  },
};

export type ImagingWorker = typeof api;

expose(api);
