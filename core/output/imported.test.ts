import { readFileSync } from 'node:fs';
import { Resvg } from '@resvg/resvg-js';
import pixelmatch from 'pixelmatch';
import { PNG } from 'pngjs';
import { importSvg, type ImportedSvg } from '../artwork/import-svg';
import { mapMarks } from '../artwork/artwork';
import { withBitmapIds } from '../artwork/svg-pictures';
import { readResolvedSvg } from '../artwork/read-svg';
import { emptyDocument } from '../document/types';
import { readPictureHeader } from '../imaging/read-header';
import { base64Of } from '../math/digest';
import type { HandedImage } from './images';
import { svgFromSheet } from './paint-svg';

const FONT = 'node_modules/@fontsource/nunito/files/nunito-latin-700-normal.woff2';
const FONTS = { loadSystemFonts: false, fontFiles: [] as string[], defaultFontFamily: 'Nunito' };
const WIDTH = 400;

const wrap = (inside: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="80" height="60" viewBox="0 0 80 60">${inside}</svg>`;

function drawn(svg: string): PNG {
  return PNG.sync.read(Buffer.from(new Resvg(svg, { font: FONTS, fitTo: { mode: 'width', value: WIDTH } }).render().asPng()));
}

function picture(): Uint8Array {
  const png = new PNG({ width: 30, height: 20 });
  for (let i = 0; i < 600; i++) png.data.set([(i % 30) * 8, Math.floor(i / 30) * 12, 140, 255], 4 * i);
  return new Uint8Array(PNG.sync.write(png));
}

function read(text: string): ImportedSvg & { readonly notes: readonly string[] } {
  const result = importSvg(text, (source) => new Resvg(source, { font: FONTS }).toString(), {
    paint: (source, scale) => new Uint8Array(new Resvg(source, { font: FONTS, fitTo: { mode: 'zoom', value: scale } }).render().asPng()),
    sizeOf: (bytes) => {
      const header = readPictureHeader(bytes);
      return header.ok ? header.value : null;
    },
  });
  if (!result.ok) throw new Error(result.problems[0]!.message);
  return { ...result.value, notes: result.notes.map(({ message }) => message) };
}

/** What was read, handed over again. */
function handedOver({ svg, pictures }: ImportedSvg): string {
  const ids = new Map(pictures.map(({ key }) => [key, `id-${key}`]));
  const images = new Map(
    pictures.map(({ key, bytes }): [string, HandedImage] => {
      const header = readPictureHeader(bytes);
      if (!header.ok) throw new Error('no picture');
      return [`id-${key}`, { type: 'image/png', bytes, width: header.value.width, height: header.value.height }];
    }),
  );
  const again = readResolvedSvg(withBitmapIds(svg, ids));
  if (!again.ok) throw new Error(again.problems[0]!.message);
  const sheet = { ...emptyDocument('d', 'd').sheet, width: 80, height: 60 };
  return svgFromSheet({ sheet, background: false, marks: mapMarks(again.value.marks, [1, 0, 0, 1, 0, 0]), images }, 'again');
}

const CASES: readonly (readonly [string, string])[] = [
  ['a pattern in units of the file, turned', '<defs><pattern id="p" width="9" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(20)"><rect width="5" height="3" fill="#c2533b"/><circle cx="7" cy="4" r="1.5" fill="#1d4b52"/></pattern></defs><path d="M5 5h70v50h-30z" fill="url(#p)" stroke="#333"/>'], // prettier-ignore
  ['a pattern in parts of the box, with content that runs over its tile', '<defs><pattern id="p" width=".25" height=".5"><circle cx="8" cy="10" r="9" fill="#d9a441"/></pattern></defs><ellipse cx="40" cy="30" rx="35" ry="25" fill="url(#p)" fill-opacity=".6"/>'], // prettier-ignore
  ['lines painted with patterns, dashed, turned, and measured by their box', '<defs><pattern id="p" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(30)"><rect width="3" height="6" fill="#c2533b"/></pattern><pattern id="q" width=".2" height=".2"><circle cx="3" cy="3" r="3" fill="#1d4b52"/></pattern></defs><path d="M8 8h60v44C40 60 30 20 12 50" fill="#eee6d0" stroke="url(#p)" stroke-width="7" stroke-linejoin="round" opacity=".8"/><circle cx="35" cy="30" r="14" fill="none" stroke="url(#q)" stroke-opacity=".7" stroke-width="6" stroke-dasharray="9 4" transform="rotate(10) scale(1.1 .9)"/>'], // prettier-ignore
  ['blend modes, nested and thinned', '<rect width="50" height="40" fill="#d9a441"/><g style="mix-blend-mode:multiply" opacity=".8"><rect x="20" y="10" width="50" height="40" fill="#1b6c8c"/></g><circle cx="60" cy="20" r="15" fill="#c2533b" style="mix-blend-mode:screen"/>'], // prettier-ignore
  ['a mask of greys', '<defs><linearGradient id="g"><stop stop-color="#fff"/><stop offset="1" stop-color="#000"/></linearGradient><mask id="m"><rect width="80" height="60" fill="url(#g)"/></mask></defs><rect width="80" height="60" fill="#e4ebe6"/><g transform="translate(4 4) scale(.9)" opacity=".9"><g mask="url(#m)"><rect width="80" height="60" fill="#1d4b52"/></g></g>'], // prettier-ignore
  ['a filter', '<defs><filter id="f"><feGaussianBlur stdDeviation="2"/></filter></defs><rect width="80" height="60" fill="#f4ead2"/><rect x="20" y="15" width="30" height="30" fill="#b4553c" filter="url(#f)"/>'], // prettier-ignore
  ['a bitmap that keeps its proportions, turned, and one that is stretched', `<rect width="80" height="60" fill="#fff"/><image x="5" y="5" width="40" height="40" transform="rotate(12 25 25)" xlink:href="data:image/png;base64,${base64Of(picture())}"/><image x="50" y="5" width="20" height="50" preserveAspectRatio="none" xlink:href="data:image/png;base64,${base64Of(picture())}"/>`], // prettier-ignore
];

describe('what an SVG holds besides paths', () => {
  it.each(CASES)('leaves as it came in: %s', (_, inside) => {
    const text = wrap(inside);
    const [before, after] = [drawn(text), drawn(handedOver(read(text)))];
    expect(after.width).toBe(before.width);
    const off = pixelmatch(before.data, after.data, undefined, before.width, before.height, { threshold: 0.1, includeAA: false });
    expect((100 * off) / (before.width * before.height)).toBeLessThan(0.5);
  });

  it('says what became a picture, and leaves vectors alone', () => {
    expect(read(wrap(CASES[4]![1])).notes).toEqual(['A part under filters or masks became a picture, 3,000 px along the longer side: no paths can be it.']);
    expect(read(wrap(CASES[0]![1])).pictures).toEqual([]);
    expect(read(wrap(CASES[0]![1])).notes).toEqual([]);
  });

  it('names fonts that are not here with what stands in for them', () => {
    expect(readFileSync(FONT).length).toBeGreaterThan(1000);
    const text = wrap(
      '<rect width="9" height="9"/><text font-family="Harbour Sans, Quay Slab">a</text><text style="font-family:Nunito">b</text><text font-family="serif">c</text>',
    );
    const result = importSvg(text, (source) => new Resvg(source, { font: FONTS }).toString(), { families: new Set(['nunito']), standIn: 'Nunito' });
    expect(result.ok && result.notes.map(({ message }) => message)).toEqual(['The font “Harbour Sans” is not here; Nunito stands in for it.']);
  });

  it('leaves out patterns on lines whose areas would take too long', () => {
    const curves = Array.from(
      { length: 300 },
      (_, i) => `C${(i * 7) % 80} ${(i * 13) % 60} ${(i * 29) % 80} ${(i * 31) % 60} ${(i * 37) % 80} ${(i * 41) % 60}`,
    ).join('');
    const line = (data: string, more = ''): string => `<path d="M0 0${data}" fill="none" stroke="url(#p)"${more}/>`;
    const file = (inner: string): string => wrap(`<defs><pattern id="p" width="20" height="20" patternUnits="userSpaceOnUse"><rect width="5" height="5"/></pattern></defs><rect width="9" height="9"/>${inner}`); // prettier-ignore
    for (const inner of [line(curves), line('L80 60', ' stroke-dasharray=".01 .01"'), Array.from({ length: 900 }, (_, i) => line(`L80 ${i / 20}`)).join('')])
      expect(read(file(inner)).notes).toContain('Left out: patterns on lines of too many parts.');
    expect(read(file(line('L80 60', ' stroke-dasharray="2 3"'))).notes).toEqual([]);
  });

  it('refuses patterns without end', () => {
    const many =
      '<defs><pattern id="p" width=".1" height=".1" patternUnits="userSpaceOnUse"><rect width=".05" height=".05"/></pattern></defs><rect width="80" height="60" fill="url(#p)"/><rect width="5" height="5"/>';
    expect(read(wrap(many)).notes).toEqual(['Left out: a pattern of more than 2,000 tiles.']);
  });
});
