import { Injectable } from '@angular/core';
import type { Checked, ImportedSvg } from '@core';
import type { SvgWorker } from '../../workers/svg.worker';
import { startSvgWorker } from './start-svg-worker';
import { WorkerRunner } from './worker-runner';

/** Longest time in ms that one file may take; then the worker is stopped and the file refused. */
const LIMIT_MS = 15_000;

/** Reads SVG files in a worker. */
@Injectable({ providedIn: 'root' })
export class SvgReaderService {
  private readonly runner = new WorkerRunner<SvgWorker>(startSvgWorker, LIMIT_MS);

  /** @param fonts of the drawing itself, for text in them */
  async read(text: string, fonts: readonly Uint8Array[] = []): Promise<Checked<ImportedSvg>> {
    try {
      return await this.runner.run('read', [text, new URL('wasm/index_bg.wasm', document.baseURI).href, fonts]);
    } catch (error) {
      const message = error instanceof Error ? error.message : String(error);
      return { ok: false, problems: [{ code: 'worker', path: '', message: `The SVG could not be read: ${message.replace(/[.]?$/, '.')}` }] };
    }
  }
}
