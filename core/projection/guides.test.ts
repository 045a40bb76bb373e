import { applyEdit } from '../document/edits';
import { checkDocument } from '../document/read';
import { recounted } from '../document/recount';
import { resizedSheet } from '../document/resize';
import { flatSheetOf } from '../document/flat-sheet';
import { emptyDocument, type CheminDocument } from '../document/types';
import { handedSheet } from '../output/handed';
import { svgFromSheet } from '../output/paint-svg';
import { catchSource } from '../picture/catch-source';
import { PictureMaker } from '../picture/picture';
import { catchAt } from '../snap/snap';
import { FAMILIES } from './families';
import { frameFamily } from './framing';
import { guideInPlane, guideOnSheet, guideReach, guideThrough, type Guide } from './guides';
import { planeFrame, sheetFromPlane, worldFromPlane, type Plane } from './planes';
import { projectionFrom, sheetFromWorld } from './projection';
import { vanishingPoints } from './vanishing';
import type { PerspectiveSetup } from './setup';

const SUBJECT = { min: { a: 0, b: 0, h: 0 }, max: { a: 80, b: 80, h: 64 } };
const ROOM = { middle: { x: 148, y: 105 }, width: 170, height: 130 };
const BOX = { minX: 0, minY: 0, maxX: 300, maxY: 200 };
const FLOOR: Plane = { kind: 'floor', offset: 0 };
const RIGHT: Plane = { kind: 'right', offset: 2 };
const guide = (part: Partial<Guide>): Guide => ({
  id: 'g',
  name: 'guide 1',
  plane: FLOOR,
  at: { u: 3, v: 2 },
  along: { u: 1, v: 0 },
  hidden: false,
  locked: false,
  ...part,
});
const SLANT = { u: 0.6, v: 0.8 };

/** How far a place of the sheet lies from the straight line through two others. */
function off(p: { x: number; y: number }, [q, r]: readonly [{ x: number; y: number }, { x: number; y: number }]): number {
  return Math.abs((r.x - q.x) * (p.y - q.y) - (r.y - q.y) * (p.x - q.x)) / Math.hypot(r.x - q.x, r.y - q.y);
}

describe('guides', () => {
  it('run through the drawn places of their lines in every family, to the ends of what is seen', () => {
    for (const { key } of FAMILIES) {
      const projection = projectionFrom(frameFamily(key, SUBJECT, ROOM));
      for (const one of [
        guide({}),
        guide({ along: SLANT }),
        guide({ plane: RIGHT, along: SLANT }),
        guide({ along: 'out' }),
        guide({ plane: { kind: 'left', offset: 1 }, along: 'out' }),
      ]) {
        const ends = guideOnSheet(projection, one, 8, BOX);
        if (!ends) continue;
        const frame = planeFrame(one.plane, 8)!;
        for (const t of [-1, 0, 0.5, 2]) {
          const foot = worldFromPlane(frame, one.at);
          const { along } = one;
          const world =
            along === 'out'
              ? { a: foot.a + frame.normal.a * 8 * t, b: foot.b + frame.normal.b * 8 * t, h: foot.h + frame.normal.h * 8 * t }
              : worldFromPlane(frame, { u: one.at.u + along.u * t, v: one.at.v + along.v * t });
          const drawn = sheetFromWorld(projection, world);
          if (drawn) expect(off(drawn, ends)).toBeLessThan(1e-9 * 1000);
        }
        for (const { x, y } of ends) {
          expect(Math.min(x - BOX.minX, BOX.maxX - x, y - BOX.minY, BOX.maxY - y)).toBeGreaterThan(-1e-6);
        }
      }
    }
  });

  it('along an axis run to its vanishing point in perspective', () => {
    const setup = frameFamily('two-point', SUBJECT, ROOM) as PerspectiveSetup;
    const points = vanishingPoints(setup);
    const wide = { minX: -4000, minY: -4000, maxX: 4000, maxY: 4000 };
    for (const [axis, one] of [
      ['a', guide({})],
      ['b', guide({ along: { u: 0, v: 1 } })],
    ] as const) {
      const ends = guideOnSheet(projectionFrom(setup), one, 8, wide)!;
      const to = points[axis] as { x: number; y: number };
      expect(off(to, ends)).toBeLessThan(1e-6);
      // One of its ends is there, as near as it is followed.
      expect(Math.min(...ends.map(({ x, y }) => Math.hypot(x - to.x, y - to.y)))).toBeLessThan(0.5);
    }
  });

  it('are nothing where nothing of them is seen, and a point where they are seen along themselves', () => {
    const isometric = projectionFrom(emptyDocument('e', 'e').projection);
    expect(guideReach(isometric, guide({ at: { u: 500, v: -500 }, along: 'out' }), 8, BOX)).toBeNull();
    expect(guideOnSheet(projectionFrom(frameFamily('cavalier', SUBJECT, ROOM)), guide({ plane: RIGHT, along: 'out' }), 8, BOX)).not.toBeNull();
    expect(guideThrough(FLOOR, { u: 1, v: 1 }, { u: 0, v: 0 })).toBeNull();
    expect(guideThrough({ kind: 'sheet', offset: 0 }, { u: 1, v: 1 }, 'out')).toBeNull();
    expect(guideThrough(FLOOR, { u: 1, v: 1 }, { u: 3, v: 4 })).toMatchObject({ along: SLANT });
  });

  it('lie in other planes that hold them, and go through those that do not', () => {
    expect(guideInPlane(guide({ at: { u: 3, v: 2 } }), RIGHT)).toEqual({ kind: 'line', at: { u: 3, v: 0 }, along: { u: 1, v: 0 } });
    expect(guideInPlane(guide({ at: { u: 3, v: 5 } }), RIGHT)).toBeNull();
    expect(guideInPlane(guide({ along: 'out' }), { kind: 'floor', offset: 4 })).toEqual({ kind: 'point', at: { u: 3, v: 2 } });
    expect(guideInPlane(guide({}), { kind: 'sheet', offset: 0 })).toBeNull();
    expect(guideInPlane(guide({ plane: { kind: 'sheet', offset: 0 } }), { kind: 'sheet', offset: 0 })).toMatchObject({ kind: 'line' });
  });

  it('are caught along them, where they cross, and where they go through a plane; not when they are hidden', () => {
    const guides = [guide({ id: '1', at: { u: 0, v: 2.3 } }), guide({ id: '2', at: { u: 4.7, v: 0 }, along: { u: 0, v: 1 } })];
    const document: CheminDocument = { ...emptyDocument('d', 'd'), guides };
    const options = { sheetFromPlane: sheetFromPlane(projectionFrom(document.projection), FLOOR, 8), pxPerUnit: 4, grid: false };
    expect(catchAt({ u: 4.8, v: 2.25 }, catchSource(document, FLOOR), options)).toMatchObject({ kind: 'intersection', u: 4.7, v: 2.3 });
    expect(catchAt({ u: 9.4, v: 2.25 }, catchSource(document, FLOOR), options)).toMatchObject({ kind: 'edge', v: 2.3 });
    expect(
      catchAt({ u: 4.75, v: 0.1 }, catchSource(document, RIGHT), { ...options, sheetFromPlane: sheetFromPlane(projectionFrom(document.projection), RIGHT, 8) }),
    ).toMatchObject({ kind: 'point', u: 4.7, v: 0 });
    const hidden = { ...document, guides: guides.map((one) => ({ ...one, hidden: true })) };
    expect(catchAt({ u: 9.4, v: 2.25 }, catchSource(hidden, FLOOR), options).kind).toBe('free');
    // In perspective too, however far they run.
    const receding = { ...document, projection: frameFamily('one-point', SUBJECT, ROOM) };
    const there = { ...options, sheetFromPlane: sheetFromPlane(projectionFrom(receding.projection), FLOOR, 8) };
    expect(catchAt({ u: 4.75, v: 3.1 }, catchSource(receding, FLOOR), there)).toMatchObject({ kind: 'edge', u: 4.7 });
  });

  it('are kept with the drawing, its sheet and its cells, and with sheets of artwork; handed over only when asked for', () => {
    const sheetGuide = guide({ id: 's', name: 'margin', plane: { kind: 'sheet', offset: 0 }, at: { u: 2, v: 2 }, along: { u: 0, v: 1 } });
    let document = applyEdit(emptyDocument('d', 'd'), { kind: 'guides', guides: [guide({}), sheetGuide] });
    expect(checkDocument(JSON.parse(JSON.stringify(document)))).toMatchObject({ ok: true, value: { guides: document.guides } });
    expect(recounted(document, 4).guides![0]).toMatchObject({ at: { u: 6, v: 4 } });
    document = applyEdit(document, resizedSheet(document, { ...document.sheet, width: 340 }));
    expect(document.guides!.map(({ at }) => at.u)).toEqual([3, 4.5]);
    const plain = handedSheet(document, new PictureMaker().make(document), FLOOR, { content: 'both', gridFrom: 'drawing', background: false });
    expect(svgFromSheet(plain, 't')).not.toContain('guides');
    const asked = handedSheet(document, new PictureMaker().make(document), FLOOR, { content: 'drawing', gridFrom: 'drawing', background: false, guides: true });
    expect(svgFromSheet(asked, 't')).toMatch(/<title>guides<\/title>[\s\S]*<title>guide 1<\/title>[\s\S]*stroke-dasharray[\s\S]*<title>margin<\/title>/);
    expect(applyEdit(document, { kind: 'guides', guides: [] })).not.toHaveProperty('guides');
    const artwork = { id: 'w', name: 'w', svg: '', width: 80, height: 40, unitMm: 1 };
    const flat = { ...sheetGuide, id: 'f' };
    const dressed = applyEdit({ ...document, artworks: [artwork] }, { kind: 'flat', artwork: 'w', edit: { kind: 'guides', guides: [flat] } });
    expect(flatSheetOf(dressed, 'w')!.guides).toEqual([flat]);
    expect(dressed.guides).toEqual(document.guides);
  });

  it.each([
    ['a direction that is not of length 1', { along: { u: 1, v: 1 } }, /length 1/],
    ['one out of the sheet', { plane: { kind: 'sheet', offset: 0 }, along: 'out' }, /sheet/],
    ['a place beyond everything', { at: { u: 2e6, v: 0 } }, /million/],
  ] as const)('are refused where they make no sense: %s', (_, part, words) => {
    const document = { ...emptyDocument('d', 'd'), guides: [guide(part as Partial<Guide>)] };
    const read = checkDocument(JSON.parse(JSON.stringify(document)));
    expect(read.ok ? '' : read.problems.map(({ path, message }) => `${path} ${message}`).join()).toMatch(words);
  });
});
