import { webcrypto } from 'node:crypto';
import { TestBed } from '@angular/core/testing';
import { emptyDocument, readResolvedSvg, writeProject, type Checked, type ImportedSvg } from '@core';
import { openDrawing } from '../testing/page';
import { MessageStore } from '../platform/messages.store';
import { fileName } from '../platform/files';
import { ImportsService } from './imports.service';
import { KeepingService } from './keeping.service';
import { SvgReaderService } from '../platform/svg-reader.service';

const svg = '<svg viewBox="0 0 4 2"><path fill="#ff0000" d="M0 0L4 0L4 2Z"/></svg>';

beforeEach(() => {
  Object.defineProperty(globalThis, 'crypto', { configurable: true, value: webcrypto });
  TestBed.resetTestingModule();
});

/** A file as the page gets it, with the one method that jsdom lacks. */
function file(name: string, text: string): File {
  return Object.assign(new File([text], name), { text: () => Promise.resolve(text) });
}

function reading(result: Checked<ImportedSvg>): void {
  jest.spyOn(TestBed.inject(SvgReaderService), 'read').mockResolvedValue(result);
}

const messages = (): string[] => TestBed.inject(MessageStore).messages().flatMap((m) => [m.title, ...m.lines]); // prettier-ignore

describe('files from outside', () => {
  it('become artwork that the next press places', async () => {
    const { store, view } = openDrawing();
    const flat = readResolvedSvg(svg);
    if (!flat.ok) throw new Error('refused');
    reading({ ok: true, value: { svg, flat: flat.value, pictures: [] }, notes: [{ code: 'left-out', path: 'line 3', message: 'Left out: masks.' }] });
    await TestBed.inject(ImportsService).takeDropped([file('band.svg', svg)]);
    expect(store.kept().artworks).toMatchObject([{ name: 'band', width: 4, height: 2 }]);
    expect([view.stage(), view.tool(), view.artwork()]).toEqual(['artwork', 'place', store.kept().artworks[0]!.id]);
    expect(messages()).toEqual(['“band.svg” was added', 'line 3: Left out: masks.']);
    store.undo();
    expect(store.kept().artworks).toEqual([]);
  });

  it('are refused whole, with the place of what is wrong, and nothing changes', async () => {
    const { store } = openDrawing();
    const before = store.history();
    reading({ ok: false, problems: [{ code: 'bad-path', path: 'line 7', message: 'A path cannot be read.' }] });
    await TestBed.inject(ImportsService).takeDropped([file('broken.svg', 'x'), file('half.chemin', '{"format":')]);
    expect(messages()).toEqual([
      '“broken.svg” was not added',
      'line 7: A path cannot be read.',
      'Nothing was changed.',
      '“half.chemin” was not opened',
      'The file is damaged or cut short. (line 1, column 11)',
      'The open drawing is untouched.',
    ]);
    expect(store.history()).toBe(before);
  });

  it('become drawings of their own', async () => {
    openDrawing();
    const adopt = jest.spyOn(TestBed.inject(KeepingService), 'adopt').mockResolvedValue(true);
    const project = { ...emptyDocument('p', 'From a friend'), nodes: [] };
    await TestBed.inject(ImportsService).takeDropped([file('friend.chemin', writeProject(project))]);
    expect(adopt).toHaveBeenCalledWith(project);
    expect(messages()[0]).toBe('“From a friend” was opened');
  });

  it('are told so when the reader of SVG cannot start', async () => {
    openDrawing();
    const read = await TestBed.inject(SvgReaderService).read(svg);
    expect(read.ok ? '' : read.problems[0]!.message).toMatch(/could not be read: there is no worker here/);
  });
});

describe('file names', () => {
  it('are plain everywhere', () => {
    expect(fileName('Quay Nine: landing', 'svg')).toBe('quay-nine-landing.svg');
    expect(fileName('Größe é', 'chemin')).toBe('gro-e-e.chemin');
    expect(fileName('…', 'svg')).toBe('drawing.svg');
  });
});
