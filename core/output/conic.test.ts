import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Resvg } from '@resvg/resvg-js';
import { PNG } from 'pngjs';
import type { Ink } from '../artwork/marks';
import { projectMarks } from '../artwork/project';
import { emptyDocument, type CheminDocument, type ShapeNode } from '../document/types';
import { apply33, invert33, type Mat33 } from '../math/matrix';
import { mapPaint, type Gradient } from '../paint/paint';
import { PictureMaker } from '../picture/picture';
import { FAMILIES } from '../projection/families';
import { frameFamily } from '../projection/framing';
import { sheetFromPlane, type Plane } from '../projection/planes';
import { projectionFrom } from '../projection/projection';
import { rectangleOutline } from '../shape/outline';
import { pdfPage } from '../testing/pictures';
import { conicFan } from './conic-fan';
import { handedSheet, type HandedSheet } from './handed';
import { pdfFromSheet } from './paint-pdf';
import { svgFromSheet } from './paint-svg';

const SUBJECT = { min: { a: 0, b: 0, h: 0 }, max: { a: 80, b: 80, h: 64 } };
const ROOM = { middle: { x: 148, y: 105 }, width: 170, height: 130 };
const DPI = 72;
const CORNERS = [{ u: 0, v: 0 }, { u: 10, v: 8 }] as const; // prettier-ignore
const STOPS = [
  { at: 0.1, colour: '#103050', strength: 1 },
  { at: 0.45, colour: '#f0c040', strength: 1 },
  { at: 0.9, colour: '#802010', strength: 1 },
];
const CONIC: Gradient = { kind: 'conic', centre: { u: 4, v: 3 }, edge: { u: 7, v: 4 }, stops: STOPS };

const shape = (plane: Plane, fill: Gradient): ShapeNode => ({
  kind: 'shape',
  id: 'a',
  name: 'a',
  hidden: false,
  locked: false,
  plane,
  outline: rectangleOutline(...CORNERS),
  depth: 0,
  paint: { fill, line: null, unlit: true },
});

/** What a place of the plane looks like by the formula: its turn about the centre from the ray at which it begins. */
function colourAt(fill: Extract<Gradient, { kind: 'conic' }>, u: number, v: number, background: readonly number[]): readonly number[] {
  const { centre, edge, otherWay, stops } = fill;
  const turn = Math.atan2(v - centre.v, u - centre.u) - Math.atan2(edge.v - centre.v, edge.u - centre.u);
  const t = ((((otherWay ? -turn : turn) / (2 * Math.PI)) % 1) + 1) % 1;
  const after = stops.findIndex((stop) => stop.at > t);
  const [p, q] = after === 0 ? [stops[0]!, stops[0]!] : after < 0 ? [stops.at(-1)!, stops.at(-1)!] : [stops[after - 1]!, stops[after]!];
  const k = p === q ? 0 : (t - p.at) / (q.at - p.at);
  const channel = (colour: string, i: number): number => parseInt(colour.slice(1 + 2 * i, 3 + 2 * i), 16);
  const strength = p.strength + (q.strength - p.strength) * k;
  return background.map((under, i) => under + (channel(p.colour, i) + (channel(q.colour, i) - channel(p.colour, i)) * k - under) * strength);
}

/** Share in percent of the px of a shape that are another colour than the formula's; those on edges, at the centre and on the first ray are mixed. */
function wrong(
  png: PNG,
  map: Mat33,
  fill: Extract<Gradient, { kind: 'conic' }>,
  background: readonly number[],
): { readonly share: number; readonly count: number } {
  const back = invert33(map)!;
  const perMm = png.width / emptyDocument('e', 'e').sheet.width;
  let [count, off] = [0, 0];
  const around = [[-1, -1], [2, -1], [2, 2], [-1, 2]]; // prettier-ignore
  const turnOf = ({ x: u, y: v }: { x: number; y: number }): number => {
    const turn = Math.atan2(v - fill.centre.v, u - fill.centre.u) - Math.atan2(fill.edge.v - fill.centre.v, fill.edge.u - fill.centre.u);
    return Math.atan2(Math.sin(turn), Math.cos(turn));
  };
  for (let y = 2; y < png.height - 2; y++)
    for (let x = 2; x < png.width - 2; x++) {
      const corners = around.map(([dx, dy]) => apply33(back, (x + dx!) / perMm, (y + dy!) / perMm));
      if (!corners.every((p) => p && p.x > 0 && p.y > 0 && p.x < 10 && p.y < 8)) continue;
      const turns = corners.map((p) => turnOf(p!));
      // About the centre all turns meet in a few px.
      if (Math.max(...turns) - Math.min(...turns) > 0.12) continue;
      if (Math.min(...turns) <= 0 && Math.max(...turns) >= 0) continue;
      const p = apply33(back, (x + 0.5) / perMm, (y + 0.5) / perMm)!;
      const truth = colourAt(fill, p.x, p.y, background);
      count++;
      if (truth.some((value, i) => Math.abs(value - png.data[4 * (y * png.width + x) + i]!) > 6)) off++;
    }
  return { share: (100 * off) / Math.max(1, count), count };
}

const handed = (document: CheminDocument): HandedSheet =>
  handedSheet(document, new PictureMaker().make(document), { kind: 'floor', offset: 0 }, { content: 'drawing', gridFrom: 'drawing', background: true });

async function rendered(sheet: HandedSheet): Promise<readonly (readonly [string, PNG])[]> {
  const file = join(mkdtempSync(join(tmpdir(), 'chemin-conic-')), 'sheet.pdf');
  writeFileSync(file, await pdfFromSheet(sheet, { title: 't', testBar: false, cutMarks: false }));
  const pdf = pdfPage(file, DPI);
  const svg = new Resvg(svgFromSheet(sheet, 't'), { font: { loadSystemFonts: false }, fitTo: { mode: 'width', value: pdf.width } }).render().asPng();
  return [['SVG', PNG.sync.read(Buffer.from(svg))], ['PDF', pdf]]; // prettier-ignore
}

describe('gradients around a point', () => {
  it('have the colours of the formula in every family, in SVG and in PDF, by renderers of others', async () => {
    const fading = { ...CONIC, otherWay: true as const, stops: STOPS.map((stop, i) => ({ ...stop, strength: [1, 0.2, 0.8][i]! })) };
    const background = [1, 3, 5].map((i) => parseInt(emptyDocument('e', 'e').sheet.background.slice(i, i + 2), 16));
    let most = 0;
    for (const [i, { key }] of FAMILIES.entries()) {
      const projection = frameFamily(key, SUBJECT, ROOM);
      const plane: Plane = { kind: (['floor', 'left', 'right'] as const)[i % 3]!, offset: 0 };
      for (const fill of i % 4 === 0 ? ([CONIC, fading] as const) : [CONIC]) {
        const document = { ...emptyDocument('e', 'e'), projection, nodes: [shape(plane, fill)] };
        const map = sheetFromPlane(projectionFrom(projection), plane, document.grid.cell);
        for (const [painter, png] of await rendered(handed(document))) {
          const { share, count } = wrong(png, map, fill as Extract<Gradient, { kind: 'conic' }>, background);
          expect(count).toBeGreaterThan(200);
          most = Math.max(most, share);
          expect([key, painter, share < 0.4]).toEqual([key, painter, true]);
        }
      }
    }
    console.log(`gradients around a point: at most ${most.toFixed(3)} % of px off by more than 6 levels`);
  }, 120_000);

  it('go along when their plane is moved, turned and mirrored', () => {
    const paint = { fill: CONIC, line: null };
    const at = (gradient: unknown, u: number, v: number): readonly number[] => colourAt(gradient as Extract<Gradient, { kind: 'conic' }>, u, v, [0, 0, 0]);
    const turned = mapPaint(paint, ({ u, v }) => ({ u: 20 - v, v: u }));
    const mirrored = mapPaint(paint, ({ u, v }) => ({ u: 20 - u, v }));
    expect(mirrored.fill).toMatchObject({ otherWay: true });
    expect(mapPaint(mirrored, ({ u, v }) => ({ u, v: 5 - v })).fill).not.toHaveProperty('otherWay');
    for (const [u, v] of [
      [1, 1],
      [6, 2],
      [3, 7],
    ] as const) {
      // prettier-ignore
      const truth = at(CONIC, u, v);
      at(turned.fill, 20 - v, u).forEach((value, i) => expect(value).toBeCloseTo(truth[i]!, 6));
      at(mirrored.fill, 20 - u, v).forEach((value, i) => expect(value).toBeCloseTo(truth[i]!, 6));
    }
  });

  it('stay one path where artwork recedes, their rays true', () => {
    const ink: Ink = { kind: 'conic', stops: STOPS, frame: [10, 0, 0, 10, 30, 20] };
    const h: Mat33 = [1.6, 0.1, 12, 0.05, 1.6, 12, 0.01, 0.004, 1];
    const square = { verbs: 'MLLLZ', coords: [0, 0, 60, 0, 60, 60, 0, 60] };
    const [mark] = projectMarks([{ kind: 'path', path: square, fill: ink, rule: 'nonzero', line: null }], h, 0.01);
    expect(mark).toMatchObject({ kind: 'path', fill: { kind: 'conic' } });
    const { frame } = (mark as { fill: Extract<Ink, { kind: 'conic' }> }).fill;
    for (const turn of [0, 0.7, 2, 4]) {
      const [x, y] = [Math.cos(turn), Math.sin(turn)];
      const far = apply33(h, 30 + 10 * x, 20 + 10 * y)!;
      const ray = [frame[0] * x + frame[2] * y, frame[1] * x + frame[3] * y] as const;
      const way = [far.x - frame[4], far.y - frame[5]] as const;
      expect(Math.abs(ray[0] * way[1] - ray[1] * way[0]) / Math.hypot(...ray) / Math.hypot(...way)).toBeLessThan(1e-12);
      expect(ray[0] * way[0] + ray[1] * way[1]).toBeGreaterThan(0);
    }
  });

  it('are wedges that leave nothing open and cover what is filled, for one colour too', () => {
    const square = { verbs: 'MLLLZ', coords: [-5, -5, 5, -5, 5, 5, -5, 5] };
    const plain = conicFan({ kind: 'conic', stops: [STOPS[0]!, { ...STOPS[0]!, at: 1 }], frame: [1, 0, 0, 1, 0, 0] }, square);
    expect(new Set(plain.map(({ colour }) => colour))).toEqual(new Set(['#103050']));
    const wedges = conicFan({ kind: 'conic', stops: STOPS, frame: [1, 0, 0, 1, 40, 0] }, square);
    expect(wedges.length).toBeGreaterThan(300);
    expect(wedges.every(({ path }) => path.coords.every(Number.isFinite))).toBe(true);
    expect(conicFan({ kind: 'conic', stops: STOPS, frame: [1, 0, 2, 0, 0, 0] }, square)).toEqual([]);
  });
});
