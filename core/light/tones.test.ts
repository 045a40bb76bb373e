import { converter, parse } from 'culori/fn';
import { emptyDocument } from '../document/types';
import { randomFrom } from '../testing/random';
import { exposure, faceColour, filledUp, sunDirection, tonedColour, toneAt } from './tones';

const { sun, ramp } = emptyDocument('d', 'd').light;
const lightness = (colour: string): number => converter('oklch')(parse(colour))!.l;
const TOP = { a: 0, b: 0, h: 1 };
const LEFT = { a: -1, b: 0, h: 0 };
const RIGHT = { a: 0, b: -1, h: 0 };

describe('the sun', () => {
  it('stands by turn from a and height above the floor', () => {
    const overA = sunDirection({ azimuthDeg: 0, elevationDeg: 30 });
    expect(overA.a).toBeCloseTo(Math.sqrt(3) / 2, 12);
    expect(overA.h).toBeCloseTo(0.5, 12);
    expect(exposure(TOP, { azimuthDeg: 77, elevationDeg: 90 })).toBeCloseTo(1, 12);
    expect(exposure(TOP, { azimuthDeg: 77, elevationDeg: 0 })).toBeCloseTo(0, 12);
  });

  it('gives the three visible directions three tones, the top the lightest', () => {
    const [top, left, right] = [TOP, LEFT, RIGHT].map((normal) => lightness(faceColour('#8899aa', normal, sun, ramp)));
    expect(top!).toBeGreaterThan(right!);
    expect(right!).toBeGreaterThan(left!);
  });
});

describe('tones', () => {
  it('follow the ramp from turned away over grazed to lit', () => {
    expect(toneAt(ramp, 1)).toEqual(ramp.lit);
    expect(toneAt(ramp, 0)).toEqual(ramp.grazed);
    expect(toneAt(ramp, -1)).toEqual(ramp.turned);
    expect(toneAt(ramp, 0.5).lightness).toBeCloseTo((ramp.lit.lightness + ramp.grazed.lightness) / 2, 12);
  });

  it('change lightness in OKLCH and stay within what a screen shows', () => {
    const darker = tonedColour('#808080', { lightness: -0.2, chroma: 1 });
    expect(lightness('#808080') - lightness(darker)).toBeCloseTo(0.2, 2);
    expect(tonedColour('#ff0000', { lightness: 0.5, chroma: 4 })).toMatch(/^#[0-9a-f]{6}$/);
    expect(tonedColour('#ffffff', { lightness: 0.5, chroma: 1 })).toBe('#ffffff');
    expect(tonedColour('no colour', { lightness: 0, chroma: 1 })).toBe('no colour');
  });
});

describe('full fill light', () => {
  it('shows every colour as it was set, to the last digit', () => {
    const random = randomFrom(7);
    for (let i = 0; i < 500; i++) {
      const colour = `#${Math.floor(random() * 0x1000000)
        .toString(16)
        .padStart(6, '0')}`;
      const tone = filledUp({ lightness: random() - 0.5, chroma: random() }, 1);
      expect(tonedColour(colour, tone)).toBe(colour);
    }
  });
});
