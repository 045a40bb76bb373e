/** Starts the worker that makes pictures of whole drawings; the build finds it by this URL. */
export function startPictureWorker(): Worker {
  return new Worker(new URL('../../workers/picture.worker', import.meta.url), { type: 'module' });
}
