import { readFileSync } from 'node:fs';
import { Resvg } from '@resvg/resvg-js';
import { PNG } from 'pngjs';
import type { Page } from '@playwright/test';
import { difference, pdfPage } from '../core/testing/pictures';
import { expect, openDemo, openEmpty, test } from './support';

const DPI = 120;
const WIDTH = Math.round((297 / 25.4) * DPI);

async function exported(page: Page, name: string): Promise<string> {
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name, exact: true }).click();
  return (await download).path();
}

async function set(page: Page, select: string | RegExp, option: string): Promise<void> {
  await page.getByRole('combobox', { name: select }).click();
  await page.getByRole('option', { name: option }).click();
}

test('one grid as PNG, SVG and PDF is the same grid in three programs', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Projection', exact: true }).first().click();
  await page.getByRole('button', { name: 'two-point perspective', exact: true }).click();
  await page.getByRole('button', { name: 'Output', exact: true }).click();
  await set(page, /On the sheet/, 'the grid alone');
  await set(page, 'The grid starts at', 'middle of the sheet');
  await page.getByRole('region', { name: 'Sheet as PNG' }).getByRole('textbox', { name: 'Width' }).fill(String(WIDTH));
  await page.keyboard.press('Enter');
  const png = PNG.sync.read(readFileSync(await exported(page, 'Export PNG')));
  const svgText = readFileSync(await exported(page, 'Export SVG'), 'utf8');
  const svg = PNG.sync.read(Buffer.from(new Resvg(svgText, { font: { loadSystemFonts: false }, fitTo: { mode: 'width', value: WIDTH } }).render().asPng()));
  await page.getByRole('switch', { name: 'Test bar of 100\u2009mm' }).click();
  await page.getByRole('switch', { name: 'Cut marks' }).click();
  const withMarks = pdfPage(await exported(page, 'Export PDF'), DPI);
  await page.getByRole('switch', { name: 'Test bar of 100\u2009mm' }).click();
  await page.getByRole('switch', { name: 'Cut marks' }).click();
  const pdf = pdfPage(await exported(page, 'Export PDF'), DPI);
  expect(png.width).toBe(WIDTH);
  expect(withMarks.width).toBeGreaterThan(pdf.width + 100);
  const shares = { 'PNG and SVG': difference(png, svg, 0.06), 'PNG and PDF': difference(png, pdf, 0.06), 'SVG and PDF': difference(svg, pdf, 0.06) };
  const blank = new PNG({ width: png.width, height: png.height });
  for (let i = 0; i < blank.data.length; i += 4) blank.data.set([0xf7, 0xf3, 0xea, 255], i);
  expect(difference(png, blank, 0.06)).toBeGreaterThan(1.5);
  for (const [pair, share] of Object.entries(shares)) {
    console.log(`grid, ${pair}: ${share.toFixed(3)} % of px differ`);
    expect(share).toBeLessThan(1);
  }
  expect(svgText.match(/<g id="/g)!.length).toBe(3);
  expect(svgText).not.toMatch(/<image|data:/);

  // Transparent where there is no line.
  await page.getByRole('switch', { name: 'Background' }).click();
  const clear = PNG.sync.read(readFileSync(await exported(page, 'Export PNG')));
  expect(clear.data[3]).toBe(0);
  expect(clear.data.filter((_, i) => i % 4 === 3 && clear.data[i]! > 0).length).toBeGreaterThan(1000);
});

test('the calibration lattice prints true and numbers its crossings', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Output', exact: true }).click();
  const svg = readFileSync(await exported(page, 'Lattice as SVG'), 'utf8');
  expect(svg).toContain('width="124mm" height="88mm"');
  expect(svg).toContain('<title>lattice, numbers</title>');
  const pdf = pdfPage(await exported(page, 'Lattice as PDF'), DPI);
  const dark = (x: number): boolean => pdf.data[4 * (Math.round((17 / 25.4) * DPI) * pdf.width + x)]! < 150;
  const lines = Array.from({ length: pdf.width - 1 }, (_, i) => i + 1).filter((x) => dark(x) && !dark(x - 1));
  expect(lines).toHaveLength(10);
  expect(Math.abs(((lines[9]! - lines[0]!) * 25.4) / DPI - 108)).toBeLessThan(0.3);
});

test('the practice printer shows the lattice in true size, and what fitting and small paper make of it', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Output', exact: true }).click();
  await page.getByRole('button', { name: 'Lattice on paper' }).click();
  const dialog = page.getByRole('dialog', { name: 'Practice printer' });
  const sheet = dialog.getByRole('img', { name: /Lattice 9 × 6/ });
  await expect(dialog.getByRole('status')).toContainText('In true size');
  await expect.poll(() => sheet.evaluate((image: HTMLImageElement) => image.complete && image.naturalWidth > 0)).toBe(true);
  // Ten upright lines, nine boxes of 12 mm apart, at the 96 px to the inch of CSS.
  const seen = PNG.sync.read(await sheet.screenshot());
  const dark = (x: number): boolean => seen.data[4 * (Math.round((seen.height * 17) / 88) * seen.width + x)]! < 150;
  const lines = Array.from({ length: seen.width - 1 }, (_, i) => i + 1).filter((x) => dark(x) && !dark(x - 1));
  expect(lines).toHaveLength(10);
  expect(Math.abs(lines[9]! - lines[0]! - (108 * 96) / 25.4)).toBeLessThan(1.5);
  const width = async (): Promise<number> => (await sheet.boundingBox())!.width;
  const own = await width();
  // A screen whose rule measures 80 mm shows everything larger by as much.
  const measured = dialog.getByRole('textbox', { name: '0 to 10 cm here' });
  await measured.fill('80');
  await measured.press('Enter');
  await expect.poll(width).toBeCloseTo(own / 0.8, 0);
  await measured.fill('100');
  await measured.press('Enter');
  await dialog.getByRole('switch', { name: 'Fit to the paper' }).click();
  await expect(dialog.getByRole('status')).toContainText('Not in true size: 100\u2009mm of the sheet become 227.3\u2009mm');
  await expect.poll(width).toBeCloseTo(own * (200 / 88), 0);
  await dialog.getByRole('switch', { name: 'Fit to the paper' }).click();
  await set(page, 'Paper', 'A6');
  await expect(dialog.getByRole('status')).toHaveText('In true size: a mm of the sheet is a mm on the paper.');
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();
  await page.getByRole('region', { name: 'Calibration lattice' }).getByRole('textbox', { name: 'Columns' }).fill('16');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Lattice on paper' }).click();
  await expect(dialog.getByRole('status')).toContainText('find no room on A6');
  await expect(dialog.getByRole('status')).toContainText('A4 takes all of it.');
});

test('a PNG larger than browsers draw is refused with the reason', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Output', exact: true }).click();
  const width = page.getByRole('region', { name: 'Sheet as PNG' }).getByRole('textbox', { name: 'Width' });
  await width.fill('50000');
  await width.press('Enter');
  await expect(page.getByText('From 16 to 16384.')).toBeVisible();
});

test('an isometric grid of 800 × 800 px leaves as SVG of that size, by a key, two figures and a press', async ({ page }) => {
  await openEmpty(page);
  let gestures = 0;
  await page.keyboard.press('q');
  gestures++;
  for (const side of ['Sheet width', 'Sheet height']) {
    const field = page.getByRole('textbox', { name: side });
    await field.fill('800 px');
    await page.keyboard.press('Enter');
  }
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export the grid as SVG' }).click();
  gestures++;
  const svg = readFileSync(await (await download).path(), 'utf8');
  console.log(`an 800 px grid: ${gestures} gestures besides the data`);
  expect(gestures).toBeLessThanOrEqual(3);
  expect(svg).toMatch(/width="800px" height="800px" viewBox="0 0 800 800"/);
  expect(svg).not.toContain('id="sheet"');
  for (const axis of ['a', 'b', 'h']) expect(svg).toMatch(new RegExp(`<title>grid[^<]*along ${axis}</title>`));
  await expect(page.getByText('The grid was exported as SVG')).toBeVisible();
});
