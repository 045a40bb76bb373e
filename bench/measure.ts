/** A line of the table. */
export interface Row {
  readonly what: string;
  readonly ms: number;
  readonly note: string;
}

/**
 * The median time in ms of a function over several runs, after some to warm up: a hand drags for seconds, so what it
 * feels is the code as it runs then.
 */
export function median(run: () => unknown, runs = 15, warm = 2): number {
  for (let i = 0; i < warm; i++) run();
  const times = Array.from({ length: runs }, () => {
    const start = performance.now();
    run();
    return performance.now() - start;
  }).sort((p, q) => p - q);
  return times[runs >> 1]!;
}
