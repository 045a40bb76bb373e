/** A line of the table. */
export interface Row {
  readonly what: string;
  readonly ms: number;
  readonly note: string;
}

/** The median time in ms of a function over several runs, after two to warm up. */
export function median(run: () => unknown, runs = 15): number {
  for (let i = 0; i < 2; i++) run();
  const times = Array.from({ length: runs }, () => {
    const start = performance.now();
    run();
    return performance.now() - start;
  }).sort((p, q) => p - q);
  return times[runs >> 1]!;
}
