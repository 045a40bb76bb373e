import type { Page } from '@playwright/test';
import { Fingers } from './fingers';
import { drop, expect, kept, openEmpty, storedOpen, test, type Grid, type Place } from './support';

const count = (page: Page) => page.locator('chemin-contents h2');
const chosen = (page: Page) => page.locator('chemin-contents [aria-selected="true"]');

async function rectangle(grid: Grid, page: Page, from: Place, to: Place): Promise<void> {
  await page.keyboard.press('3');
  await grid.press(from);
  await grid.press(to);
}

/** Three rectangles on the floor with room about each. */
async function three(page: Page): Promise<Grid> {
  const grid = await openEmpty(page);
  await rectangle(grid, page, [0, 0, 0], [2, 2, 0]);
  await rectangle(grid, page, [4, 0, 0], [6, 2, 0]);
  await rectangle(grid, page, [0, 4, 0], [2, 6, 0]);
  await expect(count(page)).toContainText('3');
  await page.keyboard.press('1');
  await page.keyboard.press('Escape');
  return grid;
}

/** The corners of a frame about some places of the drawing, a little wider. */
async function around(grid: Grid, places: readonly Place[]): Promise<readonly [{ x: number; y: number }, { x: number; y: number }]> {
  const at = await Promise.all(places.map((place) => grid.at(place)));
  const [xs, ys] = [at.map(({ x }) => x), at.map(({ y }) => y)];
  return [
    { x: Math.min(...xs) - 6, y: Math.min(...ys) - 6 },
    { x: Math.max(...xs) + 6, y: Math.max(...ys) + 6 },
  ];
}

const ONE: readonly Place[] = [[0, 0, 0], [2, 0, 0], [2, 2, 0], [0, 2, 0]]; // prettier-ignore
const TWO: readonly Place[] = [[4, 0, 0], [6, 0, 0], [6, 2, 0], [4, 2, 0]]; // prettier-ignore

async function pull(page: Page, [from, to]: Awaited<ReturnType<typeof around>>): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await page.mouse.up();
}

test('a frame over empty ground chooses what lies within it, adds, takes away, and by its switch takes what it touches', async ({ page }) => {
  const grid = await three(page);
  await pull(page, await around(grid, ONE));
  await expect(chosen(page)).toHaveCount(1);
  await page.keyboard.down('Shift');
  await pull(page, await around(grid, TWO));
  await expect(chosen(page)).toHaveCount(2);
  await pull(page, await around(grid, TWO));
  await page.keyboard.up('Shift');
  await expect(chosen(page)).toHaveCount(1);
  await page.keyboard.press('Escape');
  await expect(chosen(page)).toHaveCount(0);
  const [from] = await around(grid, ONE);
  const inside = await grid.at([1, 1, 0]);
  await pull(page, [from, inside]);
  await expect(chosen(page)).toHaveCount(0);
  await page.getByRole('button', { name: 'A frame takes what lies within' }).click();
  await pull(page, [from, inside]);
  await expect(chosen(page)).toHaveCount(1);
});

test.describe('by touch', () => {
  test.use({ hasTouch: true });

  test('a finger pulls a frame over empty ground', async ({ page }) => {
    const grid = await three(page);
    const fingers = await Fingers.on(page);
    const [from, to] = await around(grid, [...ONE, ...TWO]);
    await fingers.put(from);
    await fingers.move({ x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 });
    await fingers.move(to);
    await fingers.lift();
    await expect(chosen(page)).toHaveCount(2);
  });
});

/** Each tool that draws by several presses, with those that begin something and leave it in hand. */
const TOOLS: readonly (readonly [title: string, find: string, presses: readonly Place[]])[] = [
  ['Outline', 'Draw an outline of corners and smooth points', [[5, 0, 0], [8, 0, 0], [8, 3, 0]]], // prettier-ignore
  ['Rectangle', 'Draw a rectangle', [[5, 0, 0]]],
  ['Line', 'Draw a straight line', [[5, 0, 0]]],
  ['Circle', 'Draw a circle', [[5, 2, 0]]],
  ['Ellipse', 'Draw an ellipse in a box', [[5, 0, 0]]],
  ['Polygon', 'Draw a regular polygon', [[5, 2, 0]]],
  ['Arc', 'Draw an arc', [[5, 0, 0], [8, 0, 0]]], // prettier-ignore
  ['Curve', 'Draw a smooth curve through points', [[5, 0, 0], [6, 2, 0], [8, 1, 0]]], // prettier-ignore
  ['Measure', 'Measure between two places', [[5, 0, 0]]],
  ['Dimension', 'Draw a dimension line', [[5, 0, 0], [8, 0, 0]]], // prettier-ignore
  ['Box', 'Draw a box', [[5, 0, 0], [8, 3, 0]]], // prettier-ignore
  ['Cylinder', 'Draw a cylinder', [[5, 0, 0], [8, 3, 0]]], // prettier-ignore
  ['Wedge', 'Draw a wedge', [[5, 0, 0], [8, 3, 0]]], // prettier-ignore
  ['Ball', 'Draw a ball', [[5, 0, 0]]],
  ['Prism', 'Draw a regular prism', [[5, 2, 0]]],
  ['Pyramid', 'Draw a pyramid', [[5, 0, 0], [8, 3, 0]]], // prettier-ignore
  ['Cone', 'Draw a cone', [[5, 0, 0], [8, 3, 0]]], // prettier-ignore
  ['Arch', 'Draw an arch', [[5, 0, 0], [8, 3, 0]]], // prettier-ignore
  ['Tube', 'Draw a tube', [[5, 0, 0], [8, 3, 0]]], // prettier-ignore
  ['Frame', 'Draw a frame', [[5, 0, 0], [8, 3, 0]]], // prettier-ignore
  ['Dome', 'Draw a dome', [[5, 0, 0]]],
  ['Star', 'Draw a star', [[5, 2, 0]]],
  ['Spiral', 'Draw a spiral', [[5, 2, 0]]],
];

/** Takes a tool by the finder. */
async function take(page: Page, title: string, find: string): Promise<void> {
  await page.keyboard.press('Control+K');
  const field = page.locator('chemin-finder input');
  await field.fill(find);
  await expect(page.locator('chemin-finder').getByRole('option').first()).toContainText(find);
  await field.press('Enter');
  await expect(page.locator('chemin-bench').getByRole('button', { name: new RegExp(`^${title}\\b`), pressed: true })).toBeVisible();
}

test('undo in the middle of a drawing tool takes back what is in hand, press by press, and nothing that is finished', async ({ page }) => {
  test.slow();
  const grid = await openEmpty(page);
  await rectangle(grid, page, [0, 0, 0], [2, 2, 0]);
  for (const [title, find, presses] of TOOLS) {
    await take(page, title, find);
    for (const place of presses) await grid.press(place);
    for (let i = 0; i < presses.length; i++) await page.keyboard.press('Control+Z');
    await expect(page.getByRole('button', { name: 'Type lengths' }), find).toBeHidden();
    await expect(count(page), find).toContainText('1');
    // Redo puts all of it back.
    for (let i = 0; i < presses.length; i++) await page.keyboard.press('Control+Shift+Z');
    for (let i = 0; i < presses.length; i++) await page.keyboard.press('Control+Z');
    await expect(count(page), find).toContainText('1');
  }
  // A guide by two places: the first in hand, then the guide itself.
  await take(page, 'Guide', 'Draw a guide');
  await page.getByRole('button', { name: 'Through two places' }).click();
  const guides = async (): Promise<number> => ((await storedOpen(page)).document as { guides?: unknown[] }).guides?.length ?? 0;
  await grid.press([5, 0, 0]);
  await expect(page.getByRole('button', { name: 'Type lengths' })).toBeVisible();
  await page.keyboard.press('Control+Z');
  await expect(page.getByRole('button', { name: 'Type lengths' })).toBeHidden();
  await expect(count(page)).toContainText('1');
  await grid.press([5, 0, 0]);
  await grid.press([8, 3, 0]);
  await expect.poll(guides).toBe(1);
  await page.keyboard.press('Control+Z');
  await expect.poll(guides).toBe(0);
  await expect(count(page)).toContainText('1');
  await page.keyboard.press('Control+Z');
  await expect(page.getByText('Nothing is drawn yet.')).toBeVisible();
});

const SVG = '<svg xmlns="http://www.w3.org/2000/svg" width="16mm" height="8mm" viewBox="0 0 16 8"><path fill="#c03040" d="M0 0H16V8H0Z"/></svg>';

test('artwork that is dropped lies where it was dropped, on solids with openings too, each of several in its own place', async ({ page }) => {
  const grid = await openEmpty(page);
  await take(page, 'Box', 'Draw a box');
  await grid.press([0, 0, 0]);
  await grid.press([8, 6, 0]);
  await page.keyboard.type('6');
  await page.keyboard.press('Enter');
  await expect(count(page)).toContainText('1');
  await take(page, 'Opening', 'Press an opening into a face');
  await grid.press([1, 0, 1]);
  await grid.press([3, 0, 4]);
  await page.keyboard.type('2');
  await page.keyboard.press('Enter');
  await kept(page, ({ nodes }) => expect(nodes[0]).toMatchObject({ kind: 'group', joined: 'take away' }));
  const files = ['one', 'two'].map((name) => ({ name: `${name}.svg`, mimeType: 'image/svg+xml', buffer: Buffer.from(SVG) }));
  const at = await grid.at([6, 0, 4]);
  await page.mouse.move(at.x, at.y);
  await drop(page, files, at);
  await kept(page, ({ nodes }) => {
    const placed = nodes.flatMap((node) => (node.kind === 'placement' ? [node] : []));
    expect(placed.map(({ target }) => target.kind)).toEqual(['face', 'face']);
    // In their own size, 16 x 8 mm in cells of 8 mm, the first about where it was dropped, the other elsewhere.
    expect(placed.map(({ anchor }) => [anchor.width, anchor.height])).toEqual([[2, 1], [2, 1]]); // prettier-ignore
    expect(Math.abs(placed[0]!.anchor.at.a + 1 - 6)).toBeLessThan(0.5);
    expect(placed[1]!.anchor.at).not.toEqual(placed[0]!.anchor.at);
  });
  await expect(page.getByText('Press a face to place it there.')).toBeHidden();
});
