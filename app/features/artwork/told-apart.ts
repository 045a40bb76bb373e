import type { SheetPoint } from '@core';

/** Something that is called by a word, and where it is seen on the sheet, in mm; null where that is not known. */
export interface Called {
  readonly label: string;
  readonly at: SheetPoint | null;
}

/**
 * Words for a list in which no two are the same: where several are called alike, each says where it is seen among them,
 * across or down the sheet, whichever tells them further apart.
 */
export function toldApart(all: readonly Called[]): readonly string[] {
  const alike = new Map<string, number[]>();
  all.forEach(({ label }, i) => alike.set(label, [...(alike.get(label) ?? []), i]));
  const words = all.map(({ label }) => label);
  for (const group of alike.values()) {
    if (group.length === 1) continue;
    const span = (axis: 'x' | 'y'): number => {
      const at = group.flatMap((i) => all[i]!.at?.[axis] ?? []);
      return Math.max(...at) - Math.min(...at);
    };
    const axis = span('y') > span('x') ? 'y' : 'x';
    const [first, last, from] = axis === 'x' ? ['on the left', 'on the right', 'from the left'] : ['above', 'below', 'from above'];
    // What has no place comes last, in the order that it has.
    const sorted = [...group].sort((i, j) => (all[i]!.at?.[axis] ?? Infinity) - (all[j]!.at?.[axis] ?? Infinity) || i - j);
    sorted.forEach((i, k) => {
      const where = group.length === 2 ? (k === 0 ? first : last) : `${k + 1} of ${group.length} ${from}`;
      words[i] = `${words[i]}, ${where}`;
    });
  }
  return words;
}
