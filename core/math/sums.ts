import jsep from 'jsep';
import { measure } from './figures';
import { mmPer, type Unit } from './units';

/** What a typed sum comes to, or what is wrong with it. */
export type SumResult = { readonly ok: true; readonly value: number } | { readonly ok: false; readonly message: string };

/** Deepest nesting of a typed sum; deeper ones are mistakes, not lengths. */
const MAX_DEPTH = 40;

/**
 * The value of a typed sum such as `(240-3*18)/2`, in whatever unit the field has. Understands + - * / ( ), true
 * minus, × and ÷ signs, and a decimal comma. Nothing is ever executed: the text is parsed to a tree of which only
 * numbers and these operators are accepted.
 */
export function parseSum(text: string): SumResult {
  return numberOf(text, evaluate(text, plainText(text), NO_UNITS));
}

/** What a sum comes to: a bare number, or a length in mm. */
interface Quantity {
  readonly n: number;
  readonly length: boolean;
}

/** Mm of each unit that may stand in a sum, and of a bare number where it stands beside a length. */
interface Units {
  readonly mm: ReadonlyMap<string, number>;
  readonly bare: number;
}

const NO_UNITS: Units = { mm: new Map(), bare: 1 };

function plainText(text: string): string {
  return text
    .replace(/[\u2212\u2013]/g, '-')
    .replace(/[\u00d7]/g, '*')
    .replace(/[\u00f7:]/g, '/')
    .replace(/(\d),(\d)/g, '$1.$2')
    .trim();
}

function evaluate(text: string, plain: string, units: Units): Quantity | string {
  if (plain === '') return 'Nothing is typed.';
  if (plain.length > 200) return 'The sum is longer than 200 signs.';
  try {
    return quantityOf(jsep(plain), 0, units);
  } catch (error) {
    const place = (error as { index?: number }).index;
    return place === undefined ? `“${text}” is not a sum.` : `“${text}” is not a sum: look at sign ${place + 1}.`;
  }
}

function numberOf(text: string, value: Quantity | string): SumResult {
  if (typeof value === 'string') return { ok: false, message: value };
  if (!Number.isFinite(value.n)) return { ok: false, message: `“${text}” divides by zero or is too large.` };
  return { ok: true, value: value.n };
}

function quantityOf(tree: jsep.Expression, depth: number, units: Units): Quantity | string {
  if (depth > MAX_DEPTH) return 'The sum is nested too deeply.';
  if (tree.type === 'Literal') {
    const value = (tree as jsep.Literal).value;
    return typeof value === 'number' ? { n: value, length: false } : `“${String(value)}” is not a number.`;
  }
  if (tree.type === 'UnaryExpression') {
    const unary = tree as jsep.UnaryExpression;
    const value = quantityOf(unary.argument, depth + 1, units);
    if (typeof value === 'string') return value;
    if (unary.operator === '-') return { ...value, n: -value.n };
    return unary.operator === '+' ? value : `“${unary.operator}” has no meaning in a length.`;
  }
  if (tree.type === 'BinaryExpression') {
    const { operator, left, right } = tree as jsep.BinaryExpression;
    const l = quantityOf(left, depth + 1, units);
    if (typeof l === 'string') return l;
    const r = quantityOf(right, depth + 1, units);
    return typeof r === 'string' ? r : joined(operator, l, r, units.bare);
  }
  if (tree.type === 'Identifier') {
    const { name } = tree as jsep.Identifier;
    const mm = units.mm.get(name);
    return mm === undefined ? `“${name}” is not a number.` : { n: mm, length: true };
  }
  return 'Only numbers and + − × ÷ ( ) have a meaning here.';
}

/** A bare number that is added to a length is one in the field's own unit. */
function joined(operator: string, l: Quantity, r: Quantity, bare: number): Quantity | string {
  if (operator === '+' || operator === '-') {
    const length = l.length || r.length;
    const mm = ({ n, length: known }: Quantity): number => (length && !known ? n * bare : n);
    return { n: operator === '+' ? mm(l) + mm(r) : mm(l) - mm(r), length };
  }
  if (operator === '*') return l.length && r.length ? 'A length times a length is no length.' : { n: l.n * r.n, length: l.length || r.length };
  if (operator !== '/') return `“${operator}” has no meaning in a length.`;
  if (!l.length && r.length) return 'A number divided by a length is no length.';
  return { n: l.n / r.n, length: l.length !== r.length };
}

/** What a typed length needs to know of the sheet. */
export interface LengthScale {
  readonly unit: Unit;
  readonly resolution: number;
  /** The drawing scale 1 : n. */
  readonly scale: number;
}

const UNIT_NAMES = ['mm', 'cm', 'in', 'pt', 'pc', 'px', 'm'] as const;
const UNIT = '(mm|cm|in|pt|pc|px|m)(?![a-z])';
/** Points in a pica. */
const PICA = 12;
/** A unit behind a number or a closed bracket. */
const UNIT_BEHIND = new RegExp(`(\\d*\\.?\\d+|\\))\\s*${UNIT}`, 'gi');
const UNIT_AT_END = new RegExp(`${UNIT}$`, 'i');

/** `m` is a metre of the real thing, at the drawing scale; a pica, `pc`, is twelve points. */
function mmOf(unit: (typeof UNIT_NAMES)[number], { resolution, scale }: LengthScale): number {
  if (unit === 'm') return 1000 / scale;
  return unit === 'pc' ? PICA * mmPer('pt', resolution) : mmPer(unit, resolution);
}

/** Behind a length that is meant of the real thing, which is drawn smaller by the drawing scale. */
const REAL = /\s*real$/i;

/** @param bare mm of a number that has no unit */
function lengthInMm(text: string, scale: LengthScale, bare: number): SumResult {
  const trimmed = text.trim();
  if (REAL.test(trimmed)) {
    const own = lengthInMm(trimmed.replace(REAL, ''), { ...scale, scale: 1 }, bare);
    return own.ok ? { ok: true, value: own.value / scale.scale } : own;
  }
  const plain = plainText(text);
  const mm = new Map(UNIT_NAMES.map((unit): [string, number] => [`_${unit}`, mmOf(unit, scale)]));
  const count = [...plain.matchAll(UNIT_BEHIND)].length;
  const last = UNIT_AT_END.exec(plain)?.[1];
  // One unit at the end is that of the whole sum: `3*18 mm`, `(240-3*18)/2 mm`.
  const marked =
    count <= 1 && last ? `(${plain.slice(0, -last.length)})*_${last.toLowerCase()}` : plain.replace(UNIT_BEHIND, (_, n: string, unit: string) => (n === ')' ? `)*_${unit.toLowerCase()}` : `(${n}*_${unit.toLowerCase()})`)); // prettier-ignore
  const value = evaluate(text, marked, { mm, bare });
  return numberOf(text, typeof value === 'string' || value.length ? value : { n: value.n * bare, length: true });
}

/**
 * A typed length in mm of the sheet: a sum in the sheet's unit; a unit may stand behind any term, such as
 * `12 mm + 0.5 in`, and one at the end is that of the whole sum. With `real` behind it, it is one of the real thing.
 */
export function parseMillimetres(text: string, scale: LengthScale): SumResult {
  return lengthInMm(text, scale, mmOf(scale.unit, scale));
}

/** The one unit that a typed length names, however often; null where it names none or several, or metres of the real thing. */
export function typedUnit(text: string): Unit | null {
  const units = new Set([...plainText(text).matchAll(UNIT_BEHIND)].map((found) => found[2]!.toLowerCase()));
  const [unit] = units;
  if (units.size !== 1 || unit === 'm') return null;
  return unit === 'pc' ? 'pt' : (unit as Unit);
}

/**
 * A typed length in cells: a sum in cells, or with units as in `parseMillimetres`, such as `62.5 mm`, `2 + 1.2 m`.
 * @param cell edge of a cell in mm
 */
export function parseLength(text: string, scale: LengthScale, cell: number): SumResult {
  const mm = lengthInMm(text, scale, cell);
  return mm.ok ? { ok: true, value: mm.value / cell } : mm;
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
