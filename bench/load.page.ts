import type { Page } from '@playwright/test';
import { emptyDocument, rectangleOutline, writeProject, type ShapeNode } from '../core/index';
import { expect, openEmpty, test } from '../e2e/support';

/** Boxes of three visible faces each, in a field that the sheet holds. */
function boxes(count: number): string {
  const side = Math.ceil(Math.sqrt(count));
  const nodes = Array.from({ length: count }, (_, i): ShapeNode => {
    const at = { u: (i % side) * 1.6, v: Math.floor(i / side) * 1.6 };
    return {
      kind: 'shape',
      id: `box${i}`,
      name: `box ${i}`,
      hidden: false,
      locked: false,
      plane: { kind: 'floor', offset: 0 },
      outline: rectangleOutline(at, { u: at.u + 1, v: at.v + 1 }),
      depth: 0.5 + (i % 5) / 2,
      paint: { fill: ['#c98a4b', '#8fbcc0', '#b4553c'][i % 3]!, line: null },
    };
  });
  const document = emptyDocument('load', 'Load');
  return writeProject({ ...document, grid: { ...document.grid, cell: 90 / side / 1.6 }, nodes });
}

interface Watched {
  frames: number[];
  tasks: number[];
  watching: boolean;
}

/** Watches the page's frames and long tasks from now on. */
async function watch(page: Page): Promise<void> {
  await page.evaluate(() => {
    const here = window as unknown as Watched;
    here.frames = [];
    here.tasks = [];
    if (here.watching) return;
    here.watching = true;
    new PerformanceObserver((list) => list.getEntries().forEach((entry) => here.tasks.push(entry.duration))).observe({ type: 'longtask' });
    let last = performance.now();
    const frame = (now: number): void => {
      here.frames.push(now - last);
      last = now;
      requestAnimationFrame(frame);
    };
    requestAnimationFrame(frame);
  });
}

/** What was seen since: the 95th percentile of the times between frames, and the longest task, in ms. */
async function seen(page: Page): Promise<{ frame: number; task: number }> {
  const { frames, tasks } = await page.evaluate(() => {
    const { frames, tasks } = window as unknown as Watched;
    return { frames, tasks };
  });
  const sorted = frames.slice(1).sort((p, q) => p - q);
  return { frame: sorted[Math.floor(sorted.length * 0.95)] ?? 0, task: Math.max(0, ...tasks) };
}

interface Row {
  readonly zoom: number;
  readonly pan: number;
  readonly drag: number;
  readonly open: number;
  readonly stage: number;
}

async function measured(page: Page, count: number): Promise<Row> {
  await openEmpty(page);
  await watch(page);
  const chooser = page.waitForEvent('filechooser');
  await page.keyboard.press('Control+k');
  await page.locator('chemin-finder input').fill('open a project');
  await page.keyboard.press('Enter');
  await (await chooser).setFiles({ name: 'load.chemin', mimeType: 'application/json', buffer: Buffer.from(boxes(count)) });
  // Handing the file over takes the page as long again, in the browser's own driver.
  await watch(page);
  await expect(page.locator('chemin-contents h2')).toContainText(String(count));
  await page.waitForTimeout(1500);
  const open = (await seen(page)).task;

  const area = (await page.locator('.area').boundingBox())!;
  const [x, y] = [area.x + area.width / 2, area.y + area.height / 2];
  const act = async (what: (i: number) => Promise<void>): Promise<number> => {
    await page.waitForTimeout(300);
    await watch(page);
    for (let i = 0; i < 40; i++) await what(i);
    return (await seen(page)).frame;
  };
  await page.mouse.move(x, y);
  const zoom = await act((i) => page.mouse.wheel(0, i % 2 ? 120 : -120));
  await page.mouse.down({ button: 'middle' });
  const pan = await act((i) => page.mouse.move(x + 60 * Math.sin(i / 4), y + 40 * Math.cos(i / 4)));
  await page.mouse.up({ button: 'middle' });
  await page.locator('[role=treeitem]').first().click();
  await page.keyboard.press('s');
  await page.keyboard.press('1');
  await page.mouse.move(x, y);
  await page.mouse.down();
  const drag = await act((i) => page.mouse.move(x + 80 * Math.sin(i / 4), y + 50 * Math.sin(i / 5)));
  await page.mouse.up();
  await watch(page);
  await page.getByRole('button', { name: 'Projection', exact: true }).click();
  await page.waitForTimeout(4000);
  const stage = (await seen(page)).task;
  return { zoom, pan, drag, open, stage };
}

test.describe.serial('the page under load', () => {
  let few: Row;
  for (const [count, most] of [
    [20, 1],
    [670, 2],
    [2000, 4],
  ] as const) {
    test(`${count} boxes`, async ({ page }) => {
      const row = await measured(page, count);
      few ??= row;
      const ratio = (key: 'zoom' | 'pan' | 'drag'): string => `${row[key].toFixed(0)} ms (${(row[key] / few[key]).toFixed(1)}, at most ${most})`;
      console.log(`${count} boxes: zoom ${ratio('zoom')}, pan ${ratio('pan')}, drag ${ratio('drag')}`);
      console.log(`  longest task on opening ${row.open.toFixed(0)} ms, on choosing Projection ${row.stage.toFixed(0)} ms (at most 100)`);
    });
  }
});
