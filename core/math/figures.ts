/** A number for people: at most `digits` decimals, no trailing zeros, a true minus sign, never minus zero. */
export function figure(value: number, digits = 2): string {
  const factor = 10 ** digits;
  const rounded = Math.round(value * factor) / factor;
  if (rounded === 0) return '0';
  return (rounded < 0 ? '\u2212' : '') + String(Math.abs(rounded));
}

/** A measure with its unit after a thin space, such as `62.5 mm`. */
export function measure(value: number, unit: string, digits = 2): string {
  return `${figure(value, digits)}\u2009${unit}`;
}

/** A number for files: at most `digits` decimals, an ordinary minus sign, no exponent, never minus zero. */
export function plainNumber(value: number, digits = 4): string {
  const text = value.toFixed(digits);
  const short = text.includes('.') ? text.replace(/\.?0+$/, '') : text;
  return short === '-0' ? '0' : short;
}

/** Radians from degrees. */
export const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/** Degrees from radians. */
export const degrees = (rad: number): number => (rad * 180) / Math.PI;

/** Sine of an angle in degrees; exact at multiples of 90, so that a plane along the picture stays exactly along it. */
export function sinDeg(deg: number): number {
  const turned = ((deg % 360) + 360) % 360;
  if (turned % 180 === 0) return 0;
  if (turned % 90 === 0) return turned === 90 ? 1 : -1;
  return Math.sin(radians(turned));
}

/** Cosine of an angle in degrees; exact at multiples of 90. */
export const cosDeg = (deg: number): number => sinDeg(deg + 90);
