import { cssFromPalette, readPalette, tokensFromPalette } from './palette';
import {
  blendColours,
  fitPaint,
  followSwatch,
  isUnseen,
  mapColours,
  mapPaint,
  meanColour,
  plainColour,
  readColour,
  shiftLightness,
  swatchOf,
  type Swatch,
} from './paint';

const SEA: Swatch = { id: 'sea', name: 'Harbour sea', colour: '#1b6c8c' };
let serial = 0;
const newId = (): string => `s${++serial}`;

describe('a paint that belongs to no shape yet', () => {
  it('has its gradient laid across the shape that is drawn, wherever that is', () => {
    const stops = [{ at: 0, colour: '#000000', strength: 1 }, { at: 1, colour: '#ffffff', strength: 1 }]; // prettier-ignore
    const loose = { fill: { kind: 'linear', from: { u: 0, v: 4 }, to: { u: 8, v: 4 }, stops }, line: null } as const;
    expect(fitPaint(loose, { minU: 20, maxU: 23, minV: -2, maxV: 2 }).fill).toMatchObject({ from: { u: 20, v: 0 }, to: { u: 23, v: 0 } });
    expect(fitPaint({ fill: '#000000', line: null }, { minU: 0, maxU: 1, minV: 0, maxV: 1 })).toEqual({ fill: '#000000', line: null });
  });
});

describe('colours', () => {
  it('follow swatches, lighter and darker by steps of lightness', () => {
    expect(followSwatch('sea')).toBe('swatch:sea');
    expect(followSwatch('sea', -8.2)).toBe('swatch:sea-8');
    expect(swatchOf('swatch:sea+12')).toEqual({ id: 'sea', shift: 12 });
    expect(plainColour('swatch:sea', [SEA])).toBe('#1b6c8c');
    expect(plainColour('swatch:sea+12', [SEA])).toBe(shiftLightness('#1b6c8c', 12));
    expect(plainColour('swatch:gone', [SEA])).toBe('#808080');
    expect(plainColour('#abcdef', [SEA])).toBe('#abcdef');
    // A grey has no chroma to lose: its lightness moves by what was asked. OKLCH 0.5 is #636363, 0.6 #808080.
    expect(shiftLightness('#636363', 10)).toBe('#808080');
  });

  it('are read from any CSS text', () => {
    expect(['red', '#ABC', 'abc', 'rgb(255 0 0 / 50%)', 'hsl(120deg 100% 50%)', ' #336699; '].map(readColour)).toEqual([
      '#ff0000',
      '#aabbcc',
      '#aabbcc',
      '#ff0000',
      '#00ff00',
      '#336699',
    ]);
    expect(readColour('oklch(60% 0 0)')).toBe('#808080');
    expect(readColour('url(javascript:1)')).toBeNull();
    expect(blendColours('#000000', '#ffffff', 0.5)).toBe('#808080');
  });

  it('of a gradient have a middle, and travel with their plane', () => {
    const fill = { kind: 'linear', from: { u: 0, v: 0 }, to: { u: 4, v: 0 }, stops: [{ at: 0, colour: '#000000', strength: 1 }, { at: 1, colour: '#ffffff', strength: 1 }] } as const; // prettier-ignore
    expect(meanColour(fill, [])).toBe('#636363');
    expect(mapPaint({ fill, line: null }, ({ u, v }) => ({ u: u + 1, v: -v + 2 })).fill).toMatchObject({ from: { u: 1, v: 2 }, to: { u: 5, v: 2 } });
    const plain = { fill: '#123456', line: null };
    expect(mapPaint(plain, (p) => p)).toBe(plain);
    expect(mapColours({ fill, line: { colour: '#000000', width: 1 } }, () => '#111111')).toMatchObject({
      fill: { stops: [{ colour: '#111111' }, { colour: '#111111' }] },
      line: { colour: '#111111' },
    });
  });

  it('that cannot be told from the sheet are named', () => {
    expect(isUnseen({ fill: '#ffffff', line: null }, '#ffffff', [])).toBe(true);
    expect(isUnseen({ fill: null, line: null }, '#ffffff', [])).toBe(true);
    expect(isUnseen({ fill: '#ffffff', line: { colour: '#000000', width: 1 } }, '#ffffff', [])).toBe(false);
    expect(isUnseen({ fill: '#ff0000', line: null, strength: 0 }, '#ffffff', [])).toBe(true);
    expect(isUnseen({ fill: 'swatch:sea', line: null }, SEA.colour, [SEA])).toBe(true);
  });
});

describe('palettes', () => {
  const palette: readonly Swatch[] = [SEA, { id: 'b', name: 'Buoy red', colour: '#c2452d' }, { id: 'c', name: 'buoy-red', colour: '#a03020' }];

  it('go out as CSS and as design tokens, and come in again', () => {
    const css = cssFromPalette(palette);
    expect(css).toContain('--harbour-sea: #1b6c8c;');
    expect(css).toContain('--buoy-red-2: #a03020;');
    for (const text of [css, tokensFromPalette(palette)]) {
      const read = readPalette(text, newId);
      expect(read.ok && read.value.map((s) => s.colour)).toEqual(palette.map((s) => s.colour));
    }
  });

  it('take nested tokens with inherited types, and say what is no colour', () => {
    const read = readPalette('{"quay":{"$type":"color","deck":{"$value":"#a5855b"},"sky":{"$value":{"colorSpace":"srgb","components":[0.5,0.75,1]}},"gap":{"$type":"dimension","$value":"4px"}}}', newId); // prettier-ignore
    expect(read.ok && read.value.map((s) => [s.name, s.colour])).toEqual([['quay deck', '#a5855b'], ['quay sky', '#80bfff']]); // prettier-ignore
    const odd = readPalette(':root { --a: red; --b: 12px; }', newId);
    expect(odd.ok && odd.notes.map((n) => n.path)).toEqual(['--b']);
  });

  it('are refused with the reason', () => {
    const first = (text: string): string => {
      const read = readPalette(text, newId);
      return read.ok ? '' : read.problems[0]!.message;
    };
    expect(first('{"a":')).toContain('damaged');
    expect(first('hello')).toContain('no colours');
    expect(first('x'.repeat(2_000_001))).toContain('2 MB');
    expect(first(`${'{"a":'.repeat(40)}{}${'}'.repeat(40)}`)).toContain('32 deep');
  });
});
