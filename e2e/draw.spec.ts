import { expect, openDemo, openEmpty, storedDrawing, test } from './support';

test('drawing: lock, typed sides, open lines, planes, offset, snapping, undo', async ({ page }) => {
  const grid = await openEmpty(page);
  const words = page.locator('chemin-pointer-words');

  // A typed rectangle, sums included, Tab between the sides, one in millimetres.
  await page.keyboard.press('3');
  await grid.press([0, 0, 0]);
  await grid.move([3, 3, 0]);
  await page.keyboard.type('2*3');
  await page.keyboard.press('Tab');
  await page.keyboard.type('20 mm');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Length along a' })).toHaveValue('6');
  await expect(page.getByRole('textbox', { name: 'Length along b' })).toHaveValue('2.5');

  // The direction lock is named; Escape keeps the open line; undo takes it away.
  await page.keyboard.press('Escape');
  await page.keyboard.press('2');
  await grid.press([-6, 2, 0]);
  await page.keyboard.down('Shift');
  await grid.move([-6, 7, 0], 9);
  await expect(words).toContainText('along b');
  await grid.press([-6, 7, 0]);
  await page.keyboard.up('Shift');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'line 1, floor', exact: true })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'line 1, floor', exact: true })).toHaveCount(0);

  // Planes by key, their offset by key, the face under the pointer.
  await page.keyboard.press('r');
  await page.keyboard.press(']');
  await page.keyboard.press(']');
  await expect(page.getByRole('textbox', { name: 'Offset', exact: true })).toHaveValue('2');
  await grid.move([4, 2, 3]);
  await expect(page.getByLabel('Place of the pointer in cells')).toHaveText('a 4  b 2  h 3');
  await page.keyboard.press('f');
  await page.keyboard.press('1');
  await page.keyboard.press('.');
  await page.keyboard.press('2');
  await grid.drag([1, 1, 0], [1, 1, 4]);
  await expect(page.getByRole('region', { name: 'Selection' }).getByRole('textbox', { name: 'Depth' })).toHaveValue('4');
  await page.keyboard.press('r');
  await grid.move([2, 1, 4]);
  await page.keyboard.press('u');
  await expect(page.locator('.plane strong')).toHaveText('floor');
  await expect(page.getByRole('textbox', { name: 'Offset', exact: true })).toHaveValue('4');

  // The depth handle, then moving by hand and by keys.
  const handle = await grid.at([3, 1.25, 4]);
  await page.mouse.move(handle.x, handle.y);
  await page.mouse.down();
  await page.mouse.move(handle.x, handle.y - 30, { steps: 4 });
  await page.mouse.up();
  const depth = Number(await page.getByRole('region', { name: 'Selection' }).getByRole('textbox', { name: 'Depth' }).inputValue());
  expect(depth).toBeGreaterThan(4);
  await page.keyboard.press('1');
  await page.locator('.area').focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowUp');
  await expect(page.getByRole('textbox', { name: 'Position along a' })).toHaveValue('1');
  await expect(page.getByRole('textbox', { name: 'Offset along h' })).toHaveValue('1');
  await expect(async () => {
    const kept = (await storedDrawing(page, 'Untitled drawing')).document.nodes[0] as { plane: unknown };
    expect(kept.plane).toEqual({ kind: 'floor', offset: 1 });
  }).toPass();
});

test('looking: grid, snapping, see-through, zoom and pan do not touch the drawing', async ({ page }) => {
  await openDemo(page);
  const picture = (): Promise<string> => page.evaluate(() => document.querySelector<HTMLCanvasElement>('.surface canvas')!.toDataURL());
  const start = await picture();
  await page.keyboard.press('g');
  await expect(page.getByRole('button', { name: 'Grid hidden' })).toBeVisible();
  await expect.poll(async () => (await picture()) === start).toBe(false);
  await page.keyboard.press('g');
  await page.keyboard.press('k');
  await expect(page.getByRole('button', { name: 'Snap off' })).toBeVisible();
  await page.keyboard.press('k');
  await page.keyboard.press('e');
  await expect(page.getByRole('button', { name: 'See-through' })).toHaveAttribute('aria-pressed', 'true');
  await expect.poll(async () => (await picture()) === start).toBe(false);
  await page.keyboard.press('e');
  await expect.poll(async () => (await picture()) === start).toBe(true);

  const area = (await page.locator('.area').boundingBox())!;
  await page.mouse.move(area.x + 200, area.y + 200);
  await page.mouse.wheel(0, -240);
  await expect(page.getByLabel('Zoom', { exact: true })).not.toHaveText('56\u2009%');
  await page.locator('.area').focus();
  await page.keyboard.down('Space');
  await page.mouse.down();
  await page.mouse.move(area.x + 260, area.y + 240, { steps: 3 });
  await page.mouse.up();
  await page.keyboard.up('Space');
  await page.getByRole('button', { name: 'Fit' }).click();
  await page.mouse.move(area.x + 5, area.y + 5);
  await expect.poll(async () => (await picture()) === start).toBe(true);
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
});

test('finding: every command by words, and the list of keys', async ({ page }) => {
  await openDemo(page);
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: /^Words of the command/ }).fill('left wall');
  await page.keyboard.press('Enter');
  await expect(page.locator('.plane strong')).toHaveText('left wall');
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: /^Words of the command/ }).fill('no such thing');
  await expect(page.getByText('No command and no setting has these words.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('See-through: outlines without paint');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
});

test('contents: hide, lock, delete, group, and names of one’s own', async ({ page }) => {
  await openDemo(page);
  const contents = page.getByLabel('Contents', { exact: true });
  const rows = contents.getByRole('treeitem');
  const count = await rows.count();
  await contents.getByRole('button', { name: 'sign board', exact: true }).click();
  await contents.getByRole('button', { name: 'Hide sign board' }).click();
  await expect(contents.getByRole('button', { name: 'Show sign board' })).toBeVisible();
  await contents.getByRole('button', { name: 'Lock sign board' }).click();
  await expect(contents.getByRole('button', { name: 'Unlock sign board' })).toBeVisible();
  await contents.getByRole('button', { name: 'counter', exact: true }).click({ modifiers: ['Control'] });
  await page.keyboard.press('Control+b');
  await expect(contents.getByRole('button', { name: 'group', exact: true })).toBeVisible();
  await page.keyboard.press('Control+Shift+b');
  await expect(rows).toHaveCount(count);
  await contents.getByRole('button', { name: 'lamp', exact: true }).click();
  await page.keyboard.press('F2');
  await page.keyboard.press('Escape');
  await contents.getByRole('button', { name: 'Delete lamp' }).click();
  await expect(rows).toHaveCount(count - 5);
  await page.keyboard.press('Control+z');
  await expect(rows).toHaveCount(count);
});
