import { Resvg } from '@resvg/resvg-js';
import { PNG } from 'pngjs';
import { apply33, IDENTITY, invert33, type Mat33 } from '../math/matrix';
import type { Path } from '../shape/path';
import { randomFrom, runs } from '../testing/random';
import { sweptArea } from '../testing/swept';
import { flatInk, type Ink, type LineStyle, type Mark } from './marks';
import { projectMarks } from './project';

/** Units of the flat, px of its raster to a unit, and px of the sheet's raster, which are mm too. */
const SIZE = 60;
const FINE = 14;
const SHEET = 120;
/** Places within a px, in each direction, at which the truth is looked up. */
const WITHIN = 5;

const data = ({ verbs, coords }: Path): string => {
  let at = 0;
  return [...verbs].map((verb) => {
    const size = verb === 'C' ? 6 : verb === 'Z' ? 0 : 2;
    return verb + coords.slice(at, (at += size)).join(' ');
  }).join(''); // prettier-ignore
};

const raster = (content: string, size: number, px: number): PNG => PNG.sync.read(Buffer.from(new Resvg(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${size} ${size}" width="${px}" height="${px}"><rect width="100%" height="100%" fill="#fff"/>${content}</svg>`, { font: { loadSystemFonts: false } }).render().asPng())); // prettier-ignore

/** Marks as SVG, with clips. */
function drawn(marks: readonly Mark[]): string {
  let clips = 0;
  const write = (mark: Mark): string => {
    if (mark.kind === 'path') {
      const { fill } = mark;
      if (fill?.kind === 'flat') return `<path d="${data(mark.path)}" fill="${fill.colour}" fill-rule="${mark.rule}"/>`;
      if (!fill || fill.kind === 'conic') return '';
      const id = `g${clips++}`;
      const own = fill.kind === 'linear' ? `x1="${fill.from[0]}" y1="${fill.from[1]}" x2="${fill.to[0]}" y2="${fill.to[1]}"` : `cx="${fill.centre[0]}" cy="${fill.centre[1]}" r="${fill.radius}" fx="${fill.focus[0]}" fy="${fill.focus[1]}"`; // prettier-ignore
      const inner = fill.stops.map(({ at, colour }) => `<stop offset="${at}" stop-color="${colour}"/>`).join('');
      return `<${fill.kind}Gradient id="${id}" gradientUnits="userSpaceOnUse" gradientTransform="matrix(${fill.frame.join(' ')})" ${own}>${inner}</${fill.kind}Gradient><path d="${data(mark.path)}" fill="url(#${id})"/>`; // prettier-ignore
    }
    if (mark.kind === 'image') return '';
    const inner = mark.marks.map(write).join('');
    if (!mark.clip) return `<g>${inner}</g>`;
    const id = `c${clips++}`;
    return `<clipPath id="${id}"><path d="${data(mark.clip.path)}" clip-rule="${mark.clip.rule}"/></clipPath><g clip-path="url(#${id})">${inner}</g>`;
  };
  return marks.map(write).join('');
}

/** A homography that takes the flat onto the sheet's raster, receding. */
function receding(random: () => number): Mat33 {
  for (;;) {
    const h: Mat33 = [1.6, 0.3 * (random() - 0.5), 12, 0.3 * (random() - 0.5), 1.6, 12, 0.02 * (random() - 0.3), 0.012 * (random() - 0.5), 1];
    const corners = [[0, 0], [SIZE, 0], [SIZE, SIZE], [0, SIZE]].map(([x, y]) => apply33(h, x!, y!)); // prettier-ignore
    if (corners.every((p) => p && p.x > 0 && p.y > 0 && p.x < SHEET && p.y < SHEET)) return h;
  }
}

/** A channel of the sheet's px as the flat raster says that it is, looked up at places within each. */
function truthOf(flat: PNG, h: Mat33, channel: number): Float64Array {
  const back = invert33(h)!;
  const out = new Float64Array(SHEET * SHEET);
  for (let y = 0; y < SHEET; y++)
    for (let x = 0; x < SHEET; x++) {
      let sum = 0;
      for (let i = 0; i < WITHIN * WITHIN; i++) {
        const p = apply33(back, x + ((i % WITHIN) + 0.5) / WITHIN, y + (Math.floor(i / WITHIN) + 0.5) / WITHIN);
        const [u, v] = p ? [Math.floor(p.x * FINE), Math.floor(p.y * FINE)] : [-1, -1];
        sum += u >= 0 && v >= 0 && u < flat.width && v < flat.height ? flat.data[4 * (v * flat.width + u) + channel]! : 255;
      }
      out[y * SHEET + x] = sum / (WITHIN * WITHIN);
    }
  return out;
}

describe('lines that recede', () => {
  it('cover what a pen on the flat covers, joins, caps and dashes too', () => {
    const random = randomFrom(500);
    let [far, all] = [0, 0];
    for (let i = 0; i < runs(16); i++) {
      const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
      const place = (): number => 8 + random() * (SIZE - 16);
      const verbs = pick(['MLLL', 'MCC', 'MLCL', 'MLLZ', 'MCCZ']);
      const path: Path = { verbs, coords: Array.from({ length: [...verbs].reduce((sum, verb) => sum + (verb === 'C' ? 6 : verb === 'Z' ? 0 : 2), 0) }, place) }; // prettier-ignore
      const width = 1 + random() * 5;
      const line: LineStyle = {
        ink: flatInk('#000000'),
        width,
        cap: pick(['butt', 'round', 'square'] as const),
        join: pick(['miter', 'round', 'bevel'] as const),
        miterLimit: 4,
        dashes: random() < 0.5 ? [] : [2 + random() * 8, 2 + random() * 6],
        pen: IDENTITY,
      };
      const h = receding(random);
      const swept = sweptArea(path, line).map((polygon) => `M${polygon.join('L')}Z`).join(''); // prettier-ignore
      const flat = raster(`<path d="${swept}"/>`, SIZE, SIZE * FINE);
      const truth = truthOf(flat, h, 0);
      const shown = raster(drawn(projectMarks([{ kind: 'path', path, fill: null, rule: 'nonzero', line }], h, 0.01)), SHEET, SHEET);
      for (let k = 0; k < SHEET * SHEET; k++) {
        if (truth[k]! > 254 && shown.data[4 * k]! > 254) continue;
        all++;
        // An edge 0.3 px beside the true one changes a px by 0.3 of it; the rest is what two rasters differ by.
        if (Math.abs(truth[k]! - shown.data[4 * k]!) > 0.36 * 255) far++;
      }
    }
    console.log(`lines in perspective: ${far} of ${all} px differ by more than a third`);
    expect(all).toBeGreaterThan(runs(16) * 200);
    expect(far).toBeLessThanOrEqual(all / 50_000);
  });
});

describe('gradients that recede', () => {
  const stops = [{ at: 0.1, colour: '#103050', strength: 1 }, { at: 0.5, colour: '#f0c040', strength: 1 }, { at: 0.9, colour: '#802010', strength: 1 }]; // prettier-ignore
  const written = stops.map(({ at, colour }) => `<stop offset="${at}" stop-color="${colour}"/>`).join('');
  const square: Path = { verbs: 'MLLLZ', coords: [0, 0, SIZE, 0, SIZE, SIZE, 0, SIZE] };

  it.each([
    [
      'linear',
      { kind: 'linear', from: [8, 5], to: [50, 40], stops, frame: IDENTITY },
      `<linearGradient id="g" gradientUnits="userSpaceOnUse" x1="8" y1="5" x2="50" y2="40">${written}</linearGradient>`,
    ],
    [
      'radial',
      { kind: 'radial', centre: [30, 30], focus: [30, 30], radius: 26, stops, frame: IDENTITY },
      `<radialGradient id="g" gradientUnits="userSpaceOnUse" cx="30" cy="30" r="26">${written}</radialGradient>`,
    ],
    [
      'radial about another place',
      { kind: 'radial', centre: [32, 30], focus: [24, 26], radius: 26, stops, frame: IDENTITY },
      `<radialGradient id="g" gradientUnits="userSpaceOnUse" cx="32" cy="30" r="26" fx="24" fy="26">${written}</radialGradient>`,
    ],
  ] as const)('have the colours that they have on the flat, to a level or two: %s', (_, fill, source) => {
    const random = randomFrom(7);
    for (let i = 0; i < runs(3); i++) {
      const h = receding(random);
      const flat = raster(`${source}<rect width="${SIZE}" height="${SIZE}" fill="url(#g)"/>`, SIZE, SIZE * FINE);
      const shown = raster(drawn(projectMarks([{ kind: 'path', path: square, fill: fill as unknown as Ink, rule: 'nonzero', line: null }], h, 0.01)), SHEET, SHEET); // prettier-ignore
      const back = invert33(h)!;
      for (const channel of [0, 1, 2]) {
        const truth = truthOf(flat, h, channel);
        let [sum, count, wide] = [0, 0, 0];
        for (let y = 2; y < SHEET - 2; y++)
          for (let x = 2; x < SHEET - 2; x++) {
            const inside = [
              [-1, -1],
              [2, -1],
              [2, 2],
              [-1, 2],
            ].every(([dx, dy]) => {
              // prettier-ignore
              const p = apply33(back, x + dx!, y + dy!);
              return p && p.x > 0.5 && p.y > 0.5 && p.x < SIZE - 0.5 && p.y < SIZE - 0.5;
            });
            if (!inside) continue;
            const miss = Math.abs(truth[y * SHEET + x]! - shown.data[4 * (y * SHEET + x) + channel]!);
            sum += miss;
            count++;
            if (miss > 2.5) wide++;
          }
        expect(count).toBeGreaterThan(1000);
        expect(sum / count).toBeLessThan(1);
        // Where its colours turn a px mixes them.
        expect(wide / count).toBeLessThan(0.1);
      }
    }
  });
});
