import { readFileSync } from 'node:fs';
import { Resvg } from '@resvg/resvg-js';
import type { Page } from '@playwright/test';
import { PNG } from 'pngjs';
import type { CheminDocument } from '../core/index';
import { finePng, inkJpeg, movingPng } from '../core/testing/odd-pictures';
import { unpacked } from '../core/testing/fonts';
import { difference, pdfPage } from '../core/testing/pictures';
import { drop, expect, openDemo, storedOpen, test } from './support';

const DPI = 150;

async function exported(page: Page, name: string): Promise<string> {
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name, exact: true }).click();
  return (await download).path();
}

/** A picture with edges, slow changes, and, where it is asked for, a hole. */
function photograph(alpha: boolean): Buffer {
  const png = new PNG({ width: 420, height: 280 });
  for (let y = 0; y < 280; y++)
    for (let x = 0; x < 420; x++) {
      const ring = Math.hypot(x - 210, y - 140);
      const a = alpha && ring < 50 ? 0 : 255;
      png.data.set([(x >> 5) & 1 ? 200 : 60 + x / 4, 80 + y / 2, ring < 90 ? 220 : 120, a], 4 * (y * 420 + x));
    }
  return PNG.sync.write(png);
}

const SIGN = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 240 60"><rect width="240" height="60" fill="#d9a441"/><path d="M10 40q20-30 40 0t40 0 40 0 40 0" fill="none" stroke="#ffffff" stroke-width="4" stroke-dasharray="9 4"/></svg>'; // prettier-ignore

async function add(page: Page, name: string, mimeType: string, buffer: Buffer): Promise<void> {
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByRole('button', { name: 'Add a picture or SVG' }).click()]);
  await chooser.setFiles({ name, mimeType, buffer });
}

/** Text as fonts keep names: two bytes a letter, the higher first. */
const utf16 = (text: string): Buffer => Buffer.from(text, 'utf16le').swap16();

async function placeOn(page: Page, target: string): Promise<void> {
  await page.getByRole('combobox', { name: 'Place it on' }).click();
  await page.getByRole('option', { name: target }).first().click();
}

/** The sheet as PNG by the canvas, as SVG and as PDF by other programs. */
async function inThree(page: Page, width: number): Promise<Readonly<Record<string, number>>> {
  await page.getByRole('region', { name: 'Sheet as PNG' }).getByRole('textbox', { name: 'Width' }).fill(String(width));
  await page.keyboard.press('Enter');
  const png = PNG.sync.read(readFileSync(await exported(page, 'Export PNG')));
  const svgText = readFileSync(await exported(page, 'Export SVG'), 'utf8');
  const svg = PNG.sync.read(Buffer.from(new Resvg(svgText, { font: { loadSystemFonts: false }, fitTo: { mode: 'width', value: width } }).render().asPng()));
  const pdf = pdfPage(await exported(page, 'Export PDF'), DPI);
  expect(svgText).toMatch(/data:image\/png;base64/);
  return { 'PNG and SVG': difference(png, svg, 0.1), 'PNG and PDF': difference(png, pdf, 0.1) };
}

test('bitmaps, patterns, bands and light on artwork leave as they are seen, in parallel and in perspective', async ({ page }) => {
  test.setTimeout(120_000);
  await openDemo(page);
  await page.getByRole('button', { name: 'Artwork', exact: true }).first().click();
  await add(page, 'photo.png', 'image/png', photograph(false));
  await expect(page.getByText('“photo.png” was added')).toBeVisible();
  await placeOn(page, 'kiosk, left side');
  await page.getByRole('checkbox', { name: 'Takes the tone of its face' }).click();
  await add(page, 'hole.png', 'image/png', photograph(true));
  await expect(page.getByText('“hole.png” was added')).toBeVisible();
  await placeOn(page, 'quay, right side');
  await page.getByRole('button', { name: 'Offset rows' }).click();
  await page.getByRole('textbox', { name: 'Gap across' }).fill('1');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Choose photo' }).click();
  await placeOn(page, 'post, round side');
  await page.getByRole('group', { name: 'Fit' }).getByRole('button', { name: 'All round' }).click();
  await add(page, 'band.svg', 'image/svg+xml', Buffer.from(SIGN));
  await expect(page.getByText('“band.svg” was added')).toBeVisible();
  await placeOn(page, 'quay, left side');
  await page.getByRole('button', { name: 'Straight' }).click();
  const { sheet } = (await storedOpen(page)).document as CheminDocument;
  const width = Math.round((sheet.width / 25.4) * DPI);
  await page.getByRole('button', { name: 'Output', exact: true }).first().click();
  for (const [pair, share] of Object.entries(await inThree(page, width))) {
    console.log(`artwork in parallel projection, ${pair}: ${share.toFixed(3)} % of px differ`);
    expect(share).toBeLessThan(0.5);
  }
  await page.keyboard.press('Control+k');
  await page.locator('chemin-finder input').fill('use two-point');
  await page.keyboard.press('Enter');
  await expect.poll(async () => ((await storedOpen(page)).document as CheminDocument).projection.chosen).toBe('two-point');
  await page.getByRole('button', { name: 'Output', exact: true }).first().click();
  for (const [pair, share] of Object.entries(await inThree(page, width))) {
    console.log(`artwork in two-point perspective, ${pair}: ${share.toFixed(3)} % of px differ`);
    expect(share).toBeLessThan(0.5);
  }
});

test('odd pictures are refused, reduced or read, each with its words, and the drawing is untouched', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Artwork', exact: true }).first().click();
  const before = ((await storedOpen(page)).document as CheminDocument).artworks.length;
  const whole = photograph(false);
  const huge = Buffer.from(whole);
  huge.writeUInt32BE(30_000, 16);
  huge.writeUInt32BE(30_000, 20);
  const cases: readonly (readonly [string, string, Buffer, RegExp])[] = [
    ['cut.png', 'image/png', whole.subarray(0, 500), /cut short/],
    ['named.png', 'image/png', Buffer.from('%PDF-1.7 nothing'), /is a PDF, not/],
    ['moving.png', 'image/png', Buffer.from('GIF89a....'), /is a GIF, not/],
    ['huge.png', 'image/png', huge, /30,000 × 30,000/],
    ['none.webp', 'image/webp', Buffer.from('nothing of the kind'), /no PNG/],
    ['damaged.png', 'image/png', Buffer.concat([whole.subarray(0, 400), Buffer.alloc(200, 7), whole.subarray(whole.length - 12)]), /cut short|damaged/],
  ];
  const paths = Array.from({ length: 100_000 }, (_, i) => `<path d="M${i % 90} ${i % 70}l3 0 0 3z"/>`).join('');
  const drawn = (inside: string): Buffer => Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">${inside}</svg>`);
  const deep = (levels: number): string => `<defs><clipPath id="c"><rect width="90" height="90"/></clipPath></defs>${'<g clip-path="url(#c)">'.repeat(levels)}<rect width="9" height="9"/>${'</g>'.repeat(levels)}`; // prettier-ignore
  const bomb = `<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa">${Array.from({ length: 9 }, (_, i) => `<!ENTITY ${'bcdefghij'[i]!} "${`&${'abcdefghi'[i]!};`.repeat(10)}">`).join('')}]><svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><text>&j;</text></svg>`; // prettier-ignore
  const vectors: typeof cases = [
    ['many.svg', 'image/svg+xml', drawn(paths), /more than [\d,]+ paths|12 MB of paths/],
    ['deep.svg', 'image/svg+xml', drawn(deep(200)), /nested more than 64 deep/],
    ['deeper.svg', 'image/svg+xml', drawn(deep(3000)), /cannot be read/],
    ['bomb.svg', 'image/svg+xml', Buffer.from(bomb), /entities/],
  ];
  const longest = await longestStop(page);
  for (const [name, type, buffer, words] of [...cases, ...vectors]) {
    await add(page, name, type, buffer);
    const message = page.locator('p-message').filter({ hasText: `“${name}” was not added` });
    await expect(message).toContainText(words);
    await message.getByRole('button').last().click();
  }
  const stopped = await longest();
  console.log(`the page stood still for at most ${stopped.toFixed(0)} ms`);
  expect(stopped).toBeLessThan(2000);
  expect(((await storedOpen(page)).document as CheminDocument).artworks).toHaveLength(before);
  // One that a browser reads, of the wrong kind by its name, is what it is.
  await add(page, 'photo.jpg', 'image/jpeg', whole);
  await expect(page.getByText('“photo.jpg” was added')).toBeVisible();
  // Inks, finer colours and the first of several pictures are read, and it is said.
  const odd: readonly (readonly [string, string, Buffer, RegExp, readonly number[], number])[] = [
    ['inks.jpg', 'image/jpeg', inkJpeg([0, 255, 255, 0]), /brought to sRGB with 8 bits/, [230, 20, 30], 40],
    ['fine.png', 'image/png', finePng(8, [0x1234, 0x8000, 0xfedc]), /brought to sRGB with 8 bits/, [0x12, 0x80, 0xfe], 1],
    ['two.png', 'image/png', movingPng(8, [10, 120, 90], [250, 0, 0]), /its first picture was taken/, [10, 120, 90], 0],
  ];
  for (const [name, type, buffer, words, colour, within] of odd) {
    await add(page, name, type, buffer);
    const message = page.locator('p-message').filter({ hasText: `“${name}” was added` });
    await expect(message).toContainText(words);
    const there = await page.getByRole('button', { name: `Choose ${name.split('.')[0]}` }).locator('img, canvas, svg').first().screenshot(); // prettier-ignore
    const shown = PNG.sync.read(there);
    const middle = 4 * ((shown.height >> 1) * shown.width + (shown.width >> 1));
    colour.forEach((level, i) => expect(Math.abs(shown.data[middle + i]! - level), `${name}, channel ${i}`).toBeLessThanOrEqual(within + 1));
    await message.getByRole('button').last().click();
  }
  // Text in a font that is not here is named, with what stands in for it.
  const text =
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 90 30"><text x="4" y="20" font-family="Harbour Sans" font-size="14">Quay 9</text><text x="4" y="28" font-family="Nunito" font-size="6">open</text></svg>';
  await add(page, 'text.svg', 'image/svg+xml', Buffer.from(text));
  await expect(page.locator('p-message').filter({ hasText: '“text.svg” was added' })).toContainText(
    'The font “Harbour Sans” is not here; Hanken Grotesk stands in for it.',
  );
  // Once it was brought in, text is laid out with it.
  const font = Buffer.from(unpacked(readFileSync('node_modules/@fontsource/pacifico/files/pacifico-latin-400-normal.woff')));
  for (let at = font.indexOf(utf16('Pacifico')); at >= 0; at = font.indexOf(utf16('Pacifico'), at)) utf16('Harbours').copy(font, at);
  await drop(page, { name: 'harbours.ttf', mimeType: 'font/ttf', buffer: font });
  await expect(page.getByText(/The font “Harbours.*” was brought in/)).toBeVisible();
  await add(page, 'script.svg', 'image/svg+xml', Buffer.from(text.replace('Harbour Sans', 'Harbours')));
  const script = page.locator('p-message').filter({ hasText: '“script.svg” was added' });
  await expect(script).toBeVisible();
  await expect(script).not.toContainText('stands in');
  // Masks and filters become pictures, patterns stay vectors, what lies in it stays.
  const rich = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 60"><defs><pattern id="p" width="10" height="10" patternUnits="userSpaceOnUse"><circle cx="5" cy="5" r="3" fill="#c2533b"/></pattern><mask id="m"><rect width="50" height="60" fill="#888"/></mask></defs><rect width="100" height="60" fill="url(#p)"/><rect mask="url(#m)" width="90" height="30" fill="#1d4b52"/><image x="60" y="30" width="30" height="20" href="data:image/png;base64,${whole.toString('base64')}"/></svg>`;
  await add(page, 'rich.svg', 'image/svg+xml', Buffer.from(rich));
  await expect(page.locator('p-message').filter({ hasText: '“rich.svg” was added' })).toContainText('A part under filters or masks became a picture');
  await expect
    .poll(async () => ((await storedOpen(page)).document as CheminDocument).artworks.find(({ name }) => name === 'rich')?.svg.match(/"bitmap:/g)?.length)
    .toBe(2);
});

/** From now on, the longest time in ms in which the page answers to nothing. */
async function longestStop(page: Page): Promise<() => Promise<number>> {
  const stops = await page.evaluateHandle(() => {
    let last = performance.now();
    const stops = { longest: 0 };
    setInterval(() => {
      const now = performance.now();
      stops.longest = Math.max(stops.longest, now - last);
      last = now;
    }, 20);
    return stops;
  });
  return () => stops.evaluate(({ longest }) => longest);
}
