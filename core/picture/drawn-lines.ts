import { flatInk, type LineStyle, type Mark } from '../artwork/marks';
import { nodesById } from '../document/tree';
import type { CheminDocument, DrawnLines } from '../document/types';
import { sunOf } from '../light/sun';
import { sunDirection } from '../light/tones';
import type { Shades } from '../shadow/shade';
import { IDENTITY } from '../math/matrix';
import type { LinePaint } from '../paint/paint';
import { joinPaths, type Path } from '../shape/path';
import type { DrawnBody } from '../visibility/drawn-body';
import { ContourKeeper } from './contours';
import { drawingOf, type DrawnNode } from './drawn-nodes';
import { everyEdge } from './edges';
import { PLAIN, type Painted } from './painted';
import { parentsOf, refusedBy } from './parents';
import type { Stage } from './stage';
import type { Tones } from './tones';

interface InSpace {
  readonly node: DrawnNode;
  readonly drawn: DrawnBody;
}

/** Keeps the lines of a document that draw themselves from one picture to the next. */
export class LineKeeper {
  private readonly contours = new ContourKeeper();
  private stage: Stage | null = null;

  /** @param quick for a frame of a gesture: while the view changes there are none */
  update(document: CheminDocument, stage: Stage, tones: Tones, space: readonly InSpace[], shades: Shades, quick: boolean): readonly Painted[] {
    const { contour, inner, hidden, highlight } = document.light.lines ?? {};
    const own = drawingOf(document).contours;
    if (!contour && !inner && !hidden && !highlight && own.size === 0) return [];
    const painted: Painted[] = [];
    const put = (key: string, name: string, path: Path, line: LinePaint): void => {
      if (path.verbs !== '') painted.push({ node: key, name, look: PLAIN, marks: [strokeOf(path, line, tones)], visible: [] });
    };
    if (hidden) put('hidden edges', 'hidden edges', joinPaths(everyEdge(document, stage)), hidden.line);
    if (!contour && !inner && !highlight && own.size === 0) return painted;
    if (quick && this.stage !== stage) return painted;
    this.stage = stage;
    const byId = nodesById(document.nodes);
    const parents = parentsOf(document);
    const asked = contour !== undefined || inner !== undefined || highlight !== undefined;
    const keyOf = (owner: string): string => {
      let [top, nearest]: [string, string | null] = [owner, null];
      for (let at: string | undefined = owner; at !== undefined; at = parents.get(at)) {
        top = at;
        if (nearest === null && own.has(at)) nearest = at;
      }
      return nearest ?? (contour?.of === 'all' ? 'everything' : contour?.of === 'group' ? top : owner);
    };
    const bodies = space.map(({ node: { node, owner }, drawn }) => {
      const none = node.kind === 'placement' || node.lined === false || byId.get(owner)?.kind === 'dimension' || refusedBy(document, owner, 'lined');
      const key = none ? null : keyOf(owner);
      return { drawn, key: key !== null && (asked || own.has(key)) ? key : null };
    });
    const towards = highlight && !document.light.lamp ? sunDirection(sunOf(document)) : null;
    const told = this.contours.update(bodies, inner !== undefined || highlight !== undefined, towards && { towards, shades });
    for (const { key, lit } of told)
      if (highlight && lit.verbs !== '')
        painted.push({ node: key, name: `lit edges of ${byId.get(key)?.name ?? key}`, look: PLAIN, marks: softStrokes(lit, highlight, tones), visible: [] });
    for (const lines of told) {
      const { key } = lines;
      const name = byId.get(key)?.name ?? key;
      if (inner) put(key, `edges of ${name}`, inner.smooth ? joinPaths([lines.creases, lines.smooth]) : lines.creases, inner.line);
      const round = own.get(key) ?? contour?.line;
      if (round) put(key, `contour of ${name}`, lines.contour, round);
    }
    return painted;
  }
}

/** Strokes of a soft line. */
const SOFT_STEPS = 5;

/** A line that fades to both sides: strokes one over the other, ending squarely where the edge ends. */
function softStrokes(path: Path, { line, soft, strength }: NonNullable<DrawnLines['highlight']>, tones: Tones): readonly Mark[] {
  const steps = soft > 0 ? SOFT_STEPS : 1;
  return Array.from({ length: steps }, (_, i): Mark => {
    const width = line.width + 2 * soft * (1 - (i + 1) / steps);
    const share = strength / steps / (1 - (strength * i) / steps);
    const ink = flatInk(tones.plain(line.colour), share);
    return { kind: 'path', path, fill: null, rule: 'nonzero', line: { ink, width, cap: 'butt', join: 'miter', miterLimit: 4, dashes: [], pen: IDENTITY } };
  });
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
