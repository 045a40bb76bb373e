import type { ImageMark } from '../artwork/marks';
import { pathBox, type PathBox } from '../shape/path';
import type { PxBox } from './map-bitmap';

/** Most px of one bitmap made as it is seen; larger ones are made coarser. */
const MOST_PX = 60_000_000;

/** The px of a bitmap that are seen within bounds of the sheet, with one more on each side for its edge; null where there are none. */
export function pxBoxOf(mark: ImageMark, bounds: PathBox, pxPerMm: number, mostPx = MOST_PX): PxBox | null {
  const own = pathBox(mark.path);
  if (!own) return null;
  const { within } = mark;
  const most = (key: 'minX' | 'minY'): number => Math.max(own[key], bounds[key], within?.[key] ?? -Infinity);
  const least = (key: 'maxX' | 'maxY'): number => Math.min(own[key], bounds[key], within?.[key] ?? Infinity);
  const [minX, minY, maxX, maxY] = [most('minX'), most('minY'), least('maxX'), least('maxY')];
  if (!(minX < maxX && minY < maxY)) return null;
  const k = Math.min(pxPerMm, Math.sqrt(mostPx / ((maxX - minX) * (maxY - minY))));
  const [left, top] = [Math.floor(minX * k) - 1, Math.floor(minY * k) - 1];
  return { x: left / k, y: top / k, perPx: 1 / k, width: Math.ceil(maxX * k) + 1 - left, height: Math.ceil(maxY * k) + 1 - top };
}
