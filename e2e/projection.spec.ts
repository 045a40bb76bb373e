import type { Page } from '@playwright/test';
import { expect, openDemo, storedDrawing, test } from './support';

const DEMO = 'Quay Nine: landing';
const SHEET = { width: 297, height: 210 };

interface Look {
  readonly zoom: number;
  readonly x: number;
  readonly y: number;
}

/** How the sheet lies on the screen while it is fitted, or while a place far off it is in view too. */
async function lookOf(page: Page, far: { x: number; y: number } | null = null): Promise<Look> {
  const box = (await page.locator('.area').boundingBox())!;
  const [minX, minY, maxX, maxY] = [
    Math.min(0, far?.x ?? 0),
    Math.min(0, far?.y ?? 0),
    Math.max(SHEET.width, far?.x ?? 0),
    Math.max(SHEET.height, far?.y ?? 0),
  ];
  const margin = far ? 60 : 36;
  const zoom = Math.min((box.width - 2 * margin) / (maxX - minX), (box.height - 2 * margin) / (maxY - minY));
  return {
    zoom,
    x: box.x + Math.round((box.width - (minX + maxX) * zoom) / 2),
    y: box.y + Math.round((box.height - (minY + maxY) * zoom) / 2),
  };
}

const field = (page: Page, name: string): ReturnType<Page['getByRole']> => page.getByRole('textbox', { name, exact: true });
const value = async (page: Page, name: string): Promise<number> => Number((await field(page, name).inputValue()).replace('\u2212', '-'));

async function type(page: Page, name: string, text: string): Promise<void> {
  await field(page, name).fill(text);
  await field(page, name).press('Enter');
}

/** Drags from one place of the sheet to another, in mm. */
async function drag(page: Page, look: Look, from: readonly [number, number], to: readonly [number, number]): Promise<void> {
  await page.mouse.move(look.x + from[0] * look.zoom, look.y + from[1] * look.zoom);
  await page.mouse.down();
  await page.mouse.move(look.x + to[0] * look.zoom, look.y + to[1] * look.zoom, { steps: 6 });
  await page.mouse.up();
}

const canvasData = (page: Page): Promise<string> => page.evaluate(() => document.querySelector<HTMLCanvasElement>('.surface canvas')!.toDataURL());

/** The picture on the canvas has become another. */
async function changes(page: Page, before: string): Promise<string> {
  await expect.poll(async () => (await canvasData(page)) !== before).toBe(true);
  return canvasData(page);
}

async function choose(page: Page, family: string): Promise<void> {
  await page.getByRole('button', { name: family, exact: true }).click();
  await expect(page.getByRole('button', { name: family, exact: true })).toHaveAttribute('aria-pressed', 'true');
}

async function openProjection(page: Page): Promise<void> {
  await openDemo(page);
  await page.getByRole('button', { name: 'Projection', exact: true }).first().click();
}

test('the demo keeps every size through all families, and each is named with its reason', async ({ page }) => {
  await openProjection(page);
  await expect(async () => expect(await storedDrawing(page, DEMO)).toBeTruthy()).toPass();
  const { nodes } = (await storedDrawing(page, DEMO)).document;
  const names = ['pixel isometric 2:1', 'dimetric', 'trimetric', 'cavalier', 'cabinet', 'oblique, free', 'planometric', 'one-point perspective', 'two-point perspective', 'three-point perspective', 'isometric']; // prettier-ignore
  let picture = await canvasData(page);
  for (const name of names) {
    await choose(page, name);
    await expect(page.getByRole('region', { name: 'Name of the projection' })).toContainText(name);
    picture = await changes(page, picture);
  }
  await expect(async () => expect((await storedDrawing(page, DEMO)).position).toBe(names.length)).toPass();
  expect((await storedDrawing(page, DEMO)).document.nodes).toEqual(nodes);
  await type(page, 'a rises to the right', '20');
  await type(page, 'b rises to the left', '20');
  await expect(page.getByRole('region', { name: 'Name of the projection' })).toContainText('no longer isometric: dimetric');
  await type(page, 'a rises to the right', '70');
  await expect(page.getByText('cannot be: the two floor angles add up to 90° or more')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^Projection: no longer isometric: dimetric/ })).toBeVisible();
});

test('one-point: its point, horizon, roll and corner by hand and by number', async ({ page }) => {
  await openProjection(page);
  await choose(page, 'one-point perspective');
  const look = await lookOf(page);
  let picture = await canvasData(page);
  const [x, y] = [await value(page, 'x of b'), await value(page, 'y at the middle')];
  await drag(page, look, [x, y], [x + 25, y + 20]);
  picture = await changes(page, picture);
  expect(await value(page, 'x of b')).toBeCloseTo(x + 25, 0);
  expect(await value(page, 'y at the middle')).toBeCloseTo(y + 20, 0);
  const corner = [await value(page, 'x of the corner'), await value(page, 'y of the corner')] as const;
  await drag(page, look, corner, [corner[0] - 20, corner[1] + 8]);
  await changes(page, picture);
  expect(await value(page, 'x of the corner')).toBeCloseTo(corner[0] - 20, 0);
  expect(await value(page, 'x of b')).toBeCloseTo(x + 25, 0);
  const level = await value(page, 'y at the middle');
  await drag(page, look, [SHEET.width * 0.06, level], [SHEET.width * 0.06, level + 9]);
  expect(await value(page, 'y at the middle')).toBeCloseTo(level + 9, 0);
  expect(await value(page, 'x of b')).toBeCloseTo(x + 25, 0);
  await drag(page, look, [SHEET.width * 0.94, level + 9], [SHEET.width * 0.94, level - 3]);
  expect(await value(page, 'Roll')).toBeGreaterThan(2);
  await type(page, 'Roll', '0');
  await type(page, 'Turn', '30');
  await expect(page.getByRole('region', { name: 'Name of the projection' })).toContainText('no longer one-point perspective: two-point perspective');
});

test('two-point: every handle, far coordinates, locks, into view and back, the cone and the figure', async ({ page }) => {
  await openProjection(page);
  await choose(page, 'two-point perspective');
  const look = await lookOf(page);
  let picture = await canvasData(page);
  const corner = [await value(page, 'x of the corner'), await value(page, 'y of the corner')] as const;
  const horizon = await value(page, 'y at the middle');

  // The horizon by hand; both points stay over each other's x, the corner stays.
  const [a, b] = [await value(page, 'x of a'), await value(page, 'x of b')];
  await drag(page, look, [SHEET.width * 0.06, horizon], [SHEET.width * 0.06, horizon + 14]);
  picture = await changes(page, picture);
  expect(await value(page, 'y at the middle')).toBeCloseTo(horizon + 14, 0);
  expect(await value(page, 'x of a')).toBeCloseTo(a, 0);
  expect(await value(page, 'x of the corner')).toBeCloseTo(corner[0], 1);

  // Vanishing point a is off the sheet: brought into view, dragged there, and back.
  await page.getByRole('button', { name: 'Bring vanishing point a into view' }).click();
  const far = await lookOf(page, { x: a, y: horizon + 14 });
  await drag(page, far, [a, horizon + 14], [a * 0.7, horizon + 90]);
  expect(await value(page, 'x of a')).toBeCloseTo(a * 0.7, -1);
  expect(await value(page, 'x of b')).toBeCloseTo(b, 0);
  expect(await value(page, 'y at the middle')).toBeCloseTo(horizon + 14, 0);
  await page.getByRole('button', { name: 'Back to the sheet' }).click();
  picture = await changes(page, picture);
  await page.getByRole('button', { name: 'Bring vanishing point b into view' }).click();
  const left = await lookOf(page, { x: b, y: horizon + 14 });
  await drag(page, left, [b, horizon + 14], [b - 60, horizon + 14]);
  expect(await value(page, 'x of b')).toBeCloseTo(b - 60, 0);
  await page.getByRole('button', { name: 'Back to the sheet' }).click();
  picture = await changes(page, picture);

  // The corner and the roll by hand.
  await drag(page, look, corner, [corner[0] + 15, corner[1] + 5]);
  expect(await value(page, 'x of the corner')).toBeCloseTo(corner[0] + 15, 0);
  const roll = [SHEET.width * 0.94, horizon + 14] as const;
  await drag(page, look, roll, [roll[0], roll[1] - 12]);
  expect(await value(page, 'Roll')).toBeGreaterThan(2);
  await type(page, 'Roll', '0');

  // 100,000 px (of 1/96 inch) away, and still a picture.
  await type(page, 'x of a', '100000*25.4/96');
  expect(await value(page, 'x of a')).toBeCloseTo(26458.3, 0);
  await changes(page, picture);
  await type(page, 'x of b', '\u2212100000 px');
  await expect(page.getByRole('region', { name: 'Name of the projection' })).toContainText('two-point perspective');

  // A locked point stays; what would move it is refused with its name.
  await page.getByRole('button', { name: 'Lock vanishing point a' }).click();
  const locked = await value(page, 'x of a');
  await type(page, 'Turn', '12');
  await expect(page.getByText('Vanishing point a is locked and would move.')).toBeVisible();
  expect(await value(page, 'x of a')).toBe(locked);
  await page.getByRole('button', { name: 'Unlock vanishing point a' }).click();

  // What cannot be is refused with the reason, and the nearest is offered.
  await type(page, 'Eye height', '0');
  await expect(page.getByText('The eye would lie in the floor, which would be seen as a line.')).toBeVisible();
  await page.getByRole('button', { name: 'Use the nearest possible' }).click();
  await page.keyboard.press('Control+z');

  await choose(page, 'two-point perspective');
  await page.getByRole('button', { name: 'Cone of vision' }).click();
  await page.getByRole('button', { name: 'Standing figure' }).click();
  for (let i = 0; i < 5; i++) await page.getByRole('button', { name: 'Stronger' }).click();
  await expect(page.getByText(/of the drawing’s corners lie outside the 60° cone/)).toBeVisible();
  for (let i = 0; i < 7; i++) await page.getByRole('button', { name: 'Calmer' }).click();
  await expect(page.getByText(/lie outside the 60° cone/)).toBeHidden();
});

test('three-point: all three points, the horizon, and an eye height from the presets at a drawing scale', async ({ page }) => {
  await openProjection(page);
  await choose(page, 'three-point perspective');
  const h = { x: await value(page, 'x of h'), y: await value(page, 'y of h') };
  const [a, b] = [await value(page, 'x of a'), await value(page, 'x of b')];
  await page.getByRole('button', { name: 'Bring vanishing point h into view' }).click();
  const down = await lookOf(page, h);
  await drag(page, down, [h.x, h.y], [h.x + 30, h.y + 120]);
  expect(await value(page, 'y of h')).toBeCloseTo(h.y + 120, -1);
  expect(await value(page, 'x of a')).toBeCloseTo(a, 0);
  await page.getByRole('button', { name: 'Back to the sheet' }).click();
  for (const [axis, from, to] of [
    ['a', a, a + 80],
    ['b', b, b - 70],
  ] as const) {
    // prettier-ignore
    await page.getByRole('button', { name: `Bring vanishing point ${axis} into view` }).click();
    const y = await value(page, 'y at the middle');
    const look = await lookOf(page, { x: from, y });
    await drag(page, look, [from, y], [to, y]);
    expect(await value(page, `x of ${axis}`)).toBeCloseTo(to, -1);
    await page.getByRole('button', { name: 'Back to the sheet' }).click();
  }
  const y = await value(page, 'y at the middle');
  await type(page, 'y at the middle', `${y - 20}`);
  expect(await value(page, 'y at the middle')).toBeCloseTo(y - 20, 0);
  // The horizon within the window, then horizon, roll and corner by hand; h stays under the horizon's hand.
  await type(page, 'y at the middle', '\u221225');
  const look = await lookOf(page);
  const under = await value(page, 'y of h');
  await drag(page, look, [SHEET.width * 0.06, -25], [SHEET.width * 0.06, -10]);
  expect(await value(page, 'y at the middle')).toBeCloseTo(-10, 0);
  expect(await value(page, 'y of h')).toBeCloseTo(under, 0);
  const corner = [await value(page, 'x of the corner'), await value(page, 'y of the corner')] as const;
  await drag(page, look, corner, [corner[0] + 12, corner[1] + 6]);
  expect(await value(page, 'x of the corner')).toBeCloseTo(corner[0] + 12, 0);
  await drag(page, look, [SHEET.width * 0.94, -10], [SHEET.width * 0.94, -22]);
  expect(await value(page, 'Roll')).toBeGreaterThan(0.3);
  await type(page, 'Roll', '0');
  await page.keyboard.press('Escape');
  await page.locator('.area').focus();
  await page.keyboard.press('4');
  await page.getByRole('button', { name: '1:50', exact: true }).click();
  await page.locator('.area').focus();
  await page.keyboard.press('2');
  await page.getByRole('group', { name: 'Eye heights' }).getByRole('button', { name: 'roof' }).click();
  await expect(field(page, 'Eye height')).toHaveValue('160');
  await expect(page.getByText('8\u2009m real')).toBeVisible();
  await type(page, 'Eye height', '3 m');
  await expect(field(page, 'Eye height')).toHaveValue('60');
});

test('compares projections side by side and adopts one', async ({ page }) => {
  await openProjection(page);
  await page.getByRole('button', { name: 'Compare', exact: true }).click();
  const compare = page.getByRole('region', { name: 'Compare projections' });
  await expect(compare.getByRole('group')).toHaveCount(4);
  await compare.getByRole('combobox', { name: 'Projection of view 2' }).click();
  await page.getByRole('option', { name: 'cabinet' }).click();
  await compare.getByRole('group', { name: 'cabinet' }).getByRole('button', { name: 'Adopt' }).click();
  await expect(compare).toBeHidden();
  await expect(page.getByRole('button', { name: /^Projection: cabinet/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^Projection: isometric/ })).toBeVisible();
});

test('the grid: its cell by edge and by lines, sizes or counts kept, families, planes, extent; set-ups kept and handed on', async ({ page }) => {
  await openProjection(page);
  await page.locator('.area').focus();
  await page.keyboard.press('3');
  await expect(field(page, 'Lines apart')).toHaveValue('5.196');
  await type(page, 'Lines apart', '10');
  await expect(field(page, 'Cell edge')).toHaveValue('11.547');
  await page.keyboard.press('Control+z');
  await page.getByRole('radio', { name: /^sizes stay/ }).check();
  let picture = await canvasData(page);
  await type(page, 'Cell edge', '3');
  picture = await changes(page, picture);
  await page.getByRole('button', { name: 'kiosk', exact: true }).click();
  await expect(field(page, 'Length along a')).toHaveValue('14');
  // On all planes, lines along h come; those along a and b fall on the floor's own.
  await page.getByRole('switch', { name: 'only the two families of the plane drawn on' }).click();
  picture = await changes(page, picture);
  await page.getByRole('switch', { name: 'along h' }).click();
  picture = await changes(page, picture);
  await page.getByRole('switch', { name: 'along b' }).click();
  picture = await changes(page, picture);
  await page.getByRole('switch', { name: 'ends after some cells' }).click();
  await type(page, 'Last cell across', '10');
  await changes(page, picture);
  await page.locator('.area').focus();
  await page.keyboard.press('2');
  await page.getByRole('textbox', { name: 'Name of the set-up' }).fill('quay class');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export quay class' }).click();
  const file = await (await download).path();
  await page.getByRole('button', { name: 'Delete quay class' }).click();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Open a set-up file' }).click();
  await (await chooser).setFiles(file);
  await expect(page.getByRole('button', { name: 'Use quay class' })).toBeVisible();
  await choose(page, 'planometric');
  await page.getByRole('button', { name: 'Use quay class' }).click();
  await expect(page.getByRole('button', { name: /^Projection: isometric/ })).toBeVisible();
});

test('the sheet: sizes, units, scale, turning, rulers; facts to copy', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await openProjection(page);
  await page.locator('.area').focus();
  await page.keyboard.press('4');
  await expect(page.getByRole('combobox', { name: 'Common sizes' })).toHaveText('A4');
  await page.getByRole('button', { name: 'Portrait' }).click();
  await expect(field(page, 'Width')).toHaveValue('210');
  await page.getByRole('combobox', { name: 'Lengths are shown in' }).click();
  await page.getByRole('option', { name: 'in', exact: true }).click();
  await expect(field(page, 'Width')).toHaveValue('8.268');
  await expect(page.getByText('1 cell = 0.236\u2009in')).toBeVisible();
  await type(page, '1 to', '50');
  await expect(page.getByText('1 cell = 0.236\u2009in, 30\u2009cm real')).toBeVisible();
  await type(page, 'Width', '10 cm');
  await expect(field(page, 'Width')).toHaveValue('3.937');
  await page.getByRole('switch', { name: 'Rulers' }).click();
  await expect(page.locator('chemin-rulers .across')).toBeVisible();
  await page.locator('.area').focus();
  await page.keyboard.press('6');
  await page.getByRole('button', { name: 'Copy SVG' }).nth(1).click();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toBe('matrix(0.866025 0.5 0 1 0 0)');
  await page.getByRole('button', { name: 'Copy all as text' }).click();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toContain('axis b: 150°, foreshortening 1');
});
