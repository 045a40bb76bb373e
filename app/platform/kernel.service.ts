import { inject, Injectable } from '@angular/core';
import { joinWith, OvertakenError, type Body, type JoinKind, type Part } from '@core';
import type { KernelWorker } from '../../workers/kernel.worker';
import { MessageStore } from './messages.store';
import { startKernelWorker } from './start-kernel-worker';
import { SupersededError, WorkerRunner, WorkerStoppedError } from './worker-runner';

/** Longest time in ms that one joining may take. */
const LIMIT_MS = 60_000;

/** Joins solids in a worker, which comes with the kernel when the first are joined. */
@Injectable({ providedIn: 'root' })
export class KernelService {
  private readonly messages = inject(MessageStore);
  private readonly runner = new WorkerRunner<KernelWorker>(startKernelWorker, LIMIT_MS);

  /** From now on the geometry book joins solids here. */
  start(): void {
    joinWith((parts, how, id, again) => this.join(parts, how, again ? null : id));
  }

  /** The newest of what is asked for one thing wins; what is asked for no thing is left to its end. */
  private async join(parts: readonly Part[], how: JoinKind, id: string | null): Promise<Body | null> {
    try {
      return await this.runner.run('join', [parts, how], id === null ? {} : { kind: id });
    } catch (error) {
      if (error instanceof SupersededError) throw new OvertakenError();
      if (error instanceof WorkerStoppedError)
        this.messages.say('warn', 'The solids could not be joined: the kernel stopped. They are shown as they were; change one of them to try again.');
      else this.messages.say('warn', `The solids could not be joined. ${error instanceof Error ? error.message : ''}`);
      throw error;
    }
  }
}
