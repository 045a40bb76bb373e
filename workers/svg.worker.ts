import { initWasm, Resvg } from '@resvg/resvg-wasm';
import { expose } from 'comlink';
import { importSvg, type Checked, type ImportedSvg } from '../core/index';

let ready: Promise<unknown> | undefined;

/** Reads foreign SVG away from the page: a static renderer resolves it to paths, core reads what is left. */
const api = {
  async read(text: string, wasmUrl: string): Promise<Checked<ImportedSvg>> {
    ready ??= initWasm(fetch(wasmUrl));
    await ready;
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
