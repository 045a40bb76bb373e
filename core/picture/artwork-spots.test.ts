import { emptyDocument, type CheminDocument, type PlacementNode, type ShapeNode } from '../document/types';
import { isRuled } from '../geometry/ruled';
import { ellipseOutline } from '../shape/forms';
import { FAMILIES } from '../testing/solids';
import { bodyOf } from '../geometry/book';
import { anchorOfBox } from './reading-places';
import { PictureMaker } from './picture';
import { spotsOnSheet, spotUnder } from './artwork-spots';

/** A bollard, and one that tapers. */
function standing(id: string, a: number, offset: number, taper: number): ShapeNode {
  const outline = ellipseOutline({ u: a, v: 9 }, { u: 2, v: 2 });
  return { kind: 'shape', id, name: id, hidden: false, locked: false, plane: { kind: 'floor', offset }, outline, depth: 4, ...(taper !== 1 && { taper }), paint: { fill: '#b4553c', line: null } }; // prettier-ignore
}

function placed(host: ShapeNode, face: string, box: { x: number; y: number; width: number; height: number }): PlacementNode {
  const surface = bodyOf(host)!.surfaces.find(({ name }) => name === face)!;
  return { kind: 'placement', id: `on ${host.id} ${face}`, name: 'p', hidden: false, locked: false, artwork: 'art', target: { kind: 'face', node: host.id, face }, anchor: anchorOfBox(surface, box, { turn: 30 }) }; // prettier-ignore
}

describe('a spot of an artwork', () => {
  it.each(FAMILIES)('is found where it is drawn, on faces and round sides: %s', (_, projection) => {
    const hosts = [standing('a', 10, 2, 1), standing('b', 4, 0, 0.5)];
    const nodes = hosts.flatMap((host): (ShapeNode | PlacementNode)[] => {
      const faces = bodyOf(host)!.surfaces.filter(({ form }) => form.kind === 'flat' || isRuled(form));
      return [host, ...faces.map(({ name }) => placed(host, name, { x: 1, y: 0.5, width: 2, height: 1.5 }))];
    });
    const art = { id: 'art', name: 'art', svg: '<svg viewBox="0 0 4 3"><path d="M0 0L4 0L4 3Z"/></svg>', width: 4, height: 3 };
    const document: CheminDocument = { ...emptyDocument('d', 'd'), projection, artworks: [art], nodes };
    const stage = new PictureMaker().stageOf(document);
    let found = 0;
    for (const node of nodes) {
      if (node.kind !== 'placement') continue;
      const alone = { ...document, nodes: [...hosts, node] };
      for (const spot of [
        { x: 0.2, y: 0.3 },
        { x: 0.5, y: 0.5 },
        { x: 0.9, y: 0.75 },
      ])
        // prettier-ignore
        for (const at of spotsOnSheet(stage, alone, 'art', spot)) {
          const back = spotUnder(stage, alone, node, at)!;
          expect(Math.hypot(back.x - spot.x, back.y - spot.y)).toBeLessThan(1e-6);
          found++;
        }
    }
    // Faces that are turned away show nothing.
    expect(found).toBeGreaterThanOrEqual(3);
  });
});
