/** Starts the worker that reads projections out of traced edges; the build finds it by this URL. */
export function startSolveWorker(): Worker {
  return new Worker(new URL('../../workers/solve.worker', import.meta.url), { type: 'module' });
}
