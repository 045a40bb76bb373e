import { inject, Injectable, signal } from '@angular/core';
import { mmPer, type CanvasImages, type Unjoined } from '@core';
import { handedSheet, imageKey, imagesIn, svgFromSheet, type HandedSheet, type HandOver } from '@later';
import { latticeSheet, type LatticeSettings, type PdfOptions } from '@later';
import { paintMarksOnCanvas } from '../platform/canvas-paint';
import type { PdfWorker } from '../../workers/pdf.worker';
import { DocumentStore } from './document.store';
import { MessageStore } from '../platform/messages.store';
import { PictureService } from './picture.service';
import { PracticePrinterService } from './practice-printer.service';
import { RastersService } from './rasters.service';
import { ViewStore } from './view.store';
import { download, downloadText, fileName } from '../platform/files';
import { startPdfWorker } from '../platform/start-pdf-worker';
import { WorkerRunner } from '../platform/worker-runner';

/** Longest side and most px of a bitmap that browsers make without failing. */
const MAX_SIDE = 16_384;
const MAX_PX = 200_000_000;
/** Longest time in ms that a PDF may take. */
const LIMIT_MS = 60_000;

/** Hands sheets over as files: SVG, PNG and PDF of the drawing, of its grid, or of both. */
@Injectable({ providedIn: 'root' })
export class HandOverService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  /** What is exported, and what of the grid. */
  readonly settings = signal<HandOver>({ content: 'drawing', gridFrom: 'drawing', background: true });
  private readonly pictures = inject(PictureService);
  private readonly messages = inject(MessageStore);
  private readonly rasters = inject(RastersService);
  private readonly printer = inject(PracticePrinterService);
  /** Its library is large and seldom needed: it does not stay. */
  private readonly pdfs = new WorkerRunner<PdfWorker>(startPdfWorker, LIMIT_MS, false);

  /**
   * What is handed over, once all solids of it are joined.
   * @param part what is asked for otherwise than it is set
   */
  async sheet(part: Partial<HandOver> = {}): Promise<WholeSheet> {
    const settings = { ...this.settings(), ...part };
    const lacks = settings.content === 'grid' ? [] : await this.pictures.settled('The file waits for solids that are being joined');
    return { ...handedSheet(this.documents.kept(), this.pictures.exact(), this.view.plane(), settings), lacks };
  }

  async svg(): Promise<void> {
    await this.writeSvg(await this.sheet(), this.name());
  }

  /** The grid alone, on transparent ground, whatever else is set. */
  async grid(as: 'svg' | 'png'): Promise<void> {
    const sheet = await this.sheet({ content: 'grid', background: false });
    const name = `${this.documents.kept().name}, grid`;
    if (as === 'svg') await this.writeSvg(sheet, name, 'the grid');
    else await this.writePng(sheet, name, 'the grid');
  }

  /** @param width in px; the sheet's own at its resolution where none is given */
  async png(width?: number): Promise<void> {
    await this.writePng(await this.sheet(), this.name(), this.what(), width);
  }

  private async writePng(handed: WholeSheet, title: string, what: string, width?: number): Promise<void> {
    const { sheet } = handed;
    const px = Math.round(width ?? sheet.width / mmPer('px', sheet.resolution));
    const k = px / sheet.width;
    const height = Math.round(sheet.height * k);
    const name = fileName(title, 'png');
    if (Math.max(px, height) > MAX_SIDE || px * height > MAX_PX) {
      this.messages.say('bad', 'The PNG was not made', [
        `${px} × ${height}\u2009px are more than a browser can draw. Choose at most ${MAX_SIDE}\u2009px a side.`,
      ]);
      return;
    }
    const blob = await this.rasters.exact(handed, k).then((images) => paintedPng(handed, px, height, k, images), () => null); // prettier-ignore
    if (!blob) {
      this.messages.say('bad', 'The PNG was not made', [`The browser has no room for ${px} × ${height}\u2009px. Choose a smaller size, or SVG.`]);
      return;
    }
    download(name, blob);
    const words = lackWords(handed);
    this.messages.say(words.length > 0 ? 'warn' : 'good', `${capital(what)} was exported as PNG, ${px} × ${height}\u2009px`, [name, ...words]);
  }

  async pdf(options: Partial<PdfOptions> = {}): Promise<void> {
    await this.writePdf(await this.sheet(), { title: this.name(), testBar: false, cutMarks: false, ...options });
  }

  lattice(settings: LatticeSettings, as: 'svg' | 'pdf'): Promise<void> {
    const sheet = latticeSheet(settings);
    const name = `lattice ${settings.columns} x ${settings.rows}`;
    if (as === 'pdf') return this.writePdf(sheet, { title: name, testBar: false, cutMarks: false }, 'the lattice');
    return this.writeSvg(sheet, name, 'the lattice');
  }

  /** Lays what would be exported on the practice printer. */
  async practise(): Promise<void> {
    await this.printer.print(await this.sheet(), this.name(), (options) => void this.pdf(options));
  }

  /** Lays the lattice's sheet on the practice printer. */
  practiseLattice(settings: LatticeSettings): Promise<void> {
    const { columns, rows, box } = settings;
    return this.printer.print(latticeSheet(settings), `Lattice ${columns} × ${rows}, boxes of ${box}\u2009mm`, () => void this.lattice(settings, 'pdf'));
  }

  /** What is exported, in words. */
  private what(): string {
    return this.settings().content === 'grid' ? 'the grid' : 'the sheet';
  }

  private name(): string {
    const { name } = this.documents.kept();
    return this.settings().content === 'grid' ? `${name}, grid` : name;
  }

  private async writeSvg(sheet: WholeSheet, title: string, what = this.what()): Promise<void> {
    const handed = { ...(await this.rasters.handed(sheet, sheet.sheet.resolution)), lacks: sheet.lacks ?? [] };
    downloadText(fileName(title, 'svg'), svgFromSheet(handed, title), 'image/svg+xml');
    this.done(`${capital(what)} was exported as SVG`, fileName(title, 'svg'), handed);
  }

  /** Says that a file was made, and what of the pictures is not in it. */
  private done(title: string, name: string, handed: WholeSheet): void {
    const { marks, images } = handed;
    const left = imagesIn(marks).filter((mark) => !images?.has(imageKey(mark))).length;
    const words =
      left === 1
        ? ['A picture is not there, or damaged, and was left out.']
        : left > 1
          ? [`${left} pictures are not there, or damaged, and were left out.`]
          : [];
    const all = [...words, ...lackWords(handed)];
    this.messages.say(all.length > 0 ? 'warn' : 'good', title, [name, ...all]);
  }

  private async writePdf(sheet: WholeSheet, options: PdfOptions, what = this.what()): Promise<void> {
    const name = fileName(options.title, 'pdf');
    try {
      const handed = { ...(await this.rasters.handed(sheet, sheet.sheet.resolution, true)), lacks: sheet.lacks ?? [] };
      const { lacks: _, ...written } = handed;
      const bytes = await this.pdfs.run('write', [written, options]);
      download(name, new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'application/pdf' }));
      this.done(`${capital(what)} was exported as PDF in true size`, name, handed);
    } catch (error) {
      this.messages.say('bad', 'The PDF was not made', [error instanceof Error ? error.message : String(error), 'SVG and PNG still can be.']);
    }
  }
}

/** A sheet, and the things on it whose solids could not be joined. */
type WholeSheet = HandedSheet & { readonly lacks?: readonly Unjoined[] };

/** What is said of a file in which solids are not joined. */
const lackWords = ({ lacks = [] }: WholeSheet): readonly string[] =>
  lacks.map(({ name, reason }) => `The solids of ${name} could not be joined and are in it as they are: ${reason}`);

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

function paintedPng({ sheet, background, marks }: HandedSheet, width: number, height: number, k: number, images: CanvasImages): Promise<Blob | null> {
  const canvas = document.createElement('canvas');
  canvas.width = width;
  canvas.height = height;
  const context = canvas.getContext('2d');
  if (!context) return Promise.resolve(null);
  if (background) {
    context.fillStyle = sheet.background;
    context.fillRect(0, 0, width, height);
  }
  context.setTransform(k, 0, 0, k, 0, 0);
  paintMarksOnCanvas(context, marks, images);
  return new Promise((resolve) => canvas.toBlob(resolve, 'image/png'));
}
