import { flatInk, type LineStyle, type Mark } from '../artwork/marks';
import { nodesById } from '../document/tree';
import type { CheminDocument } from '../document/types';
import { IDENTITY } from '../math/matrix';
import type { LinePaint } from '../paint/paint';
import { joinPaths, type Path } from '../shape/path';
import type { DrawnBody } from '../visibility/drawn-body';
import { ContourKeeper } from './contours';
import type { DrawnNode } from './drawn-nodes';
import { everyEdge } from './edges';
import { PLAIN, type Painted } from './painted';
import { parentsOf, refusedBy } from './parents';
import type { Stage } from './stage';
import type { Tones } from './tones';

interface InSpace {
  readonly node: DrawnNode;
  readonly drawn: { readonly drawn: DrawnBody };
}

/** Keeps the lines of a document that draw themselves from one picture to the next. */
export class LineKeeper {
  private readonly contours = new ContourKeeper();
  private stage: Stage | null = null;

  /** @param quick for a frame of a gesture: while the view changes there are none */
  update(document: CheminDocument, stage: Stage, tones: Tones, space: readonly InSpace[], quick: boolean): readonly Painted[] {
    const { contour, inner, hidden } = document.light.lines ?? {};
    if (!contour && !inner && !hidden) return [];
    const painted: Painted[] = [];
    const put = (key: string, name: string, path: Path, line: LinePaint): void => {
      if (path.verbs !== '') painted.push({ node: key, name, look: PLAIN, marks: [strokeOf(path, line, tones)], visible: [] });
    };
    if (hidden) put('hidden edges', 'hidden edges', joinPaths(everyEdge(document, stage)), hidden.line);
    if (!contour && !inner) return painted;
    if (quick && this.stage !== stage) return painted;
    this.stage = stage;
    const byId = nodesById(document.nodes);
    const parents = parentsOf(document);
    const keyOf = (owner: string): string => {
      if (contour?.of === 'all') return 'everything';
      let key = owner;
      if (contour?.of === 'group') for (let at = parents.get(owner); at !== undefined; at = parents.get(at)) key = at;
      return key;
    };
    const bodies = space.map(({ node: { node, owner }, drawn: { drawn } }) => {
      const none = node.kind === 'placement' || node.lined === false || byId.get(owner)?.kind === 'dimension' || refusedBy(document, owner, 'lined');
      return { drawn, key: none ? null : keyOf(owner) };
    });
    for (const lines of this.contours.update(bodies, inner !== undefined)) {
      const { key } = lines;
      const name = byId.get(key)?.name ?? key;
      if (inner) put(key, `edges of ${name}`, inner.smooth ? joinPaths([lines.creases, lines.smooth]) : lines.creases, inner.line);
      if (contour) put(key, `contour of ${name}`, lines.contour, contour.line);
    }
    return painted;
  }
}

function strokeOf(path: Path, { colour, width, join, cap, dashes }: LinePaint, tones: Tones): Mark {
  const style: LineStyle = {
    ink: flatInk(tones.plain(colour)),
    width,
    cap: cap ?? 'round',
    join: join ?? 'round',
    miterLimit: 4,
    dashes: (dashes ?? []).map((length) => length * width),
    pen: IDENTITY,
  };
  return { kind: 'path', path, fill: null, rule: 'nonzero', line: style };
}
