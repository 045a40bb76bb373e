import { converter } from 'culori';
import { applyEdit, type SingleEdit } from './edits';
import { shapesIn } from './tree';
import type { CheminDocument } from './types';
import { landing } from '@demo';
import { PALETTES, recoloured, recolourEdits } from './recolour';

const lightness = (colour: string): number => converter('oklch')(colour)!.l;
const fills = (document: CheminDocument): readonly string[] =>
  shapesIn(document.nodes).flatMap(({ paint }) => (typeof paint.fill === 'string' ? [paint.fill] : []));
const after = (document: CheminDocument, edits: readonly SingleEdit[]): CheminDocument => edits.reduce<CheminDocument>(applyEdit, document);

describe('painting in another palette', () => {
  it('keeps what is darker darker, and tells apart what was told apart', () => {
    const before = ['#101010', '#303030', '#707070', '#a0a0a0', '#d0d0d0', '#f0f0f0'];
    for (const { colours } of PALETTES) {
      const become = recoloured(before, colours);
      const now = before.map((colour) => become.get(colour)!);
      expect(new Set(now).size).toBe(before.length);
      now.forEach((colour, i) => i > 0 && expect(lightness(colour)).toBeGreaterThan(lightness(now[i - 1]!) - 1e-6));
    }
    expect(recoloured(['nothing'], ['#102030']).size).toBe(0);
    expect(recoloured(['#102030'], []).size).toBe(0);
  });

  it('repaints everything, or what is chosen, and leaves swatches to be followed', () => {
    const document = applyEdit(landing(), { kind: 'swatches', swatches: [{ id: 'sea', name: 'sea', colour: '#8fbcc0' }] });
    const water = shapesIn(document.nodes)[0]!;
    const followed = applyEdit(document, { kind: 'paint', ids: [water.id], paint: { ...water.paint, fill: 'swatch:sea' } });
    const all = after(followed, recolourEdits(followed, null, PALETTES[1]!.colours));
    expect(shapesIn(all.nodes)[0]!.paint.fill).toBe('swatch:sea');
    expect(all.swatches[0]!.colour).not.toBe('#8fbcc0');
    expect(fills(all).filter((fill) => fills(followed).includes(fill) && !fill.startsWith('swatch:'))).toEqual([]);
    const one = after(followed, recolourEdits(followed, [water], PALETTES[1]!.colours));
    expect(shapesIn(one.nodes)[0]!.paint.fill).toMatch(/^#/);
    expect(one.swatches).toEqual(followed.swatches);
    expect(fills(one).slice(1)).toEqual(fills(followed).slice(1));
  });
});
