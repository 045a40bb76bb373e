import { inject, Injectable, signal } from '@angular/core';
import { digestOf, isOwnFont, type Lettering } from '@core';
import { cellFault, layCells, MOST_FONT_BYTES, textFault, type LaidText } from '@later';
import type { TextWorker } from '../../workers/text.worker';
import { DrawingsService } from './drawings.service';
import { requiredBytes } from './files';
import { startTextWorker } from './start-text-worker';
import { WorkerRunner } from './worker-runner';

/** Longest time in ms that one text may take. */
const LIMIT_MS = 60_000;

/** A font from outside, by the hash of its bytes. */
export interface OwnFont {
  readonly key: string;
  readonly title: string;
}

/** Lays text out: in fonts by a worker that comes with the shaping library when it is first needed, in cell letters at once. */
@Injectable({ providedIn: 'root' })
export class TextService {
  private readonly drawings = inject(DrawingsService);
  private readonly runner = new WorkerRunner<TextWorker>(startTextWorker, LIMIT_MS);
  private readonly imported = signal<readonly OwnFont[]>([]);
  /** The fonts that were brought in since the page was opened. */
  readonly fonts = this.imported.asReadonly();

  /**
   * @param kind requests of one kind overtake each other
   * @throws SupersededError, WorkerStoppedError, and an error with words where the text or its measures cannot be drawn
   */
  async lay(lettering: Lettering, kind: string): Promise<LaidText> {
    const fault = textFault(lettering.text) ?? (lettering.kind === 'cells' ? cellFault(lettering) : null);
    if (fault) throw new Error(fault);
    if (lettering.kind === 'cells') return layCells(lettering);
    const file = isOwnFont(lettering.font) ? await this.drawings.assetBlob(lettering.font) : null;
    if (isOwnFont(lettering.font) && !file) throw new Error(`The font “${lettering.title ?? ''}” is not here. Import it again, or choose another.`);
    return this.runner.run('lay', [lettering, file], { kind });
  }

  /**
   * Brings a font in, checked, as an asset.
   * @throws an error with words where it is none, or cannot be kept
   */
  async bring(file: File): Promise<OwnFont> {
    if (file.size > MOST_FONT_BYTES) throw new Error(`It has ${Math.round(file.size / 1e6)} MB; a font has at most ${MOST_FONT_BYTES / 1e6} MB.`);
    const bytes = await requiredBytes(file);
    const { title } = await this.runner.run('check', [file], { kind: 'check' });
    const font = { key: await digestOf(bytes), title: (title.trim() || file.name.replace(/\.[^.]*$/, '')).slice(0, 200) };
    await this.drawings.bringAll(new Map([[font.key, bytes]]));
    this.imported.update((fonts) => [...fonts.filter(({ key }) => key !== font.key), font]);
    return font;
  }
}
