import type { Remote } from 'comlink';
import { SupersededError, WorkerRunner, WorkerStoppedError } from './worker-runner';

interface Fake {
  onerror: ((event: { message: string }) => void) | null;
  terminated: boolean;
}

/** A runner whose workers answer when the test says so. */
function made(
  limitMs = 10_000,
  listen?: (hear: (event: { data: unknown }) => void) => void,
): {
  runner: WorkerRunner<{ double: (n: number) => Promise<number> }>;
  workers: Fake[];
  calls: { n: number; answer: (value: number) => void; fail: (error: Error) => void }[];
} {
  const workers: Fake[] = [];
  const calls: { n: number; answer: (value: number) => void; fail: (error: Error) => void }[] = [];
  const start = (): Worker => {
    const worker: Fake & { terminate: () => void } = { onerror: null, terminated: false, terminate: () => void (worker.terminated = true) };
    if (listen) Object.assign(worker, { addEventListener: (_: string, hear: (event: { data: unknown }) => void) => listen(hear) });
    workers.push(worker);
    return worker as unknown as Worker;
  };
  type A = { double: (n: number) => Promise<number> };
  const remote = { double: (n: number) => new Promise<number>((answer, fail) => calls.push({ n, answer, fail })) };
  return { runner: new WorkerRunner<A>(start, limitMs, true, () => remote as unknown as Remote<A>), workers, calls };
}

const settled = (): Promise<void> => new Promise((done) => setTimeout(done));

describe('the runner of workers', () => {
  it('does one request after the other in one worker, started when first needed', async () => {
    const { runner, workers, calls } = made();
    expect(workers).toHaveLength(0);
    const both = Promise.all([runner.run('double', [1]), runner.run('double', [2])]);
    expect(calls.map((call) => call.n)).toEqual([1]);
    calls[0]!.answer(2);
    await settled();
    calls[1]!.answer(4);
    expect(await both).toEqual([2, 4]);
    expect(workers).toHaveLength(1);
  });

  it('notices a worker that ends without a word, starts another, and repeats what was asked', async () => {
    const granted: (() => void)[] = [];
    Object.defineProperty(navigator, 'locks', { configurable: true, value: { request: (_: string, then: () => void) => void granted.push(then) } });
    const heard: ((event: { data: unknown }) => void)[] = [];
    const { runner, workers, calls } = made(10_000, (hear) => heard.push(hear));
    const asked = runner.run('double', [4]);
    heard[0]!({ data: { life: 'one' } });
    heard[0]!({ data: { id: 7 } });
    expect(granted).toHaveLength(1);
    granted[0]!();
    await settled();
    expect([workers.length, workers[0]!.terminated, calls.map(({ n }) => n)]).toEqual([2, true, [4, 4]]);
    calls[1]!.answer(8);
    expect(await asked).toBe(8);
    // One that ends while nothing is asked is another at the next request; one that was stopped is nothing new.
    heard[1]!({ data: { life: 'two' } });
    granted[0]!();
    granted[1]!();
    void runner.run('double', [5]);
    await settled();
    expect(workers).toHaveLength(3);
  });

  it('gives the newest of a kind what the others wait for, and leaves other kinds alone', async () => {
    const { runner, calls } = made();
    const first = runner.run('double', [1], { kind: 'a' });
    const second = runner.run('double', [2], { kind: 'a' });
    const other = runner.run('double', [3], { kind: 'b' });
    const third = runner.run('double', [4], { kind: 'a' });
    await expect(first).rejects.toBeInstanceOf(SupersededError);
    await expect(second).rejects.toBeInstanceOf(SupersededError);
    calls[0]!.answer(2);
    await settled();
    calls[1]!.answer(6);
    await settled();
    calls[2]!.answer(8);
    expect(await other).toBe(6);
    expect(await third).toBe(8);
    expect(calls.map((call) => call.n)).toEqual([1, 3, 4]);
  });

  it('stops a worker that goes on too long with what nobody waits for', async () => {
    jest.useFakeTimers();
    const { runner, workers, calls } = made();
    const first = runner.run('double', [1], { kind: 'a' });
    const second = runner.run('double', [2], { kind: 'a' });
    await expect(first).rejects.toBeInstanceOf(SupersededError);
    await jest.advanceTimersByTimeAsync(400);
    expect(workers[0]!.terminated).toBe(true);
    calls[1]!.answer(4);
    expect(await second).toBe(4);
    jest.useRealTimers();
  });

  it('repeats a request once when its worker dies, then refuses it, and goes on with the next', async () => {
    const { runner, workers, calls } = made();
    const first = runner.run('double', [1]);
    const second = runner.run('double', [2]);
    workers[0]!.onerror!({ message: 'out of memory' });
    await settled();
    expect(calls.map((call) => call.n)).toEqual([1, 1]);
    expect(workers[0]!.terminated).toBe(true);
    const refused = expect(first).rejects.toThrow(new WorkerStoppedError('out of memory'));
    workers[1]!.onerror!({ message: 'out of memory' });
    await refused;
    await settled();
    calls[2]!.answer(4);
    expect(await second).toBe(4);
    expect(workers).toHaveLength(3);
  });

  it('hands on what the work itself throws, and keeps the worker', async () => {
    const { runner, workers, calls } = made();
    const first = runner.run('double', [1]);
    calls[0]!.fail(new Error('no such number'));
    await expect(first).rejects.toThrow('no such number');
    const second = runner.run('double', [2]);
    await settled();
    calls[1]!.answer(4);
    expect(await second).toBe(4);
    expect(workers).toHaveLength(1);
  });

  it('refuses what takes longer than its limit without trying again', async () => {
    jest.useFakeTimers();
    const { runner, calls } = made(2000);
    const refused = expect(runner.run('double', [1])).rejects.toThrow('it took longer than 2 s');
    await jest.advanceTimersByTimeAsync(2100);
    await refused;
    expect(calls).toHaveLength(1);
    jest.useRealTimers();
  });
});
