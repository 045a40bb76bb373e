/** Starts the worker that reads foreign SVG; the build finds it by this URL. */
export function startSvgWorker(): Worker {
  return new Worker(new URL('../../workers/svg.worker', import.meta.url), { type: 'module' });
}
