import { flatInk, type GroupMark, type Mark, type PathMark } from '../artwork/marks';
import type { Sheet } from '../document/types';
import { IDENTITY } from '../math/matrix';
import type { Path } from '../shape/path';
import type { HandedSheet } from './handed';

/** A flat calibration lattice: boxes of one size in columns and rows. */
export interface LatticeSettings {
  readonly columns: number;
  readonly rows: number;
  /** Edge of a box in mm. */
  readonly box: number;
}

/** Room around the lattice in mm. */
const MARGIN = 8;

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

/**
 * The lattice as a sheet of its own in true size, with lines in named groups and every crossing numbered row by row
 * from 1 at the top left; the numbers are strokes, so that no font is needed.
 */
export function latticeSheet({ columns, rows, box }: LatticeSettings, unit: Sheet['unit'] = 'mm'): HandedSheet {
  const [width, height] = [columns * box, rows * box];
  const lines = (count: number, along: (i: number) => readonly number[]): Path => ({
    verbs: 'ML'.repeat(count + 1),
    coords: Array.from({ length: count + 1 }, (_, i) => along(i)).flat(),
  });
  const upright = lines(columns, (i) => [MARGIN + i * box, MARGIN, MARGIN + i * box, MARGIN + height]);
  const level = lines(rows, (i) => [MARGIN, MARGIN + i * box, MARGIN + width, MARGIN + i * box]);
  const numbers = Array.from({ length: (columns + 1) * (rows + 1) }, (_, i) => {
    const [x, y] = [MARGIN + (i % (columns + 1)) * box, MARGIN + Math.floor(i / (columns + 1)) * box];
    return numberPath(i + 1, x + box * 0.05, y + box * 0.05, box * 0.026);
  });
  const text: Path = { verbs: numbers.map((p) => p.verbs).join(''), coords: numbers.flatMap((p) => p.coords) };
  const sheet: Sheet = { width: width + 2 * MARGIN, height: height + 2 * MARGIN, unit, resolution: 300, scale: 1, background: '#ffffff' };
  const marks: Mark[] = [
    group('lattice, upright lines', stroke(upright, Math.min(0.35, box * 0.03))),
    group('lattice, level lines', stroke(level, Math.min(0.35, box * 0.03))),
    group('lattice, numbers', stroke(text, box * 0.014)),
  ];
  return { sheet, background: true, marks };
}

function numberPath(number: number, x: number, y: number, scale: number): Path {
  let verbs = '';
  const coords: number[] = [];
  Array.from(String(number)).forEach((digit, place) => {
    for (const line of DIGITS[Number(digit)]!) {
      verbs += 'M' + 'L'.repeat(line.length / 2 - 1);
      line.forEach((value, i) => coords.push(i % 2 === 0 ? x + (place * 5.6 + value) * scale : y + value * scale));
    }
  });
  return { verbs, coords };
}

function stroke(path: Path, width: number): PathMark {
  const line = { ink: flatInk('#1c1723'), width, cap: 'round', join: 'round', miterLimit: 4, dashes: [], pen: IDENTITY } as const;
  return { kind: 'path', path, fill: null, rule: 'nonzero', line };
}

function group(name: string, mark: PathMark): GroupMark {
  return { kind: 'group', node: null, name, clip: null, strength: 1, marks: [mark] };
}
