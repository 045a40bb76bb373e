import { transfer } from 'comlink';
import type { ImageMark, ToneTable } from '../core/artwork/marks';
import { canvasOf, imageOf } from '../app/platform/px-canvas';
import type { LitBy } from '../core/imaging/light-px';
import type { PxBox } from '../core/imaging/map-bitmap';
import { mappedPx } from '../core/imaging/mapped-px';
import { pyramidOf, type Pyramid } from '../core/imaging/pyramid';
import { toneBy } from '../core/imaging/tone-table';
import { offer } from './offer';

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

/** A bitmap by its id, with its bytes where they were not sent before. */
export interface GivenBitmap {
  readonly id: string;
  readonly blob: Blob | null;
}

/** How a bitmap lies, in what tones, and what light lies on it. */
export type ImageLook = Pick<ImageMark, 'place' | 'tones' | 'lights'>;

/** A bitmap as it is seen, with its lights, whose bitmaps come after it; null where one is not known (any more). */
async function seen([bitmap, ...others]: readonly GivenBitmap[], look: ImageLook, box: PxBox): Promise<Uint32Array<ArrayBuffer> | null> {
  const source = bitmap && (await pyramid(bitmap.id, bitmap.blob));
  if (!source) return null;
  const lights: LitBy[] = [];
  for (const [i, light] of (look.lights ?? []).entries()) {
    const given = others[i];
    const picture = given && (await pyramid(given.id, given.blob));
    if (!picture) return null;
    lights.push({ light, picture });
  }
  return mappedPx(source, look, box, 'full', lights);
}

async function pngOf(canvas: OffscreenCanvas): Promise<Uint8Array> {
  const bytes = new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
  return transfer(bytes, [bytes.buffer]);
}

/** Bitmaps as they are seen, away from the page. */
const api = {
  /** @param given the bitmap and those of its lights @returns null where one of them is not known (any more) */
  async map(given: readonly GivenBitmap[], look: ImageLook, box: PxBox): Promise<ImageBitmap | null> {
    const px = await seen(given, look, box);
    if (!px) return null;
    const image = await createImageBitmap(imageOf(px, box.width, box.height));
    return transfer(image, [image]);
  },
  /** The same as a PNG file. */
  async png(given: readonly GivenBitmap[], look: ImageLook, box: PxBox): Promise<Uint8Array | null> {
    const px = await seen(given, look, box);
    return px && pngOf(canvasOf(px, box.width, box.height));
  },
  /** A whole bitmap as a PNG file. */
  async whole({ id, blob }: GivenBitmap, tones: ToneTable | null): Promise<Uint8Array | null> {
    const source = await pyramid(id, blob);
    return source && pngOf(canvasOf(toned(source, tones), source.width, source.height));
  },
};

export type ImagingWorker = typeof api;

offer(api);
