/** Starts the worker that writes and reads project files; the build finds it by this URL. */
export function startArchiveWorker(): Worker {
  return new Worker(new URL('../../workers/archive.worker', import.meta.url), { type: 'module' });
}
