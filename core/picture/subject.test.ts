import { emptyDocument, type CheminDocument } from '../document/types';
import { FAMILIES } from '../projection/families';
import { frameFamily } from '../projection/framing';
import type { PerspectiveSetup } from '../projection/setup';
import { horizonOf } from '../projection/vanishing';
import { PictureMaker } from './picture';
import { roomForAnother, startedDocument, subjectOf } from './subject';

const sheet = emptyDocument('', '').sheet;
const subject = (document: CheminDocument): ReturnType<typeof subjectOf> => subjectOf(document, new PictureMaker().stageOf(document));

describe('another projection after a one-point view', () => {
  const start = startedDocument('d', 'd', sheet, 'one-point');
  const view = start.projection as PerspectiveSetup;
  const dragged: readonly (readonly [string, PerspectiveSetup])[] = [
    ['far to the right', { ...view, principal: { x: 4000, y: 100 } }],
    ['far down', { ...view, principal: { x: 150, y: 2500 } }],
    ['rolled', { ...view, rollDeg: 40 }],
    ['very near', { ...view, focal: view.focal * 12 }],
    ['very far', { ...view, focal: view.focal / 30 }],
  ];

  it.each(dragged)('starts with its horizon on the sheet: %s', (_, projection) => {
    const document = { ...start, projection };
    for (const family of FAMILIES.filter(({ key }) => key.endsWith('-point'))) {
      const setup = frameFamily(family.key, subject(document), roomForAnother(document, subject(document))) as PerspectiveSetup;
      const horizon = horizonOf(setup)!.at.y;
      // Looking down, the horizon lies above the sheet, but within reach.
      const above = family.key === 'three-point' ? -2 * sheet.height : 0;
      expect([family.key, Math.round(horizon), horizon > above && horizon < sheet.height]).toEqual([family.key, Math.round(horizon), true]);
    }
  });

  it('keeps the room of what is seen well', () => {
    const room = roomForAnother(start, subject(start));
    expect(room.width).toBeGreaterThan(0.2 * sheet.width);
    const nudged = { ...start, projection: { ...view, principal: { x: view.principal.x + 10, y: view.principal.y } } };
    expect(roomForAnother(nudged, subject(nudged)).middle.x).toBeCloseTo(room.middle.x + 10, 6);
  });
});
