import { emptyDocument, type ShapeNode } from '../document/types';
import { checkDocument } from '../document/read';
import { apply33, multiply33 } from '../math/matrix';
import { PictureMaker } from '../picture/picture';
import { FAMILIES } from '../projection/families';
import { frameFamily } from '../projection/framing';
import { sheetFromPlane, type Plane } from '../projection/planes';
import { projectionFrom } from '../projection/projection';
import { randomFrom, runs } from '../testing/random';
import { formFault, formOutline, placedForm, type PlacedForm, type SpiralForm, type StarForm } from './measured-forms';
import { mapOutline, mapPoint, moveOutline, type Outline } from './outline';
import { outlineFigures } from './outline-figures';
import { flattenOutline, outlineSegments, pointAt } from './segments';

const STAR: StarForm = { kind: 'star', points: 5, outer: 4, inner: 1.7, turnedDeg: 0 };
const SPIRAL: SpiralForm = { kind: 'spiral', turns: 3.25, inner: 0.5, outer: 6, steps: 'even', band: 0 };
const NONE = { outer: null, inner: null };
const placed = (form: StarForm | SpiralForm, part: Partial<PlacedForm> = {}): PlacedForm => ({ form, centre: { u: 2, v: -1 }, startDeg: 17, way: 1, rounded: form.kind === 'star' ? { outer: 0, inner: 0 } : NONE, ...part }); // prettier-ignore
/** Half a tick in both directions. */
const TICK = Math.SQRT1_2 / 25_200 + 1e-9;

/** How far a place is from a spiral along the radius: its turn tells the radius. */
function offSpiral({ form, centre, startDeg, way }: PlacedForm, u: number, v: number, alongRadius = false): number {
  const { turns, inner, outer, steps } = form as SpiralForm;
  const [x, y] = [u - centre.u, v - centre.v];
  const turn = (way * (Math.atan2(y, x) - (startDeg * Math.PI) / 180)) / (2 * Math.PI);
  const r = Math.hypot(x, y);
  // Off the line, not off the radius: near the centre it runs along that.
  const rate = steps === 'even' ? (outer - inner) / (2 * Math.PI * turns) : (r * Math.log(outer / inner)) / (2 * Math.PI * turns);
  const misses = Array.from({ length: Math.ceil(turns) + 2 }, (_, k) => 1 + (turn - k) / turns)
    .filter((t) => t > -1e-3 && t < 1 + 1e-3)
    .map((t) => Math.abs(r - (steps === 'even' ? inner + (outer - inner) * t : inner * (outer / inner) ** t)));
  return alongRadius ? Math.min(...misses) : (Math.min(...misses) * r) / Math.hypot(r, rate);
}

describe('stars', () => {
  it('stand with their points on one circle and the corners between them on another, turned as far as they are told', () => {
    for (const way of [1, -1] as const) {
      const { points, closed } = formOutline(placed({ ...STAR, turnedDeg: 20 }, { way }));
      expect([points.length, closed]).toEqual([10, true]);
      points.forEach((p, i) => {
        const turn = ((17 + way * (36 * i + (i % 2) * 20)) * Math.PI) / 180;
        const r = i % 2 ? 1.7 : 4;
        expect(Math.hypot(p.u - (2 + r * Math.cos(turn)), p.v - (-1 + r * Math.sin(turn)))).toBeLessThan(TICK);
      });
    }
  });

  it('have the area that their formula gives, and keep outer and inner roundings apart', () => {
    const { area } = outlineFigures(formOutline(placed(STAR)));
    expect(area).toBeCloseTo(5 * 4 * 1.7 * Math.sin(Math.PI / 5), 3);
    const rounded = formOutline(placed(STAR, { rounded: { outer: 0.3, inner: 0.1 } }));
    expect(rounded.points.map(({ corner }) => corner?.size)).toEqual(Array.from({ length: 5 }, () => [0.3, 0.1]).flat());
    expect(placedForm(rounded, STAR)!.rounded).toEqual({ outer: 0.3, inner: 0.1 });
  });
});

describe('spirals', () => {
  it.each([
    ['even', SPIRAL],
    ['from the centre', { ...SPIRAL, inner: 0, turns: 2 }],
    ['growing', { ...SPIRAL, steps: 'growing', turns: 4 }],
    ['a part of a turn', { ...SPIRAL, turns: 0.2 }],
    ['many turns', { ...SPIRAL, outer: 80, turns: 40 }],
  ] as const)('follow their formula to a tick: %s', (_, form) => {
    for (const way of [1, -1] as const) {
      const at = placed(form, { way });
      const segments = outlineSegments(formOutline(at));
      let worst = 0;
      for (const segment of segments) for (let i = 0; i <= 8; i++) {
        const p = pointAt(segment, i / 8);
        worst = Math.max(worst, offSpiral(at, p.u, p.v));
      } // prettier-ignore
      expect(worst).toBeLessThan(2.5 * TICK);
    }
  });

  it('are areas as wide as their band across the radius', () => {
    const at = placed({ ...SPIRAL, band: 0.4 });
    const outline = formOutline(at);
    expect(outline.closed).toBe(true);
    for (const p of outline.points) expect(Math.abs(offSpiral(at, p.u, p.v, true) - 0.2)).toBeLessThan(2.5 * TICK);
    // The band's area: the integral of its width along the turn, r times the band.
    const { turns, inner, outer, band } = at.form as SpiralForm;
    expect(outlineFigures(outline).area).toBeCloseTo(2 * Math.PI * turns * ((inner + outer) / 2) * band, 2);
  });
});

describe('a form of an outline', () => {
  const random = randomFrom(11);
  const between = (least: number, most: number): number => least + random() * (most - least);
  const any = (): PlacedForm => {
    const outer = between(0.5, 40);
    const base = { centre: { u: between(-50, 50), v: between(-50, 50) }, startDeg: between(-180, 180), way: random() < 0.5 ? 1 : -1 } as const;
    if (random() < 0.5) return { ...base, form: { kind: 'star', points: Math.floor(between(3, 20)), outer, inner: between(0.05, 1.3) * outer, turnedDeg: between(-40, 40) }, rounded: { outer: 0, inner: 0 } }; // prettier-ignore
    const steps = random() < 0.5 ? 'even' : 'growing';
    const inner = between(0.05, 0.8) * outer;
    return { ...base, form: { kind: 'spiral', turns: between(0.3, 9), inner, outer, steps, band: random() < 0.5 ? 0 : between(0.001, 0.01) * inner }, rounded: NONE }; // prettier-ignore
  };
  const measures = ({ form }: PlacedForm): readonly number[] => Object.values(form).filter((value): value is number => typeof value === 'number');

  it('is found again with its measures, wherever it is moved, turned, mirrored or made larger', () => {
    let count = 0;
    for (let i = 0; i < runs(200); i++) {
      const was = any();
      if (formFault(was.form) !== null) continue;
      count++;
      const outline = formOutline(was);
      const found = placedForm(outline, was.form)!;
      expect([found.way, found.form.kind]).toEqual([was.way, was.form.kind]);
      measures(found).forEach((value, k) => expect(value).toBeCloseTo(measures(was)[k]!, 3));
      // What is made of what was found is what was there.
      const again = formOutline(found);
      again.points.forEach((p, k) =>
        expect(Math.hypot(p.u - outline.points[k]!.u, p.v - outline.points[k]!.v)).toBeLessThan(3e-4 * Math.max(1, was.form.outer)),
      );
      const mapped = (map: (p: { u: number; v: number }) => { u: number; v: number }): Outline => mapOutline(outline, (p) => mapPoint(p, map));
      const [cos, sin] = [Math.cos(1), Math.sin(1)];
      expect(placedForm(moveOutline(outline, 3.5, -2), was.form)).not.toBeNull();
      expect(
        placedForm(
          mapped(({ u, v }) => ({ u: u * cos - v * sin, v: u * sin + v * cos })),
          was.form,
        ),
      ).not.toBeNull();
      expect(
        placedForm(
          mapped(({ u, v }) => ({ u: -u, v })),
          was.form,
        )?.way,
      ).toBe(-was.way);
      const larger = placedForm(
        mapped(({ u, v }) => ({ u: u * 2.5, v: v * 2.5 })),
        was.form,
      )!;
      expect(larger.form.outer).toBeCloseTo(2.5 * was.form.outer, 2);
      expect(
        placedForm(
          mapped(({ u, v }) => ({ u: u * 1.2, v })),
          was.form,
        ),
      ).toBeNull();
    }
    expect(count).toBeGreaterThan(runs(100));
  });

  it('is gone with the first point that is moved', () => {
    const outline = formOutline(placed(STAR));
    expect(placedForm({ ...outline, points: outline.points.map((p, i) => (i === 3 ? { ...p, u: p.u + 0.1 } : p)) }, STAR)).toBeNull();
    expect(placedForm({ ...outline, closed: false }, STAR)).toBeNull();
    expect(placedForm(outline, { ...STAR, points: 6 })).toBeNull();
    expect(placedForm(outline, SPIRAL)).toBeNull();
  });

  it.each([
    [{ ...STAR, points: 2 }, /points/],
    [{ ...STAR, inner: 0 }, /inner radius/],
    [{ ...SPIRAL, inner: 6 }, /less than the outer/],
    [{ ...SPIRAL, turns: 61 }, /60 turns/],
    [{ ...SPIRAL, steps: 'growing', inner: 0 }, /above 0/],
    [{ ...SPIRAL, band: 2 }, /twice as wide/],
    [{ ...SPIRAL, inner: 3, band: 1.5 }, /from turn to turn/],
  ] as const)('is refused with the reason where its measures make none: %j', (form, words) => {
    expect(formFault(form as StarForm | SpiralForm)).toMatch(words);
    const node: ShapeNode = { kind: 'shape', id: 'a', name: 'a', hidden: false, locked: false, plane: { kind: 'floor', offset: 0 }, outline: formOutline(placed(STAR)), depth: 0, paint: { fill: '#c98a4b', line: null }, form: form as StarForm }; // prettier-ignore
    expect(checkDocument(JSON.parse(JSON.stringify({ ...emptyDocument('e', 'e'), nodes: [node] }))).ok).toBe(false);
  });

  it('is drawn where the formula has it in every family, on every plane, and is kept', () => {
    const subject = { min: { a: 0, b: 0, h: 0 }, max: { a: 80, b: 80, h: 64 } };
    const room = { middle: { x: 148, y: 105 }, width: 170, height: 130 };
    for (const { key } of FAMILIES)
      for (const [i, form] of [STAR, { ...SPIRAL, outer: 4 }, { ...SPIRAL, outer: 4, band: 0.3 }].entries()) {
        const plane: Plane = { kind: (['floor', 'left', 'right'] as const)[i]!, offset: 0 };
        const outline = formOutline(placed(form, { centre: { u: 5, v: 5 } }));
        const node: ShapeNode = { kind: 'shape', id: 'a', name: 'a', hidden: false, locked: false, plane, outline, depth: 0, paint: outline.closed ? { fill: '#c98a4b', line: null } : { fill: null, line: { colour: '#223344', width: 0.5 } }, form }; // prettier-ignore
        const document = { ...emptyDocument('e', 'e'), projection: frameFamily(key, subject, room), nodes: [node] };
        expect(checkDocument(JSON.parse(JSON.stringify(document)))).toMatchObject({ ok: true, value: { nodes: [{ form }] } });
        const map = sheetFromPlane(projectionFrom(document.projection), plane, document.grid.cell);
        const coords = JSON.stringify(new PictureMaker().make(document).marks)
          .match(/"coords":\[[^\]]*\]/g)!
          .flatMap((text) => (JSON.parse(`{${text}}`) as { coords: number[] }).coords);
        // Each corner is among the drawn places.
        for (const p of outline.points) {
          const truth = apply33(multiply33(map, [1, 0, 0, 0, 1, 0, 0, 0, 1]), p.u, p.v)!;
          let nearest = Infinity;
          for (let k = 0; k < coords.length; k += 2) nearest = Math.min(nearest, Math.hypot(coords[k]! - truth.x, coords[k + 1]! - truth.y));
          expect(nearest).toBeLessThan(1e-9 * 300);
        }
      }
  });
});

it('lengths and areas of outlines are those of what they are drawn as', () => {
  const { length, area } = outlineFigures(formOutline(placed({ ...SPIRAL, turns: 1, inner: 5.9999, outer: 6 })));
  expect(length).toBeCloseTo(2 * Math.PI * 6, 2);
  expect(area).toBeNull();
  expect(flattenOutline(formOutline(placed(STAR)), 0.1)).toHaveLength(10);
});
