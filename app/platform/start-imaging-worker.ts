/** Starts the worker that maps bitmaps; the build finds it by this URL. */
export function startImagingWorker(): Worker {
  return new Worker(new URL('../../workers/imaging.worker', import.meta.url), { type: 'module' });
}
