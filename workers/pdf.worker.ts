import type { HandedSheet } from '../core/output/handed';
import { pdfFromSheet, type PdfOptions } from '../core/output/paint-pdf';
import { offer } from './offer';

/** Writes PDF away from the page; it comes with its library only when it is first asked for. */
const api = { write: (sheet: HandedSheet, options: PdfOptions): Promise<Uint8Array> => pdfFromSheet(sheet, options) };

export type PdfWorker = typeof api;

offer(api);
