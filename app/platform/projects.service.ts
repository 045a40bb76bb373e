import { inject, Injectable } from '@angular/core';
import { readBoundedHeader, type Checked, type CheminDocument, type Problem } from '@core';
import type { ArchiveWorker } from '../../workers/archive.worker';
import { DrawingsService } from './drawings.service';
import { bytesOfFile } from './files';
import { startArchiveWorker } from './start-archive-worker';
import { WorkerRunner } from './worker-runner';

/** Longest time in ms that one file may take; then the worker is stopped and the file refused. */
const LIMIT_MS = 120_000;

/** Project files: written and read in a worker, their pictures kept in this browser's storage. */
@Injectable({ providedIn: 'root' })
export class ProjectsService {
  private readonly drawings = inject(DrawingsService);
  private readonly runner = new WorkerRunner<ArchiveWorker>(startArchiveWorker, LIMIT_MS, false);

  /** A document as a project file, with the pictures that it names. */
  async write(document: CheminDocument): Promise<Blob> {
    const assets = await this.drawings.assetsOf(document);
    const here = async (): Promise<Uint8Array> => (await import('@archive')).writeArchive(document, assets);
    // Work is never lost for want of a worker.
    const bytes = await this.inWorker((): Promise<Uint8Array> => this.runner.run('write', [document, assets]).catch(here), here);
    return new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'application/zip' });
  }

  /** The document in a project file, its pictures kept, or every reason why there is none. */
  async read(file: Blob): Promise<Checked<CheminDocument>> {
    const found = await bytesOfFile(file);
    if (!found.ok) return found;
    const bytes = found.value;
    try {
      const read = await this.inWorker(
        () => this.runner.run('read', [bytes]),
        async () => (await import('@archive')).readArchive(bytes),
      );
      if (!read.ok) return read;
      const { document } = read.value;
      const assets = new Map(read.value.assets);
      // Pictures pass the same bounds as those that come by themselves.
      const refused = document.bitmaps.flatMap(({ asset }, i): readonly Problem[] => {
        const looked = assets.has(asset) ? readBoundedHeader(assets.get(asset)!) : null;
        if (!looked || looked.ok) return [];
        assets.delete(asset);
        return [{ code: 'no-picture', path: `bitmaps[${i}]`, message: `A picture cannot be shown; its frame alone is. ${looked.problems[0]!.message}` }];
      });
      await this.drawings.bringAll(assets);
      return { ok: true, value: document, notes: [...read.notes, ...refused] };
    } catch (error) {
      const message = error instanceof Error ? error.message : String(error);
      return { ok: false, problems: [{ code: 'worker', path: '', message: `The file could not be read: ${message.replace(/[.]?$/, '.')}` }] };
    }
  }

  /** Where no worker can be started the page does it; what that needs is loaded then. */
  private async inWorker<T>(there: () => Promise<T>, here: () => Promise<T>): Promise<T> {
    return typeof Worker === 'undefined' ? here() : there();
  }
}
