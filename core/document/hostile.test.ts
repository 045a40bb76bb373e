import { Resvg } from '@resvg/resvg-js';
import { landing } from '@demo';
import { projectMarks } from '../artwork/project';
import { importSvg } from '../artwork/import-svg';
import { readResolvedSvg } from '../artwork/read-svg';
import { handedSheet } from '../output/handed';
import { svgFromSheet } from '../output/paint-svg';
import { PictureMaker } from '../picture/picture';
import { badNumbers, processorMs, randomFrom, runs } from '../testing/random';
import { readProject, writeProject } from './read';
import { emptyDocument, type CheminDocument } from './types';

/** Longest time in ms that a damaged file may take; far above what any takes. */
const LIMIT_MS = 2000;

const random = randomFrom(20);
const whole = (below: number): number => Math.floor(random() * below);
const one = <T>(of: readonly T[]): T => of[whole(of.length)]!;

const ODD_VALUES: readonly unknown[] = [null, true, '', 'x', 'swatch:none', '#zzzzzz', '__proto__', [], {}, [[]], 0, -1, 1e-300, 0.5, 1e6, 1e7, 1e300, -1e300, 'a'.repeat(300)]; // prettier-ignore

/** Data with one of its values put in another's place, left out, doubled, or made odd. */
function mutated(text: string): string {
  const data = JSON.parse(text) as Record<string, unknown>;
  const places: [Record<string, unknown>, string][] = [];
  const visit = (part: unknown): void => {
    if (typeof part !== 'object' || part === null) return;
    for (const key of Object.keys(part)) {
      places.push([part as Record<string, unknown>, key]);
      visit((part as Record<string, unknown>)[key]);
    }
  };
  visit(data);
  const numbers = places.filter(([part, key]) => typeof part[key] === 'number');
  for (let count = 1 + whole(2); count > 0; count--) {
    const tuned = random() < 0.7;
    const [part, key] = one(tuned ? numbers : places);
    const act = tuned ? 3 : whole(5);
    if (act === 0) part[key] = one(ODD_VALUES);
    else if (act === 1) Reflect.deleteProperty(part, key);
    else if (act === 2) {
      const [other, name] = one(places);
      // Through text: a part that were put into itself would have no end.
      part[key] = JSON.parse(JSON.stringify(other[name] ?? null)) as unknown;
    } else if (act === 3 && typeof part[key] === 'number') part[key] = one([-1, 0, 1e-9, 1e-3, 0.5, 2, 10, 1e3, 1e5, 999_999, 1e9, 1e15]) * part[key];
    else if (Array.isArray(part[key])) part[key] = [...(part[key] as unknown[]), ...(JSON.parse(JSON.stringify(part[key])) as unknown[])];
    else part[key] = one(ODD_VALUES);
  }
  return JSON.stringify(data);
}

/** Text with a few letters changed, left out, doubled or cut off. */
function scrambled(text: string): string {
  let out = text;
  for (let count = 1 + whole(2); count > 0; count--) {
    const at = whole(out.length);
    const length = 1 + whole(20);
    const act = whole(5);
    if (act === 0) out = out.slice(0, at) + out.slice(at + length);
    else if (act === 1) out = out.slice(0, at) + out.slice(at, at + length).repeat(1 + whole(40)) + out.slice(at + length);
    else if (act === 2) out = out.slice(0, at) + one(['9', '1e300', '-', '"', '<', '>', '&', '{', ']', 'NaN', 'url(#a)', ' 0', '%']) + out.slice(at + 1);
    else if (act === 3) out = out.replace(/\d+(\.\d+)?/g, (n) => (random() < 0.02 ? one(['1e300', '-1e9', '0', '1e-30', '99999999', n + n]) : n));
    else if (random() < 0.1) out = out.slice(0, at);
  }
  return out;
}

function pictured(document: CheminDocument): void {
  const picture = new PictureMaker().make(document);
  expect(badNumbers([picture.marks, picture.visible])).toEqual([]);
  const handed = handedSheet(document, picture, { kind: 'floor', offset: 0 }, { content: 'both', gridFrom: 'drawing', background: true });
  expect(svgFromSheet(handed, 'x')).not.toMatch(/NaN|Infinity/);
}

function timed(work: () => void): number {
  const before = processorMs();
  work();
  return processorMs() - before;
}

describe('damaged project files', () => {
  it('are opened or refused, never crash, and what is opened is pictured and exported', () => {
    const good = writeProject(landing());
    const perspective = writeProject({ ...landing(), projection: { kind: 'perspective', chosen: 'two-point', focal: 260, principal: { x: 150, y: 60 }, turnDeg: 35, tiltDeg: 0, rollDeg: 0, eye: { a: -130, b: -190, h: 120 } } }); // prettier-ignore
    let [opened, slowest] = [0, 0];
    for (let i = 0; i < runs(500); i++) {
      const text = random() < 0.7 ? mutated(random() < 0.5 ? good : perspective) : scrambled(good);
      const time = timed(() => {
        const read = readProject(text);
        if (!read.ok) return expect(read.problems.length).toBeGreaterThan(0);
        opened++;
        pictured(read.value);
      });
      slowest = Math.max(slowest, time);
    }
    console.log(`${opened} of ${runs(500)} damaged projects could be opened; the slowest took ${slowest.toFixed(0)} ms`);
    expect(opened).toBeGreaterThan(0);
    expect(slowest).toBeLessThan(LIMIT_MS);
  });

  it('with a list of a million parts, right or wrong ones, are refused with its place', () => {
    for (const part of ['{}', '1', 'null']) {
      const text = JSON.stringify(emptyDocument('d', 'd')).replace('"nodes":[]', `"nodes":[${`${part},`.repeat(999_999)}${part}]`);
      const read = readProject(text);
      expect(read.ok ? [] : read.problems.map((p) => p.message)).toEqual(['A list has more than 100,000 parts. (nodes)']);
    }
    const many = JSON.stringify(emptyDocument('d', 'd')).replace('"nodes":[]', `"nodes":[${'{},'.repeat(90_000)}{}]`);
    expect(readProject(many).ok).toBe(false);
  });
});

const SVG = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="40" height="20" viewBox="0 0 40 20">
<style>.k{fill:#123456;stroke-width:.4} g > path{stroke:#c08040}</style>
<defs><linearGradient id="a" x1="0" x2="1"><stop offset="0" stop-color="red"/><stop offset="1" stop-color="#00f" stop-opacity=".5"/></linearGradient>
<radialGradient id="r" cx=".5" cy=".5" r=".5" gradientTransform="scale(1 .5)"><stop offset=".2" stop-color="#fff"/><stop offset="1"/></radialGradient>
<clipPath id="c"><circle cx="5" cy="5" r="3"/></clipPath><g id="u"><rect width="4" height="2" rx=".5"/></g></defs>
<g transform="translate(3 2) rotate(12)" opacity=".7"><path class="k" d="M0 0L10 0C12 4 8 9 4 8Q2 6 0 0Z"/><use xlink:href="#u" x="4" fill="url(#a)"/></g>
<g clip-path="url(#c)"><ellipse cx="5" cy="5" rx="6" ry="2" fill="url(#r)" stroke="#0a0" stroke-dasharray="1 .4"/></g>
<polyline points="1,1 4,6 9,2" fill="none" stroke="#333" stroke-width="2" stroke-linejoin="round" transform="matrix(1 0 .2 1 3 4)"/></svg>`;

describe('damaged SVG', () => {
  it('is read or refused, never crashes, and what is read is projected and exported', () => {
    const resolve = (text: string): string => new Resvg(text, { font: { loadSystemFonts: false } }).toString();
    let [opened, slowest] = [0, 0];
    for (let i = 0; i < runs(250); i++) {
      const text = scrambled(SVG);
      const time = timed(() => {
        const read = importSvg(text, resolve);
        if (!read.ok) return expect(read.problems.length).toBeGreaterThan(0);
        opened++;
        const { svg, flat } = read.value;
        expect(badNumbers(projectMarks(flat.marks, [8, 1, 150, 0, 6, 20, 0.0001, 0.0002, 1], 0.001))).toEqual([]);
        const artwork = { id: 'art', name: 'art', svg, width: flat.width, height: flat.height };
        const placed = { kind: 'placement', id: 'p', name: 'p', hidden: false, locked: false, artwork: 'art', target: { kind: 'plane', plane: { kind: 'left', offset: 0 } }, anchor: { at: { a: 0, b: -1, h: -1 }, width: 4, height: 2 } } as const; // prettier-ignore
        const document = { ...emptyDocument('d', 'd'), artworks: [artwork], nodes: [placed] };
        const kept = readProject(writeProject(document));
        expect(kept.ok ? [] : kept.problems).toEqual([]);
        pictured(document);
      });
      slowest = Math.max(slowest, time);
    }
    console.log(`${opened} of ${runs(250)} damaged SVG could be read; the slowest took ${slowest.toFixed(0)} ms`);
    expect(opened).toBeGreaterThan(0);
    expect(slowest).toBeLessThan(LIMIT_MS);
  });

  it('that would unpack to much is refused at once', () => {
    const resolve = (): string => {
      throw new Error('never asked');
    };
    const svg = (inside: string, before = ''): string => `${before}<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9">${inside}</svg>`;
    const cases: [string, RegExp][] = [
      [svg('&a;'.repeat(20_000), `<!DOCTYPE svg [<!ENTITY a "${'<path/>'.repeat(200)}">]>`), /entities unpack to more than 1 MB/],
      [svg(`<style>${'g path{fill:red}'.repeat(5000)}</style>${'<path/>'.repeat(5000)}`), /too many style rules/],
      [svg(`<defs><g id="a0"><path/></g>${Array.from({ length: 20 }, (_, i) => `<g id="a${i + 1}"><use href="#a${i}"/><use href="#a${i}"/></g>`).join('')}</defs><use href="#a20"/>`), /uses of uses/], // prettier-ignore
    ];
    for (const [text, reason] of cases) {
      const read = importSvg(text, resolve);
      expect(read.ok ? '' : read.problems[0]!.message).toMatch(reason);
    }
  });

  it('with numbers beyond anything that can be drawn is refused with its line', () => {
    const refused = (inside: string, box = '0 0 9 9'): string => {
      const read = readResolvedSvg(`<svg viewBox="${box}">\n${inside}</svg>`);
      return read.ok ? 'read' : read.problems.map((p) => `${p.path}: ${p.message}`).join();
    };
    const path = '<path d="M 0 0 L 1 1 L 2 0 Z"/>';
    expect(refused(`<g transform="scale(1e300)"><g transform="scale(1e300)">${path}</g></g>`)).toMatch(/^line 2: A transform leads farther/);
    expect(refused('<path d="M 0 0 L 1e9 1 L 2 0 Z"/>')).toMatch(/^line 2: A path lies farther/);
    expect(refused('<path stroke="#000000" stroke-width="1e8" d="M 0 0 L 1 1"/>')).toMatch(/^line 2: A line is wider/);
    expect(refused(path, '0 0 2000000 9')).toMatch(/^line 1: The SVG is larger/);
    expect(refused(path)).toBe('read');
    const ink = importSvg('<svg viewBox="0 0 9 9"><linearGradient id="a"><stop offset="3" stop-color="javascript:x"/></linearGradient><path fill="url(#a)" opacity="7" d="M 0 0 L 1 1 L 2 0 Z"/></svg>', (text) => text); // prettier-ignore
    expect(ink.ok && JSON.stringify(ink.value.flat.marks)).toMatch(/"at":1,"colour":"#000000"/);
  });
});
