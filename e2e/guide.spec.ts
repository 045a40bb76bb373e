import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, openDemo, openEmpty, test, type Grid } from './support';

/** The guide for the first drawing, part by part: its heading, and the names and keys that it speaks of. */
const PARTS = readFileSync('docs/guide/first-drawing.md', 'utf8')
  .split(/^## /m)
  .slice(1)
  .map((text) => ({
    title: text.split('\n')[0]!.replace(/^\d+\. /, ''),
    names: [...text.replace(/`[^`]*`/g, '').matchAll(/(?<!\*)\*([^*\n]+)\*(?!\*)/g)].map((found) => found[1]!),
    keys: [...text.matchAll(/`([^`]+)`/g)].map((found) => found[1]!),
  }));

const KEY = /^(?:[0-9FLR.\][?]|Ctrl\+\w+)$/;

/** What the guide says is done, by its headings. */
const STEPS: Readonly<Record<string, (page: Page, grid: Grid) => Promise<void>>> = {
  'Choose a plane': async (page) => {
    await page.getByRole('radio', { name: 'left wall' }).click();
    for (const [key, plane] of [
      ['F', 'floor'],
      ['R', 'right wall'],
      ['0', 'sheet'],
      ['L', 'left wall'],
    ] as const) {
      await page.keyboard.press(key);
      await expect(page.getByRole('radio', { name: plane })).toBeChecked();
    }
    await page.keyboard.press(']');
    await expect(page.getByRole('textbox', { name: 'Offset', exact: true })).toHaveValue('1');
    await page.keyboard.press('[');
  },
  'Draw a wall': async (page, grid) => {
    await page.keyboard.press('3');
    await grid.press([0, 0, 0]);
    await grid.move([0, 5, 3]);
    await expect(page.locator('chemin-pointer-words')).toContainText('cells');
    await page.keyboard.press('1');
    await page.keyboard.type('2');
    await page.keyboard.press('Tab');
    await page.keyboard.type('7');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('textbox', { name: 'Length along b' })).toHaveValue('12');
    await page.keyboard.press('2');
    for (const place of [
      [0, 2, 9],
      [0, 4, 9],
      [0, 4, 11],
    ] as const)
      await grid.press(place);
    await grid.move([0, 2, 9]);
    await expect(page.locator('chemin-pointer-words')).toContainText('closes');
    await page.keyboard.press('Escape');
    await expect(page.getByText('line of 3 points, left wall')).toBeVisible();
  },
  'Give it depth': async (page, grid) => {
    await page.keyboard.press('1');
    await grid.press([0, 3, 3]);
    await page.keyboard.press('.');
    const depth = page.locator('chemin-bench').getByRole('textbox', { name: 'Depth' });
    await depth.fill('(18-3*2)/2');
    await page.keyboard.press('Enter');
    await expect(depth).toHaveValue('6');
    await page.keyboard.press('2');
    await expect(page.getByRole('button', { name: 'Depth 2' })).toHaveAttribute('aria-pressed', 'true');
  },
  'Set the light': async (page) => {
    await page.getByRole('button', { name: 'Light', exact: true }).click();
    const dial = (await page.locator('chemin-sun-dial svg').boundingBox())!;
    await page.mouse.move(dial.x + dial.width * 0.6, dial.y + dial.height * 0.4);
    await page.mouse.down();
    await page.mouse.move(dial.x + dial.width * 0.3, dial.y + dial.height * 0.5, { steps: 3 });
    await page.mouse.up();
    await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();
  },
  'Put artwork on a face': async (page, grid) => {
    await page.getByRole('button', { name: 'Artwork', exact: true }).click();
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Add a picture or SVG' }).click();
    const svg = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20 10"><rect width="20" height="10" fill="#1b6c8c"/></svg>';
    await (await chooser).setFiles({ name: 'band.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(svg) });
    await expect(page.getByText('“band.svg” was added')).toBeVisible();
    await grid.press([-6, 4, 3]);
    await expect(page.getByText('artwork “band”')).toBeVisible();
    await page.keyboard.press('ArrowRight');
  },
  'Export it': async (page) => {
    await page.getByRole('button', { name: 'Output', exact: true }).click();
    for (const [key, ending] of [
      ['Control+Enter', 'svg'],
      ['Control+s', 'chemin'],
    ] as const) {
      const download = page.waitForEvent('download');
      await page.keyboard.press(key);
      expect((await download).suggestedFilename()).toMatch(new RegExp(`\\.${ending}$`));
    }
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+k');
    await expect(page.getByRole('dialog')).toBeVisible();
    await page.keyboard.press('Escape');
  },
};

test('the first guide can be followed to the letter: its steps, the names that it speaks of, and its keys', async ({ page }) => {
  const grid = await openEmpty(page);
  expect(PARTS.map((part) => part.title)).toEqual(Object.keys(STEPS));
  // Handles are drawn, not written: these names stand on the drawing itself.
  const drawn = new Set(['depth', 'size', 'you']);
  for (const { title, names, keys } of PARTS) {
    await STEPS[title]!(page, grid);
    const text = async (): Promise<string> =>
      page.evaluate(() => {
        const words = Array.from(document.querySelectorAll('[aria-label]'), (element) => element.getAttribute('aria-label'));
        return `${document.body.innerText}\n${words.join('\n')}`.toLowerCase();
      });
    for (const name of names) if (!drawn.has(name)) expect([title, name, (await text()).includes(name.toLowerCase())]).toEqual([title, name, true]);
    const known = readFileSync('docs/guide/keys.md', 'utf8');
    for (const key of keys) if (KEY.test(key) && !/^\d$/.test(key)) expect([title, key, known.includes(key)]).toEqual([title, key, true]);
  }
});

test('every stage has a page of the guide, which comes with the application', async ({ page }) => {
  await openDemo(page);
  for (const stage of ['Projection', 'Draw', 'Build', 'Light', 'Artwork', 'Output']) {
    await page.getByRole('navigation', { name: 'Stages' }).getByRole('button', { name: stage, exact: true }).click();
    const link = page.getByRole('link', { name: `Guide: ${stage}` });
    const answer = await page.request.get(new URL((await link.getAttribute('href'))!, page.url()).href);
    expect([stage, answer.status(), /<h1>.+<\/h1>/.test(await answer.text())]).toEqual([stage, 200, true]);
  }
  const opened = page.waitForEvent('popup');
  await page.getByRole('link', { name: 'Guide: Output' }).click();
  const guide = await opened;
  await expect(guide.getByRole('heading', { level: 1 })).toBeVisible();
  // Its pictures come along.
  const pictures = guide.locator('img');
  expect(await pictures.count()).toBeGreaterThan(2);
  for (const image of await pictures.all())
    expect(await image.evaluate((img: HTMLImageElement) => img.decode().then(() => img.naturalWidth))).toBeGreaterThan(100);
});
