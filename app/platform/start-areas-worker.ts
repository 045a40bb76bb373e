/** Starts the worker that combines shapes and finds the regions that lines enclose; the build finds it by this URL. */
export function startAreasWorker(): Worker {
  return new Worker(new URL('../../workers/areas.worker', import.meta.url), { type: 'module' });
}
