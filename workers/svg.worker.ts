import { initWasm, Resvg } from '@resvg/resvg-wasm';
import { expose } from 'comlink';
import { importSvg, type ImportedSvg } from '../core/artwork/import-svg';
import type { Checked } from '../core/math/errors';

let ready: Promise<unknown> | undefined;

async function fetched(url: string): Promise<Response> {
  try {
    return await fetch(url);
  } catch {
    throw new Error('the reader of SVG could not be fetched. It is kept for work without a network once this page has been open with one for a moment.');
  }
}

/** Reads foreign SVG away from the page: a static renderer resolves it to paths, core reads what is left. */
const api = {
  async read(text: string, wasmUrl: string): Promise<Checked<ImportedSvg>> {
    ready ??= initWasm(fetched(wasmUrl));
    try {
      await ready;
    } catch (error) {
      // The next file asks again.
      ready = undefined;
      throw error;
    }
    return importSvg(text, (source) => {
      const resvg = new Resvg(source, { font: { loadSystemFonts: false } });
      try {
        return resvg.toString();
      } finally {
        resvg.free();
      }
    });
  },
};

export type SvgWorker = typeof api;

expose(api);
