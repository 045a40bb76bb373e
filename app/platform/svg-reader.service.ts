import { Injectable } from '@angular/core';
import { wrap, type Remote } from 'comlink';
import type { Checked, ImportedSvg } from '@core';
import { startSvgWorker } from './start-svg-worker';
import type { SvgWorker } from '../../workers/svg.worker';

/** Longest time in ms that one file may take; then the worker is stopped and the file refused. */
const LIMIT_MS = 15_000;

/** Reads SVG files in a worker, which is started when first needed and anew after a failure. */
@Injectable({ providedIn: 'root' })
export class SvgReaderService {
  private worker: Worker | null = null;
  private remote: Remote<SvgWorker> | null = null;

  async read(text: string): Promise<Checked<ImportedSvg>> {
    try {
      return await this.tryRead(text);
    } catch (error) {
      this.stop();
      const message = error instanceof Error ? error.message : String(error);
      return { ok: false, problems: [{ code: 'worker', path: '', message: `The SVG could not be read: ${message}` }] };
    }
  }

  private async tryRead(text: string): Promise<Checked<ImportedSvg>> {
    this.worker ??= startSvgWorker();
    this.remote ??= wrap<SvgWorker>(this.worker);
    const { worker, remote } = this;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const stopped = new Promise<never>((_, reject) => {
      timer = setTimeout(() => reject(new Error('it took longer than 15 s.')), LIMIT_MS);
      worker.onerror = (event) => reject(new Error(event.message || 'the reader stopped.'));
    });
    try {
      return await Promise.race([remote.read(text, new URL('wasm/index_bg.wasm', document.baseURI).href), stopped]);
    } finally {
      clearTimeout(timer);
    }
  }

  private stop(): void {
    this.worker?.terminate();
    this.worker = null;
    this.remote = null;
  }
}
