/** Stands in for the worker where there is none. */
export function startSvgWorker(): Worker {
  throw new Error('there is no worker here.');
}
