export { randomFrom } from '../math/random';

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

/** Processor time in ms that this process has used so far, which nothing else that runs on the machine adds to. */
export function processorMs(): number {
  const { process } = globalThis as unknown as { process: { cpuUsage(): { user: number; system: number } } };
  const { user, system } = process.cpuUsage();
  return (user + system) / 1000;
}
