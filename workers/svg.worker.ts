import { initWasm, Resvg } from '@resvg/resvg-wasm';
import { importSvg, type ImportedSvg } from '../core/artwork/import-svg';
import { readPictureHeader } from '../core/imaging/read-header';
import { fontEnding } from '../core/lettering/font-file';
import { SHIPPED_FONTS } from '../core/lettering/lettering';
import { familyOf, unpackedWoff } from '../core/lettering/unpack-woff';
import type { Checked } from '../core/math/errors';
import { offer } from './offer';

let ready: Promise<unknown> | undefined;

async function fetched(url: string): Promise<Response> {
  try {
    return await fetch(url);
  } catch {
    throw new Error('the reader of SVG could not be fetched. It is kept for work without a network once this page has been open with one for a moment.');
  }
}

interface Fonts {
  readonly buffers: readonly Uint8Array[];
  readonly families: ReadonlySet<string>;
}

let shipped: Promise<Fonts> | undefined;

/** The fonts that ship, as the renderer reads them. */
function shippedFonts(): Promise<Fonts> {
  shipped ??= Promise.all(SHIPPED_FONTS.map(async ({ file }) => unpackedWoff(new Uint8Array(await (await fetched(`/lettering/${file}`)).arrayBuffer())))).then(
    fontsFrom,
  );
  // Without the network they may come another time.
  shipped.catch(() => (shipped = undefined));
  return shipped;
}

function fontsFrom(buffers: readonly Uint8Array[]): Fonts {
  return { buffers, families: new Set(buffers.flatMap((bytes) => familyOf(bytes)?.toLowerCase() ?? [])) };
}

/** Fonts of a drawing's own; those of kinds that the renderer does not read are left out. */
function ownFonts(fonts: readonly Uint8Array[]): Fonts {
  const plain = fonts.flatMap((bytes): readonly Uint8Array[] => {
    const ending = fontEnding(bytes);
    return ending === 'woff' ? [unpackedWoff(bytes)] : ending === 'woff2' || !ending ? [] : [bytes];
  });
  return fontsFrom(plain);
}

/** What stands in for families that are not there. */
const STAND_IN = 'Hanken Grotesk';

/** Reads foreign SVG away from the page: a static renderer resolves it to paths, core reads what is left. */
const api = {
  /** @param fonts of the drawing itself, besides those that ship */
  async read(text: string, wasmUrl: string, fonts: readonly Uint8Array[] = []): Promise<Checked<ImportedSvg>> {
    ready ??= initWasm(fetched(wasmUrl));
    try {
      await ready;
    } catch (error) {
      // The next file asks again.
      ready = undefined;
      throw error;
    }
    // Fonts are fetched only for files with text.
    const known = /<text[\s>]/i.test(text) ? await shippedFonts().catch(() => null) : null;
    const own = known && ownFonts(fonts);
    const font = {
      loadSystemFonts: false,
      fontBuffers: [...(known?.buffers ?? []), ...(own?.buffers ?? [])],
      defaultFontFamily: STAND_IN,
      sansSerifFamily: STAND_IN,
      serifFamily: 'Source Serif 4',
      monospaceFamily: 'Courier Prime',
      cursiveFamily: 'Pacifico',
      fantasyFamily: 'Stardos Stencil',
    };
    const using = <T>(source: string, options: object, use: (resvg: InstanceType<typeof Resvg>) => T): T => {
      const resvg = new Resvg(source, { font, ...options });
      try {
        return use(resvg);
      } finally {
        resvg.free();
      }
    };
    return importSvg(text, (source) => using(source, {}, (resvg) => resvg.toString()), {
      paint: (source, scale) => using(source, { fitTo: { mode: 'zoom', value: scale } }, (resvg) => resvg.render().asPng()),
      sizeOf: (bytes) => {
        const read = readPictureHeader(bytes);
        return read.ok ? read.value : null;
      },
      ...(known && { families: new Set([...known.families, ...(own?.families ?? [])]) }),
      standIn: STAND_IN,
    });
  },
};

export type SvgWorker = typeof api;

offer(api);
