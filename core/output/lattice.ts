import { flatInk, type GroupMark, type Mark, type PathMark } from '../artwork/marks';
import type { Sheet } from '../document/types';
import { IDENTITY } from '../math/matrix';
import type { Path } from '../shape/path';
import { latticeLine, NUMBER_LINE, numberBox, numberStrokes, type LatticeSettings } from '../grid/lattice';
import type { HandedSheet } from './handed';

/** Room around the lattice in mm, its last numbers in it. */
const roomOf = ({ columns, rows, box }: LatticeSettings): number =>
  Math.max(8, Math.ceil(numberBox(String((columns + 1) * (rows + 1)).length).right * box) + 1);

/**
 * The lattice as a sheet of its own in true size, with lines in named groups and every crossing numbered row by row
 * from 1 at the top left; the numbers are strokes, so that no font is needed.
 */
export function latticeSheet(lattice: LatticeSettings, unit: Sheet['unit'] = 'mm'): HandedSheet {
  const { columns, rows, box } = lattice;
  const room = roomOf(lattice);
  const [width, height] = [columns * box, rows * box];
  const lines = (count: number, along: (i: number) => readonly number[]): Path => ({
    verbs: 'ML'.repeat(count + 1),
    coords: Array.from({ length: count + 1 }, (_, i) => along(i)).flat(),
  });
  const upright = lines(columns, (i) => [room + i * box, room, room + i * box, room + height]);
  const level = lines(rows, (i) => [room, room + i * box, room + width, room + i * box]);
  const numbers = Array.from({ length: (columns + 1) * (rows + 1) }, (_, i) => {
    const [x, y] = [room + (i % (columns + 1)) * box, room + Math.floor(i / (columns + 1)) * box];
    return numberPath(i + 1, x, y, box);
  });
  const text: Path = { verbs: numbers.map((p) => p.verbs).join(''), coords: numbers.flatMap((p) => p.coords) };
  const sheet: Sheet = { width: width + 2 * room, height: height + 2 * room, unit, resolution: 300, scale: 1, background: '#ffffff' };
  const marks: Mark[] = [
    group('lattice, upright lines', stroke(upright, latticeLine(lattice))),
    group('lattice, level lines', stroke(level, latticeLine(lattice))),
    group('lattice, numbers', stroke(text, box * NUMBER_LINE)),
  ];
  return { sheet, background: true, marks };
}

function numberPath(number: number, x: number, y: number, box: number): Path {
  const strokes = numberStrokes(number);
  return {
    verbs: strokes.map((line) => 'M' + 'L'.repeat(line.length / 2 - 1)).join(''),
    coords: strokes.flatMap((line) => line.map((value, i) => (i % 2 === 0 ? x : y) + value * box)),
  };
}

function stroke(path: Path, width: number): PathMark {
  const line = { ink: flatInk('#1c1723'), width, cap: 'round', join: 'round', miterLimit: 4, dashes: [], pen: IDENTITY } as const;
  return { kind: 'path', path, fill: null, rule: 'nonzero', line };
}

function group(name: string, mark: PathMark): GroupMark {
  return { kind: 'group', node: null, name, clip: null, strength: 1, marks: [mark] };
}
