/** Standard deviations of a normal distribution to its median size. */
const OF_MEDIAN = 1.4826;
/** Standard deviations beyond which nothing counts: 95 % as good as least squares where all is chance (Tukey). */
export const TUKEY = 4.685;

/** The value in the middle of a list; 0 of an empty one. */
export function medianOf(values: readonly number[]): number {
  return Float64Array.from(values).sort()[values.length >> 1] ?? 0;
}

/** The standard deviation of values about 0 most of which are chance, by their median size. */
export function spreadOf(values: readonly number[]): number {
  return OF_MEDIAN * medianOf(values.map(Math.abs));
}

/** How much a value counts by Tukey's biweight, 1 to 0, among values of a spread. */
export function tukeyWeight(value: number, spread: number): number {
  const part = value / (TUKEY * spread);
  return Math.abs(part) < 1 ? (1 - part * part) ** 2 : 0;
}
