import { emptyDocument, rectangleOutline, type CheminDocument, type ShapeNode } from '../core/index';
import { randomFrom } from '../core/testing/random';

/** A document of boxes on whole cells that do not cut through each other; three faces of each are seen. */
export function boxScene(count: number, seed = 1): CheminDocument {
  const random = randomFrom(seed);
  const side = Math.ceil(Math.cbrt(count) * 4.2);
  const taken: { min: number[]; max: number[] }[] = [];
  while (taken.length < count) {
    const min = [random(), random(), random() * 0.7].map((r) => Math.floor(r * side));
    const max = min.map((m) => m + 1 + Math.floor(random() * (random() < 0.2 ? 8 : 3)));
    if (taken.every((o) => [0, 1, 2].some((k) => max[k]! <= o.min[k]! || o.max[k]! <= min[k]!))) taken.push({ min, max });
  }
  const nodes = taken.map(({ min, max }, i): ShapeNode => {
    const outline = rectangleOutline({ u: min[0]!, v: min[1]! }, { u: max[0]!, v: max[1]! });
    const paint = { fill: ['#c98a4b', '#2c7f7a', '#b4553c', '#bdb09a'][i % 4]!, line: null };
    return {
      kind: 'shape',
      id: `box${i}`,
      name: `box ${i}`,
      hidden: false,
      locked: false,
      plane: { kind: 'floor', offset: min[2]! },
      outline,
      depth: max[2]! - min[2]!,
      paint,
    };
  });
  return { ...emptyDocument('bench', 'bench'), nodes };
}
