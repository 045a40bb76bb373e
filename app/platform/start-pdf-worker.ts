/** Starts the worker that writes PDF; the build finds it by this URL. */
export function startPdfWorker(): Worker {
  return new Worker(new URL('../../workers/pdf.worker', import.meta.url), { type: 'module' });
}
