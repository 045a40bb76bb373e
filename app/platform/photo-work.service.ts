import { Injectable } from '@angular/core';
import { proxy } from 'comlink';
import type { PhotoWorker } from '../../workers/photo.worker';
import { startPhotoWorker } from './start-photo-worker';
import { SupersededError, WorkerRunner } from './worker-runner';

/** Longest time in ms that one piece of work on photographs may take. */
const LIMIT_MS = 180_000;

/** Everything about photographs that takes long, in a worker: one after the other; what the person stops is given up. */
@Injectable({ providedIn: 'root' })
export class PhotoWorkService {
  private readonly runner = new WorkerRunner<PhotoWorker>(startPhotoWorker, LIMIT_MS);

  /** Runs one piece of work; null where it was stopped. @throws Error in words for people */
  async run<K extends keyof PhotoWorker>(method: K, ...args: Parameters<PhotoWorker[K]>): Promise<Awaited<ReturnType<PhotoWorker[K]>> | null> {
    const sent = args.map((part) => (typeof part === 'function' ? proxy(part) : part)) as typeof args;
    try {
      return await this.runner.run(method, sent, { kind: 'photo' });
    } catch (error) {
      if (error instanceof SupersededError) return null;
      throw error;
    }
  }

  /** Gives up what is being done. */
  stop(): void {
    this.runner.supersede('photo');
  }
}
