/** Starts the worker for photographs; the build finds it by this URL. */
export function startPhotoWorker(): Worker {
  return new Worker(new URL('../../workers/photo.worker', import.meta.url), { type: 'module' });
}
