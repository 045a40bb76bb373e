import { exactCells } from '../math/exact';
import type { PlanePoint } from '../math/points';
import type { Outline } from '../shape/outline';
import type { LinePlace } from '../shape/walk';
import { textPlace } from './baseline';
import { MOST_LETTERS, type Lettering } from './lettering';

/** A letter, or letters that are drawn as one, in cells from where the text begins, v up. */
export interface LaidLetter {
  /** What it stands for. */
  readonly text: string;
  readonly outlines: readonly Outline[];
  /** Of text around a round side, whose letters begin at their own middles: where that lies along the line, half the letter's width, and how far up. */
  readonly seat?: { readonly middle: number; readonly half: number; readonly rise: number };
}

/** Text as it is drawn. */
export interface LaidText {
  readonly letters: readonly LaidLetter[];
  /** What the font has no glyph for, each once. */
  readonly missing: readonly string[];
}

/** Scripts whose letters are joined or stacked in ways that the shaper does not do. */
const COMPLEX = /[\u0590-\u08ff\u0900-\u0dff\u0e00-\u0eff\u1000-\u109f\u1780-\u17ff]/u;

/** Text that a font is asked for which it cannot draw rightly, in words; null where it can. */
export function textFault(text: string): string | null {
  const length = [...text].length;
  if (length > MOST_LETTERS) return `A lettering has at most ${MOST_LETTERS.toLocaleString('en')} letters; this text has ${length.toLocaleString('en')}.`;
  const complex = COMPLEX.exec(text);
  return complex ? `“${complex[0]}” belongs to a script whose letters change with their neighbours, which is not drawn yet.` : null;
}

/** Where a line begins, by its width. */
export function startOf(width: number, { align }: Lettering): number {
  return align === 'left' ? 0 : align === 'centre' ? -width / 2 : -width;
}

/**
 * Where the points of a letter come to lie that begins somewhere along its baseline: on a straight one beside it, on any
 * other turned so that the letter's own middle stands upright on it. On a round side they begin at the letter's middle.
 */
export function placeOf(lettering: Lettering, at: number, row: number, advance: number): (x: number, y: number) => PlanePoint {
  const { line, bend, along, around } = lettering;
  if (around) return (x, y) => ({ u: x - advance / 2, v: y });
  const on = along && textPlace(along, at + advance / 2);
  if (on) return standing(on, advance / 2, -row * line);
  if (bend === undefined || bend === 0) return (x, y) => ({ u: at + x, v: y - row * line });
  const radius = Math.abs(bend);
  const inside = bend < 0;
  // Lines further down stand on smaller circles, or larger ones where the text is within.
  const own = radius + (inside ? row * line : -row * line);
  const angle = (at + advance / 2) / radius;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  return (x, y) => {
    const across = x - advance / 2;
    const out = inside ? own - y : own + y;
    // The baseline's first place is the top of the circle, or its bottom for text within.
    return inside
      ? { u: across * cos + out * sin, v: radius - (out * cos - across * sin) }
      : { u: across * cos + out * sin, v: out * cos - across * sin - radius };
  };
}

function standing({ at, along }: LinePlace, half: number, rise: number): (x: number, y: number) => PlanePoint {
  return (x, y) => {
    const [across, up] = [x - half, y + rise];
    return { u: at.u + along.u * across - along.v * up, v: at.v + along.v * across + along.u * up };
  };
}

/** Where a letter stands on a round side, by where it begins along the line; nothing on any other baseline. */
export function seatOf({ around, line }: Lettering, at: number, row: number, advance: number): Pick<LaidLetter, 'seat'> {
  return around ? { seat: { middle: exactCells(at + advance / 2), half: exactCells(advance / 2), rise: exactCells(-row * line) } } : {};
}
