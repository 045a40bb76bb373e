import { refuse, type Checked } from '../math/errors';
import { readPictureHeader, type PictureHeader } from './read-header';

/** Most px that a browser decodes, and the longest side in px. */
export const MOST_PICTURE_PX = 120_000_000;
export const MOST_PICTURE_SIDE = 30_000;

/** What a picture's file says of itself, as `readPictureHeader`; what is larger than can be decoded is refused with its size. */
export function readBoundedHeader(bytes: Uint8Array): Checked<PictureHeader> {
  const read = readPictureHeader(bytes);
  if (!read.ok) return read;
  const { width, height } = read.value;
  if (width * height <= MOST_PICTURE_PX && Math.max(width, height) <= MOST_PICTURE_SIDE) return read;
  const size = `${width.toLocaleString('en')} × ${height.toLocaleString('en')}\u2009px`;
  return refuse('too-large', '', `It has ${size}; a browser can decode ${MOST_PICTURE_PX / 1e6} megapixels. Make it smaller where it comes from.`);
}
