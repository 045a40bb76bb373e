/** Repeatable numbers from 0 to 1 (mulberry32). */
export function randomFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** How often a seeded test runs: a few times by default, more where `CHEMIN_RUNS` says how many times as often. */
export function runs(few: number): number {
  const { process } = globalThis as { process?: { env: Readonly<Record<string, string | undefined>> } };
  return Math.round(few * Number(process?.env['CHEMIN_RUNS'] ?? 1));
}

/** The places of data that hold a number which is none, or is infinite; none where all is well. */
export function badNumbers(data: unknown, path = ''): readonly string[] {
  if (typeof data === 'number') return Number.isFinite(data) ? [] : [`${path}: ${data}`];
  if (typeof data !== 'object' || data === null) return [];
  if (ArrayBuffer.isView(data)) return badNumbers(Array.from(data as Float64Array), path);
  const bad: string[] = [];
  for (const [key, part] of Object.entries(data)) {
    if (typeof part !== 'string') bad.push(...badNumbers(part, `${path}.${key}`));
    if (bad.length > 5) break;
  }
  return bad;
}
