import { PNG } from 'pngjs';
import { readPictureHeader } from './read-header';

const of = (...parts: (string | number[])[]): Uint8Array =>
  Uint8Array.from(parts.flatMap((part) => (typeof part === 'string' ? Array.from(part, (c) => c.charCodeAt(0)) : part)));

/** A JPEG as far as its frame, with an orientation. */
function jpeg(width: number, height: number, channels: number, orientation: number, end = [0xff, 0xd9]): Uint8Array {
  const exif = [...of('Exif'), 0, 0, ...of('MM'), 0, 42, 0, 0, 0, 8, 0, 1, 0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, orientation, 0, 0];
  const two = (n: number): number[] => [n >> 8, n & 255];
  const frame = [8, ...two(height), ...two(width), channels, ...Array.from({ length: 3 * channels }, () => 1)];
  return of([0xff, 0xd8, 0xff, 0xe1], two(exif.length + 2), exif, [0xff, 0xc0], two(frame.length + 2), frame, [0xff, 0xda, 0, 2, 9, 9], end);
}

function png(width: number, height: number): Uint8Array {
  return new Uint8Array(PNG.sync.write(new PNG({ width, height })));
}

describe('the header of a picture', () => {
  it('tells the size of PNG, JPEG and WebP, whatever they are called', () => {
    expect(readPictureHeader(png(7, 5))).toMatchObject({ ok: true, value: { type: 'image/png', width: 7, height: 5, turned: false, moves: false } });
    expect(readPictureHeader(jpeg(30_000, 20_000, 3, 1))).toMatchObject({ ok: true, value: { width: 30_000, height: 20_000, converted: false } });
    const riff = (kind: string, data: number[]): Uint8Array => of('RIFF', [data.length + 12, 0, 0, 0], 'WEBP', kind, [data.length, 0, 0, 0], data);
    expect(readPictureHeader(riff('VP8X', [2, 0, 0, 0, 99, 0, 0, 49, 0, 0]))).toMatchObject({ ok: true, value: { width: 100, height: 50, moves: true } });
    expect(readPictureHeader(riff('VP8L', [0x2f, 99, 0x40, 12, 0, 0]))).toMatchObject({ ok: true, value: { type: 'image/webp', width: 100, height: 50 } });
    expect(readPictureHeader(riff('VP8 ', [0, 0, 0, 0x9d, 1, 0x2a, 100, 0, 50, 0]))).toMatchObject({ ok: true, value: { width: 100, height: 50 } });
  });

  it('tells that a picture is to be turned, holds inks, or has finer colours', () => {
    expect(readPictureHeader(jpeg(300, 200, 3, 6))).toMatchObject({ ok: true, value: { width: 200, height: 300, turned: true } });
    expect(readPictureHeader(jpeg(300, 200, 4, 1))).toMatchObject({ ok: true, value: { turned: false, converted: true } });
    const fine = png(3, 3);
    fine[24] = 16;
    expect(readPictureHeader(fine)).toMatchObject({ ok: true, value: { converted: true } });
  });

  it('refuses what is cut short, is something else, or has no size, each with its words', () => {
    const words = (bytes: Uint8Array): string => {
      const read = readPictureHeader(bytes);
      return read.ok ? '' : read.problems[0]!.message;
    };
    expect(words(png(40, 40).subarray(0, 60))).toMatch(/cut short/);
    expect(words(jpeg(300, 200, 3, 1, []))).toMatch(/cut short/);
    expect(words(jpeg(300, 200, 3, 1).subarray(0, 20))).toMatch(/cut short/);
    expect(words(of('RIFF', [200, 0, 0, 0], 'WEBPVP8X', [10, 0, 0, 0, 0, 0, 0, 0, 9, 0, 0, 9, 0, 0]))).toMatch(/cut short/);
    expect(words(of('GIF89a and more'))).toMatch(/is a GIF, not/);
    expect(words(of('%PDF-1.7'))).toMatch(/is a PDF, not/);
    expect(words(of('<html>'))).toMatch(/a text of markup/);
    expect(words(of('nothing of the kind'))).toMatch(/no PNG/);
    expect(words(jpeg(0, 200, 3, 1))).toMatch(/no size/);
  });

  it('reads any bytes without failing', () => {
    const whole = [png(20, 20), jpeg(30, 20, 3, 8)];
    for (const bytes of whole)
      for (let at = 0; at < bytes.length; at++) {
        const changed = bytes.slice();
        changed[at] = changed[at]! ^ 0x55;
        expect(typeof readPictureHeader(changed).ok).toBe('boolean');
        expect(typeof readPictureHeader(bytes.subarray(0, at)).ok).toBe('boolean');
      }
  });
});
