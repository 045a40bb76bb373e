import type { ImageMark } from '../artwork/marks';
import { lightPx, type LitBy } from './light-px';
import { mapBitmap, type PxBox, type Sampling } from './map-bitmap';
import { pxUnder } from './place';
import type { Pyramid } from './pyramid';
import { toneBy } from './tone-table';

/** The px of a bitmap as it is seen in a box of the sheet, in its own tones and light where it has any; nothing where it lies edge-on. */
export function mappedPx(
  source: Pyramid,
  { place, tones }: Pick<ImageMark, 'place' | 'tones'>,
  box: PxBox,
  sampling: Sampling,
  lights: readonly LitBy[] = [],
): Uint32Array<ArrayBuffer> {
  const out = new Uint32Array(box.width * box.height);
  const under = pxUnder(place, source, sampling === 'quick');
  if (under) mapBitmap(source, under, box, sampling, out);
  if (tones) toneBy(tones, out);
  for (const light of lights) lightPx(out, box, light);
  return out;
}
