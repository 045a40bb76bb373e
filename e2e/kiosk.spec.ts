import { readFileSync } from 'node:fs';
import { expect, openEmpty, storedDrawing, test } from './support';

const SIGN = `<svg xmlns="http://www.w3.org/2000/svg" width="60" height="20" viewBox="0 0 60 20">
  <style>.band { fill: #1d4b52 }</style>
  <rect class="band" width="60" height="20" rx="3"/><circle cx="10" cy="10" r="6" fill="#f1e6cd"/><path d="M24 14h28M24 7h20" stroke="#f1e6cd" stroke-width="3"/>
</svg>`;

test('from an empty sheet to a lit solid with artwork in an SVG file, by hand', async ({ page }) => {
  const grid = await openEmpty(page);
  const words = page.locator('chemin-pointer-words');
  const readOut = page.getByLabel('Measures of what is being drawn');

  // A wall of 12 x 7 cells by snapping.
  await page.getByRole('radio', { name: 'left wall' }).click();
  await page.keyboard.press('3');
  await grid.press([0, 0, 1]);
  await grid.move([0, 12, 8]);
  await expect(words).toContainText('12 × 7\u2009cells');
  await expect(words).toContainText('96 × 56\u2009mm');
  await expect(readOut).toHaveText('12 × 7\u2009cells');
  await grid.press([0, 12, 8]);
  await expect(page.getByRole('button', { name: 'rectangle 1, left wall', exact: true })).toBeVisible();

  // Depth by a typed sum.
  await page.keyboard.press('.');
  const depth = page.getByRole('region', { name: 'Depth' }).getByRole('textbox', { name: 'Depth' });
  await depth.fill('(18-3*2)/2');
  await depth.press('Enter');
  await expect(depth).toHaveValue('6');
  await expect(page.getByText('solid of 4 points, left wall')).toBeVisible();

  // A six-sided outline on the floor with one wrong point taken back, closed on its first point.
  await page.keyboard.press('Escape');
  await page.locator('.area').focus();
  await page.keyboard.press(',');
  await page.keyboard.press('f');
  await page.keyboard.press('2');
  const corners = [
    [4, 0, 0],
    [8, 0, 0],
    [8, 3, 0],
    [6, 3, 0],
    [6, 6, 0],
    [4, 6, 0],
  ] as const;
  for (const corner of corners.slice(0, 3)) await grid.press(corner);
  await grid.press([9, 5, 0]);
  await page.keyboard.press('Backspace');
  for (const corner of corners.slice(3)) await grid.press(corner);
  await grid.move([4, 0, 0]);
  await expect(words).toContainText('closes');
  await grid.press([4, 0, 0]);
  await expect(page.getByText('shape of 6 points, floor')).toBeVisible();
  await page.keyboard.press('.');
  await depth.fill('3');
  await depth.press('Enter');

  // Tones by direction; turning the sun changes them.
  await page.getByRole('button', { name: 'Light', exact: true }).click();
  const key = page.getByRole('img', { name: /^Tones now/ });
  const before = (await key.getAttribute('aria-label')) ?? '';
  const tones = before.match(/#[0-9a-f]{6}/g) ?? [];
  expect(new Set(tones).size).toBe(3);
  const dial = page.getByRole('slider', { name: 'Place of the sun' });
  const box = (await dial.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 + 20);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 - 40, box.y + box.height / 2 - 10, { steps: 4 });
  await page.mouse.up();
  await expect(key).not.toHaveAttribute('aria-label', before);

  // Artwork on a face, moved one cell.
  await page.getByRole('button', { name: 'Artwork', exact: true }).click();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Add a picture or SVG' }).click();
  await (await chooser).setFiles({ name: 'landing sign.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(SIGN) });
  await expect(page.getByText('“landing sign.svg” was added')).toBeVisible();
  await grid.press([-6, 6, 4]);
  const fromLeft = page.getByRole('textbox', { name: 'From the left' });
  await expect(page.getByText('landing sign, rectangle 1, left wall, left side').first()).toBeVisible();
  const left = Number(await fromLeft.inputValue());
  await page.locator('.area').focus();
  await page.keyboard.press('ArrowRight');
  await expect(fromLeft).toHaveValue(String(left + 1));
  await grid.drag([-6, 6, 4], [-6, 6, 3]);
  await expect(page.getByRole('textbox', { name: 'From the top' })).toHaveValue('2.5');

  // A name in the contents.
  const row = page.getByRole('button', { name: 'outline 1, floor', exact: true });
  await row.dblclick();
  await page.getByRole('textbox', { name: 'New name' }).fill('landing stage');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'landing stage', exact: true })).toBeVisible();

  // Everything is there after a reload, undo included.
  await expect(async () => expect(JSON.stringify((await storedDrawing(page, 'Untitled drawing')).document)).toContain('landing stage')).toPass();
  const kept = await storedDrawing(page, 'Untitled drawing');
  await page.reload();
  await expect(page.getByRole('button', { name: 'landing stage', exact: true })).toBeVisible();
  await expect(page.getByLabel('Contents', { exact: true }).getByRole('treeitem')).toHaveCount(3);

  const steps = kept.stepCount;
  for (let i = 0; i < steps; i++) {
    await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();
    await page.keyboard.press('Control+z');
  }
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await expect(page.getByText('Nothing is drawn yet.')).toBeVisible();
  for (let i = 0; i < steps; i++) await page.keyboard.press('Control+Shift+Z');
  await expect(page.getByRole('button', { name: 'Redo' })).toBeDisabled();
  await expect(async () => {
    const now = await storedDrawing(page, 'Untitled drawing');
    expect(now.position).toBe(kept.stepCount);
    expect(now.document).toEqual(kept.document);
  }).toPass();

  // The SVG holds named groups of real paths, and no bitmap.
  await page.getByRole('button', { name: 'Output', exact: true }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export SVG' }).click();
  const svg = readFileSync(await (await download).path(), 'utf8');
  expect(svg).toContain('<g id="landing-stage">');
  expect(svg).toContain('<title>rectangle 1, left wall, left side</title>');
  expect(svg.match(/<path /g)!.length).toBeGreaterThan(8);
  expect(svg).not.toMatch(/<image|data:|<script/);
});
