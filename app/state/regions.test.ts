import { TestBed } from '@angular/core/testing';
import { emptyDocument, outlineThrough, type CheminDocument, type ShapeNode } from '@core';
import { boxNode } from '../testing/page';
import { RegionsService } from './regions.service';

const FLOOR = { kind: 'floor', offset: 0 } as const;

/** So many lines across each other, along a and along b. */
function lattice(count: number): CheminDocument {
  const line = (i: number, turned: boolean): ShapeNode => {
    const ends = turned ? [{ u: i, v: -1 }, { u: i, v: count }] : [{ u: -1, v: i }, { u: count, v: i }]; // prettier-ignore
    return { ...boxNode(`l${i}${turned}`), depth: 0, outline: outlineThrough(ends, false), paint: { fill: null, line: null } };
  };
  const all = Array.from({ length: count }, (_, i) => [line(i, true), line(i, false)]).flat();
  return { ...emptyDocument('d', 'd'), nodes: all };
}

describe('regions', () => {
  it('of few lines are there at once, and the same as long as the lines are', () => {
    const service = TestBed.inject(RegionsService);
    const document = lattice(4);
    const found = service.on(document, FLOOR);
    expect([found.pending, found.regions.length]).toEqual([false, 9]);
    expect(service.on({ ...document, nodes: [...document.nodes] }, FLOOR).regions).toBe(found.regions);
  });

  it('of many lines come later; until then those before them stay', async () => {
    const service = TestBed.inject(RegionsService);
    const before = service.on(lattice(4), FLOOR);
    const document = lattice(40);
    const waiting = service.on(document, FLOOR);
    expect([waiting.pending, waiting.regions]).toEqual([true, before.regions]);
    await new Promise((done) => setTimeout(done));
    const found = service.on(document, FLOOR);
    expect([found.pending, found.regions.length]).toEqual([false, 39 * 39]);
  });
});
