/** Starts the worker that opens kept drawings; the build finds it by this URL. */
export function startOpeningWorker(): Worker {
  return new Worker(new URL('../../workers/opening.worker', import.meta.url), { type: 'module' });
}
