import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import { expect, openDemo, test } from './support';

const SVG = '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20" viewBox="0 0 40 20"><rect width="40" height="20" fill="#1b6c8c"/></svg>';

test('the first worker of each kind dies at its first request: the work is done all the same, and nothing is lost', async ({ page }) => {
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
  const deaths = (): Promise<number> => page.evaluate(() => (window as unknown as { died: Set<string> }).died.size);
  await openDemo(page);
  const title = page.getByRole('textbox', { name: 'Name of the drawing' });

  // Opening what was kept.
  await page.reload();
  await expect(title).toHaveValue('Quay Nine: landing');
  await expect(page.locator('chemin-contents h2')).toContainText('50');

  // Reading an SVG.
  const chooser = page.waitForEvent('filechooser');
  await page.keyboard.press('Control+k');
  await page.locator('chemin-finder input').fill('Add an SVG as artwork');
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
  await expect(page.locator('chemin-contents h2')).toContainText('50');
});
