import { funnel, hoarding, landing, lighthouse, quayNine } from '@demo';
import { handedSheet } from '../output/handed';
import { svgFromSheet } from '../output/paint-svg';
import { PictureMaker } from '../picture/picture';
import { badNumbers, randomFrom, runs } from '../testing/random';
import { checkDocument, writeProject } from './read';
import type { CheminDocument } from './types';

/** Sizes at which numbers are tried, the largest first. */
const SIZES = [1e300, 1e15, 1e12, 1e9, 1e6, 1e5, 1e4, 1000, 360, 100, 90, 10, 1, 0.1, 0.01, 1e-3, 1e-6, 1e-12, 5e-324];

interface Leaf {
  readonly path: readonly (string | number)[];
  /** The path with all lists' places left out: numbers of one kind have one. */
  readonly kind: string;
}

function numbersIn(data: unknown, path: readonly (string | number)[] = []): readonly Leaf[] {
  if (typeof data === 'number') return [{ path, kind: path.filter((part) => typeof part === 'string').join('.') }];
  if (typeof data !== 'object' || data === null) return [];
  return Object.entries(data).flatMap(([key, part]) => numbersIn(part, [...path, Array.isArray(data) ? Number(key) : key]));
}

/** The same data with one number another. */
function withNumber(data: unknown, [key, ...rest]: readonly (string | number)[], value: number): unknown {
  if (key === undefined) return value;
  const inside = withNumber((data as Record<string | number, unknown>)[key], rest, value);
  return Array.isArray(data) ? data.map((part: unknown, i) => (i === key ? inside : part)) : { ...(data as object), [key]: inside };
}

function accepted(data: unknown, path: Leaf['path'], value: number): CheminDocument | null {
  const read = checkDocument(withNumber(data, path, value));
  return read.ok ? read.value : null;
}

describe('numbers at the limits that a file may give them', () => {
  it.each([
    ['funnel', funnel],
    ['hoarding', hoarding],
    ['quayNine', quayNine],
    ['lighthouse', lighthouse],
    ['landing', landing],
  ] as const)('make a finite picture of %s', (name, make) => {
    const data = JSON.parse(writeProject(make())) as unknown;
    const kinds = new Map<string, Leaf[]>();
    for (const leaf of numbersIn(data)) kinds.set(leaf.kind, [...(kinds.get(leaf.kind) ?? []), leaf]);
    const random = randomFrom(name.length);
    const faults: string[] = [];
    let [tried, left] = [0, runs(5)];
    for (const [kind, leaves] of [...kinds].sort(() => random() - 0.5)) {
      if (left-- <= 0) break;
      const { path } = leaves[Math.floor(random() * leaves.length)]!;
      const [most, least] = [1, -1].map((sign) => SIZES.map((size) => sign * size).find((value) => accepted(data, path, value)));
      const small = [...SIZES].reverse().find((value) => accepted(data, path, value));
      for (const value of new Set([most, least, small, 0])) {
        const document = value === undefined ? null : accepted(data, path, value);
        if (!document) continue;
        tried++;
        const picture = new PictureMaker().make(document);
        const bad = badNumbers([picture.marks, picture.visible]);
        const file = svgFromSheet(
          handedSheet(document, picture, { kind: 'floor', offset: 0 }, { content: 'drawing', gridFrom: 'drawing', background: true }),
          name,
        );
        if (bad.length > 0 || /NaN|Infinity/.test(file)) faults.push(`${kind} ${path.join('.')} = ${value}: ${bad[0] ?? 'the file'}`);
      }
    }
    expect(tried).toBeGreaterThan(5);
    expect(faults).toEqual([]);
  });
});
