import { CoreError } from '../math/errors';
import { handedSheet } from '../output/handed';
import { svgFromSheet } from '../output/paint-svg';
import { PictureMaker } from '../picture/picture';
import { badNumbers, processorMs, runs } from '../testing/random';
import { RandomEdits } from '../testing/random-edits';
import { commitEdit, presentDocument, startHistory, stepSchema, type History } from './history';
import { checkDocument, writeProject } from './read';
import { emptyDocument, type CheminDocument } from './types';

/** The first place at which two values differ, and how. */
function firstDifference(p: unknown, q: unknown, at: string): string | null {
  if (typeof p !== 'object' || typeof q !== 'object' || !p || !q) return p === q ? null : `${at} is ${String(p)} and becomes ${String(q)}`;
  for (const key of new Set([...Object.keys(p), ...Object.keys(q)])) {
    const found = firstDifference(p[key as never], q[key as never], `${at}.${key}`);
    if (found) return found;
  }
  return null;
}

/** What is wrong with a document, its picture, its grid, or its export; nothing where all is well. */
function faultsOf(document: CheminDocument, maker: PictureMaker): readonly string[] {
  const text = writeProject(document);
  const read = checkDocument(JSON.parse(text));
  if (!read.ok) return read.problems.map((problem) => problem.message);
  if (writeProject(read.value) !== text) return [`${firstDifference(document, read.value, 'document')} when it is read back`];
  const picture = maker.make(document);
  const bad = badNumbers([picture.marks, picture.visible]);
  if (bad.length > 0) return bad;
  const handed = handedSheet(document, picture, { kind: 'floor', offset: 0 }, { content: 'both', gridFrom: 'drawing', background: true });
  const svg = svgFromSheet(handed, 'x');
  return /NaN|Infinity/.test(svg) ? ['the export has a number that is none'] : [];
}

/** Longest time in ms that a picture of a few things, written and checked, may take, whatever their sizes; far above what any takes, on a busy machine too. */
const LIMIT_MS = 10_000;

describe('random edits with values at and beyond their limits', () => {
  it('never make a document that cannot be written, read back equal, pictured and exported', () => {
    const [rounds, length] = [runs(20), 100];
    let slowest = 0;
    const kinds = new Map<string, [number, number]>();
    for (let round = 0; round < rounds; round++) {
      const maker = new RandomEdits(3000 + round);
      const pictures = new PictureMaker();
      let history: History = startHistory(emptyDocument('d', 'd'));
      for (let step = 0; step < length; step++) {
        const edit = maker.edit(presentDocument(history));
        const counts = kinds.get(edit.kind) ?? [0, 0];
        kinds.set(edit.kind, counts);
        try {
          history = commitEdit(history, edit);
          counts[0]++;
        } catch (error) {
          if (!(error instanceof CoreError)) throw new Error(`round ${round}, step ${step}: ${JSON.stringify(edit)}`, { cause: error });
          counts[1]++;
          continue;
        }
        const before = processorMs();
        const faults = faultsOf(presentDocument(history), pictures);
        slowest = Math.max(slowest, processorMs() - before);
        if (slowest > LIMIT_MS) throw new Error(`round ${round}, step ${step}: ${Math.round(slowest)} ms after ${JSON.stringify(edit)}`);
        if (faults.length > 0) throw new Error(`round ${round}, step ${step}: ${faults.join('; ')} after ${JSON.stringify(edit)}`);
      }
      const stored = JSON.parse(JSON.stringify(history.steps)) as unknown[];
      expect(stored.map((step) => stepSchema.safeParse(step).success)).not.toContain(false);
    }
    console.log(`slowest picture ${slowest.toFixed(0)} ms;`, [...kinds].map(([kind, [made, refused]]) => `${kind} ${made}/${made + refused}`).join(', '));
    // Every kind was made at least once, and much was refused.
    expect([...kinds.values()].filter(([made]) => made === 0)).toEqual([]);
    expect([...kinds.values()].reduce((sum, [, refused]) => sum + refused, 0)).toBeGreaterThan(rounds * 10);
  });
});
