/** Starts the worker that finds the regions that lines enclose; the build finds it by this URL. */
export function startRegionsWorker(): Worker {
  return new Worker(new URL('../../workers/regions.worker', import.meta.url), { type: 'module' });
}
