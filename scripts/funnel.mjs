/* global Image, OffscreenCanvas, createImageBitmap, btoa -- of the page */
// Makes the photographs of the demo "Funnel livery" with the practice camera, and writes them with their fit to demo/.
import { createHash } from 'node:crypto';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { chromium } from '@playwright/test';
import { build } from 'esbuild';
import { PNG } from 'pngjs';

const out = join(mkdtempSync(join(tmpdir(), 'funnel-')), 'funnel.mjs');
await build({ entryPoints: ['scripts/funnel.ts'], bundle: true, platform: 'node', format: 'esm', outfile: out });
const { photographs, solved } = await import(pathToFileURL(out).href);

const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--headless', '--no-sandbox'] });
const page = await browser.newPage();
/** Px as a JPEG, and what a browser reads of it again. */
async function asJpeg({ width, height, data }) {
  const png = new PNG({ width, height });
  png.data = Buffer.from(data);
  return page.evaluate(
    async ([source, w, h]) => {
      const image = new Image();
      image.src = `data:image/png;base64,${source}`;
      await image.decode();
      const canvas = new OffscreenCanvas(w, h);
      const context = canvas.getContext('2d');
      context.drawImage(image, 0, 0);
      const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.9 });
      context.drawImage(await createImageBitmap(blob), 0, 0);
      const bytes = new Uint8Array(await blob.arrayBuffer());
      return { bytes: btoa(Array.from(bytes, (b) => String.fromCharCode(b)).join('')), px: [...context.getImageData(0, 0, w, h).data] };
    },
    [PNG.sync.write(png).toString('base64'), width, height],
  );
}

const written = [];
for (const px of photographs()) written.push({ ...(await asJpeg(px)), width: px.width, height: px.height });
await browser.close();
const [bare, latticed] = written.map(({ px, width, height }) => ({ width, height, data: Uint8ClampedArray.from(px) }));
const { registration, crossings, fit, light } = solved(bare, latticed);

const pictures = {};
const put = (name, type, base64, { width, height }) => {
  pictures[name] = { type, width, height, asset: createHash('sha256').update(Buffer.from(base64, 'base64')).digest('hex'), base64 };
};
put('bare', 'image/jpeg', written[0].bytes, bare);
put('latticed', 'image/jpeg', written[1].bytes, latticed);
const parts = {};
for (const name of ['shade', 'gloss']) {
  const { px, x, y, width, height } = light[name];
  const png = new PNG({ width: px.width, height: px.height });
  png.data = Buffer.from(px.data);
  put(name, 'image/png', PNG.sync.write(png, { colorType: 2, deflateLevel: 9 }).toString('base64'), px);
  parts[name] = { x, y, width, height };
}
const short = (_, value) => (typeof value === 'number' ? Number(value.toPrecision(10)) : value);
const data = {
  registration,
  crossings: crossings.map((one) => ({ ...one, x: Number(one.x.toFixed(4)), y: Number(one.y.toFixed(4)), error: Number(one.error.toFixed(4)) })),
  fit,
  parts,
};
writeFileSync(
  'demo/funnel-pictures.ts',
  `// Written by scripts/funnel.mjs: a pair of the practice camera, what was found in it, and the light on the funnel.\n/* prettier-ignore */\nexport const FUNNEL_PICTURES = ${JSON.stringify(pictures)} as const;\n\n/* prettier-ignore */\nexport const FUNNEL_FIT = ${JSON.stringify(JSON.stringify(data, short))};\n`,
);
