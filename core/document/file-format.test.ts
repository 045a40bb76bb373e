import { readFileSync } from 'node:fs';
import { landing } from '@demo';
import { FAMILIES } from '../projection/families';
import { checkDocument } from './read';
import { DOCUMENT_VERSION, emptyDocument } from './types';

const page = readFileSync('docs/file-format.md', 'utf8');

describe('the page of the file format', () => {
  it('shows an example that can be opened', () => {
    const example = /```json\n([\s\S]*?)```/.exec(page)![1]!.replace(/"…"/g, '"x"').replace('"svg": "<svg …>"', '"svg": "<svg viewBox=\\"0 0 60 20\\"></svg>"');
    const read = checkDocument(JSON.parse(example));
    expect(read.ok ? [] : read.problems).toEqual([]);
    expect(page).toContain(`| \`version\` | ${DOCUMENT_VERSION}.`);
  });

  it('names every field of a document, of its nodes and of what they hold', () => {
    const fields = new Set<string>();
    const visit = (data: unknown): void => {
      if (typeof data !== 'object' || data === null) return;
      for (const [key, part] of Object.entries(data)) {
        if (!/^\d+$/.test(key)) fields.add(key);
        visit(part);
      }
    };
    visit(landing());
    visit(emptyDocument('d', 'd'));
    const known = new Set(page.match(/[A-Za-z]+/g));
    expect([...fields].filter((field) => !known.has(field))).toEqual([]);
  });

  it('names every family, and tells limits that are the schema’s', () => {
    for (const { key } of FAMILIES) expect(page).toContain(`\`${key}\``);
    const refused = (change: object): boolean => !checkDocument({ ...emptyDocument('d', 'd'), ...change }).ok;
    const { sheet, grid, projection } = emptyDocument('d', 'd');
    const rows = (what: string): readonly string[] => new RegExp(`\\| ${what} \\| ([^|]*) \\| ([^|]*) \\|`).exec(page)!.slice(1);
    const number = (text: string): number => Number(text.replaceAll(',', '').replaceAll('−', '-').replace(/ .*/, ''));
    const limits: readonly (readonly [string, (n: number) => object])[] = [
      ['`sheet.resolution`', (n) => ({ sheet: { ...sheet, resolution: n } })],
      ['`sheet.scale`', (n) => ({ sheet: { ...sheet, scale: n } })],
      ['`grid.cell` in mm', (n) => ({ grid: { ...grid, cell: n } })],
      ['`grid.bold`', (n) => ({ grid: { ...grid, bold: n } })],
      ['`grid.closest` in px', (n) => ({ grid: { ...grid, closest: n } })],
      ['`aDeg`, `bDeg`', (n) => ({ projection: { ...projection, aDeg: n } })],
      ['other angles in degrees', (n) => ({ projection: { ...projection, rollDeg: n } })],
    ];
    for (const [what, change] of limits) {
      const [least, most] = rows(what).map(number) as [number, number];
      const beyond = Math.max(1, Math.abs(most)) * 0.001 + (what.includes('bold') ? 1 : 0);
      expect([what, refused(change(least)), refused(change(most))]).toEqual([what, false, false]);
      expect([what, refused(change(least - beyond)), refused(change(most + beyond))]).toEqual([what, true, true]);
    }
  });
});
