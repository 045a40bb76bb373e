import type { SheetPoint } from '../math/points';
import { medianOf } from '../math/robust';
import { sampleGray, type Gray } from './gray';

/** Places at which two photographs are compared, the fewest that tell, and levels between which they do. */
const [COMPARED, FEWEST, DARKEST, BRIGHTEST] = [20_000, 500, 16, 235];
/** Part by which exposures may be measured to differ and are the same. */
const ALIKE = 0.02;

/**
 * How much lighter a first photograph was exposed than a second: the middle of how many times lighter its places are.
 * @param placed where a place of the first lies in the second, as well as that is known
 * @param covered 1 at every px of the second in which something lies that the first has not; null where nothing is covered
 */
export function exposureRatio(first: Gray, second: Gray, placed: (at: SheetPoint) => SheetPoint, covered: Uint8Array | null): number {
  const ratios: number[] = [];
  const step = Math.max(1, Math.sqrt((first.width * first.height) / COMPARED));
  for (let y = step / 2; y < first.height; y += step)
    for (let x = step / 2; x < first.width; x += step) {
      const at = placed({ x, y });
      const [i, j] = [Math.floor(at.x), Math.floor(at.y)];
      if (i < 0 || j < 0 || i >= second.width || j >= second.height || covered?.[j * second.width + i]) continue;
      const [own, other] = [sampleGray(first, x, y), sampleGray(second, at.x, at.y)];
      if (Math.min(own, other) > DARKEST && Math.max(own, other) < BRIGHTEST) ratios.push(own / other);
    }
  const ratio = ratios.length < FEWEST ? 1 : medianOf(ratios);
  return Math.abs(ratio - 1) < ALIKE ? 1 : ratio;
}
