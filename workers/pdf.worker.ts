import { expose } from 'comlink';
import { pdfFromSheet, type HandedSheet, type PdfOptions } from '../core/index';

/** Writes PDF away from the page; it comes with its library only when it is first asked for. */
const api = { write: (sheet: HandedSheet, options: PdfOptions): Promise<Uint8Array> => pdfFromSheet(sheet, options) };

export type PdfWorker = typeof api;

expose(api);
