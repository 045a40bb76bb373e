import type { Locator, Page } from '@playwright/test';
import { Fingers } from './fingers';
import { expect, openDemo, openEmpty, storedDrawing, test, type Grid } from './support';

const zoomOf = async (page: Page): Promise<number> => parseInt(await page.getByLabel('Zoom', { exact: true }).innerText());
const thingsOf = async (page: Page): Promise<number> => (await storedDrawing(page, 'Untitled drawing')).document.nodes.length;

async function drawBox(page: Page, grid: Grid): Promise<void> {
  await page.keyboard.press('3');
  await grid.press([0, 0, 0]);
  await grid.press([4, 3, 0]);
  await expect(page.getByText('shape of 4 points, floor')).toBeVisible();
}

test.describe('by touch', () => {
  test.use({ hasTouch: true });

  test('two fingers pan and zoom and never draw or move; a cancelled touch leaves nothing behind', async ({ page }) => {
    const grid = await openEmpty(page);
    const fingers = await Fingers.on(page);
    const near = async (a: number, b: number): Promise<{ x: number; y: number }> => grid.at([a, b, 0]);
    await page.keyboard.press('3');
    const [p, q] = [await near(0, 0), await near(6, 0)];
    const before = await zoomOf(page);
    await fingers.put(p);
    await fingers.put(p, q);
    await fingers.move({ x: p.x - 40, y: p.y }, { x: q.x + 40, y: q.y });
    await fingers.lift();
    expect(await zoomOf(page)).toBeGreaterThan(before * 1.2);
    await expect(page.getByText('Nothing is drawn yet.')).toBeVisible();
    // Nothing of a rectangle has begun: the next press is its first corner.
    await page.keyboard.press('W');
    await drawBox(page, grid);
    const figures = page.getByRole('textbox', { name: 'Position along a' });
    await page.keyboard.press('1');
    const inside = await near(2, 1);
    await fingers.put(inside);
    await fingers.move({ x: inside.x + 60, y: inside.y - 30 });
    await fingers.put({ x: inside.x + 60, y: inside.y - 30 }, { x: inside.x + 160, y: inside.y });
    await fingers.move({ x: inside.x + 90, y: inside.y }, { x: inside.x + 190, y: inside.y + 30 });
    await fingers.lift();
    await expect(figures).toHaveValue('0');
    await page.keyboard.press('W');
    const again = await near(2, 1);
    await fingers.put(again);
    await fingers.move({ x: again.x + 70, y: again.y });
    await fingers.lose();
    await page.mouse.move(again.x + 200, again.y + 50, { steps: 4 });
    await expect(figures).toHaveValue('0');
    await expect(async () => expect(await thingsOf(page)).toBe(1)).toPass();
  });

  test('one finger draws, its lengths can be typed, and a long press opens what can be done there', async ({ page }) => {
    const grid = await openEmpty(page);
    const fingers = await Fingers.on(page);
    await page.keyboard.press('3');
    const at = await grid.at([0, 0, 0]);
    await fingers.put(at);
    await fingers.lift();
    await page.getByRole('button', { name: 'Type lengths' }).tap();
    await page.locator('chemin-typing input').first().fill('5');
    await page.locator('chemin-typing input').nth(1).fill('2');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('textbox', { name: 'Length along a' })).toHaveValue('5');
    await page.keyboard.press('1');
    const inside = await grid.at([2, 1, 0]);
    await fingers.put(inside);
    await expect(page.getByRole('menuitem', { name: 'Duplicate' })).toBeVisible();
    await fingers.lift();
    await page.getByRole('menuitem', { name: 'Duplicate' }).tap();
    await expect(page.locator('chemin-contents h2')).toContainText('2');
  });
});

test('a right press chooses what is there and opens what can be done with it', async ({ page }) => {
  const grid = await openEmpty(page);
  await drawBox(page, grid);
  await page.keyboard.press('1');
  await page.keyboard.press('Escape');
  const { x, y } = await grid.at([2, 1, 0]);
  await page.mouse.click(x, y, { button: 'right' });
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(page.getByText('Nothing is drawn yet.')).toBeVisible();
});

test('a pen that is lifted has pressed as hard as before', async ({ page }) => {
  await openEmpty(page);
  await page.keyboard.press('Shift+Digit1');
  const area = page.locator('.area');
  const box = (await area.boundingBox())!;
  await area.evaluate((element, { x, y }) => {
    const pen = (type: string, dx: number, pressure: number): void => {
      element.dispatchEvent(new PointerEvent(type, { pointerId: 1, pointerType: 'pen', button: 0, buttons: pressure > 0 ? 1 : 0, pressure, clientX: x + dx, clientY: y + 20 * Math.sin(dx / 30), bubbles: true })); // prettier-ignore
    };
    element.setPointerCapture = () => undefined;
    pen('pointerdown', 0, 0.6);
    for (let dx = 4; dx <= 160; dx += 4) pen('pointermove', dx, 0.6);
    pen('pointerup', 160, 0);
  }, { x: box.x + box.width / 2 - 80, y: box.y + box.height / 2 }); // prettier-ignore
  await expect(async () => {
    const { document } = await storedDrawing(page, 'Untitled drawing');
    const [line] = document.nodes as { outline: { points: { press?: number }[] } }[];
    const presses = line!.outline.points.map((p) => p.press ?? 1);
    expect(Math.min(...presses)).toBeGreaterThan(0.5);
  }).toPass();
});

/** Every field in which text is typed, in the panels as they stand. */
async function fields(page: Page): Promise<Locator[]> {
  return page.locator('chemin-bench input, chemin-selection input, chemin-ground-bar input, chemin-head input').all();
}

test('Enter and Escape give the keys back to the drawing from every field, and no other control keeps a single key', async ({ page }) => {
  const grid = await openEmpty(page);
  await drawBox(page, grid);
  let tried = 0;
  for (const stage of ['Projection', 'Draw', 'Build', 'Light', 'Output']) {
    await page.getByRole('button', { name: stage, exact: true }).click();
    for (const end of ['Enter', 'Escape'] as const) {
      for (const field of await fields(page)) {
        if (!(await field.isVisible()) || !(await field.isEnabled())) continue;
        const kind = await field.evaluate((input: HTMLInputElement) => input.type);
        await field.focus();
        if (['text', ''].includes(kind) && (await field.getAttribute('role')) !== 'combobox') {
          const name = await field.evaluate((input) => input.outerHTML.slice(0, 120));
          await page.keyboard.press(end);
          expect([name, await page.evaluate(() => document.activeElement?.getAttribute('role'))]).toEqual([name, 'application']);
        } else if (['checkbox', 'color'].includes(kind)) {
          // A switch has Space; G is the grid's.
          const shown = await page.getByRole('button', { name: 'Grid shown' }).isVisible();
          await page.keyboard.press('g');
          await expect(page.getByRole('button', { name: shown ? 'Grid hidden' : 'Grid shown' })).toBeVisible();
          await page.keyboard.press('g');
        } else continue;
        tried++;
      }
    }
  }
  console.log(`${tried} fields and switches give the keys back`);
  expect(tried).toBeGreaterThan(50);
  // What is typed is taken once, and the next digit is a tool's.
  await page.getByRole('button', { name: 'Draw', exact: true }).click();
  const length = page.getByRole('textbox', { name: 'Length along a' });
  await length.fill('6');
  await page.keyboard.press('Enter');
  await page.keyboard.press('4');
  await expect(page.getByRole('button', { name: 'Line 4' })).toHaveAttribute('aria-pressed', 'true');
  await expect(length).toHaveValue('6');
});

test('the focus comes back from every window to where it was', async ({ page }) => {
  await openDemo(page);
  for (const name of ['Drawings', 'Steps', 'Keys', 'Snap to…', 'Find Ctrl+K']) {
    const button = page.getByRole('button', { name, exact: true });
    await button.focus();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('dialog')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);
    await expect(button).toBeFocused();
  }
  await page.locator('.area').focus();
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('combobox', { name: /Words of/ })).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(page.locator('.area')).toBeFocused();
});

test('what is compared covers the drawing: no key reaches it, and Escape closes it', async ({ page }) => {
  await openDemo(page);
  const compare = page.getByRole('button', { name: 'Compare', exact: true });
  await compare.click();
  await expect(page.getByRole('heading', { name: 'Compare' })).toBeVisible();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Delete');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('heading', { name: 'Compare' })).toHaveCount(0);
  await expect(page.locator('chemin-contents h2')).toContainText('53');
  await expect(compare).toBeFocused();
});

test('the rosette is one stop, walked by arrow keys, with targets of 24 px', async ({ page }) => {
  await openEmpty(page);
  const group = page.getByRole('radiogroup', { name: 'Plane to draw on' });
  expect(await group.locator('[tabindex="0"]').count()).toBe(1);
  await group.locator('[tabindex="0"]').focus();
  for (const name of ['right wall', 'left wall', 'sheet', 'floor']) {
    await page.keyboard.press('ArrowRight');
    await expect(group.getByRole('radio', { name })).toBeChecked();
    await expect(group.getByRole('radio', { name })).toBeFocused();
  }
  for (const radio of await group.getByRole('radio').all()) {
    const { width, height } = (await radio.boundingBox())!;
    expect(Math.min(width, height)).toBeGreaterThanOrEqual(24);
  }
});

test('everything is reached in a window of 640 x 400, by mouse and by keyboard', async ({ page }) => {
  await page.setViewportSize({ width: 640, height: 400 });
  await openEmptySmall(page);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(640);
  // By mouse: bench, a tool, a setting; contents; the far end of both bars.
  await page.getByRole('button', { name: 'Bench', exact: true }).click();
  await page.getByRole('button', { name: 'Free plane ⇧9' }).click();
  await expect(page.getByText('Press three places', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Contents', exact: true }).click();
  await page.getByRole('searchbox', { name: 'Search the contents' }).click();
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await page.getByRole('button', { name: 'Keys', exact: true }).click();
  await page.keyboard.press('Escape');
  // By keyboard: every control that is shown comes into the window when the focus comes to it.
  let outside = 0;
  let stops = 0;
  for (let i = 0; i < 60; i++) {
    await page.keyboard.press('Tab');
    const seen = await page.evaluate(() => {
      const box = document.activeElement!.getBoundingClientRect();
      return document.activeElement === document.body || (box.right > 0 && box.bottom > 0 && box.left < innerWidth && box.top < innerHeight);
    });
    stops++;
    if (!seen) outside++;
  }
  expect([outside, stops]).toEqual([0, 60]);
});

async function openEmptySmall(page: Page): Promise<void> {
  await page.goto('/');
  await expect(async () => expect((await storedDrawing(page, 'Quay Nine: landing')).document.nodes.length).toBeGreaterThan(0)).toPass();
  await page.getByRole('button', { name: 'Drawings', exact: true }).click();
  await page.getByRole('button', { name: 'New drawing' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
}
