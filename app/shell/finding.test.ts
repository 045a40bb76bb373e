import { webcrypto } from 'node:crypto';
import { TestBed } from '@angular/core/testing';
import { boxNode, openDrawing } from '../testing/page';
import { FindingService } from '../state/finding.service';
import { StagesService } from '../state/stages.service';

beforeEach(() => {
  Object.defineProperty(globalThis, 'crypto', { configurable: true, value: webcrypto });
  TestBed.resetTestingModule();
});

/** What different trades call things, and what they are led to first, or at least among the first five. */
const TABLE: readonly (readonly [string, RegExp])[] = [
  ['isometric', /Projection: isometric/],
  ['two-point', /Projection: two-point/],
  ['planometric', /Projection: planometric/],
  ['vanishing point', /Vanishing points/],
  ['horizon', /Horizon/],
  ['tilt', /Tilt/],
  ['guide', /guide|Grid: cell|grid|rulers/i],
  ['eye height', /Eye height/],
  ['angle of view', /Angle of view/],
  ['depth', /Depth/],
  ['extrude', /Depth/],
  ['divide', /Divide/],
  ['repeat', /Repeat in rows/],
  ['array', /Repeat in rows|Linked copy/],
  ['gradient', /Gradient/],
  ['fill', /Fill/],
  ['stroke', /Line/],
  ['line width', /Line width/],
  ['opacity', /Opacity/],
  ['scale', /Scale/],
  ['rotate', /Rotate|Turn/],
  ['resize', /Resize|Scale/],
  ['flip', /Flip|Mirror/],
  ['units', /Units/],
  ['erase', /Cut away|Delete/],
  ['inscribe', /Inscribe a circle/],
  ['bitmap', /picture|PNG|artwork/i],
  ['image', /picture|artwork/i],
  ['transparent', /Transparent background|PNG/],
  ['sheet size', /Sheet size/],
  ['A4', /Sheet size/],
  ['drawing scale', /Drawing scale/],
];

describe('finding', () => {
  it.each(TABLE)('“%s” leads to %s', (words, title) => {
    openDrawing();
    const found = TestBed.inject(FindingService).find(words);
    expect(found.slice(0, 3).map((item) => item.title).filter((name) => title.test(name))).not.toEqual([]); // prettier-ignore
  });

  it('takes words in any order and finds nothing for what is not there', () => {
    openDrawing();
    const finding = TestBed.inject(FindingService);
    expect(finding.find('wall left')[0]!.title).toBe('Draw on the left wall');
    expect(finding.find('zebra')).toEqual([]);
    expect(finding.find('').length).toBeGreaterThan(100);
  });

  it('says what is missing, and for nothing that can be done', () => {
    const { view } = openDrawing(boxNode('one'), boxNode('two'));
    const finding = TestBed.inject(FindingService);
    const why = (words: string): string | null => finding.find(words)[0]!.why;
    expect(why('Duplicate the selection')).toBe('Select something first.');
    expect(why('Join shapes into one')).toBe('Select two or more things first.');
    expect(why('Align left')).toBe('Select two or more things first.');
    expect(why('Undo')).toBe('There is nothing to undo.');
    expect(why('Calmer')).toMatch(/perspective/);
    expect(why('Scale')).toBe('Select something first.');
    view.select(['one', 'two']);
    expect(['Duplicate the selection', 'Join shapes into one', 'Align left', 'Scale'].map(why)).toEqual([null, null, null, null]);
  });

  it('has a title of its own for every setting', () => {
    openDrawing();
    const titles = TestBed.inject(StagesService)
      .here()
      .flatMap(({ settings }) => settings.map(({ title }) => title));
    expect(titles.length).toBeGreaterThan(40);
    expect(new Set(titles).size).toBe(titles.length);
  });
});
