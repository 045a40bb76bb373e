import type { ToneTable } from '../artwork/marks';

/** Changes colours in place as a table has them, px of `mapBitmap`; between places of the table they lie on straight lines. */
export function toneBy({ size, rgb }: ToneTable, px: Uint32Array): void {
  const step = (size - 1) / 255;
  let [last, made] = [-1, 0];
  const part = new Float64Array(3);
  for (let n = 0; n < px.length; n++) {
    const p = px[n]!;
    if (p >>> 24 === 0) continue;
    // Neighbours often have one colour.
    if ((p & 0xffffff) !== last) {
      last = p & 0xffffff;
      const [r, g, b] = [(p & 255) * step, ((p >>> 8) & 255) * step, ((p >>> 16) & 255) * step];
      const [i, j, k] = [Math.min(size - 2, r | 0), Math.min(size - 2, g | 0), Math.min(size - 2, b | 0)];
      const [fr, fg, fb] = [r - i, g - j, b - k];
      part.fill(0);
      for (let corner = 0; corner < 8; corner++) {
        const [di, dj, dk] = [corner >> 2, (corner >> 1) & 1, corner & 1];
        const weight = (di ? fr : 1 - fr) * (dj ? fg : 1 - fg) * (dk ? fb : 1 - fb);
        const at = 3 * (((i + di) * size + j + dj) * size + k + dk);
        for (let c = 0; c < 3; c++) part[c] = part[c]! + weight * rgb[at + c]!;
      }
      made = ((part[2]! + 0.5) << 16) | ((part[1]! + 0.5) << 8) | (part[0]! + 0.5);
    }
    px[n] = ((p & 0xff000000) | made) >>> 0;
  }
}
