import { wrap, type Remote } from 'comlink';

/** A request was overtaken by a newer one of its kind; nobody waits for its result. */
export class SupersededError extends Error {
  constructor() {
    super('A newer request took its place.');
  }
}

/** A worker stopped twice at one request, or took too long. */
export class WorkerStoppedError extends Error {}

/** How a request is handled. */
export interface RequestOptions {
  /** Requests of one kind: the newest wins, those before it are given up. */
  readonly kind?: string;
}

interface Job {
  readonly kind: string | undefined;
  readonly work: () => Promise<unknown>;
  readonly resolve: (value: unknown) => void;
  readonly reject: (error: Error) => void;
  tries: number;
  begun: number;
  done: boolean;
}

/** Ms that an overtaken request may go on before its worker is stopped for the newer one. */
const PATIENCE_MS = 300;

type Api = Readonly<Record<string, (...args: never[]) => unknown>>;

/**
 * Runs one worker, started when first needed: one request after the other, the newest of a kind instead of those before
 * it. A worker that dies is started again and its request repeated once; then it is refused.
 */
export class WorkerRunner<A extends Api> {
  private worker: Worker | null = null;
  private remote: Remote<A> | null = null;
  private running: Job | null = null;
  private queue: Job[] = [];

  /**
   * @param start starts the worker
   * @param limitMs longest time in ms that one request may take
   * @param stays whether the worker is kept when nothing is left to do
   */
  constructor(
    private readonly start: () => Worker,
    private readonly limitMs: number,
    private readonly stays = true,
    private readonly connect: (worker: Worker) => Remote<A> = (worker) => wrap<A>(worker),
  ) {}

  /**
   * @throws SupersededError where a newer request of the kind came, WorkerStoppedError where the worker died twice or took
   * longer than the limit, and what the work itself throws
   */
  run<K extends keyof A>(method: K, args: Parameters<A[K]>, { kind }: RequestOptions = {}): Promise<Awaited<ReturnType<A[K]>>> {
    return new Promise((resolve, reject) => {
      const work = (): Promise<unknown> => {
        this.worker ??= this.started();
        this.remote ??= this.connect(this.worker);
        return (this.remote as unknown as Record<K, (...args: Parameters<A[K]>) => Promise<unknown>>)[method](...args);
      };
      const job: Job = { kind, work, resolve: resolve as (value: unknown) => void, reject, tries: 0, begun: 0, done: false };
      if (kind !== undefined) this.supersede(kind);
      this.queue.push(job);
      this.next();
    });
  }

  private started(): Worker {
    const worker = this.start();
    // Absent where workers are stood in for.
    worker.addEventListener?.('message', ({ data }: MessageEvent<{ readonly life?: unknown } | null>) => {
      if (typeof data?.life === 'string') this.seeEnd(worker, data.life);
    });
    return worker;
  }

  /** Notices when a worker ends by itself: it holds a lock as long as it lives (see `offer`). */
  private seeEnd(worker: Worker, life: string): void {
    void navigator.locks.request(life, () => {
      if (this.worker !== worker) return;
      this.drop();
      if (this.running) this.died('it ended without a word');
    });
  }

  /** Gives up all requests of a kind. */
  supersede(kind: string): void {
    for (const job of this.queue.filter((other) => other.kind === kind)) this.giveUp(job);
    this.queue = this.queue.filter((job) => !job.done);
    const { running } = this;
    if (running?.kind !== kind || running.done) return;
    this.giveUp(running);
    setTimeout(
      () => {
        if (this.running === running) this.stop();
      },
      Math.max(0, PATIENCE_MS - (performance.now() - running.begun)),
    );
  }

  private giveUp(job: Job): void {
    job.done = true;
    job.reject(new SupersededError());
  }

  private next(): void {
    const job = this.running ? undefined : this.queue.shift();
    if (!job) return;
    this.running = job;
    job.begun = performance.now();
    let timer: ReturnType<typeof setTimeout> | undefined;
    const died = new Promise<never>((_, reject) => {
      this.died = (message): void => reject(new WorkerStoppedError(message));
      timer = setTimeout(() => {
        job.tries = Infinity;
        reject(new WorkerStoppedError(`it took longer than ${Math.round(this.limitMs / 1000)} s`));
      }, this.limitMs);
    });
    let working: Promise<unknown>;
    try {
      working = job.work();
      if (this.worker) this.worker.onerror = (event) => this.died(event.message || 'it stopped');
    } catch (error) {
      working = Promise.reject(error instanceof Error ? error : new Error(String(error)));
    }
    Promise.race([working, died])
      .then(
        (value) => this.settle(job, () => job.resolve(value)),
        (error: unknown) => {
          if (!(error instanceof WorkerStoppedError)) return this.settle(job, () => job.reject(error instanceof Error ? error : new Error(String(error))));
          this.drop();
          if (job.done || ++job.tries > 1) this.settle(job, () => job.reject(error));
          else this.queue.unshift(job);
        },
      )
      .finally(() => {
        clearTimeout(timer);
        if (this.running === job) this.running = null;
        if (!this.stays && this.queue.length === 0) this.drop();
        this.next();
      });
  }

  private died: (message: string) => void = () => undefined;

  private settle(job: Job, tell: () => void): void {
    if (!job.done) tell();
    job.done = true;
  }

  /** Stops a worker that is at work; what waits goes on in a new one. */
  private stop(): void {
    this.died('it was stopped');
  }

  private drop(): void {
    this.worker?.terminate();
    this.worker = null;
    this.remote = null;
  }
}
