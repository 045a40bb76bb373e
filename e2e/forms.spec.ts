import type { Page } from '@playwright/test';
import { equalSteps, projectionFrom, sheetFromWorld, vanishingPoints, type PerspectiveSetup, type ShapeNode } from '../core/index';
import { expect, openEmpty, storedDrawing, test } from './support';

const field = (page: Page, name: string): ReturnType<Page['getByRole']> => page.getByRole('textbox', { name, exact: true });

async function type(page: Page, name: string, text: string): Promise<void> {
  await field(page, name).fill(text);
  await field(page, name).press('Enter');
}

async function shapes(page: Page, count: number): Promise<readonly ShapeNode[]> {
  let nodes: readonly ShapeNode[] = [];
  await expect(async () => {
    nodes = (await storedDrawing(page, 'Untitled drawing')).document.nodes as unknown as readonly ShapeNode[];
    expect(nodes).toHaveLength(count);
  }).toPass();
  return nodes;
}

test('circle, ellipse, polygon, arc, line and curve by hand and by number, corners rounded, points moved', async ({ page }) => {
  const grid = await openEmpty(page);
  let gestures = 0;
  const press = async (a: number, b: number, h = 0): Promise<void> => {
    await grid.press([a, b, h]);
    gestures++;
  };
  await page.keyboard.press('r');
  await page.keyboard.press('5');
  await press(4, 0, 5);
  await grid.move([6, 0, 5]);
  await expect(page.locator('chemin-pointer-words')).toContainText('radius 2\u2009cells, 16\u2009mm');
  await page.keyboard.type('20 mm');
  await page.keyboard.press('Enter');
  await expect(field(page, 'Radius')).toHaveValue('2.5');
  await page.locator('.area').focus();
  await page.keyboard.press('3');
  await press(9, 0, 1);
  await press(15, 0, 7);
  await type(page, 'Round corners', '(2+1)/2');
  await page.locator('.area').focus();
  await page.keyboard.press('f');
  await page.keyboard.press('6');
  await grid.drag([2, 4, 0], [8, 8, 0]);
  gestures++;
  await page.keyboard.press('7');
  await page.getByRole('textbox', { name: 'Sides' }).fill('5');
  await page.keyboard.press('Enter');
  await page.locator('.area').focus();
  await press(10, 6, 0);
  await press(12, 6, 0);
  await page.keyboard.press('8');
  await press(2, 10);
  await press(8, 10);
  await press(5, 13);
  await page.keyboard.press('9');
  await press(10, 9);
  await press(12, 12);
  await press(14, 9);
  await page.keyboard.press('Escape');
  await page.keyboard.press('4');
  await press(0, 2, 0);
  await press(0, 9, 0);
  console.log(`${gestures} presses and drags for seven forms`);
  const nodes = await shapes(page, 7);
  expect(nodes.map((n) => n.name)).toEqual([
    'circle 1, right wall',
    'rectangle 1, right wall',
    'ellipse 1, floor',
    'polygon 1, floor',
    'arc 1, floor',
    'curve 1, floor',
    'line 1, floor',
  ]);
  expect(nodes[1]!.outline.points.every((p) => p.corner?.size === 1.5)).toBe(true);
  expect(nodes[2]!.outline.points[0]).toMatchObject({ u: 8, v: 6 });

  // A length of 7 corrected to 10 by typing; a point dragged with snapping; one step each.
  await page.keyboard.press('1');
  await expect(field(page, 'Length along b')).toHaveValue('7');
  await type(page, 'Length along b', '10');
  await page.getByRole('button', { name: 'line 1, floor', exact: true }).click();
  await grid.drag([0, 2, 0], [2, 2, 0]);
  await expect(field(page, 'Length along a')).toHaveValue('2');
  await page.keyboard.press('Control+z');
  await expect(field(page, 'Length along a')).toHaveValue('0');
  await expect(field(page, 'Length along b')).toHaveValue('10');
});

test('a row of nine lamps in equal true steps in two-point perspective recedes by the cross-ratio', async ({ page }) => {
  const grid = await openEmpty(page);
  await page.keyboard.press('r');
  await page.keyboard.press('5');
  await grid.press([1, 0, 6]);
  await grid.press([2, 0, 6]);
  await page.getByRole('button', { name: 'Projection', exact: true }).first().click();
  await page.getByRole('button', { name: 'two-point perspective', exact: true }).click();
  await page.getByRole('button', { name: 'Draw', exact: true }).click();
  await page.getByRole('button', { name: 'circle 1, right wall', exact: true }).click();
  await page.getByText('Repeat', { exact: true }).click();
  await type(page, 'Copies', '8');
  await type(page, 'Step along a', '3');
  await page.getByRole('button', { name: 'Make the row' }).click();
  const nodes = await shapes(page, 9);
  const stored = (await storedDrawing(page, 'Untitled drawing')).document;
  const setup = stored['projection'] as PerspectiveSetup;
  const projection = projectionFrom(setup);
  const centres = nodes.map((n) => sheetFromWorld(projection, { a: ((n.outline.points[0]!.u + n.outline.points[2]!.u) / 2) * 8, b: 0, h: 48 })!);
  const expected = equalSteps(centres[0]!, centres[8]!, vanishingPoints(setup).a, 8)!;
  let most = 0;
  centres.forEach((p, i) => (most = Math.max(most, Math.hypot(p.x - expected[i]!.x, p.y - expected[i]!.y))));
  console.log(`nine lamps: at most ${most.toExponential(1)} mm from the cross-ratio’s places`);
  expect(most).toBeLessThan(1e-9);
  const gaps = centres.slice(1).map((p, i) => Math.hypot(p.x - centres[i]!.x, p.y - centres[i]!.y));
  for (let i = 1; i < gaps.length; i++) expect(gaps[i]!).toBeLessThan(gaps[i - 1]!);

  // To the other wall, all nine as one step, each in its true size.
  await page.locator('.area').focus();
  await page.keyboard.press('Control+a');
  await page.getByRole('group', { name: 'To another plane' }).getByRole('button', { name: 'to the left wall' }).click();
  await expect(async () => {
    const moved = (await storedDrawing(page, 'Untitled drawing')).document.nodes as unknown as readonly ShapeNode[];
    expect(moved.every((n) => n.plane.kind === 'left' && n.plane.offset === moved[0]!.plane.offset)).toBe(true);
    expect(moved.map((n) => n.outline.points[0]!.u - n.outline.points[2]!.u)).toEqual(new Array(9).fill(-2));
    // Read from left to right they stand in the same order: on the left wall that is against b.
    for (let i = 1; i < 9; i++) expect(moved[i]!.outline.points[0]!.u - moved[i - 1]!.outline.points[0]!.u).toBe(-3);
  }).toPass();
  await page.keyboard.press('Control+z');
  expect((await shapes(page, 9)).length).toBe(9);
});
