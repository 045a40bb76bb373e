import { readFileSync } from 'node:fs';
import { Resvg } from '@resvg/resvg-js';
import pixelmatch from 'pixelmatch';
import { PNG } from 'pngjs';
import type { Page } from '@playwright/test';
import { expect, openDemo, test } from './support';

const SHEET = { width: 297, height: 210 };

/** The sheet as the canvas shows it, cut out in px, and the px that one mm has there. */
async function canvasSheet(page: Page): Promise<{ png: PNG; zoom: number }> {
  const url = await page.evaluate(() => document.querySelector<HTMLCanvasElement>('.surface canvas')!.toDataURL('image/png'));
  const whole = PNG.sync.read(Buffer.from(url.split(',')[1]!, 'base64'));
  const margin = 36;
  const zoom = Math.min((whole.width - 2 * margin) / SHEET.width, (whole.height - 2 * margin) / SHEET.height);
  const left = Math.round((whole.width - SHEET.width * zoom) / 2);
  const top = Math.round((whole.height - SHEET.height * zoom) / 2);
  const png = new PNG({ width: Math.floor(SHEET.width * zoom), height: Math.floor(SHEET.height * zoom) });
  PNG.bitblt(whole, png, left, top, png.width, png.height, 0, 0);
  return { png, zoom };
}

async function exportedSvg(page: Page): Promise<string> {
  const download = page.waitForEvent('download');
  await page.keyboard.press('Control+Enter');
  return readFileSync(await (await download).path(), 'utf8');
}

function rendered(svg: string, zoom: number, like: PNG): PNG {
  const image = new Resvg(svg, { font: { loadSystemFonts: false }, fitTo: { mode: 'zoom', value: (zoom * 25.4) / 96 } }).render();
  const whole = PNG.sync.read(Buffer.from(image.asPng()));
  const png = new PNG({ width: like.width, height: like.height });
  PNG.bitblt(whole, png, 0, 0, like.width, like.height, 0, 0);
  return png;
}

for (const size of [
  { width: 1280, height: 800 },
  { width: 2560, height: 1440 },
]) {
  test(`the exported SVG, rendered by another renderer, is what the canvas shows (${size.width} x ${size.height})`, async ({ page }) => {
    await page.setViewportSize(size);
    await openDemo(page);
    await page.keyboard.press('g');
    await expect(page.getByRole('button', { name: 'Grid hidden' })).toBeVisible();
    const { png, zoom } = await canvasSheet(page);
    const svg = await exportedSvg(page);
    const other = rendered(svg, zoom, png);
    const differing = pixelmatch(png.data, other.data, undefined, png.width, png.height, { threshold: 0.1, includeAA: false });
    const share = (100 * differing) / (png.width * png.height);
    console.log(`canvas against SVG at ${png.width} x ${png.height} px: ${share.toFixed(4)} % of pixels differ`);
    expect(share).toBeLessThan(0.5);
    expect(svg).not.toMatch(/<image|data:/);
    expect(svg.match(/<g id="/g)!.length).toBeGreaterThan(60);
  });
}

test('a wrong picture would be noticed', async ({ page }) => {
  await openDemo(page);
  await page.keyboard.press('g');
  await expect(page.getByRole('button', { name: 'Grid hidden' })).toBeVisible();
  const { png, zoom } = await canvasSheet(page);
  const svg = (await exportedSvg(page)).replace(/<g id="quay">[\s\S]*?<\/g>\s*<\/g>/, '');
  const other = rendered(svg, zoom, png);
  const differing = pixelmatch(png.data, other.data, undefined, png.width, png.height, { threshold: 0.1, includeAA: false });
  expect((100 * differing) / (png.width * png.height)).toBeGreaterThan(0.5);
});
