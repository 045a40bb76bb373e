import jsep from 'jsep';

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

/**
 * A typed length in cells: a sum in cells, or in the sheet's unit where the text ends with it, such as `62.5 mm`.
 * @param cell edge of a cell in that unit
 */
export function parseLength(text: string, unit: string, cell: number): SumResult {
  const trimmed = text.trim();
  if (!trimmed.toLowerCase().endsWith(unit)) return parseSum(trimmed);
  const sum = parseSum(trimmed.slice(0, -unit.length));
  return sum.ok ? { ok: true, value: sum.value / cell } : sum;
}
