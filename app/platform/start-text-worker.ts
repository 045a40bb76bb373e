/** Starts the worker that shapes text; the build finds it by this URL. */
export function startTextWorker(): Worker {
  return new Worker(new URL('../../workers/text.worker', import.meta.url), { type: 'module' });
}
