import { inject, Injectable, Injector } from '@angular/core';
import { fontsOfDocument, svgUnitMm, withBitmapIds, type Artwork, type Bitmap, type Edit, type Problem } from '@core';
import { DrawingsService } from '../platform/drawings.service';
import { BitmapFilesService, sizeWithin } from './bitmap-files.service';
import { DocumentStore } from './document.store';
import { MessageStore } from '../platform/messages.store';
import { StagesService } from './stages.service';
import { ViewStore } from './view.store';
import { chooseFile, chooseFiles, textOfFile } from '../platform/files';
import { newId } from '../platform/ids';
import { KeepingService } from './keeping.service';
import { PICTURE_FILES, ReferencesService } from './references.service';
import { ProjectsService } from '../platform/projects.service';
import { SvgReaderService } from '../platform/svg-reader.service';

/** Px of pictures that are kept as they are, and their longest side. */
const KEPT_PX = 40_000_000;
const MAX_SIDE = 16_384;

const nameOf = ({ name }: File): string => name.replace(/\.\w+$/, '').slice(0, 200) || 'artwork';

const PROJECT_FILES = /\.(chemin|json|zip)$/i;
const KINDS = 'It is not a picture (PNG, JPEG, WebP or SVG), a font (TTF, OTF or WOFF) or a project of Chemin.';
const FONT_FILES = /\.(ttf|otf|woff2?)$/i;

/** Files from outside: project files and artwork. What is refused is refused whole, with every reason and its place. */
@Injectable({ providedIn: 'root' })
export class ImportsService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly stages = inject(StagesService);
  private readonly messages = inject(MessageStore);
  private readonly keeping = inject(KeepingService);
  private readonly svg = inject(SvgReaderService);
  private readonly projects = inject(ProjectsService);
  private readonly references = inject(ReferencesService);
  private readonly bitmaps = inject(BitmapFilesService);
  private readonly drawings = inject(DrawingsService);
  private readonly injector = inject(Injector);

  async openProject(): Promise<void> {
    const file = await chooseFile('.chemin,application/json');
    if (file) await this.takeProject(file);
  }

  /** Adds files as artwork. @param placing whether the tool that places it is taken then; @param given the files, which are asked for where none are given */
  async addArtwork(placing = true, given: readonly File[] | null = null): Promise<void> {
    this.placing = placing;
    try {
      const files = given ?? (await chooseFiles('.svg,.png,.jpg,.jpeg,.webp,image/svg+xml,image/png,image/jpeg,image/webp'));
      for (const file of files) await this.takeArtwork(file);
    } finally {
      this.placing = true;
    }
  }

  /** Whether what is added is to be placed next. */
  private placing = true;
  /** Whether it lies where it was dropped: nothing is left to be asked for. */
  private lies = false;

  /**
   * Takes files that were dropped on the drawing or pasted, each by its kind.
   * @param lies whether artwork among them is laid where it was dropped, by whoever asks
   * @returns the artworks among them, which are then to be placed
   */
  async takeDropped(files: readonly File[], lies = false): Promise<readonly string[]> {
    if (files.length > 0 && (await this.stages.current()?.files?.(this.stages.get, files))) return [];
    const artworks: string[] = [];
    this.lies = lies;
    for (const file of files) {
      const picture = PICTURE_FILES.test(file.name) || file.type.startsWith('image/');
      if (picture && this.isToLookAt(file)) await this.references.take(file);
      else if (picture) {
        if (await this.takeArtwork(file)) artworks.push(this.view.artwork()!);
      } else if (FONT_FILES.test(file.name)) await this.takeFont(file);
      else if (PROJECT_FILES.test(file.name)) await this.takeProject(file);
      else this.refuse(`“${file.name}” was not taken`, [{ code: 'kind', path: '', message: KINDS }], 'Nothing was changed.');
    }
    this.lies = false;
    return artworks;
  }

  /** While tracing, every picture is one to look at; pictures of px are also while drawing, but not on a flat sheet. */
  isToLookAt(file: File): boolean {
    if (this.view.tool() === 'trace') return true;
    const bitmap = !/\.svg$/i.test(file.name) && file.type !== 'image/svg+xml';
    return bitmap && this.documents.sheetOf() === null && ['projection', 'draw'].includes(this.view.stage());
  }

  private async takeProject(file: File): Promise<void> {
    const read = await this.projects.read(file);
    if (!read.ok) {
      this.refuse(`“${file.name}” was not opened`, read.problems, 'The open drawing is untouched.');
      return;
    }
    if (!(await this.keeping.adopt(read.value))) return;
    this.messages.say(read.notes.length > 0 ? 'warn' : 'good', `“${read.value.name}” was opened`, read.notes.slice(0, 4).map(placed));
  }

  /** @returns whether it was added */
  private async takeArtwork(file: File): Promise<boolean> {
    const svg = /\.svg$/i.test(file.name) || file.type === 'image/svg+xml';
    return svg ? this.takeSvg(file) : this.takePicture(file, KEPT_PX);
  }

  /** A picture of px as artwork; one that is larger than is kept is offered smaller. */
  private async takePicture(file: File, px: number): Promise<boolean> {
    const name = file.name || 'picture';
    try {
      const looked = await this.bitmaps.look(file);
      const { width, height } = looked.header;
      if (width * height > px) {
        const size = sizeWithin(looked.header, { side: MAX_SIDE, px });
        this.messages.say(
          'warn',
          `“${name}” was not added yet`,
          [`It has ${Math.round((width * height) / 1e6)} megapixels; up to ${px / 1e6} are kept as they are.`],
          {
            label: `Add it with ${size.width.toLocaleString('en')} × ${size.height.toLocaleString('en')}\u2009px`,
            run: () => void this.takePicture(file, width * height),
          },
        );
        return false;
      }
      const { bitmap, notes } = await this.bitmaps.take(looked, { side: MAX_SIDE, px: KEPT_PX });
      const unitMm = 25.4 / this.documents.whole().sheet.resolution;
      const artwork: Artwork = { id: newId(), name: nameOf(file), svg: '', bitmap: bitmap.id, width: bitmap.width, height: bitmap.height, unitMm };
      return this.added(file, artwork, [bitmap], notes);
    } catch (error) {
      this.messages.say('bad', `“${name}” was not added`, [error instanceof Error ? error.message : String(error), 'Nothing was changed.']);
      return false;
    }
  }

  /** Adds an artwork that came from a file, and takes the tool that places it. */
  private added(file: File, artwork: Artwork, bitmaps: readonly Bitmap[], notes: readonly string[]): boolean {
    const edit: Edit = { kind: 'add', nodes: [], artworks: [artwork], ...(bitmaps.length > 0 && { bitmaps }) };
    if (!this.documents.commit(edit, `add artwork ${artwork.name}`)) return false;
    this.view.patch({ artwork: artwork.id });
    if (!this.placing) {
      if (notes.length > 0) this.messages.say('warn', `“${file.name || artwork.name}” was added`, notes);
      return true;
    }
    this.stages.go('artwork', 'place');
    const next = this.lies ? [] : ['Press a face to place it there.'];
    if (notes.length > 0 || next.length > 0)
      this.messages.say(notes.length ? 'warn' : 'good', `“${file.name || artwork.name}” was added`, notes.length ? notes : next);
    return true;
  }

  private async takeSvg(file: File): Promise<boolean> {
    const found = await textOfFile(file);
    if (!found.ok) {
      this.refuse(`“${file.name}” was not added`, found.problems, 'Nothing was changed.');
      return false;
    }
    const text = found.value;
    const fonts = /<text[\s>]/i.test(text) ? await Promise.all((await this.ownFonts()).map((hash) => this.drawings.asset(hash))) : [];
    const read = await this.svg.read(text, fonts.filter((bytes) => bytes !== null)); // prettier-ignore
    if (!read.ok) {
      this.refuse(`“${file.name}” was not added`, read.problems, 'Nothing was changed.');
      return false;
    }
    const { svg, flat, pictures } = read.value;
    const [ids, bitmaps, notes] = [new Map<string, string>(), new Map<string, Bitmap>(), read.notes.map(placed)];
    if (read.notes.some(({ code }) => code === 'font'))
      notes.push('With the font’s file (TTF, OTF or WOFF) dropped here first, the SVG has it when it is added again.');
    for (const { key, bytes } of pictures) {
      try {
        const taken = await this.bitmaps.take(await this.bitmaps.look(new Blob([bytes as Uint8Array<ArrayBuffer>])), { side: MAX_SIDE, px: KEPT_PX });
        bitmaps.set(taken.bitmap.id, taken.bitmap);
        ids.set(key, taken.bitmap.id);
      } catch (error) {
        notes.push(`A picture in it was left out: ${error instanceof Error ? error.message : String(error)}`);
      }
    }
    const unitMm = svgUnitMm(text, flat.width);
    const artwork: Artwork = { id: newId(), name: nameOf(file), svg: withBitmapIds(svg, ids), width: flat.width, height: flat.height, ...(unitMm !== null && { unitMm }) }; // prettier-ignore
    return this.added(file, artwork, [...bitmaps.values()], notes);
  }

  /** The fonts that the drawing has, and those that were brought in since the page was opened. */
  private async ownFonts(): Promise<readonly string[]> {
    const { TextService } = await import('../platform/text.service');
    const brought = this.injector.get(TextService).fonts();
    return [...new Set([...fontsOfDocument(this.documents.whole()), ...brought.map(({ key }) => key)])];
  }

  private async takeFont(file: File): Promise<void> {
    try {
      const { TextService } = await import('../platform/text.service');
      const { title } = await this.injector.get(TextService).bring(file);
      this.messages.say('good', `The font “${title}” was brought in`, ['Lettering in Build can be written in it.']);
    } catch (error) {
      this.messages.say('bad', `“${file.name}” was not brought in`, [error instanceof Error ? error.message : String(error), 'Nothing was changed.']);
    }
  }

  private refuse(title: string, problems: readonly Problem[], rest: string): void {
    const more = problems.length > 4 ? [`and ${problems.length - 4} more`] : [];
    this.messages.say('bad', title, [...problems.slice(0, 4).map(placed), ...more, rest]);
  }
}

/** A problem with its place, where the message does not name it already. */
function placed({ path, message }: Problem): string {
  return path && !message.includes(path) ? `${path}: ${message}` : message;
}
