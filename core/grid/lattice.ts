/** A flat calibration lattice: boxes of one size in columns and rows. */
export interface LatticeSettings {
  readonly columns: number;
  readonly rows: number;
  /** Edge of a box in mm. */
  readonly box: number;
}

/** Width of a lattice's lines in mm: wide enough to be found in a photograph, thin against its boxes. */
export const latticeLine = ({ box }: LatticeSettings): number => Math.min(0.35, box * 0.03);

/** Digits as pen strokes on a lattice of 4 x 6. */
const DIGITS: readonly (readonly (readonly number[])[])[] = [
  [[0, 0, 4, 0, 4, 6, 0, 6, 0, 0]],
  [
    [0.8, 1.4, 2.4, 0, 2.4, 6],
    [0.8, 6, 4, 6],
  ],
  [[0, 0, 4, 0, 4, 2.8, 0, 6, 4, 6]],
  [
    [0, 0, 4, 0, 4, 6, 0, 6],
    [1, 2.8, 4, 2.8],
  ],
  [[3, 6, 3, 0, 0, 4.2, 4, 4.2]],
  [[4, 0, 0, 0, 0, 2.6, 4, 2.6, 4, 6, 0, 6]],
  [[4, 0, 0, 0, 0, 6, 4, 6, 4, 2.8, 0, 2.8]],
  [[0, 0, 4, 0, 1.6, 6]],
  [
    [0, 0, 4, 0, 4, 6, 0, 6, 0, 0],
    [0, 2.8, 4, 2.8],
  ],
  [[4, 3.2, 0, 3.2, 0, 0, 4, 0, 4, 6, 0, 6]],
];

/** Where a crossing's number begins to the right of it and below, and how large a step of its digits is, in boxes. */
const NUMBER_AT = 0.15;
const NUMBER_STEP = 0.038;
/** Steps from one digit to the next. */
const NUMBER_WAY = 5.6;
/** Width of the digits' strokes in boxes. */
export const NUMBER_LINE = 0.022;

/** The box of a number of so many digits, in boxes from its crossing. */
export function numberBox(digits: number): { readonly left: number; readonly top: number; readonly right: number; readonly bottom: number } {
  const width = ((digits - 1) * NUMBER_WAY + 4) * NUMBER_STEP;
  return { left: NUMBER_AT, top: NUMBER_AT, right: NUMBER_AT + width, bottom: NUMBER_AT + 6 * NUMBER_STEP };
}

/** A number as pen strokes, each a list of x, y in boxes from its crossing, to the right and down. */
export function numberStrokes(number: number): readonly (readonly number[])[] {
  return Array.from(String(number)).flatMap((digit, place) =>
    DIGITS[Number(digit)]!.map((line) => line.map((value, i) => NUMBER_AT + (i % 2 === 0 ? place * NUMBER_WAY + value : value) * NUMBER_STEP)),
  );
}

const strokesOf = new Map<number, readonly (readonly number[])[]>();

/** How far a place lies from the strokes of a number, in boxes. @param x right of its crossing and @param y below it, in boxes */
export function numberDistance(number: number, x: number, y: number): number {
  let strokes = strokesOf.get(number);
  if (!strokes) strokesOf.set(number, (strokes = numberStrokes(number)));
  let least = Infinity;
  for (const line of strokes) for (let i = 0; i + 3 < line.length; i += 2) least = Math.min(least, segmentDistance(x, y, line, i));
  return least;
}

/** How far a place lies from the stretch of a stroke that begins at one of its numbers. */
function segmentDistance(x: number, y: number, line: readonly number[], i: number): number {
  const dx = line[i + 2]! - line[i]!;
  const dy = line[i + 3]! - line[i + 1]!;
  const t = Math.max(0, Math.min(1, ((x - line[i]!) * dx + (y - line[i + 1]!) * dy) / (dx * dx + dy * dy || 1)));
  const ox = x - line[i]! - t * dx;
  const oy = y - line[i + 1]! - t * dy;
  return Math.sqrt(ox * ox + oy * oy);
}
