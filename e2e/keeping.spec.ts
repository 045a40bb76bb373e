import { strFromU8, unzipSync } from 'fflate';
import { readFileSync } from 'node:fs';
import { expect, openDemo, openEmpty, storedDrawing, test, goOffline } from './support';
import type { Page } from '@playwright/test';

async function offer(page: Page, button: string, name: string, content: string): Promise<void> {
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: button }).click();
  await (await chooser).setFiles({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(content) });
}

test('a reload in the middle of drawing loses nothing older than a second', async ({ page }) => {
  const grid = await openEmpty(page);
  await page.keyboard.press('2');
  await grid.press([0, 0, 0]);
  await grid.press([5, 0, 0]);
  await grid.press([5, 4, 0]);
  await expect(async () => expect((await storedDrawing(page, 'Untitled drawing')).draft).toMatchObject({ points: [{}, {}, {}] })).toPass();
  await page.reload();
  await expect(page.getByRole('button', { name: 'Outline 2' })).toHaveAttribute('aria-pressed', 'true');
  await grid.move([0, 0, 0]);
  await expect(page.locator('chemin-pointer-words')).toContainText('closes');
  await grid.press([0, 0, 0]);
  await expect(page.getByText('shape of 3 points, floor')).toBeVisible();
  await expect(async () => expect((await storedDrawing(page, 'Untitled drawing')).draft).toBeNull()).toPass();
});

test('drawings are listed with living thumbnails, renamed, copied, deleted and brought back', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Drawings', exact: true }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Duplicate Quay Nine: landing' }).click();
  const copy = dialog.getByRole('textbox', { name: 'Name of Quay Nine: landing, copy' });
  await copy.fill('Winter timetable');
  await copy.press('Enter');
  await expect(dialog.getByRole('button', { name: 'Open Winter timetable' })).toBeVisible();
  const colours = (): Promise<number> =>
    dialog
      .getByRole('button', { name: 'Open Winter timetable' })
      .locator('canvas')
      .evaluate((canvas: HTMLCanvasElement) => {
        const copy = document.createElement('canvas');
        [copy.width, copy.height] = [canvas.width, canvas.height];
        const context = copy.getContext('2d')!;
        context.drawImage(canvas, 0, 0);
        const { data } = context.getImageData(0, 0, copy.width, copy.height);
        return new Set(Array.from({ length: data.length / 4 }, (_, i) => `${data[4 * i]},${data[4 * i + 1]},${data[4 * i + 2]}`)).size;
      });
  await expect.poll(colours).toBeGreaterThan(20);
  await dialog.getByRole('button', { name: 'Delete Winter timetable' }).click();
  await expect(dialog.getByRole('button', { name: 'Open Winter timetable' })).toHaveCount(0);
  await dialog.getByRole('button', { name: 'Bring back' }).click();
  await dialog.getByRole('button', { name: 'Open Winter timetable' }).click();
  await expect(page.getByRole('textbox', { name: 'Name of the drawing' })).toHaveValue('Winter timetable');
  await expect(page.locator('chemin-head .saved')).toHaveText(/^saved \d+\u2009s ago, in this browser$/);
});

/** The drawing in a project file. */
const drawingIn = (path: string): string => strFromU8(unzipSync(readFileSync(path))['drawing.json']!);

test('a project goes out as a file and comes back the same', async ({ page }) => {
  await openDemo(page);
  const download = page.waitForEvent('download');
  await page.keyboard.press('Control+s');
  const text = drawingIn(await (await download).path());
  const project = JSON.parse(text) as { name: string; nodes: unknown[] };
  await page.getByRole('button', { name: 'Output', exact: true }).click();
  await offer(page, 'Open project', 'landing.chemin', text.replace('Quay Nine: landing', 'From a file'));
  await expect(page.getByText('“From a file” was opened')).toBeVisible();
  await expect(async () => {
    const kept = await storedDrawing(page, 'From a file');
    expect(kept.document['nodes']).toEqual(project.nodes);
  }).toPass();
});

test('what is no project is refused with its place, and the open drawing stays untouched', async ({ page }) => {
  await openDemo(page);
  const download = page.waitForEvent('download');
  await page.keyboard.press('Control+s');
  const text = drawingIn(await (await download).path());
  await page.getByRole('button', { name: 'Output', exact: true }).click();
  const groups = '{"kind":"group","id":"x","name":"g","hidden":false,"locked":false,"children":['.repeat(200) + ']}'.repeat(200);
  const cases: [string, string, RegExp][] = [
    ['short.chemin', text.slice(0, 900), /damaged.*line \d+, column \d+/],
    ['other.json', '{"kind":"shopping list"}', /not a Chemin project/],
    ['later.chemin', text.replace('"version": 4', '"version": 9'), /later Chemin \(format 9/],
    ['nan.chemin', text.replace('"depth": 2', '"depth": NaN'), /near “NaN/],
    ['deep.chemin', text.replace('"nodes": [', `"nodes": [${groups},`), /nested too deeply/],
    ['wrong.chemin', text.replace('"cell": 6', '"cell": -6'), /grid\.cell/],
  ];
  for (const [name, content, reason] of cases) {
    await offer(page, 'Open project', name, content);
    const message = page.locator('p-message').filter({ hasText: `“${name}” was not opened` });
    await expect(message).toContainText(reason);
    await expect(message).toContainText('The open drawing is untouched.');
    await message.getByRole('button', { name: 'Close' }).click();
  }
  await expect(page.getByRole('textbox', { name: 'Name of the drawing' })).toHaveValue('Quay Nine: landing');
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
});

test('foreign SVG is cleaned or refused, with the reason', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Artwork', exact: true }).click();
  const svg = (inside: string, before = ''): string => `${before}<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20 20">${inside}</svg>`;
  await offer(
    page,
    'Add a picture or SVG',
    'script.svg',
    svg(
      '<script>document.title="taken"</script><rect width="9" height="9" onload="alert(1)"/><image href="http://elsewhere.example/a.png" width="5" height="5"/>',
    ),
  );
  const cleaned = page.locator('p-message').filter({ hasText: '“script.svg” was added' });
  await expect(cleaned).toContainText('Left out: scripts.');
  await expect(cleaned).toContainText('Left out: references to places outside the file.');
  await expect(page).toHaveTitle('Chemin');
  await page.getByRole('button', { name: 'Undo' }).click();
  const bomb = '<!DOCTYPE svg [<!ENTITY a "haha"><!ENTITY b "&a;&a;&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;&b;&b;">]>';
  for (const [name, content, reason] of [
    ['bomb.svg', svg('<text>&c;</text>', bomb), /entities that multiply/],
    ['broken.svg', '<svg viewBox="0 0 2 2"><path', /cannot be read/],
    ['page.svg', '<html><body>no</body></html>', /no <svg> element/],
  ] as const) {
    await offer(page, 'Add a picture or SVG', name, content);
    await expect(page.locator('p-message').filter({ hasText: `“${name}” was not added` })).toContainText(reason);
  }
});

test('two pages on one drawing: neither overwrites the other unseen', async ({ page, context }) => {
  await openDemo(page);
  const second = await context.newPage();
  await second.goto('/');
  await expect(second.getByRole('textbox', { name: 'Name of the drawing' })).toHaveValue('Quay Nine: landing');
  const rename = async (on: Page, name: string): Promise<void> => {
    const title = on.getByRole('textbox', { name: 'Name of the drawing' });
    await title.fill(name);
    await title.press('Enter');
  };
  await rename(page, 'First page');
  await expect(async () => expect(await storedDrawing(page, 'First page')).toBeTruthy()).toPass();
  await rename(second, 'Second page');
  await expect(second.getByText('“Second page” was changed in another page')).toBeVisible();
  await second.getByRole('button', { name: 'Keep as a copy' }).click();
  await expect(second.getByRole('textbox', { name: 'Name of the drawing' })).toHaveValue('Second page, copy');
  expect(await storedDrawing(page, 'First page')).toBeTruthy();
});

test.describe('without a network', () => {
  test.use({ serviceWorkers: 'allow' });

  test('works without the network after the first visit', async ({ page, context }) => {
    await openDemo(page);
    await goOffline(page);
    await page.reload();
    await expect(page.getByRole('button', { name: 'serving hatch', exact: true })).toBeVisible();
    // The reader of SVG is there too, though it was never used before.
    await page.getByRole('button', { name: 'Artwork', exact: true }).click();
    await offer(page, 'Add a picture or SVG', 'offline.svg', '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20 20"><circle cx="9" cy="9" r="5"/></svg>');
    await expect(page.getByText('“offline.svg” was added')).toBeVisible();
    await context.setOffline(false);
  });
});
