import { marksBox } from '../artwork/artwork';
import type { GroupMark, ImageMark, Mark } from '../artwork/marks';
import type { PxBox } from '../imaging/map-bitmap';
import { pxBoxOf } from '../imaging/px-box';
import { affineOf } from '../math/matrix';
import { boxPath } from '../shape/path';

/** A bitmap as files take it up. */
export interface HandedImage {
  readonly type: 'image/png' | 'image/jpeg';
  readonly bytes: Uint8Array;
  /** Size in px. */
  readonly width: number;
  readonly height: number;
}

/** Bitmaps by `imageKey`. */
export type HandedImages = ReadonlyMap<string, HandedImage>;

/** What tells the bitmaps of marks apart as files take them up: each once, and once more in other tones. */
export const imageKey = ({ bitmap, tones }: ImageMark): string => (tones ? `${bitmap} ${tones.key}` : bitmap);

/** A bitmap that has to be made as it is seen, and the px of the sheet that it takes. */
export interface MappedWish {
  readonly mark: ImageMark;
  readonly box: PxBox;
}

/** Bitmaps that a file needs: those that it takes up whole, one mark for each, and those that are made as they are seen. */
export interface ImageWishes {
  readonly whole: readonly ImageMark[];
  readonly mapped: readonly MappedWish[];
}

/** All bitmaps among marks, in order. */
export function imagesIn(marks: readonly Mark[]): readonly ImageMark[] {
  return marks.flatMap((mark) => (mark.kind === 'image' ? [mark] : mark.kind === 'group' ? imagesIn(mark.marks) : []));
}

/** Whether a bitmap lies so that a file can hold it whole with a matrix. */
export const liesFlat = ({ place }: ImageMark): boolean => place.kind === 'flat' && affineOf(place.map) !== null;

/**
 * What a file needs of the bitmaps among marks.
 * @param sheet size in mm, beyond which nothing is made
 * @param pxPerMm resolution of those that are made as they are seen
 * @param all whether every one is made as it is seen, also where a matrix would do
 */
export function imagesWanted(marks: readonly Mark[], sheet: { readonly width: number; readonly height: number }, pxPerMm: number, all = false): ImageWishes {
  const whole = new Map<string, ImageMark>();
  const mapped: MappedWish[] = [];
  for (const mark of imagesIn(marks)) {
    if (!all && liesFlat(mark)) {
      whole.set(imageKey(mark), mark);
      continue;
    }
    const box = pxBoxOf(mark, { minX: 0, minY: 0, maxX: sheet.width, maxY: sheet.height }, pxPerMm);
    if (box) mapped.push({ mark, box });
  }
  return { whole: [...whole.values()], mapped };
}

/** Marks with the bitmaps that were made as they are seen in the place of those that they were made of. @param made by mark: the key that the bitmap has among those that are handed over, and its px */
export function withMapped(marks: readonly Mark[], made: ReadonlyMap<ImageMark, { readonly key: string; readonly box: PxBox }>): readonly Mark[] {
  if (made.size === 0) return marks;
  return marks.map((mark): Mark => {
    if (mark.kind === 'group') return { ...mark, marks: withMapped(mark.marks, made) };
    const found = mark.kind === 'image' ? made.get(mark) : undefined;
    if (!found || mark.kind !== 'image') return mark;
    const { x, y, perPx, width, height } = found.box;
    const { kind, path, within } = mark;
    return { kind, path, bitmap: found.key, place: { kind: 'flat', map: [width * perPx, 0, x, 0, height * perPx, y, 0, 0, 1] }, ...(within && { within }) };
  });
}

/** Standard deviations that what is blurred reaches beyond what it is of. */
const BLUR_REACH = 4;

/** A blurred group, and the px of the sheet that it takes. */
export interface BlurredWish {
  readonly group: GroupMark;
  readonly box: PxBox;
}

/** The blurred groups among marks, as pictures take them up for files that have no blur. @param sheet size in mm, beyond which nothing is made */
export function blurredIn(marks: readonly Mark[], sheet: { readonly width: number; readonly height: number }, pxPerMm: number): readonly BlurredWish[] {
  return marks.flatMap((mark): readonly BlurredWish[] => {
    if (mark.kind !== 'group') return [];
    if (!mark.blur) return blurredIn(mark.marks, sheet, pxPerMm);
    const own = marksBox(mark.marks);
    if (!own) return [];
    const room = BLUR_REACH * mark.blur;
    const [minX, minY] = [Math.max(0, own.minX - room), Math.max(0, own.minY - room)];
    const [maxX, maxY] = [Math.min(sheet.width, own.maxX + room), Math.min(sheet.height, own.maxY + room)];
    if (!(minX < maxX && minY < maxY)) return [];
    const box = { x: minX, y: minY, perPx: 1 / pxPerMm, width: Math.ceil((maxX - minX) * pxPerMm), height: Math.ceil((maxY - minY) * pxPerMm) };
    return [{ group: mark, box }];
  });
}

/** Marks with pictures in the place of blurred groups; what strength and blend they have stays with them. @param made by group: the key of its picture among those that are handed over, and its px */
export function withoutBlur(marks: readonly Mark[], made: ReadonlyMap<GroupMark, { readonly key: string; readonly box: PxBox }>): readonly Mark[] {
  if (made.size === 0) return marks;
  return marks.map((mark): Mark => {
    if (mark.kind !== 'group') return mark;
    const found = made.get(mark);
    if (!found) return { ...mark, marks: withoutBlur(mark.marks, made) };
    const { x, y, perPx, width, height } = found.box;
    const path = boxPath({ minX: x, minY: y, maxX: x + width * perPx, maxY: y + height * perPx });
    const { blur: _, ...group } = mark;
    return {
      ...group,
      marks: [{ kind: 'image', bitmap: found.key, path, place: { kind: 'flat', map: [width * perPx, 0, x, 0, height * perPx, y, 0, 0, 1] } }],
    };
  });
}
