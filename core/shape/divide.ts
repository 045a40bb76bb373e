import { exactCells } from '../math/exact';
import { figure } from '../math/figures';
import { parseLength, type LengthScale } from '../math/sums';
import { addPoint } from './edit-points';
import { rectangleOutline, type Outline, type PlaneBox } from './outline';
import { SAME_PLACE } from '../math/tolerances';

/** Most pieces that something is divided into at once. */
export const MAX_PIECES = 500;

/** A piece of a division: a length in cells, or `rest`, which shares with the others of its kind what is left. */
export type Size = number | 'rest';

/** The sizes that were typed, or what is wrong with them. */
export type SizesResult = { readonly ok: true; readonly sizes: readonly Size[] } | { readonly ok: false; readonly message: string };

/**
 * The pieces that a text asks for: a count such as `5`, or sizes from the start such as `20 mm, rest, 20 mm`, where
 * `3 of 18` stands for three of 18 and `rest` shares what is left. Sizes are parted by a semicolon, or by a comma that
 * is no decimal comma: one with a space after it, or beside a word.
 */
export function parseSizes(text: string, scale: LengthScale, cell: number): SizesResult {
  const parts = text.split(/;|,(?=\D|$)|(?<=\D),/).map((part) => part.trim());
  if (parts.some((part) => part === '')) return { ok: false, message: 'A size is missing between two commas.' };
  if (parts.length === 1 && /^\d+$/.test(parts[0]!)) {
    const count = Number(parts[0]);
    if (count < 1 || count > MAX_PIECES) return { ok: false, message: `A count is from 1 to ${MAX_PIECES}.` };
    return { ok: true, sizes: Array.from({ length: count }, () => 'rest' as const) };
  }
  const sizes: Size[] = [];
  for (const part of parts) {
    const many = /^(\d+)\s+of\s+(.+)$/i.exec(part);
    const count = many ? Number(many[1]) : 1;
    const what = many ? many[2]! : part;
    if (sizes.length + count > MAX_PIECES) return { ok: false, message: `That is more than ${MAX_PIECES} pieces.` };
    let size: Size = 'rest';
    if (!/^rest$/i.test(what)) {
      const length = parseLength(what, scale, cell);
      if (!length.ok) return length;
      if (!(length.value > 0)) return { ok: false, message: `“${what}” is not a length above 0.` };
      size = length.value;
    }
    for (let i = 0; i < count; i++) sizes.push(size);
  }
  return { ok: true, sizes };
}

/** The spans of a division in cells, or why there are none. */
export type SpansResult = { readonly ok: true; readonly spans: readonly (readonly [number, number])[] } | { readonly ok: false; readonly message: string };

/**
 * Where the pieces of a length lie: starts and ends in cells, with a gap between neighbours and a margin at both ends.
 * Without any `rest`, what is left stays free at the end. Every end is rounded once, so that equal pieces stay equal to
 * a tick.
 */
export function divideSpan(from: number, to: number, sizes: readonly Size[], gap = 0, margin = 0): SpansResult {
  const total = to - from;
  const fixed = sizes.reduce<number>((sum, size) => sum + (size === 'rest' ? 0 : size), 0) + gap * (sizes.length - 1) + 2 * margin;
  const shares = sizes.filter((size) => size === 'rest').length;
  const rest = shares > 0 ? (total - fixed) / shares : 0;
  if (fixed > total + SAME_PLACE || (shares > 0 && rest <= 0)) {
    return { ok: false, message: `The pieces with their gaps and margins take ${figure(fixed)} of ${figure(total)} cells.` };
  }
  let at = from + margin;
  const spans = sizes.map((size) => {
    const end = at + (size === 'rest' ? rest : size);
    const span = [exactCells(at), exactCells(end)] as const;
    at = end + gap;
    return span;
  });
  return { ok: true, spans };
}

/** The boxes of rows and columns as outlines, by rows from the lowest, each from its first column. */
export function dividedBoxes(columns: readonly (readonly [number, number])[], rows: readonly (readonly [number, number])[]): readonly Outline[] {
  return rows.flatMap(([minV, maxV]) => columns.map(([minU, maxU]) => rectangleOutline({ u: minU, v: minV }, { u: maxU, v: maxV })));
}

/** The box of an outline that is a rectangle along the plane's directions; null for any other. */
export function boxOfRectangle({ points, closed, holes }: Outline): PlaneBox | null {
  if (!closed || holes || points.length !== 4 || points.some((p) => p.arc || p.into || p.out)) return null;
  const [a, b, c, d] = points as unknown as readonly [(typeof points)[0], (typeof points)[0], (typeof points)[0], (typeof points)[0]];
  const along = (a.v === b.v && b.u === c.u && c.v === d.v && d.u === a.u) || (a.u === b.u && b.v === c.v && c.u === d.u && d.v === a.v);
  if (!along) return null;
  return { minU: Math.min(a.u, c.u), minV: Math.min(a.v, c.v), maxU: Math.max(a.u, c.u), maxV: Math.max(a.v, c.v) };
}

/**
 * The outline with points that divide one of its straight edges at sizes from its start. What a closed outline bounds
 * does not change. Null where there is no such straight edge, or the sizes do not fit.
 */
export function divideEdge(outline: Outline, id: number, sizes: readonly Size[]): Outline | null {
  const all = [outline.points, ...(outline.holes ?? [])];
  const ring = all.find((points) => points.some((p) => p.id === id));
  const i = ring?.findIndex((p) => p.id === id) ?? -1;
  const p = ring?.[i];
  const q = ring?.[i + 1] ?? (outline.closed ? ring?.[0] : undefined);
  if (!p || !q || p.arc || p.out || q.into) return null;
  const length = Math.hypot(q.u - p.u, q.v - p.v);
  const divided = divideSpan(0, length, sizes);
  if (!divided.ok || length === 0) return null;
  let now = outline;
  let edge = id;
  for (const [, end] of divided.spans) {
    if (end >= length - SAME_PLACE) continue;
    const at = { u: exactCells(p.u + ((q.u - p.u) * end) / length), v: exactCells(p.v + ((q.v - p.v) * end) / length) };
    const added = addPoint(now, { edge, t: 0.5, at });
    if (!added) return null;
    now = added.outline;
    edge = added.id;
  }
  return now;
}
