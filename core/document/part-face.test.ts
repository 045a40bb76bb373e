import { bodyVolume } from '../geometry/body-measures';
import { bodyOf } from '../geometry/book';
import { joinWith } from '../geometry/joined-recipe';
import { joinedBody } from '../joining/join';
import { settled } from '../picture/settled';
import { ellipseOutline } from '../shape/forms';
import { rectangleOutline, type Outline } from '../shape/outline';
import { kernelForTests } from '../testing/kernel';
import { applyEdit } from './edits';
import { partFace, withPartFaceMoved } from './part-face';
import { findNode } from './tree';
import { emptyDocument, type CheminDocument, type JoinedNode, type ShapeNode } from './types';

beforeAll(async () => {
  const kernel = await kernelForTests();
  joinWith((parts, how) => Promise.resolve(joinedBody(kernel, parts, how)));
});

const solid = (id: string, outline: Outline, level: number, depth: number): ShapeNode => ({ kind: 'shape', id, name: id, hidden: false, locked: false, plane: { kind: 'floor', offset: level }, outline, depth, paint: { fill: '#c0a080', line: null } }); // prettier-ignore

/** A slab of 8 x 6 x 2 cells without a square of 2 x 2 and a round hole of radius 1, both right through. */
function slab(): CheminDocument {
  const children = [
    solid('slab', rectangleOutline({ u: 0, v: 0 }, { u: 8, v: 6 }), 0, 2),
    solid('square', rectangleOutline({ u: 1, v: 1 }, { u: 3, v: 3 }), -1, 4),
    solid('round', ellipseOutline({ u: 6, v: 3 }, { u: 1, v: 1 }), -1, 4),
  ];
  const whole: JoinedNode = { kind: 'group', id: 'whole', name: 'whole', hidden: false, locked: false, children, joined: 'take away' };
  return applyEdit(emptyDocument('d', 'd'), { kind: 'add', nodes: [whole], artworks: [] });
}

const whole = (document: CheminDocument): JoinedNode => findNode(document, 'whole') as JoinedNode;

describe('a face of solids that are one', () => {
  it('is moved along its normal as the face of the part that it came from, walls of openings too', async () => {
    const document = slab();
    await settled(document);
    const start = bodyVolume(bodyOf(whole(document))!)!;
    expect(start).toBeCloseTo(8 * 6 * 2 - 8 - 2 * Math.PI, 4);
    // An outer side of the slab grows it; a wall of an opening moves into the opening, and makes it narrower.
    const ways = [['slab', 'side:2', 12], ['slab', 'end', 48 - 4 - Math.PI], ['square', 'side:1', 4], ['round', 'side:1', 2 * (Math.PI - Math.PI * 0.25)]] as const; // prettier-ignore
    for (const [id, name, grown] of ways) {
      const surface = bodyOf(whole(document))!.surfaces.find(({ from }) => from?.node === id && from.name === name);
      expect(partFace(document, whole(document), surface!.name)).toMatchObject({ part: { id }, name, out: id === 'slab' ? 1 : -1 });
      const by = id === 'round' ? 0.5 : 1;
      const moved = withPartFaceMoved(document, whole(document), surface!.name, by);
      if (!moved.ok) throw new Error(moved.reason);
      const after = applyEdit(document, { kind: 'change', nodes: [moved.value] });
      await settled(after);
      expect(bodyVolume(bodyOf(whole(after))!)! - start).toBeCloseTo(grown, 3);
    }
  });

  it('that is not there, or would leave nothing, is refused with the reason', async () => {
    const document = slab();
    await settled(document);
    expect(partFace(document, whole(document), 'nothing')).toBeNull();
    expect(withPartFaceMoved(document, whole(document), 'nothing', 1)).toMatchObject({ ok: false, reason: 'There is no such face.' });
    const side = bodyOf(whole(document))!.surfaces.find(({ from }) => from?.node === 'square' && from.name === 'side:1')!;
    expect(withPartFaceMoved(document, whole(document), side.name, 2)).toMatchObject({ ok: false });
  });
});
