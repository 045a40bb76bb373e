import { Injectable } from '@angular/core';
import { regionsOf, type Combining, type Outline, type Regions } from '@core';
import type { AreasWorker } from '../../workers/areas.worker';
import { startAreasWorker } from './start-areas-worker';
import { SupersededError, WorkerRunner, WorkerStoppedError } from './worker-runner';

/** Longest time in ms that a request may take. */
const LIMIT_MS = 60_000;

/** Areas computed away from the page; where there is no worker, by the page itself. */
@Injectable({ providedIn: 'root' })
export class AreasService {
  private readonly runner = new WorkerRunner<AreasWorker>(startAreasWorker, LIMIT_MS);

  /**
   * @param kind requests of one kind overtake each other
   * @throws SupersededError, WorkerStoppedError
   */
  async regions(lines: readonly Outline[], kind: string): Promise<Regions> {
    try {
      return await this.runner.run('regions', [lines], { kind });
    } catch (error) {
      if (error instanceof SupersededError || error instanceof WorkerStoppedError) throw error;
      return regionsOf(lines);
    }
  }

  /** @throws WorkerStoppedError where it took too long or stopped twice */
  async combine(operation: Combining, first: Outline, others: readonly Outline[]): Promise<readonly Outline[]> {
    try {
      return await this.runner.run('combine', [operation, first, others]);
    } catch (error) {
      if (error instanceof WorkerStoppedError) throw error;
      // The libraries for it come to the page only then.
      const { combineOutlines } = await import('@combine');
      return combineOutlines(operation, first, others);
    }
  }
}
