import { Resvg } from '@resvg/resvg-js';
import { mapMarks } from '../artwork/artwork';
import { flatInk, type GroupMark, type Ink, type LineStyle, type Mark, type PathMark } from '../artwork/marks';
import { IDENTITY, type Affine } from '../math/matrix';
import type { HandedSheet } from './handed';
import { blurredIn, withoutBlur } from './images';
import { pathData, svgFromSheet } from './paint-svg';
import { withStrength } from './paint-canvas';

const SHEET = { width: 40, height: 20, unit: 'mm', resolution: 96, scale: 1, background: '#ffffff' } as const;
const square = (x: number, y: number, size: number): PathMark['path'] => ({ verbs: 'MLLLZ', coords: [x, y, x + size, y, x + size, y + size, x, y + size] });
const filled = (x: number, y: number, size: number, fill: Ink): PathMark => ({ kind: 'path', path: square(x, y, size), fill, rule: 'nonzero', line: null });
const group = (marks: readonly Mark[], more: Partial<GroupMark> = {}): GroupMark => ({
  kind: 'group',
  node: null,
  name: 'part',
  clip: null,
  strength: 1,
  marks,
  ...more,
});
const picture = (...marks: GroupMark[]): HandedSheet => ({ sheet: SHEET, background: true, marks });

/** The colour at a place of the sheet, as an independent renderer shows it. */
function colourAt(shown: HandedSheet, x: number, y: number): string {
  const image = new Resvg(svgFromSheet(shown, 't'), { font: { loadSystemFonts: false }, fitTo: { mode: 'width', value: 400 } }).render();
  const at = 4 * (Math.round(y * 10) * image.width + Math.round(x * 10));
  return `#${Buffer.from(image.pixels.subarray(at, at + 3)).toString('hex')}`;
}

describe('SVG for other renderers', () => {
  it('cuts to clips and thins groups as a whole', () => {
    const clipped = picture(group([filled(2, 2, 16, flatInk('#ff0000'))], { clip: { path: square(2, 2, 5), rule: 'nonzero' } }));
    expect(colourAt(clipped, 4, 4)).toBe('#ff0000');
    expect(colourAt(clipped, 12, 12)).toBe('#ffffff');
    const faint = picture(group([filled(2, 2, 10, flatInk('#000000')), filled(4, 4, 10, flatInk('#000000'))], { strength: 0.5 }));
    expect(colourAt(faint, 3, 3)).toBe(colourAt(faint, 8, 8));
  });

  it('blurs groups by a standard deviation in sheet units, one filter for all that are as soft', () => {
    // Level with half black at an edge, 16 % of it one deviation outside, 84 % inside.
    const soft = picture(group([filled(10, -20, 60, flatInk('#000000'))], { blur: 1 }), group([filled(-90, -20, 95, flatInk('#000000'))], { blur: 1 }));
    const level = (x: number): number => parseInt(colourAt(soft, x, 10).slice(1, 3), 16) / 255;
    for (const [x, white] of [[9, 0.84], [10, 0.5], [11, 0.16], [13, 0], [7.5, 1], [6, 0.84]] as const) expect(Math.abs(level(x) - white)).toBeLessThan(0.03); // prettier-ignore
    expect(svgFromSheet(soft, 't').match(/<filter/g)).toHaveLength(1);
    const small = mapMarks([group([], { blur: 1 })], [0.5, 0, 0, 0.5, 0, 0])[0] as GroupMark;
    expect(small.blur).toBe(0.5);
  });

  it('has pictures in the place of what is blurred where a file has no blur', () => {
    const blurred = group([filled(10, 2, 6, flatInk('#000000'))], { blur: 0.5, blend: 'multiply', strength: 0.5 });
    const marks = [group([blurred])];
    const [wish, ...more] = blurredIn(marks, SHEET, 10);
    expect(more).toEqual([]);
    // Four deviations beyond what is painted, within the sheet.
    expect(wish!.box).toEqual({ x: 8, y: 0, perPx: 0.1, width: 100, height: 100 });
    const [outer] = withoutBlur(marks, new Map([[wish!.group, { key: 'soft', box: wish!.box }]])) as readonly GroupMark[];
    const { marks: inside, ...kept } = outer!.marks[0] as GroupMark;
    expect(kept).toEqual({ ...group([]), blend: 'multiply', strength: 0.5, marks: undefined });
    expect(inside).toEqual([{ kind: 'image', bitmap: 'soft', path: { verbs: 'MLLLZ', coords: [8, 0, 18, 0, 18, 10, 8, 10] }, place: { kind: 'flat', map: [10, 0, 8, 0, 10, 0, 0, 0, 1] } }]); // prettier-ignore
    expect(blurredIn([group([filled(50, 50, 6, flatInk('#000000'))], { blur: 0.5 })], SHEET, 10)).toEqual([]);
  });

  it('draws lines with the pen of their plane', () => {
    const pen: Affine = [3, 0, 0, 0.5, 0, 0];
    const line: LineStyle = { ink: flatInk('#0000ff'), width: 2, cap: 'butt', join: 'miter', miterLimit: 4, dashes: [], pen };
    const upright: PathMark = { kind: 'path', path: { verbs: 'ML', coords: [10, 2, 10, 18] }, fill: null, rule: 'nonzero', line };
    const level: PathMark = { kind: 'path', path: { verbs: 'ML', coords: [20, 10, 38, 10] }, fill: null, rule: 'nonzero', line };
    const shown = picture(group([upright, level]));
    // Two wide across the upright line becomes six; along the level one it becomes one.
    expect([colourAt(shown, 7.3, 5), colourAt(shown, 12.7, 5), colourAt(shown, 13.4, 5)]).toEqual(['#0000ff', '#0000ff', '#ffffff']);
    expect([colourAt(shown, 30, 10.3), colourAt(shown, 30, 10.8)]).toEqual(['#0000ff', '#ffffff']);
  });

  it('carries gradients and dashes through maps', () => {
    const stops = [
      { at: 0, colour: '#ff0000', strength: 1 },
      { at: 1, colour: '#0000ff', strength: 1 },
    ];
    const ramp: Ink = { kind: 'linear', from: [0, 0], to: [10, 0], stops, frame: IDENTITY };
    const turned = mapMarks([filled(0, 0, 10, ramp)], [0, 1, -1, 0, 15, 5]);
    const shown = picture(group(turned));
    expect(colourAt(shown, 10, 5.2)).toMatch(/^#f[0-9a-f]00/);
    expect(colourAt(shown, 10, 14.8)).toMatch(/^#0[0-9a-f]00f/);
    const radial: Ink = { kind: 'radial', centre: [10, 10], focus: [10, 10], radius: 5, stops, frame: IDENTITY };
    const line: LineStyle = { ink: radial, width: 1, cap: 'round', join: 'bevel', miterLimit: 4, dashes: [2, 1], pen: IDENTITY };
    const svg = svgFromSheet(picture(group([{ ...filled(4, 4, 8, flatInk('#00ff00', 0.25)), line }])), 't');
    expect(svg).toMatch(/<radialGradient id="gradient"[^>]* cx="10" cy="10" fx="10" fy="10" r="5">/);
    expect(svg).toContain('fill-opacity="0.25"');
    expect(svg).toContain('stroke-dasharray="2 1"');
    expect(svg).toContain('stroke-linejoin="bevel"');
  });

  it('fills what is cut out by the even-odd rule', () => {
    const holed: PathMark = { ...filled(2, 2, 16, flatInk('#00aa00')), rule: 'evenodd' };
    const path = { verbs: 'MLLLZMLLLZ', coords: [...holed.path.coords, ...square(6, 6, 6).coords] };
    const shown = picture(group([{ ...holed, path }]));
    expect([colourAt(shown, 4, 4), colourAt(shown, 9, 9)]).toEqual(['#00aa00', '#ffffff']);
  });

  it('gives every group an id of its own that other programs can read', () => {
    const svg = svgFromSheet(
      picture(
        group([filled(0, 0, 1, flatInk('#000000'))], { name: '9 bollards & Größe' }),
        group([filled(0, 0, 1, flatInk('#000000'))], { name: '9 bollards & Größe' }),
      ),
      't',
    );
    const ids = [...svg.matchAll(/<g id="([^"]+)"/g)].map((m) => m[1]);
    expect(ids).toEqual(['part-9-bollards-Gro-e', 'part-9-bollards-Gro-e-2']);
    expect(svg).toContain('<title>9 bollards &amp; Größe</title>');
  });

  it('writes short numbers', () => {
    expect(pathData({ verbs: 'MCZ', coords: [0.123456, -0, 1, 2, 3, 4, 5.10001, 6] })).toBe('M0.1235 0C1 2 3 4 5.1 6Z');
    expect(withStrength('#102030', 0.5)).toBe('#10203080');
  });
});
