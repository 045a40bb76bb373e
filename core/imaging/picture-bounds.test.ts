import { finePng } from '../testing/odd-pictures';
import { MOST_PICTURE_SIDE, readBoundedHeader } from './picture-bounds';

/** A PNG that says that it is of another size. */
function saying(width: number, height: number): Uint8Array {
  const bytes = Uint8Array.from(finePng(2, [1, 2, 3]));
  const view = new DataView(bytes.buffer);
  view.setUint32(16, width);
  view.setUint32(20, height);
  return bytes;
}

describe('the bounds of pictures', () => {
  it('let through what a browser can decode, and tell the size of what it cannot', () => {
    expect(readBoundedHeader(saying(9000, 9000)).ok).toBe(true);
    const sizes = [[30_000, 30_000], [MOST_PICTURE_SIDE + 1, 1], [11_000, 11_000]] as const; // prettier-ignore
    for (const [width, height] of sizes) {
      const read = readBoundedHeader(saying(width, height));
      expect(read.ok ? '' : read.problems[0]!.message).toContain(`${width.toLocaleString('en')} × ${height.toLocaleString('en')}`);
    }
    expect(readBoundedHeader(new Uint8Array(9)).ok).toBe(false);
  });
});
