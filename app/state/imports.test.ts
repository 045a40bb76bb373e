import { webcrypto } from 'node:crypto';
import { TestBed } from '@angular/core/testing';
import { strToU8 } from 'fflate';
import { digestOf, emptyDocument, readResolvedSvg, writeProject, type Checked, type ImportedSvg } from '@core';
import { openDrawing } from '../testing/page';
import { MessageStore } from '../platform/messages.store';
import { DrawingsService } from '../platform/drawings.service';
import { fileName } from '../platform/files';
import { ProjectsService } from '../platform/projects.service';
import { ReferencesService } from './references.service';
import { ImportsService } from './imports.service';
import { KeepingService } from './keeping.service';
import { SvgReaderService } from '../platform/svg-reader.service';

const svg = '<svg viewBox="0 0 4 2"><path fill="#ff0000" d="M0 0L4 0L4 2Z"/></svg>';

beforeEach(() => {
  Object.defineProperty(globalThis, 'crypto', { configurable: true, value: webcrypto });
  TestBed.resetTestingModule();
});

/** A file as the page gets it, with the methods that jsdom lacks. */
function file(name: string, text: string): File {
  const bytes = new TextEncoder().encode(text);
  return Object.assign(new File([text], name), { text: () => Promise.resolve(text), arrayBuffer: () => Promise.resolve(bytes.buffer) });
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

  it('that are none of what is taken are told so by their kind', async () => {
    const { store } = openDrawing();
    await TestBed.inject(ImportsService).takeDropped([file('notes.txt', 'a list')]);
    expect(messages()).toEqual(['“notes.txt” was not taken', expect.stringMatching(/^It is not a picture .*, a font .* or a project/), 'Nothing was changed.']);
    expect(store.history().position).toBe(0);
  });

  it('that cannot be read any more are told so at every door, and nothing changes', async () => {
    const { store } = openDrawing();
    const before = store.history();
    const gone = (name: string): File => {
      const moved = file(name, 'x');
      moved.arrayBuffer = () => Promise.reject(new DOMException('A requested file or directory could not be found', 'NotFoundError'));
      moved.text = moved.arrayBuffer as unknown as () => Promise<string>;
      return moved;
    };
    for (const name of ['moved.svg', 'moved.chemin', 'moved.png', 'moved.woff2']) {
      TestBed.inject(MessageStore).messages().forEach(({ id }) => TestBed.inject(MessageStore).close(id)); // prettier-ignore
      await TestBed.inject(ImportsService).takeDropped([gone(name)]);
      expect(messages().join(' ')).toMatch(new RegExp(`“${name}” was not .*The file cannot be read. It may have been moved`));
    }
    await TestBed.inject(ReferencesService).take(gone('moved.svg'));
    expect(messages().join(' ')).toMatch(/The file cannot be read/);
    expect(store.history()).toBe(before);
  });

  it('with pictures that are none, or damaged, are opened without them, and say so', async () => {
    openDrawing();
    const header = (width: number, height: number): Uint8Array => {
      const bytes = new Uint8Array(64);
      bytes.set([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52]);
      new DataView(bytes.buffer).setUint32(16, width);
      new DataView(bytes.buffer).setUint32(20, height);
      return bytes;
    };
    const [none, huge] = [strToU8('no picture'), header(30_001, 30_001)];
    const assets = new Map([[await digestOf(none), none], [await digestOf(huge), huge]]); // prettier-ignore
    const bitmaps = [...assets.keys()].map((asset, i) => ({ id: `b${i}`, asset, type: 'image/png' as const, width: 9, height: 9 }));
    const unpacked = { ok: true, value: { document: { ...emptyDocument('p', 'p'), bitmaps }, assets }, notes: [] };
    jest.spyOn(TestBed.inject(ProjectsService) as unknown as { inWorker: () => Promise<unknown> }, 'inWorker').mockResolvedValue(unpacked);
    const brought = jest.spyOn(TestBed.inject(DrawingsService), 'bringAll').mockResolvedValue();
    const read = await TestBed.inject(ProjectsService).read(file('p.chemin', ''));
    if (!read.ok) throw new Error(JSON.stringify(read.problems));
    expect(read.notes.map(({ path, message }) => `${path} ${message}`)).toEqual([
      expect.stringMatching(/^bitmaps\[0\] A picture cannot be shown/),
      expect.stringMatching(/^bitmaps\[1\] A picture cannot be shown/),
    ]);
    expect(brought.mock.calls[0]![0].size).toBe(0);
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
