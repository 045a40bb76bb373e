import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Resvg } from '@resvg/resvg-js';
import { PNG } from 'pngjs';
import { emptyDocument, type CheminDocument, type ShapeNode } from '../document/types';
import type { Mark, PathMark } from '../artwork/marks';
import { pickAt } from '../picture/pick';
import { PictureMaker } from '../picture/picture';
import type { ProjectionSetup } from '../projection/setup';
import type { Plane } from '../projection/planes';
import { solidOn } from '../solids/solids';
import type { SolidKind } from '../solids/kinds';
import { randomFrom } from '../testing/random';
import { FAMILIES } from '../testing/solids';
import { pdfFromSheet } from './paint-pdf';
import { svgFromSheet } from './paint-svg';

/** Px to the mm at 6,400 %, and the side of a window in mm. */
const ZOOM = (64 * 96) / 25.4;
const SIDE = 1.5;
const WINDOWS = 10;

const FLOOR: Plane = { kind: 'floor', offset: 0 };

/** Round things apart from each other, one standing on another, on a sheet of a colour that no tone has. */
function scene(projection: ProjectionSetup, at: readonly [number, number]): CheminDocument {
  const made = (id: string, kind: SolidKind, [a, b]: readonly [number, number], size: number, height: number, offset = 0, others = {}): ShapeNode => {
    const [u, v] = [at[0] + a, at[1] + b];
    const solid = solidOn(kind, { plane: { ...FLOOR, offset }, from: { u, v }, to: { u: u + size, v: v + size }, height, turn: 0 }, others);
    if (!solid.ok) throw new Error(solid.reason);
    return { kind: 'shape', id, name: id, hidden: false, locked: false, ...solid.value, paint: { fill: '#c98a4b', line: null } };
  };
  const nodes = [
    made('drum', 'cylinder', [0, 0], 4, 2),
    made('cone', 'cone', [0.5, 0.5], 3, 3, 2, { top: 0.3 }),
    made('ball', 'ball', [-6, 3], 3, 3),
    made('tube', 'tube', [5, -5], 3, 2, 0, { wall: 0.5 }),
  ];
  const empty = emptyDocument('d', 'd');
  return { ...empty, projection, nodes, sheet: { ...empty.sheet, background: '#ff00ff' } };
}

/** Places of the sheet where paths have corners and curves begin: where surfaces, strips and tones meet. */
function seamsOf(marks: readonly Mark[], wanted: (mark: PathMark) => boolean = () => true): readonly (readonly [number, number])[] {
  return marks.flatMap((mark): readonly (readonly [number, number])[] => {
    if (mark.kind === 'group') return seamsOf(mark.marks, wanted);
    if (mark.kind === 'image' || !wanted(mark)) return [];
    const { coords } = mark.path;
    return Array.from({ length: coords.length / 2 }, (_, i) => [coords[2 * i]!, coords[2 * i + 1]!] as const);
  });
}

/** Px within the drawing, three px from its edge, through which the sheet's magenta is seen: blue is more than any tone has of it. */
function shining(data: Uint8Array, width: number, height: number): number {
  const sheet = (i: number): boolean => data[4 * i]! > 240 && data[4 * i + 1]! < 24 && data[4 * i + 2]! > 240;
  let count = 0;
  for (let y = 3; y < height - 3; y++) {
    for (let x = 3; x < width - 3; x++) {
      const i = y * width + x;
      if (data[4 * i + 2]! <= data[4 * i + 1]! + 4) continue;
      const near = [-3, 0, 3].some((dy) => [-3, 0, 3].some((dx) => sheet(i + dy * width + dx)));
      if (!near) count++;
    }
  }
  return count;
}

it('sees a gap of half a px', () => {
  const half = (x: number): string => `<rect x="${x}" width="5" height="10" fill="#c98a4b"/>`;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="200" viewBox="4 4 ${200 / ZOOM} ${200 / ZOOM}"><rect width="10" height="10" fill="#ff00ff"/>${half(-0.6)}${half(4.402)}</svg>`; // prettier-ignore
  const image = new Resvg(svg, { font: { loadSystemFonts: false } }).render();
  expect(shining(image.pixels, image.width, image.height)).toBeGreaterThan(100);
});

describe.each(FAMILIES.filter(([name]) => ['isometric', 'cabinet', 'three-point', 'one-point'].includes(name)))('seams of round things: %s', (name, setup) => {
  // From above, so that ends are seen.
  const seen = setup.kind === 'perspective' ? { ...setup, eye: { ...setup.eye, h: Math.max(setup.eye.h, 50) } } : setup;
  const document = scene(seen, name.endsWith('point') ? [6, 6] : [0, 0]);
  const picture = new PictureMaker().make(document);
  const { marks } = picture;
  const random = randomFrom(3);
  const all = seamsOf(marks).filter(([x, y]) => x > 2 && x < 298 && y > 2 && y < 198);
  const windows = Array.from({ length: WINDOWS }, () => all[Math.floor(random() * all.length)]!);
  const px = Math.round(SIDE * ZOOM);

  it('let nothing shine through in SVG at 6,400 %', () => {
    expect(all.length).toBeGreaterThan(100);
    const svg = svgFromSheet({ sheet: document.sheet, background: true, marks }, 't');
    for (const [x, y] of windows) {
      const part = svg.replace(
        /width="[^"]*" height="[^"]*" viewBox="[^"]*"/,
        `width="${px}" height="${px}" viewBox="${x - SIDE / 2} ${y - SIDE / 2} ${SIDE} ${SIDE}"`,
      );
      const image = new Resvg(part, { font: { loadSystemFonts: false } }).render();
      expect([x, y, shining(image.pixels, image.width, image.height)]).toEqual([x, y, 0]);
    }
  });

  it('leave flat ends their own tone up to a px and a half from their edges', () => {
    const svg = svgFromSheet({ sheet: document.sheet, background: true, marks }, 't');
    const ends = seamsOf(marks, (mark) => mark.fill?.kind === 'flat' && mark.line?.hair === true);
    let compared = 0;
    for (let share = 0.05; share < 1 && compared < 1000; share += 0.1) {
      const [x, y] = ends[Math.floor(share * ends.length)]!;
      const part = svg.replace(
        /width="[^"]*" height="[^"]*" viewBox="[^"]*"/,
        `width="${px}" height="${px}" viewBox="${x - SIDE / 2} ${y - SIDE / 2} ${SIDE} ${SIDE}"`,
      );
      const image = new Resvg(part, { font: { loadSystemFonts: false } }).render();
      const tones = new Map<string, string>();
      for (let i = 2; i < px - 2; i += 6) {
        for (let k = 2; k < px - 2; k += 6) {
          const faceAt = (dx: number, dy: number): string => {
            const hit = pickAt(picture, { x: x - SIDE / 2 + (i + 0.5 + dx) / ZOOM, y: y - SIDE / 2 + (k + 0.5 + dy) / ZOOM }, 0);
            return hit?.face === 'end' || hit?.face === 'base' ? hit.node : '';
          };
          const face = faceAt(0, 0);
          if (!face || [[2, 0], [-2, 0], [0, 2], [0, -2]].some(([dx, dy]) => faceAt(dx!, dy!) !== face)) continue; // prettier-ignore
          const at = 4 * (k * image.width + i);
          const colour = Array.from(image.pixels.subarray(at, at + 3)).join();
          if (!tones.has(face)) tones.set(face, colour);
          expect([face, i, k, colour]).toEqual([face, i, k, tones.get(face)]);
          compared++;
        }
      }
    }
    expect(compared).toBeGreaterThan(100);
  });

  it('let nothing shine through in PDF at 6,400 %', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'chemin-seams-'));
    try {
      writeFileSync(
        join(folder, 'page.pdf'),
        await pdfFromSheet({ sheet: document.sheet, background: true, marks }, { title: 't', cutMarks: false, testBar: false }),
      );
      for (const [x, y] of windows.slice(0, 4)) {
        const corner = [x, y].map((mm) => String(Math.round((mm - SIDE / 2) * ZOOM)));
        execFileSync('pdftoppm', ['-png', '-r', String(ZOOM * 25.4), '-x', corner[0]!, '-y', corner[1]!, '-W', String(px), '-H', String(px), '-singlefile', join(folder, 'page.pdf'), join(folder, 'page')]); // prettier-ignore
        const png = PNG.sync.read(readFileSync(join(folder, 'page.png')));
        expect([x, y, shining(png.data, png.width, png.height)]).toEqual([x, y, 0]);
      }
    } finally {
      rmSync(folder, { recursive: true });
    }
  });
});
