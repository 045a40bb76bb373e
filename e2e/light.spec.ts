import { readFileSync } from 'node:fs';
import { Resvg } from '@resvg/resvg-js';
import pixelmatch from 'pixelmatch';
import { PNG } from 'pngjs';
import type { Page } from '@playwright/test';
import { expect, openDemo, openEmpty, storedOpen, test } from './support';

const light = (page: Page): Promise<void> => page.getByRole('button', { name: 'Light', exact: true }).first().click();
const shadows = (page: Page): Promise<void> => page.getByRole('switch', { name: 'Cast shadows' }).click();
const picture = (page: Page): Promise<string> => page.evaluate(() => document.querySelector<HTMLCanvasElement>('.surface canvas')!.toDataURL('image/png'));

/** Sets a number of the bench, and leaves it. */
async function set(page: Page, name: string, value: string): Promise<void> {
  const field = page.locator('chemin-bench').getByRole('textbox', { name, exact: true });
  await field.fill(value);
  await field.press('Enter');
}

/** The part of px in percent in which the sheet on the canvas differs from the exported SVG in another renderer. */
async function againstSvg(page: Page): Promise<number> {
  await expect(page.locator('.area')).not.toHaveAttribute('aria-busy', 'true');
  const whole = PNG.sync.read(Buffer.from((await picture(page)).split(',')[1]!, 'base64'));
  const zoom = Math.min((whole.width - 72) / 297, (whole.height - 72) / 210);
  const png = new PNG({ width: Math.floor(297 * zoom), height: Math.floor(210 * zoom) });
  PNG.bitblt(whole, png, Math.round((whole.width - 297 * zoom) / 2), Math.round((whole.height - 210 * zoom) / 2), png.width, png.height, 0, 0);
  const download = page.waitForEvent('download');
  await page.keyboard.press('Control+Enter');
  const svg = readFileSync(await (await download).path(), 'utf8');
  const image = new Resvg(svg, { font: { loadSystemFonts: false }, fitTo: { mode: 'zoom', value: (zoom * 25.4) / 96 } }).render();
  const drawn = PNG.sync.read(Buffer.from(image.asPng()));
  const other = new PNG({ width: png.width, height: png.height });
  PNG.bitblt(drawn, other, 0, 0, png.width, png.height, 0, 0);
  return (100 * pixelmatch(png.data, other.data, undefined, png.width, png.height, { threshold: 0.1, includeAA: false })) / (png.width * png.height);
}

test('the landing is lit with all its shadows in two gestures, and files show what the canvas shows', async ({ page }) => {
  await openDemo(page);
  await page.keyboard.press('g');
  await expect(page.getByRole('button', { name: 'Grid hidden' })).toBeVisible();
  const before = await picture(page);
  await light(page);
  await shadows(page);
  console.log('the landing lit with shadows: 2 gestures');
  await expect.poll(() => picture(page)).not.toBe(before);
  await expect.poll(async () => (await storedLight(page)).shadows).toMatchObject({ on: true, floor: -2 });
  await page.locator('.area').focus();
  const sharp = await againstSvg(page);
  await set(page, 'Soft edge', '3');
  await set(page, 'Gone after', '12');
  await page.locator('.area').focus();
  const soft = await againstSvg(page);
  await page.getByRole('button', { name: 'One colour' }).click();
  await page.locator('.area').focus();
  const ink = await againstSvg(page);
  console.log(`canvas against SVG: ${[sharp, soft, ink].map((share) => share.toFixed(3)).join(', ')} % of pixels differ`);
  expect(Math.max(sharp, soft, ink)).toBeLessThan(0.5);
});

async function storedLight(page: Page): Promise<{ sun: { azimuthDeg: number; elevationDeg: number }; shadows?: object; lamp?: object }> {
  let light: unknown;
  await expect(async () => expect((light = ((await storedOpen(page)).document as { light: object }).light)).toBeTruthy()).toPass();
  return light as Awaited<ReturnType<typeof storedLight>>;
}

test('the end of a shadow is dragged to a place in one gesture, and the sun’s figures say so; one thing throws none', async ({ page }) => {
  const grid = await openEmpty(page);
  await page.getByRole('button', { name: 'Build', exact: true }).first().click();
  await page.locator('chemin-bench').getByRole('button', { name: /^Box/ }).click();
  await grid.drag([0, 0, 0], [4, 4, 0]);
  await grid.press([4, 4, 4]);
  await light(page);
  await shadows(page);
  await expect(page.getByRole('textbox', { name: 'Elevation', exact: true })).toHaveValue('50');
  // The corner at 0, 0, 4 throws its shadow where it is seen: from a sun at 150 and 50 degrees.
  const way = 4 / Math.tan((50 * Math.PI) / 180);
  const turned = (150 * Math.PI) / 180;
  const end = [-way * Math.cos(turned), -way * Math.sin(turned), 0] as const;
  const { x, y } = await grid.at(end);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await grid.move([4, -4, 0]);
  await page.mouse.up();
  await expect(page.getByRole('textbox', { name: 'Turn from a', exact: true })).toHaveValue('135');
  await expect(page.getByRole('textbox', { name: 'Elevation', exact: true })).toHaveValue('35.264');
  const lit = await picture(page);
  await page.getByRole('treeitem', { name: /box 1/ }).click();
  await page.getByRole('checkbox', { name: 'Throws shadows' }).click();
  console.log('a shadow’s end dragged: 1 gesture; one thing without a shadow: 2');
  await expect.poll(() => picture(page)).not.toBe(lit);
  await expect.poll(async () => ((await storedOpen(page)).document as { nodes: { casts?: boolean }[] }).nodes[0]!.casts).toBe(false);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('checkbox', { name: 'Throws shadows' })).toBeChecked();
});

test('a sun kept to the picture turns with the view, and a lamp is put, dragged and lifted', async ({ page }) => {
  const grid = await openEmpty(page);
  await page.getByRole('button', { name: 'Build', exact: true }).first().click();
  await page.locator('chemin-bench').getByRole('button', { name: /^Box/ }).click();
  await grid.drag([0, 0, 0], [4, 4, 0]);
  await grid.press([4, 4, 4]);
  await light(page);
  await shadows(page);
  await page.getByRole('button', { name: 'Picture', exact: true }).click();
  await expect(page.getByRole('textbox', { name: 'Turn from a', exact: true })).toHaveValue('150');
  await page.getByRole('button', { name: 'Projection', exact: true }).first().click();
  await page.getByRole('button', { name: 'cabinet', exact: true }).click();
  await light(page);
  const there = page.getByRole('textbox', { name: 'Turn from a', exact: true });
  await expect(there).not.toHaveValue('150');
  await page.keyboard.press('Control+z');
  await expect(there).toHaveValue('150');
  await page
    .locator('chemin-bench')
    .getByRole('button', { name: /^Lamp 3|^Lamp$/ })
    .first()
    .click();
  await grid.press([0, 0, 4]);
  await expect(page.getByRole('textbox', { name: 'Lamp along h', exact: true })).toHaveValue('4');
  await set(page, 'Lamp along h', '7');
  await page.locator('chemin-bench').getByRole('button', { name: /^Pick/ }).click();
  const { x, y } = await grid.at([0, 0, 7]);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await grid.move([-3, 2, 7]);
  await page.mouse.up();
  await expect.poll(async () => (await storedLight(page)).lamp).toMatchObject({ at: { a: -3, b: 2, h: 7 } });
});

test('a contour round each thing, another palette, and a pane over a dark opening: two gestures each, and nothing to arrange', async ({ page }) => {
  await openDemo(page);
  await page.keyboard.press('g');
  await expect(page.getByRole('button', { name: 'Grid hidden' })).toBeVisible();
  const before = await picture(page);
  await light(page);
  await page.getByRole('switch', { name: 'Contour' }).click();
  console.log('a contour round each thing: 2 gestures');
  await expect.poll(() => picture(page)).not.toBe(before);
  await page.locator('.area').focus();
  expect(await againstSvg(page)).toBeLessThan(0.5);
  const outlined = await picture(page);
  await page.getByRole('button', { name: 'Night ferry' }).click();
  console.log('everything in another palette: 1 gesture more');
  await expect.poll(() => picture(page)).not.toBe(outlined);
  const fills = ((await storedOpen(page)).document as { nodes: { paint?: { fill: string } }[] }).nodes.flatMap(({ paint }) => paint?.fill ?? []);
  await expect
    .poll(async () => ((await storedOpen(page)).document as { nodes: { paint?: { fill: string } }[] }).nodes.flatMap(({ paint }) => paint?.fill ?? []))
    .not.toContain('#8fbcc0');
  expect(fills.length).toBeGreaterThan(2);
  // Seen by other eyes the screen changes, the drawing does not.
  await page.getByRole('button', { name: 'No green cones' }).click();
  await expect(page.locator('.surface')).toHaveCSS('filter', /url/);
  await page.getByRole('button', { name: 'All cones' }).click();
  await page.getByRole('button', { name: 'Find the weakest contrasts' }).click();
  await page.getByRole('region', { name: 'Colours' }).getByRole('button', { name: /: 1|:.1/ }).first().click(); // prettier-ignore
  await expect(page.getByRole('region', { name: 'Selection' }).locator('input, p').first()).toBeVisible();
  await expect(page.locator('.surface')).toHaveCSS('filter', 'none');
});

test('things have tones, tints, contours of their own; contacts are dark; the key is put down; what a lamp stands in is said', async ({ page }) => {
  await openDemo(page);
  await page.keyboard.press('g');
  await expect(page.getByRole('button', { name: 'Grid hidden' })).toBeVisible();
  await light(page);
  await shadows(page);
  let last = await picture(page);
  const changes = async (act: () => Promise<void>): Promise<void> => {
    await act();
    await expect.poll(() => picture(page)).not.toBe(last);
    last = await picture(page);
  };
  await changes(() => set(page, 'Dark round contacts', '0.6'));
  await expect.poll(async () => (await storedLight(page)).shadows).toMatchObject({ contact: 0.6 });
  await page.getByRole('button', { name: 'crates', exact: true }).click();
  last = await picture(page);
  await changes(() => page.getByRole('checkbox', { name: 'A contour of its own' }).click());
  await changes(() => set(page, 'Its width', '6 pt'));
  await changes(() => page.getByRole('checkbox', { name: /^A tint over crates/ }).click());
  await changes(() => page.getByRole('checkbox', { name: 'Tones of its own' }).click().then(() => set(page, 'Facing the light', '40'))); // prettier-ignore
  const stored = async (): Promise<{ contour?: { width: number }; tint?: object; ramp?: { lit: object } }> =>
    ((await storedOpen(page)).document as { nodes: { name: string; contour?: { width: number }; tint?: object; ramp?: { lit: object } }[] }).nodes.find(
      ({ name }) => name === 'crates',
    )!;
  await expect.poll(async () => (await stored()).ramp?.lit).toMatchObject({ lightness: 0.4 });
  const group = await stored();
  expect(group.contour!.width).toBeCloseTo((6 * 25.4) / 72, 2);
  expect(group.tint).toEqual({ colour: '#3a5f8a', strength: 0.35 });
  // The shadow on a thing is a part of it that is hidden by itself.
  await page.getByRole('button', { name: 'long crate', exact: true }).click();
  last = await picture(page);
  await changes(() => page.getByRole('button', { name: 'Hide the shadow on long crate' }).click());
  await changes(() => page.getByRole('button', { name: 'Show the shadow on long crate' }).click());
  await changes(() => page.getByRole('button', { name: 'Put this key on the sheet' }).click());
  await expect(page.getByRole('treeitem', { name: 'key of tones 1' })).toBeVisible();
  await page.locator('.area').focus();
  expect(await againstSvg(page)).toBeLessThan(0.5);
  await page.locator('chemin-bench').getByRole('button', { name: 'Lamp', exact: true }).last().click(); // prettier-ignore
  await expect(page.getByRole('status').filter({ hasText: 'stands inside' })).toHaveCount(0);
  await set(page, 'Lamp along h', '-1');
  await expect(page.getByRole('status').filter({ hasText: 'The lamp stands inside of' })).toBeVisible();
});

test('a half-open pane stands before a dark opening in true order, and its shadow is as weak as it is', async ({ page }) => {
  const grid = await openEmpty(page);
  await page.getByRole('button', { name: 'Build', exact: true }).first().click();
  const tool = (name: RegExp): Promise<void> => page.locator('chemin-bench').getByRole('button', { name }).first().click();
  await tool(/^Box/);
  await grid.drag([0, 0, 0], [8, 6, 0]);
  await grid.press([8, 6, 7]);
  await tool(/^Opening/);
  await grid.drag([2, 0, 2], [6, 0, 6]);
  await grid.press([6, 2, 6]);
  await expect(page.getByRole('button', { name: 'opening 1', exact: true })).toBeVisible();
  // A thin upright pane before it, seen from its edge side a little open.
  await tool(/^Box/);
  await grid.drag([2, -2, 0], [6, -1.5, 0]);
  await grid.press([6, -1.5, 5]);
  await page.getByRole('button', { name: 'Draw', exact: true }).first().click();
  await page.getByRole('treeitem', { name: /box 2/ }).click();
  const opacity = page.getByRole('textbox', { name: 'Opacity', exact: true });
  await opacity.fill('40');
  await opacity.press('Enter');
  await light(page);
  const unlit = await picture(page);
  await shadows(page);
  await expect.poll(() => picture(page)).not.toBe(unlit);
  const download = page.waitForEvent('download');
  await page.locator('.area').focus();
  await page.keyboard.press('Control+Enter');
  const svg = readFileSync(await (await download).path(), 'utf8');
  // The pane is painted after the wall behind it, and its shadow is a weak one.
  expect(svg.search(/id="box-2/)).toBeGreaterThan(svg.search(/id="box-1/));
  expect(svg).toMatch(/fill-opacity="0?\.4"/);
});
