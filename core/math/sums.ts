import jsep from 'jsep';
import { measure } from './figures';
import { mmPer, type Unit } from './units';

export type SumResult = { readonly ok: true; readonly value: number } | { readonly ok: false; readonly message: string };

/** Deepest nesting of a typed sum; deeper ones are mistakes, not lengths. */
const MAX_DEPTH = 40;

/**
 * The value of a typed sum such as `(240-3*18)/2`, in whatever unit the field has. Understands + - * / ( ), true
 * minus, × and ÷ signs, and a decimal comma. Nothing is ever executed: the text is parsed to a tree of which only
 * numbers and these operators are accepted.
 */
export function parseSum(text: string): SumResult {
  const plain = text
    .replace(/[\u2212\u2013]/g, '-')
    .replace(/[\u00d7]/g, '*')
    .replace(/[\u00f7:]/g, '/')
    .replace(/(\d),(\d)/g, '$1.$2')
    .trim();
  if (plain === '') return { ok: false, message: 'Nothing is typed.' };
  if (plain.length > 200) return { ok: false, message: 'The sum is longer than 200 signs.' };
  let tree: jsep.Expression;
  try {
    tree = jsep(plain);
  } catch (error) {
    const place = (error as { index?: number }).index;
    return { ok: false, message: place === undefined ? `“${text}” is not a sum.` : `“${text}” is not a sum: look at sign ${place + 1}.` };
  }
  const value = valueOf(tree, 0);
  if (typeof value === 'string') return { ok: false, message: value };
  if (!Number.isFinite(value)) return { ok: false, message: `“${text}” divides by zero or is too large.` };
  return { ok: true, value };
}

function valueOf(tree: jsep.Expression, depth: number): number | string {
  if (depth > MAX_DEPTH) return 'The sum is nested too deeply.';
  if (tree.type === 'Literal') {
    const value = (tree as jsep.Literal).value;
    return typeof value === 'number' ? value : `“${String(value)}” is not a number.`;
  }
  if (tree.type === 'UnaryExpression') {
    const unary = tree as jsep.UnaryExpression;
    const value = valueOf(unary.argument, depth + 1);
    if (typeof value === 'string') return value;
    if (unary.operator === '-') return -value;
    return unary.operator === '+' ? value : `“${unary.operator}” has no meaning in a length.`;
  }
  if (tree.type === 'BinaryExpression') {
    const { operator, left, right } = tree as jsep.BinaryExpression;
    const l = valueOf(left, depth + 1);
    if (typeof l === 'string') return l;
    const r = valueOf(right, depth + 1);
    if (typeof r === 'string') return r;
    if (operator === '+') return l + r;
    if (operator === '-') return l - r;
    if (operator === '*') return l * r;
    return operator === '/' ? l / r : `“${operator}” has no meaning in a length.`;
  }
  if (tree.type === 'Identifier') return `“${(tree as jsep.Identifier).name}” is not a number.`;
  return 'Only numbers and + − × ÷ ( ) have a meaning here.';
}

/** What a typed length needs to know of the sheet. */
export interface LengthScale {
  readonly unit: Unit;
  readonly resolution: number;
  /** The drawing scale 1 : n. */
  readonly scale: number;
}

/** A unit at the end of a typed length; `m` is a metre of the real thing, at the drawing scale. */
const UNIT_AT_END = /(mm|cm|in|pt|px|m)$/i;

function unitAtEnd(text: string): { readonly sum: string; readonly unit: Unit | 'm' | null } {
  const trimmed = text.trim();
  const found = UNIT_AT_END.exec(trimmed)?.[1]?.toLowerCase() as Unit | 'm' | undefined;
  return found ? { sum: trimmed.slice(0, -found.length), unit: found } : { sum: trimmed, unit: null };
}

function mmOf(unit: Unit | 'm', { resolution, scale }: LengthScale): number {
  return unit === 'm' ? 1000 / scale : mmPer(unit, resolution);
}

/** A typed length in mm of the sheet: a sum in the sheet's unit, or in another where the text ends with it. */
export function parseMillimetres(text: string, scale: LengthScale): SumResult {
  const { sum, unit } = unitAtEnd(text);
  const value = parseSum(sum);
  return value.ok ? { ok: true, value: value.value * mmOf(unit ?? scale.unit, scale) } : value;
}

/**
 * A typed length in cells: a sum in cells, or in a unit where the text ends with it, such as `62.5 mm` or `1.2 m`.
 * @param cell edge of a cell in mm
 */
export function parseLength(text: string, scale: LengthScale, cell: number): SumResult {
  const { sum, unit } = unitAtEnd(text);
  const value = parseSum(sum);
  return value.ok && unit ? { ok: true, value: (value.value * mmOf(unit, scale)) / cell } : value;
}

/** A length of the sheet in its unit, such as `62.5 mm`; at a drawing scale the real thing's metres follow: `62.5 mm, 1.25 m real`. */
export function lengthInUnit(mm: number, scale: LengthScale): string {
  const shown = measure(mm / mmPer(scale.unit, scale.resolution), scale.unit, scale.unit === 'in' ? 3 : 2);
  return scale.scale === 1 ? shown : `${shown}, ${realLength(mm, scale.scale)}`;
}

/** A length of the sheet as the real thing has it: in metres, below one in centimetres. */
export function realLength(mm: number, scale: number): string {
  const real = (mm * scale) / 1000;
  return Math.abs(real) >= 1 || real === 0 ? `${measure(real, 'm', 2)} real` : `${measure(real * 100, 'cm', 1)} real`;
}
