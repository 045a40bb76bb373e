import { Injectable } from '@angular/core';
import { cellFault, layCells, textFault, type LaidText, type Lettering } from '@core';
import type { TextWorker } from '../../workers/text.worker';
import { startTextWorker } from './start-text-worker';
import { WorkerRunner } from './worker-runner';

/** Longest time in ms that one text may take. */
const LIMIT_MS = 60_000;

/** Lays text out: in fonts by a worker that comes with the shaping library when it is first needed, in cell letters at once. */
@Injectable({ providedIn: 'root' })
export class TextService {
  private readonly runner = new WorkerRunner<TextWorker>(startTextWorker, LIMIT_MS);

  /**
   * @param kind requests of one kind overtake each other
   * @throws SupersededError, WorkerStoppedError, and an error with words where the text or its measures cannot be drawn
   */
  async lay(lettering: Lettering, kind: string): Promise<LaidText> {
    const fault = textFault(lettering.text) ?? (lettering.kind === 'cells' ? cellFault(lettering) : null);
    if (fault) throw new Error(fault);
    return lettering.kind === 'cells' ? layCells(lettering) : this.runner.run('lay', [lettering], { kind });
  }
}
