import type { ImageLight, ImageMark } from '../artwork/marks';
import { applyAffine, invertAffine } from '../math/matrix';
import type { PxBox } from './map-bitmap';
import type { Pyramid } from './pyramid';

/** A light with the px of its picture. */
export interface LitBy {
  readonly light: ImageLight;
  readonly picture: Pick<Pyramid, 'width' | 'height' | 'straight'>;
}

/** The lights of a bitmap whose pictures are there. @param picture by the id of its bitmap */
export const litBy = ({ lights = [] }: Pick<ImageMark, 'lights'>, picture: (bitmap: string) => LitBy['picture'] | null): readonly LitBy[] =>
  lights.flatMap((light) => {
    const found = picture(light.bitmap);
    return found ? [{ light, picture: found }] : [];
  });

/** What a level becomes under another, 0 to 255 (W3C Compositing 1, 10.1). */
const MIXED: Readonly<Record<ImageLight['blend'], (below: number, above: number) => number>> = {
  multiply: (below, above) => (below * above) / 255,
  screen: (below, above) => below + above - (below * above) / 255,
  overlay: (below, above) => (below <= 127.5 ? (2 * below * above) / 255 : 255 - (2 * (255 - below) * (255 - above)) / 255),
};

/**
 * Lays a light over px of `mapBitmap`, in place: each as strongly as it covers, so that what lets through what lies behind
 * is not darkened twice. Between the px of the light's picture it is interpolated; beyond it nothing changes.
 */
export function lightPx(out: Uint32Array, box: PxBox, { light, picture }: LitBy): void {
  const { width: wide, height: high, straight } = picture;
  const back = invertAffine(light.map);
  if (!back) return;
  const mixed = MIXED[light.blend];
  // From px of the box to px of the picture.
  const [a, b, c, d] = [back[0] * box.perPx * wide, back[1] * box.perPx * high, back[2] * box.perPx * wide, back[3] * box.perPx * high];
  const first = applyAffine(back, box.x, box.y);
  const [left, top] = [first.x * wide, first.y * high];
  for (let j = 0; j < box.height; j++)
    for (let i = 0; i < box.width; i++) {
      const at = j * box.width + i;
      const p = out[at]!;
      const x = left + (i + 0.5) * a + (j + 0.5) * c;
      const y = top + (i + 0.5) * b + (j + 0.5) * d;
      if (p >>> 24 === 0 || x < 0 || x > wide || y < 0 || y > high) continue;
      const gx = Math.max(0, Math.min(wide - 1, x - 0.5));
      const gy = Math.max(0, Math.min(high - 1, y - 0.5));
      const [column, row] = [Math.floor(gx), Math.floor(gy)];
      const [fx, fy] = [gx - column, gy - row];
      const k = row * wide + column;
      const across = column + 1 < wide ? 1 : 0;
      const down = row + 1 < high ? wide : 0;
      const [one, two, three, four] = [straight[k]!, straight[k + across]!, straight[k + down]!, straight[k + down + across]!];
      let made = p & 0xff000000;
      for (let shift = 0; shift < 24; shift += 8) {
        const upper = ((one >>> shift) & 255) * (1 - fx) + ((two >>> shift) & 255) * fx;
        const lower = ((three >>> shift) & 255) * (1 - fx) + ((four >>> shift) & 255) * fx;
        const below = (p >>> shift) & 255;
        made |= (below + light.share * (mixed(below, upper * (1 - fy) + lower * fy) - below) + 0.5) << shift;
      }
      out[at] = made >>> 0;
    }
}
