/**
 * Whether two pieces of plain data are the same: numbers, texts, lists and objects, whatever the order of an object's
 * fields. Fields that are undefined count as left out; minus zero is zero, as in JSON.
 */
export function sameData(p: unknown, q: unknown): boolean {
  if (p === q) return true;
  if (typeof p !== 'object' || typeof q !== 'object' || p === null || q === null) return false;
  if (Array.isArray(p) || Array.isArray(q)) {
    return Array.isArray(p) && Array.isArray(q) && p.length === q.length && p.every((part, i) => sameData(part, q[i]));
  }
  const [left, right] = [p as Record<string, unknown>, q as Record<string, unknown>];
  const fields = new Set([...Object.keys(left), ...Object.keys(right)]);
  return [...fields].every((field) => sameData(left[field], right[field]));
}
