import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import type { Page } from '@playwright/test';
import type { ShapeNode } from '../core/index';
import { expect, openDemo, openEmpty, storedOpen, test } from './support';

const SVG = '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20" viewBox="0 0 40 20"><rect width="40" height="20" fill="#1b6c8c"/></svg>';

/** Lets the first worker of each kind die as soon as it is asked for something; comes back with how many have died. */
async function killFirst(page: Page): Promise<() => Promise<number>> {
  await page.addInitScript(() => {
    const Whole = window.Worker;
    const died = new Set<string>();
    (window as unknown as { died: Set<string> }).died = died;
    window.Worker = class extends Whole {
      constructor(url: string | URL, options?: WorkerOptions) {
        super(url, options);
        if (died.has(String(url))) return;
        died.add(String(url));
        let left = false;
        const post = this.postMessage.bind(this) as (...args: unknown[]) => void;
        this.postMessage = (...args: unknown[]): void => {
          post(...args);
          if (left) return;
          left = true;
          this.terminate();
          setTimeout(() => this.dispatchEvent(new ErrorEvent('error', { message: 'the worker was stopped' })));
        };
      }
    };
  });
  return () => page.evaluate(() => (window as unknown as { died: Set<string> }).died.size);
}

/** Lets the first worker of each kind end as soon as it runs, without any event: only that it is gone can be seen. */
async function endFirst(page: Page): Promise<() => Promise<number>> {
  await page.addInitScript(() => {
    const Whole = window.Worker;
    const ended = new Set<string>();
    (window as unknown as { ended: Set<string> }).ended = ended;
    window.Worker = class extends Whole {
      constructor(url: string | URL, options?: WorkerOptions) {
        super(url, options);
        this.addEventListener('message', ({ data }: MessageEvent<{ life?: string } | null>) => {
          if (data?.life === undefined || ended.has(String(url))) return;
          ended.add(String(url));
          this.terminate();
        });
      }
    };
  });
  return () => page.evaluate(() => (window as unknown as { ended: Set<string> }).ended.size);
}

test('a worker that ends without a word is noticed at once, and another does its work', async ({ page }) => {
  const ended = await endFirst(page);
  await openDemo(page);
  await page.reload();
  await expect(page.getByRole('textbox', { name: 'Name of the drawing' })).toHaveValue('Quay Nine: landing');
  const project = page.waitForEvent('download');
  await page.keyboard.press('Control+s');
  expect(Object.keys(unzipSync(readFileSync(await (await project).path())))).toContain('drawing.json');
  await page.getByRole('button', { name: 'Output', exact: true }).click();
  const pdf = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export PDF', exact: true }).click();
  expect(
    readFileSync(await (await pdf).path())
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-');
  expect(await ended()).toBeGreaterThanOrEqual(2);
});

test('the first worker of each kind dies at its first request: the work is done all the same, and nothing is lost', async ({ page }) => {
  const deaths = await killFirst(page);
  await openDemo(page);
  const title = page.getByRole('textbox', { name: 'Name of the drawing' });

  // Opening what was kept.
  await page.reload();
  await expect(title).toHaveValue('Quay Nine: landing');
  await expect(page.locator('chemin-contents h2')).toContainText('53');

  // Reading an SVG.
  const chooser = page.waitForEvent('filechooser');
  await page.keyboard.press('Control+k');
  await page.locator('chemin-finder input').fill('Add a picture or SVG as artwork');
  await page.keyboard.press('Enter');
  await (await chooser).setFiles({ name: 'harbour.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(SVG) });
  await expect(page.getByRole('button', { name: 'Choose harbour' })).toBeVisible();
  await page.keyboard.press('Escape');

  // Writing a project and a PDF.
  const project = page.waitForEvent('download');
  await page.keyboard.press('Control+s');
  expect(Object.keys(unzipSync(readFileSync(await (await project).path())))).toContain('drawing.json');
  await page.getByRole('button', { name: 'Output', exact: true }).click();
  const pdf = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export PDF', exact: true }).click();
  expect(readFileSync(await (await pdf).path(), 'latin1')).toMatch(/^%PDF/);

  // Pictures of the families.
  await page.getByRole('button', { name: 'Projection', exact: true }).first().click();
  const thumb = page.locator('chemin-small-picture canvas').first();
  const colours = (): Promise<number> =>
    thumb.evaluate((canvas: HTMLCanvasElement) => {
      const copy = new OffscreenCanvas(canvas.width, canvas.height).getContext('2d')!;
      copy.drawImage(canvas, 0, 0);
      return new Set(copy.getImageData(0, 0, canvas.width, canvas.height).data).size;
    });
  await expect.poll(colours).toBeGreaterThan(8);

  expect(await deaths()).toBeGreaterThanOrEqual(5);
  await expect(page.locator('p-message.p-message-error')).toHaveCount(0);
  await expect(page.locator('chemin-contents h2')).toContainText('53');
});

test('combining shapes and reading traced edges go on when their worker dies', async ({ page }) => {
  const deaths = await killFirst(page);
  const grid = await openEmpty(page);
  const before = await deaths();
  await page.locator('.area').focus();
  for (const [from, to] of [
    [
      [0, 0, 0],
      [4, 4, 0],
    ],
    [
      [2, 2, 0],
      [7, 6, 0],
    ],
  ] as const) {
    // prettier-ignore
    await page.keyboard.press('3');
    await grid.press(from);
    await grid.press(to);
    await page.keyboard.press('Escape');
  }
  await expect(page.locator('chemin-contents h2')).toContainText('2');
  await page.keyboard.press('1');
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+k');
  await page.locator('chemin-finder input').fill('Join shapes into one');
  await page.keyboard.press('Enter');
  await expect(page.locator('chemin-contents h2')).toContainText('1');
  const corners = async (): Promise<number[]> =>
    ((await storedOpen(page)).document as { nodes: ShapeNode[] }).nodes.map(({ outline }) => outline.points.length);
  await expect.poll(corners).toEqual([8]);

  await page.getByRole('button', { name: 'Projection', exact: true }).first().click();
  await page.locator('.area').focus();
  await page.keyboard.press('5');
  const area = (await page.locator('.area').boundingBox())!;
  const stroke = async (x0: number, y0: number, x1: number, y1: number): Promise<void> => {
    const at = (x: number, y: number): [number, number] => [area.x + (x * area.width) / 100, area.y + (y * area.height) / 100];
    await page.mouse.move(...at(x0, y0));
    await page.mouse.down();
    await page.mouse.move(...at(x1, y1), { steps: 3 });
    await page.mouse.up();
  };
  await stroke(50, 70, 75, 62);
  await stroke(50, 40, 75, 46);
  await stroke(50, 70, 25, 60);
  await stroke(50, 40, 25, 47);
  await stroke(50, 70, 50, 40);
  await expect(page.getByRole('region', { name: 'Projection from traced edges' })).toContainText('perspective');
  expect((await deaths()) - before).toBeGreaterThanOrEqual(2);
  await expect(page.locator('p-message.p-message-error')).toHaveCount(0);
});

test('joining solids and laying text out go on when their worker dies', async ({ page }) => {
  const deaths = await killFirst(page);
  const grid = await openEmpty(page);
  await page.getByRole('button', { name: 'Build', exact: true }).first().click();
  const tool = (name: string): Promise<void> => page.locator('chemin-bench').getByRole('button', { name: new RegExp(`^${name}`) }).first().click(); // prettier-ignore
  await tool('Box');
  await grid.drag([0, 0, 0], [8, 4, 0]);
  await grid.press([8, 4, 6]);
  await tool('Opening');
  await grid.drag([1, 0, 1], [7, 0, 5]);
  // The kernel died over the demo's hatch, and has come again.
  expect(await deaths()).toBeGreaterThan(0);
  await grid.press([7, 3, 5]);
  // The back wall of the opening is seen once the kernel has come again: a point of it has a part of the solid behind it.
  await tool('Pick');
  await expect(async () => {
    const { x, y } = await grid.at([3, 1, 1]);
    await page.mouse.dblclick(x, y - 3);
    await expect(page.getByLabel('Name', { exact: true })).toHaveValue('opening 1', { timeout: 500 });
  }).toPass();
  await tool('Lettering');
  const then = await deaths();
  await grid.press([-6, 0, 0]);
  await page.keyboard.type('PIER');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('button', { name: '“PIER”', exact: true })).toBeVisible();
  expect(await deaths()).toBeGreaterThan(then);
  await expect(page.locator('chemin-messages')).toHaveCount(0);
});
