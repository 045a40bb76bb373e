import type { Pixels } from '../math/pixels';
import { exposureRatio } from './exposure';
import { grayOf, type Gray } from './gray';

/** Rounds after which the strongest of three directions is known well enough. */
const ROUNDS = 40;

/**
 * Two photographs as the one mixture of their channels that tells most: the direction along which colours change most
 * from px to px of the first, as strongly as noise allows (principal component of its slopes). The second is brought to the exposure of the first.
 * @param covered 1 at every px that does not count; null where all count
 */
export function tellingGrays(first: Pixels, second: Pixels, covered: Uint8Array | null): readonly [Gray, Gray] {
  const { width, height, data } = first;
  const sums = new Float64Array(9);
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      if (covered?.[i]) continue;
      for (const step of [1, width]) {
        const slope = (c: number): number => data[4 * (i + step) + c]! - data[4 * (i - step) + c]!;
        const [r, g, b] = [slope(0), slope(1), slope(2)];
        sums[0]! += r * r;
        sums[1]! += r * g;
        sums[2]! += r * b;
        sums[4]! += g * g;
        sums[5]! += g * b;
        sums[8]! += b * b;
      }
    }
  [sums[3], sums[6], sums[7]] = [sums[1]!, sums[2]!, sums[5]!];
  let weights = [0.3, 0.6, 0.1];
  for (let round = 0; round < ROUNDS; round++) {
    const next = [0, 1, 2].map((c) => sums[3 * c]! * weights[0]! + sums[3 * c + 1]! * weights[1]! + sums[3 * c + 2]! * weights[2]!);
    const long = Math.hypot(...next);
    // Of what has one tone all over any mixture tells as little.
    if (long === 0) break;
    weights = next.map((value) => value / long);
  }
  const [r, g, b] = weights as [number, number, number];
  // They lie on each other well enough for that: most of a picture is even.
  const gain = exposureRatio(grayOf(first), grayOf(second), (at) => at, covered);
  const mixed = (from: Pixels, times: number): Gray => ({
    width: from.width,
    height: from.height,
    data: Float32Array.from(
      { length: from.width * from.height },
      (_, i) => times * (r * from.data[4 * i]! + g * from.data[4 * i + 1]! + b * from.data[4 * i + 2]!),
    ),
  });
  return [mixed(first, 1), mixed(second, gain)];
}
