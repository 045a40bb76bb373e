import type { ImagePlace, ToneTable } from '../artwork/marks';
import { mapBitmap, type PxBox, type Sampling } from './map-bitmap';
import { pxUnder } from './place';
import type { Pyramid } from './pyramid';
import { toneBy } from './tone-table';

/** The px of a bitmap as it is seen in a box of the sheet, in other tones where there are any; nothing where it lies edge-on. */
export function mappedPx(source: Pyramid, place: ImagePlace, box: PxBox, tones: ToneTable | undefined, sampling: Sampling): Uint32Array<ArrayBuffer> {
  const out = new Uint32Array(box.width * box.height);
  const under = pxUnder(place, source);
  if (under) mapBitmap(source, under, box, sampling, out);
  if (tones) toneBy(tones, out);
  return out;
}
