/** Starts the worker that joins solids; the build finds it by this URL. */
export function startKernelWorker(): Worker {
  return new Worker(new URL('../../workers/kernel.worker', import.meta.url), { type: 'module' });
}
