import { applyEdit } from '../document/edits';
import { checkDocument } from '../document/read';
import { recounted } from '../document/recount';
import { emptyDocument } from '../document/types';
import { addWorld, scaleWorld } from '../math/points';
import { randomFrom, runs } from '../testing/random';
import { FAMILIES } from './families';
import { frameFamily } from './framing';
import { projectionFrom, sheetFromWorld } from './projection';
import { BOX_CORNERS, dragTrialCorner, trialCorner, trialEdges, withTrialCorner, type TrialBox } from './trial-box';

const SUBJECT = { min: { a: 0, b: 0, h: 0 }, max: { a: 80, b: 80, h: 64 } };
const ROOM = { middle: { x: 148, y: 105 }, width: 170, height: 130 };
const TRIAL: TrialBox = { at: { a: 1, b: 2, h: 0 }, size: { a: 6, b: 4, h: 3 } };
const AXES = ['a', 'b', 'h'] as const;

describe('a trial box', () => {
  it('has its corners and edges where the projection has them, in every family, three of the edges behind', () => {
    for (const { key } of FAMILIES) {
      const projection = projectionFrom(frameFamily(key, SUBJECT, ROOM));
      const edges = trialEdges(projection, TRIAL, 8);
      expect(edges).toHaveLength(12);
      for (const axis of AXES) expect(edges.filter((edge) => edge.axis === axis)).toHaveLength(4);
      const places = BOX_CORNERS.map((corner) => sheetFromWorld(projection, scaleWorld(trialCorner(TRIAL, corner), 8))!);
      for (const { from, to } of edges) for (const end of [from, to]) expect(Math.min(...places.map((p) => Math.hypot(p.x - end.x, p.y - end.y)))).toBeLessThan(1e-9); // prettier-ignore
      // Where all three sides are seen, the three that meet in the corner behind; fewer sides hide more.
      const hidden = edges.filter((edge) => edge.hidden).length;
      expect(key.startsWith('one') ? hidden >= 3 : hidden === 3).toBe(true);
    }
  });

  it('follows a corner that is dragged along an axis, exactly, in every family; its opposite end stays', () => {
    const random = randomFrom(3);
    for (const { key } of FAMILIES) {
      const projection = projectionFrom(frameFamily(key, SUBJECT, ROOM));
      for (let i = 0; i < runs(12); i++) {
        const corner = BOX_CORNERS[Math.floor(random() * 8)]!;
        const axis = AXES[i % 3]!;
        const by = (corner[axis] ? 1 : -1) * (1 + Math.floor(random() * 3));
        const from = trialCorner(TRIAL, corner);
        const at = sheetFromWorld(projection, scaleWorld(addWorld(from, { a: 0, b: 0, h: 0, [axis]: by }), 8));
        if (!at) continue;
        const dragged = dragTrialCorner(projection, TRIAL, corner, at, 8, false)!;
        const wanted = withTrialCorner(TRIAL, corner, axis, from[axis] + by);
        // Two axes that are drawn in one direction lead to one place: either is right.
        const corners = [dragged, wanted].map((box) => sheetFromWorld(projection, scaleWorld(trialCorner(box, corner), 8))!);
        expect(Math.hypot(corners[0]!.x - corners[1]!.x, corners[0]!.y - corners[1]!.y)).toBeLessThan(8 * 0.6);
        if (key === 'isometric' || key === 'two-point') expect(dragged).toEqual(wanted);
        const opposite = { a: 1 - corner.a, b: 1 - corner.b, h: 1 - corner.h } as typeof corner;
        expect(trialCorner(dragged, opposite)).toEqual(trialCorner(TRIAL, opposite));
      }
    }
  });

  it('is never turned inside out, takes parts of cells when it is dragged freely, and is kept', () => {
    expect(withTrialCorner(TRIAL, { a: 1, b: 0, h: 0 }, 'a', -5)).toMatchObject({ at: { a: 1 }, size: { a: 0.1 } });
    expect(withTrialCorner(TRIAL, { a: 0, b: 0, h: 0 }, 'a', 50).size.a).toBeCloseTo(0.1, 6);
    const projection = projectionFrom(emptyDocument('e', 'e').projection);
    const at = sheetFromWorld(projection, scaleWorld({ a: 7.4, b: 2, h: 0 }, 8))!;
    expect(dragTrialCorner(projection, TRIAL, { a: 1, b: 0, h: 0 }, at, 8, true)!.size.a).toBeCloseTo(6.4, 4);
    const document = applyEdit(emptyDocument('d', 'd'), { kind: 'trial', trial: TRIAL });
    expect(checkDocument(JSON.parse(JSON.stringify(document)))).toMatchObject({ ok: true, value: { trial: TRIAL } });
    expect(recounted(document, 4).trial).toEqual({ at: { a: 2, b: 4, h: 0 }, size: { a: 12, b: 8, h: 6 } });
    expect(applyEdit(document, { kind: 'trial', trial: null })).not.toHaveProperty('trial');
    expect(checkDocument(JSON.parse(JSON.stringify({ ...document, trial: { ...TRIAL, size: { a: 0, b: 1, h: 1 } } }))).ok).toBe(false);
  });
});
