import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Resvg } from '@resvg/resvg-js';
import { landing } from '@demo';
import { PNG } from 'pngjs';
import { flatInk, type Ink, type LineStyle, type Mark } from '../artwork/marks';
import { emptyDocument, type CheminDocument, type DocumentNode, type ShapeNode } from '../document/types';
import { BLENDS, type Blend } from '../paint/paint';
import { ellipseOutline } from '../shape/forms';
import { outlineOfRings, rectangleOutline } from '../shape/outline';
import { IDENTITY } from '../math/matrix';
import { PictureMaker } from '../picture/picture';
import { projectionFrom, sheetFromWorld } from '../projection/projection';
import type { PerspectiveSetup } from '../projection/setup';
import { cornerOf } from '../projection/steering';
import { difference, pdfPage } from '../testing/pictures';
import { handedSheet, originMoved, type HandedSheet, type HandOver } from './handed';
import { latticeSheet } from './lattice';
import { pdfFromSheet, type PdfOptions } from './paint-pdf';
import { svgFromSheet } from './paint-svg';

const FLOOR = { kind: 'floor', offset: 0 } as const;
const DPI = 120;
const NONE: PdfOptions = { title: 't', testBar: false, cutMarks: false };

function handed(document: CheminDocument, options: Partial<HandOver> = {}): HandedSheet {
  return handedSheet(document, new PictureMaker().make(document), FLOOR, { content: 'drawing', gridFrom: 'drawing', background: true, ...options });
}

/** A PDF's first page as another program draws it. */
async function renderedPdf(sheet: HandedSheet, options: PdfOptions = NONE): Promise<PNG> {
  const file = join(mkdtempSync(join(tmpdir(), 'chemin-pdf-')), 'sheet.pdf');
  writeFileSync(file, await pdfFromSheet(sheet, options));
  return pdfPage(file, DPI);
}

function renderedSvg(sheet: HandedSheet, width: number): PNG {
  return PNG.sync.read(
    Buffer.from(new Resvg(svgFromSheet(sheet, 't'), { font: { loadSystemFonts: false }, fitTo: { mode: 'width', value: width } }).render().asPng()),
  );
}

const TWO_POINT: PerspectiveSetup = {
  kind: 'perspective',
  chosen: 'two-point',
  focal: 260,
  principal: { x: 150, y: 60 },
  turnDeg: 35,
  tiltDeg: 0,
  rollDeg: 0,
  eye: { a: -130, b: -190, h: 120 },
};

describe('the sheet as PDF and SVG', () => {
  it('is the same picture in two independent renderers: the demo, its grid, and both in perspective', async () => {
    const cases: [string, HandedSheet][] = [
      ['demo', handed(landing())],
      ['grid alone', handed(landing(), { content: 'grid' })],
      ['drawing and grid in two-point perspective', handed({ ...landing(), projection: TWO_POINT }, { content: 'both' })],
    ];
    for (const [name, sheet] of cases) {
      const pdf = await renderedPdf(sheet);
      const share = difference(pdf, renderedSvg(sheet, pdf.width), 0.12);
      console.log(`${name}: ${share.toFixed(3)} % of px differ between PDF and SVG`);
      expect(share).toBeLessThan(0.5);
    }
  });

  it('agrees on light: shadows sharp, soft, fading, coloured, by a lamp and close to what they are of, and lines that draw themselves', async () => {
    const line = { colour: '#22303c', width: 0.5 };
    const base = landing().light;
    const lights: readonly (readonly [string, CheminDocument['light']])[] = [
      ['sharp, with contours', { ...base, shadows: { on: true, floor: -2 }, lines: { contour: { of: 'thing', line }, inner: { smooth: false, line: { ...line, width: 0.2 } }, hidden: { line: { ...line, width: 0.15, dashes: [5, 5] } } } }],
      ['soft and fading, with contacts', { ...base, shadows: { on: true, floor: -2, soft: 3, fade: 12, contact: 0.8 }, lines: { highlight: { line: { colour: '#ffffff', width: 0.3 }, soft: 0.6, strength: 0.7 } } }],
      ['one colour', { ...base, shadows: { on: true, floor: -2, ink: { colour: '#1d2b45', strength: 0.35 } } }],
      ['a lamp', { ...base, lamp: { at: { a: 7, b: 6, h: 20 }, reach: 78 }, shadows: { on: true, floor: -2 } }],
    ]; // prettier-ignore
    const glass = (node: DocumentNode): DocumentNode => (node.kind === 'shape' ? { ...node, paint: { ...node.paint, strength: 0.5 } } : node.kind === 'group' ? { ...node, children: node.children.map(glass) } : node); // prettier-ignore
    const cases = lights.map(([name, light]): readonly [string, CheminDocument] => [name, { ...landing(), light }]);
    const [, first] = cases[0]!;
    const glassy = { ...first, nodes: first.nodes.map((node, i) => (i % 2 === 1 ? glass(node) : node)) };
    for (const [name, document] of [...cases, ['glass', glassy], ['two-point', { ...cases[1]![1], projection: TWO_POINT }]] as const) {
      const sheet = handed(document);
      const pdf = await renderedPdf(sheet);
      const share = difference(pdf, renderedSvg(sheet, pdf.width), 0.12);
      console.log(`${name}: ${share.toFixed(3)} % of px differ between PDF and SVG`);
      expect(share).toBeLessThan(0.5);
    }
  }, 120_000);

  it('agrees on paint in planes: gradients, lines in the plane, holes, strength, and every blend mode', async () => {
    const shape = (id: string, at: number, part: Partial<ShapeNode>): ShapeNode => ({
      kind: 'shape',
      id,
      name: id,
      hidden: false,
      locked: false,
      plane: { kind: 'floor', offset: 0 },
      outline: ellipseOutline({ u: at, v: 3 }, { u: 3, v: 2 }),
      depth: 0,
      paint: { fill: '#c2533b', line: null },
      ...part,
    });
    const stops = [{ at: 0, colour: '#1b6c8c', strength: 1 }, { at: 1, colour: '#f2c14e', strength: 0.4 }]; // prettier-ignore
    const plate = outlineOfRings([rectangleOutline({ u: 0, v: -6 }, { u: 8, v: -1 }).points, rectangleOutline({ u: 2, v: -5 }, { u: 5, v: -2 }).points], true);
    const nodes: ShapeNode[] = [
      shape('linear', 0, {
        paint: {
          fill: { kind: 'linear', from: { u: -3, v: 3 }, to: { u: 3, v: 3 }, stops },
          line: { colour: '#2a2333', width: 1, on: 'plane', dashes: [4, 2] },
        },
      }),
      shape('radial', 7, {
        plane: { kind: 'right', offset: 0 },
        paint: { fill: { kind: 'radial', centre: { u: 7, v: 3 }, edge: { u: 10, v: 3 }, stops }, line: null },
      }),
      shape('plate', 0, {
        outline: plate,
        depth: 1,
        paint: { fill: '#a5855b', line: { colour: '#2a2333', width: 0.5, on: 'plane', join: 'miter' }, strength: 0.8 },
      }),
      ...BLENDS.slice(1).map((blend, i) =>
        shape(blend, 0, {
          plane: { kind: 'sheet', offset: 0 },
          outline: rectangleOutline({ u: 2 + 4 * i, v: 12 }, { u: 7 + 4 * i, v: 20 }),
          paint: { fill: i % 2 ? '#4f86a8' : '#e0a35a', line: null, strength: 0.9, blend: blend as Exclude<Blend, 'normal'> },
        }),
      ),
    ];
    for (const projection of [emptyDocument('p', 'p').projection, TWO_POINT]) {
      const sheet = handed({ ...emptyDocument('p', 'p'), projection, nodes });
      const pdf = await renderedPdf(sheet);
      const share = difference(pdf, renderedSvg(sheet, pdf.width), 0.12);
      console.log(`paint in planes, ${projection.chosen}: ${share.toFixed(3)} % of px differ between PDF and SVG`);
      expect(share).toBeLessThan(0.5);
    }
  });

  it('agrees on gradients with strengths, thinned groups, clips, pens and holes', async () => {
    const path = { verbs: 'MLLLZ', coords: [0, 0, 30, 0, 30, 30, 0, 30] };
    const stops = [
      { at: 0, colour: '#c2533b', strength: 1 },
      { at: 0.4, colour: '#1d4b52', strength: 0.5 },
      { at: 0.4, colour: '#f1e6cd', strength: 0.9 },
      { at: 1, colour: '#2c7f7a', strength: 0.1 },
    ];
    const linear: Ink = { kind: 'linear', from: [0, 0], to: [30, 0], stops, frame: [1, 0.2, 0, 1, 2, 0] };
    const radial: Ink = { kind: 'radial', centre: [15, 15], focus: [11, 13], radius: 14, stops, frame: [1, 0, 0.3, 0.8, 0, 2] };
    const line: LineStyle = {
      ink: flatInk('#2a2333', 0.6),
      width: 2,
      cap: 'round',
      join: 'bevel',
      miterLimit: 4,
      dashes: [5, 3],
      pen: [1.5, 0.4, -0.3, 0.7, 0, 0],
    };
    const at = (x: number, y: number, ink: Ink, pen: LineStyle | null): Mark => ({
      kind: 'path',
      path: { ...path, coords: path.coords.map((c, i) => c + (i % 2 ? y : x)) },
      fill: ink.kind === 'flat' ? ink : { ...ink, frame: [ink.frame[0], ink.frame[1], ink.frame[2], ink.frame[3], ink.frame[4] + x, ink.frame[5] + y] },
      rule: 'nonzero',
      line: pen,
    });
    const hole: Mark = {
      kind: 'path',
      path: { verbs: 'MLLLZMLLLZ', coords: [80, 5, 110, 5, 110, 35, 80, 35, 88, 12, 102, 12, 102, 28, 88, 28] },
      fill: flatInk('#b4553c'),
      rule: 'evenodd',
      line: { ...line, ink: linear, pen: IDENTITY, dashes: [] },
    };
    const clip = { path: { verbs: 'MLLZ', coords: [5, 45, 60, 45, 30, 90] }, rule: 'nonzero' } as const;
    const thinned: Mark = {
      kind: 'group',
      node: null,
      name: 'thin',
      clip,
      strength: 0.5,
      marks: [at(5, 50, radial, null), at(20, 55, flatInk('#3d4a57'), null)],
    };
    const sheet: HandedSheet = {
      sheet: { ...emptyDocument('d', 'd').sheet, width: 120, height: 100 },
      background: true,
      marks: [at(5, 5, linear, line), at(42, 5, radial, null), hole, thinned],
    };
    const pdf = await renderedPdf(sheet);
    expect(difference(pdf, renderedSvg(sheet, pdf.width), 0.12)).toBeLessThan(0.5);
  });

  it('prints true: the bar measures 100 mm, a lattice of 9 x 6 boxes of 12 mm its boxes', async () => {
    const mm = (px: number): number => (px * 25.4) / DPI;
    const dark = (png: PNG, x: number, y: number): boolean => png.data[4 * (y * png.width + x)]! < 150;
    const blank = { ...handed({ ...emptyDocument('d', 'd'), nodes: [] }), marks: [] };
    const bar = await renderedPdf(blank, { ...NONE, testBar: true });
    const row = Math.round(((200 - 6) / 25.4) * DPI);
    const runs: number[] = [];
    for (const y of [row - 1, row, row + 1]) {
      let from = -1;
      let to = -1;
      // The words beside the bar are left out: they begin 2 mm after its end.
      for (let x = 0; x < Math.round((107 / 25.4) * DPI); x++) if (dark(bar, x, y)) [from, to] = [from < 0 ? x : from, x];
      if (to > from) runs.push(mm(to - from + 1));
    }
    expect(Math.max(...runs)).toBeGreaterThan(99.6);
    expect(Math.max(...runs)).toBeLessThan(100.5);

    const lattice = await renderedPdf(latticeSheet({ columns: 9, rows: 6, box: 12 }));
    expect(mm(lattice.width)).toBeCloseTo(9 * 12 + 16, 0);
    const y = Math.round(((8 + 9.5) / 25.4) * DPI);
    const lines: number[] = [];
    for (let x = 1; x < lattice.width; x++) if (dark(lattice, x, y) && !dark(lattice, x - 1, y)) lines.push(mm(x));
    expect(lines).toHaveLength(10);
    for (let i = 1; i < lines.length; i++) expect(lines[i]! - lines[0]!).toBeCloseTo(12 * i, 0);
    expect(Math.abs(lines[9]! - lines[0]! - 108)).toBeLessThan(0.25);
  });

  it('has room and marks for cutting, and a trim box of the sheet', async () => {
    const bytes = await pdfFromSheet({ ...handed(emptyDocument('d', 'd')), marks: [] }, { ...NONE, cutMarks: true, testBar: true });
    const info = execFileSync('pdfinfo', ['-box', '-'], { input: Buffer.from(bytes) }).toString();
    const box = (name: string): number[] => new RegExp(`${name}:\\s+([\\d. ]+)`).exec(info)![1]!.trim().split(/\s+/).map(Number); // prettier-ignore
    const [x0, , x1] = box('TrimBox');
    expect(((x1! - x0!) * 25.4) / 72).toBeCloseTo(300, 1);
    expect((box('MediaBox')[2]! * 25.4) / 72).toBeCloseTo(324, 1);
  });
});

describe('what is handed over', () => {
  it('is the drawing, the grid alone, or both, in the shown order', () => {
    const names = (sheet: HandedSheet): string[] => sheet.marks.map((m) => (m.kind === 'group' ? m.name : ''));
    expect(names(handed(landing(), { content: 'grid' }))).toEqual(['grid, floor']);
    expect(names(handed(landing(), { content: 'both' }))[0]).toBe('grid, floor');
    const over = landing();
    expect(names(handed({ ...over, grid: { ...over.grid, over: true } }, { content: 'both' })).at(-1)).toBe('grid, floor');
    const svg = svgFromSheet(handed(landing(), { content: 'grid', background: false }), 'grid');
    expect(svg).toContain('<title>grid, floor, along a</title>');
    expect(svg).not.toMatch(/<image|id="sheet"/);
  });

  it('starts its grid where it is drawn, in the middle, or at the corner', () => {
    const sheet = { width: 300, height: 200 };
    const setup = landing().projection;
    expect(originMoved(setup, 'drawing', sheet)).toBe(setup);
    expect(originMoved(setup, 'centre', sheet)).toMatchObject({ origin: { x: 150, y: 100 } });
    const moved = originMoved(TWO_POINT, 'corner', sheet) as PerspectiveSetup;
    expect(cornerOf(moved)!.at).toEqual({ x: expect.closeTo(0, 8), y: expect.closeTo(200, 8) });
    expect(sheetFromWorld(projectionFrom(moved), { a: 0, b: 0, h: 0 })!.y).toBeCloseTo(200, 8);
  });

  it('is written in px for sheets in px, at the same size', () => {
    const document = landing();
    const sheet = { ...document.sheet, unit: 'px', resolution: 96 } as const;
    const svg = svgFromSheet(handed({ ...document, sheet }), 'px');
    expect(svg).toMatch(/width="1122.5197px" height="793.7008px" viewBox="0 0 1122.5197 793.7008"/);
    expect(difference(renderedSvg(handed({ ...document, sheet }), 900), renderedSvg(handed(document), 900), 0.12)).toBeLessThan(0.02);
  });
});
