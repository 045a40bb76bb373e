/** Stands in for the workers where there are none. */
export function startSvgWorker(): Worker {
  throw new Error('there is no worker here.');
}
export const startArchiveWorker = startSvgWorker;
export const startOpeningWorker = startSvgWorker;
export const startPdfWorker = startSvgWorker;
export const startPictureWorker = startSvgWorker;
export const startSolveWorker = startSvgWorker;
export const startAreasWorker = startSvgWorker;
export const startPhotoWorker = startSvgWorker;
export const startImagingWorker = startSvgWorker;
export const startKernelWorker = startSvgWorker;
export const startTextWorker = startSvgWorker;
