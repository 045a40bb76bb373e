import { converter, parse } from 'culori/fn';
import { emptyDocument, type CheminDocument } from '../document/types';
import { sunOf } from '../light/sun';
import { paintSeenOn, plainColour } from '../paint/paint';
import { openingPaint } from './opening-paint';
import { Tones } from './tones';

const lightness = (colour: string): number => converter('oklch')(parse(colour))!.l;
const WAYS = [{ a: 1, b: 0, h: 0 }, { a: -1, b: 0, h: 0 }, { a: 0, b: 1, h: 0 }, { a: 0, b: -1, h: 0 }, { a: 0, b: 0, h: 1 }, { a: 0, b: 0, h: -1 }]; // prettier-ignore

describe('the paint of an opening', () => {
  it.each([0, 60, 150, 245, 300])('is darker than its face on every wall, with the sun at %s degrees', (azimuthDeg) => {
    const empty = emptyDocument('d', 'd');
    const document: CheminDocument = { ...empty, swatches: [{ id: 's', name: 's', colour: '#c0a080' }], light: { ...empty.light, sun: { azimuthDeg, elevationDeg: 40 } } }; // prettier-ignore
    const tones = new Tones(document.light, sunOf(document), document.swatches);
    for (const fill of ['#c98a4b', 'swatch:s', 'swatch:s+10', '#f4f0e6']) {
      for (const face of WAYS) {
        const walls = WAYS.filter((way) => way.a * face.a + way.b * face.b + way.h * face.h === 0);
        const paint = openingPaint(document, { fill, line: null }, face, walls);
        const tone = (colour: string, normal: (typeof WAYS)[number]): number => lightness(tones.face(plainColour(colour, document.swatches), normal, tones.lightOn(null))); // prettier-ignore
        for (const wall of [...walls, face]) expect(tone(paint.fill as string, wall)).toBeLessThan(tone(fill, face) - 0.02);
      }
    }
  });

  it('leaves what keeps its colour, or has none, as it is', () => {
    const document = emptyDocument('d', 'd');
    const unlit = { fill: '#c98a4b', line: null, unlit: true } as const;
    expect(openingPaint(document, unlit, WAYS[0]!, [])).toBe(unlit);
  });
});

describe('the paint of letters on a face', () => {
  it('is kept where it is seen there, and is dark on light and light on dark where it is not', () => {
    const paint = { fill: '#c98a4b', line: null };
    expect(paintSeenOn(paint, '#202020', [])).toBe(paint);
    expect(paintSeenOn(paint, '#c98a4b', []).fill).toBe('#26242b');
    expect(paintSeenOn({ ...paint, fill: '#303040' }, '#3a3a44', []).fill).toBe('#f4f0e6');
  });
});
