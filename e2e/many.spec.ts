import { emptyDocument, rectangleOutline, writeProject, type ShapeNode } from '../core/index';
import { expect, openDemo, openEmpty, storedDrawing, test } from './support';

/** A drawing of 2,500 boxes on the floor: ten thousand corners. */
function manyBoxes(count = 2500): string {
  const nodes = Array.from({ length: count }, (_, i): ShapeNode => {
    const at = { u: (i % 50) * 1.5 - 20, v: Math.floor(i / 50) * 1.5 - 20 };
    return {
      kind: 'shape',
      id: `box${i}`,
      name: `box ${i}`,
      hidden: false,
      locked: false,
      plane: { kind: 'floor', offset: 0 },
      outline: rectangleOutline(at, { u: at.u + 1, v: at.v + 1 }),
      depth: 0,
      paint: { fill: '#8899aa', line: null },
    };
  });
  const document = emptyDocument('many', 'Many boxes');
  return writeProject({ ...document, grid: { ...document.grid, cell: 2 }, nodes });
}

test('among ten thousand corners the ghost follows the pointer, its frames are printed, and the contents stay short', async ({ page }) => {
  const grid = await openEmpty(page);
  const chooser = page.waitForEvent('filechooser');
  await page.keyboard.press('Control+k');
  await page.locator('chemin-finder input').waitFor();
  await page.keyboard.type('open a project');
  await page.keyboard.press('Enter');
  await (await chooser).setFiles({ name: 'many.chemin', mimeType: 'application/json', buffer: Buffer.from(manyBoxes()) });
  await expect(page.locator('chemin-contents h2')).toContainText('2500');
  expect(await page.locator('chemin-contents .row').count()).toBeLessThan(130);

  await page.locator('.area').focus();
  await page.keyboard.press('3');
  await page.evaluate(() => {
    const times: number[] = [];
    (window as unknown as { ghostTimes: number[] }).ghostTimes = times;
    // What the frame after a move does, from its beginning: the tool's step, the ghost, the overlay's painting.
    window.addEventListener(
      'pointermove',
      () =>
        requestAnimationFrame(() => {
          const start = performance.now();
          requestAnimationFrame(() => undefined);
          setTimeout(() => times.push(performance.now() - start), 0);
        }),
      { capture: true },
    );
  });
  for (let i = 0; i < 40; i++) await grid.move([(i % 8) - 4, (i % 5) - 2, 0], i % 3);
  const times = (await page.evaluate(() => (window as unknown as { ghostTimes: number[] }).ghostTimes)).sort((p, q) => p - q);
  console.log(
    `pointer to ghost among 10,000 corners: ${times[times.length >> 1]!.toFixed(1)} ms median, ${times[Math.floor(times.length * 0.95)]!.toFixed(1)} ms at 95 %`,
  );
  await expect(page.locator('chemin-pointer-words')).toContainText('floor');

  // A row far down is reached by its name, and a search finds it.
  await page.getByRole('searchbox', { name: 'Search the contents' }).fill('box 1234');
  await page.getByRole('button', { name: 'box 1234', exact: true }).click();
  await page.getByRole('searchbox', { name: 'Search the contents' }).fill('');
  await expect(page.getByRole('button', { name: 'box 1234', exact: true })).toBeVisible();
});

test('contents of 5,000 things are walked, renamed, hidden and moved by the keyboard alone', async ({ page }) => {
  await openEmpty(page);
  const chooser = page.waitForEvent('filechooser');
  await page.keyboard.press('Control+k');
  await page.locator('chemin-finder input').waitFor();
  await page.keyboard.type('open a project');
  await page.keyboard.press('Enter');
  await (await chooser).setFiles({ name: 'many.chemin', mimeType: 'application/json', buffer: Buffer.from(manyBoxes(5000)) });
  await expect(page.locator('chemin-contents h2')).toContainText('5000');
  // Opening is another matter: keys are pressed once the page is at rest.
  await expect(page.locator('chemin-head .saved')).toHaveText(/^saved/);
  await page.evaluate(() => new Promise((done) => requestIdleCallback(done)));
  const at = page.locator('[role=treeitem]:focus');
  await page.locator('[role=treeitem][tabindex="0"]').focus();
  await page.keyboard.press('End');
  await expect(at).toHaveAttribute('aria-label', 'box 0');
  await page.keyboard.press('ArrowUp');
  await expect(at).toHaveAttribute('aria-label', 'box 1');
  await page.keyboard.type('box 4321');
  await expect(at).toHaveAttribute('aria-label', 'box 4321');
  await page.keyboard.press('F2');
  await expect(page.getByRole('textbox', { name: 'New name' })).toBeFocused();
  await page.keyboard.type('the one');
  await page.keyboard.press('Enter');
  await expect(at).toHaveAttribute('aria-label', 'the one');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+Shift+O');
  await expect(page.getByRole('button', { name: 'Show the one' })).toBeAttached();
  await page.keyboard.press('Alt+ArrowUp');
  await expect(at).toHaveAttribute('aria-label', 'the one');
  const times: number[] = [];
  for (let i = 0; i < 20; i++) {
    const before = Date.now();
    await page.keyboard.press('ArrowDown');
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(done)));
    times.push(Date.now() - before);
  }
  console.log(`an arrow key among 5,000 rows: ${times.sort((p, q) => p - q)[10]} ms median`);
});

test('contents are dragged into another order and into a group; steps are listed and gone back to', async ({ page }) => {
  const grid = await openEmpty(page);
  await page.keyboard.press('3');
  for (const [p, q] of [[[0, 0, 0], [2, 2, 0]], [[4, 0, 0], [6, 2, 0]], [[8, 0, 0], [10, 2, 0]]] as const) await grid.drag(p, q); // prettier-ignore
  const row = (name: string): ReturnType<typeof page.locator> => page.locator('chemin-contents .row', { hasText: name });
  const names = async (): Promise<string[]> => (await page.locator('chemin-contents .row .name').allTextContents()).map((text) => text.trim());
  await expect.poll(names).toEqual(['rectangle 3, floor', 'rectangle 2, floor', 'rectangle 1, floor']);
  await row('rectangle 1').dragTo(row('rectangle 3'), { targetPosition: { x: 60, y: 3 } });
  await expect.poll(names).toEqual(['rectangle 1, floor', 'rectangle 3, floor', 'rectangle 2, floor']);
  await page.getByRole('button', { name: 'rectangle 2, floor', exact: true }).click();
  await page.keyboard.press('Control+b');
  await row('rectangle 3').dragTo(row('group'), { targetPosition: { x: 60, y: 15 } });
  await expect
    .poll(async () =>
      ((await storedDrawing(page, 'Untitled drawing')).document.nodes as { kind: string; children?: unknown[] }[]).map((n) => n.children?.length ?? 0),
    )
    .toEqual([2, 0]);

  await page.getByRole('button', { name: 'Steps', exact: true }).click();
  const steps = page.getByRole('list', { name: 'Steps, the newest first' }).getByRole('button');
  await expect(steps).toHaveCount(7);
  await expect(steps.first()).toContainText('change order');
  await steps.filter({ hasText: 'draw rectangle 2' }).click();
  await page.keyboard.press('Escape');
  await expect.poll(names).toEqual(['rectangle 2, floor', 'rectangle 1, floor']);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(names).toEqual(['rectangle 3, floor', 'rectangle 2, floor', 'rectangle 1, floor']);
});

test('things go by the clipboard as they are, linked copies follow, a free plane carries what is drawn', async ({ page }) => {
  const grid = await openEmpty(page);
  await page.keyboard.press('3');
  await grid.drag([0, 0, 0], [4, 3, 0]);
  await page.keyboard.press('1');
  await page.keyboard.press('Control+c');
  await page.keyboard.press('Control+v');
  const nodes = async (): Promise<{ kind: string; outline?: { points: { u: number; v: number }[] }; plane?: { kind: string } }[]> =>
    (await storedDrawing(page, 'Untitled drawing')).document.nodes as never;
  await expect.poll(async () => (await nodes()).length).toBe(2);
  expect((await nodes())[1]!.outline!.points[0]).toMatchObject({ u: 1, v: 1 });
  await page.keyboard.press('Control+z');
  await expect(page.locator('chemin-contents .row')).toHaveCount(1);
  await page.getByRole('button', { name: 'rectangle 1, floor', exact: true }).click();
  await page.keyboard.press('Control+Shift+m');
  await expect.poll(async () => (await nodes()).map((n) => n.kind)).toEqual(['shape', 'copy']);

  // Three places: the near corner of the floor, one along a, one up along the right.
  await page.locator('.area').focus();
  await page.keyboard.press('Shift+Digit9');
  await grid.press([0, 0, 0]);
  await grid.press([4, 0, 0]);
  await page.keyboard.type('30');
  await page.keyboard.press('Enter');
  await expect(page.locator('chemin-ground-bar')).toContainText('slope 30°');
  await page.keyboard.press('3');
  const box = (await page.locator('.area').boundingBox())!;
  await page.mouse.move(box.x + box.width / 2 + 20, box.y + box.height / 2 - 40, { steps: 3 });
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 90, box.y + box.height / 2 - 120, { steps: 3 });
  await page.mouse.up();
  await expect.poll(async () => (await nodes()).map((n) => n.plane?.kind)).toEqual(['floor', undefined, 'free']);
});

test.describe('while everything is fetched ahead', () => {
  test.use({ serviceWorkers: 'allow' });

  test('a stage is there when it is first opened', async ({ page }) => {
    await openDemo(page);
    const from = Date.now();
    await page.getByRole('button', { name: 'Output', exact: true }).click();
    await expect(page.getByRole('region', { name: 'What is exported' })).toBeVisible();
    const took = Date.now() - from;
    console.log(`a stage opened on the first visit: ${took} ms`);
    expect(took).toBeLessThan(2000);
  });
});
