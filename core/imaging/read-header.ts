import { refuse, type Checked, type Problem } from '../math/errors';

/** What a picture's file says of itself before anything of it is decoded. */
export interface PictureHeader {
  readonly type: 'image/png' | 'image/jpeg' | 'image/webp';
  /** Size in px as it is meant to be seen. */
  readonly width: number;
  readonly height: number;
  /** It has to be turned or mirrored to be seen as it is meant (Exif 2.3, orientation). */
  readonly turned: boolean;
  /** Its colours are those of four inks, or finer than 8 bits: decoding makes others of them. */
  readonly converted: boolean;
  /** It moves; its first picture is taken. */
  readonly moves: boolean;
}

/**
 * What the first and last bytes of a PNG, JPEG or WebP say, whatever its name; what is none, or is cut short, is refused
 * with the reason. Nothing is decoded.
 */
export function readPictureHeader(bytes: Uint8Array): Checked<PictureHeader> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const starts = (...signature: number[]): boolean => signature.every((value, i) => bytes[i] === value);
  try {
    if (starts(0x89, 0x50, 0x4e, 0x47)) return png(bytes, view);
    if (starts(0xff, 0xd8, 0xff)) return jpeg(bytes, view);
    if (starts(0x52, 0x49, 0x46, 0x46) && text(bytes, 8, 4) === 'WEBP') return webp(bytes, view);
  } catch (error) {
    // Reading beyond the end tells that it ends too early.
    if (!(error instanceof RangeError)) throw error;
    return cutShort();
  }
  const is = KNOWN.find(([signature]) => text(bytes, 0, signature.length) === signature)?.[1];
  return refuse('no-picture', '', is ? `It is ${is}, not a PNG, JPEG or WebP picture.` : 'It is no PNG, JPEG, WebP or SVG picture.');
}

/** What files that are taken for pictures often are. */
const KNOWN: readonly (readonly [string, string])[] = [
  ['GIF8', 'a GIF'],
  ['%PDF', 'a PDF'],
  ['8BPS', 'a layered picture'],
  ['PK', 'an archive'],
  ['II*', 'a TIFF'],
  ['MM', 'a TIFF'],
  ['BM', 'a BMP'],
  ['<', 'a text of markup'],
];

const cutShort = (): Checked<never> => refuse('cut-short', '', 'The file is cut short: it ends before the picture does. Copy it again.');

function text(bytes: Uint8Array, at: number, length: number): string {
  return String.fromCharCode(...bytes.subarray(at, at + length));
}

const made = (value: PictureHeader, notes: readonly Problem[] = []): Checked<PictureHeader> =>
  value.width > 0 && value.height > 0 ? { ok: true, value, notes } : refuse('no-size', '', 'The picture says that it has no size.');

/** PNG (W3C, third edition): chunks of length, name, data and checksum. */
function png(bytes: Uint8Array, view: DataView): Checked<PictureHeader> {
  const [width, height, bits] = [view.getUint32(16), view.getUint32(20), bytes[24]!];
  let moves = false;
  for (let at = 8; ;) {
    const [length, name] = [view.getUint32(at), text(bytes, at + 4, 4)];
    if (name === 'acTL') moves = true;
    if (name === 'IEND') break;
    at += 12 + length;
  }
  return made({ type: 'image/png', width, height, turned: false, converted: bits > 8, moves });
}

/** JPEG (ITU-T T.81, annex B): markers with their lengths up to the scan; Exif tells how it is turned. */
function jpeg(bytes: Uint8Array, view: DataView): Checked<PictureHeader> {
  let orientation = 1;
  for (let at = 2; ;) {
    while (bytes[at] === 0xff && bytes[at + 1] === 0xff) at++;
    const marker = view.getUint16(at);
    const length = view.getUint16(at + 2);
    const frame = marker >= 0xffc0 && marker <= 0xffcf && ![0xffc4, 0xffc8, 0xffcc].includes(marker);
    if (frame) {
      const [bits, height, width, channels] = [bytes[at + 4]!, view.getUint16(at + 5), view.getUint16(at + 7), bytes[at + 9]!];
      if (!endsWithMark(bytes)) return cutShort();
      const across = orientation >= 5;
      return made({ type: 'image/jpeg', width: across ? height : width, height: across ? width : height, turned: orientation !== 1, converted: channels === 4 || bits > 8, moves: false }); // prettier-ignore
    }
    if (marker === 0xffda || marker >> 8 !== 0xff) return refuse('damaged', '', 'The JPEG is damaged: it does not say how large it is.');
    if (marker === 0xffe1 && text(bytes, at + 4, 4) === 'Exif') orientation = orientationOf(view, at + 10) ?? orientation;
    at += 2 + length;
  }
}

/** Bytes at the end of a JPEG among which its end mark is looked for: some programs add to it. */
const TAIL = 65_536;

function endsWithMark(bytes: Uint8Array): boolean {
  for (let at = bytes.length - 2; at >= Math.max(2, bytes.length - TAIL); at--) if (bytes[at] === 0xff && bytes[at + 1] === 0xd9) return true;
  return false;
}

/** The orientation in Exif's first directory, a TIFF that starts here. */
function orientationOf(view: DataView, start: number): number | null {
  const little = view.getUint16(start) === 0x4949;
  const directory = start + view.getUint32(start + 4, little);
  const count = view.getUint16(directory, little);
  for (let i = 0; i < count; i++) {
    const entry = directory + 2 + 12 * i;
    if (view.getUint16(entry, little) !== 0x0112) continue;
    const value = view.getUint16(entry + 8, little);
    return value >= 1 && value <= 8 ? value : null;
  }
  return null;
}

/** WebP (RFC 9649): a RIFF of one simple or an extended picture. */
function webp(bytes: Uint8Array, view: DataView): Checked<PictureHeader> {
  if (view.getUint32(4, true) + 8 > bytes.length + 1) return cutShort();
  const kind = text(bytes, 12, 4);
  const base = { type: 'image/webp', turned: false, converted: false, moves: false } as const;
  if (kind === 'VP8X') {
    const three = (at: number): number => bytes[at]! + (bytes[at + 1]! << 8) + (bytes[at + 2]! << 16);
    view.getUint8(29);
    return made({ ...base, width: three(24) + 1, height: three(27) + 1, moves: (bytes[20]! & 2) !== 0 });
  }
  if (kind === 'VP8L') {
    const packed = view.getUint32(21, true);
    return made({ ...base, width: (packed & 0x3fff) + 1, height: ((packed >> 14) & 0x3fff) + 1 });
  }
  if (kind === 'VP8 ') return made({ ...base, width: view.getUint16(26, true) & 0x3fff, height: view.getUint16(28, true) & 0x3fff });
  return refuse('damaged', '', 'The WebP is damaged: it holds no picture.');
}
