import type { Page } from '@playwright/test';
import type { CheminDocument, ShapeNode } from '../core/index';
import { Fingers } from './fingers';
import { expect, kept, openEmpty, test } from './support';

const field = (page: Page, name: string): ReturnType<Page['getByRole']> => page.getByRole('textbox', { name, exact: true });
const button = (page: Page, name: string): ReturnType<Page['getByRole']> => page.getByRole('button', { name, exact: true });
const trial = (page: Page, holds: (trial: CheminDocument['trial']) => void): Promise<unknown> => kept(page, (document) => holds(document.trial));

test('a trial box is set up, dragged, kept while the projection changes, taken back, and drawn by one press', async ({ page }) => {
  const grid = await openEmpty(page);
  await page.getByRole('button', { name: 'Projection', exact: true }).first().click();
  await page.getByRole('button', { name: /^Projection 2/ }).click();
  await button(page, 'Set up a trial box').click();
  for (const [name, value] of [
    ['Extent along a', '5'],
    ['Extent along b', '4'],
    ['Extent along h', '3'],
    ['From a', '2'],
    ['From b', '1'],
  ] as const) {
    // prettier-ignore
    await field(page, name).fill(value);
    await field(page, name).press('Enter');
  }
  await trial(page, (box) => expect(box).toEqual({ at: { a: 2, b: 1, h: 0 }, size: { a: 5, b: 4, h: 3 } }));
  // The far corner on the floor along a; the top along h.
  await grid.drag([7, 1, 0], [9, 1, 0]);
  await trial(page, (box) => expect(box).toMatchObject({ size: { a: 7, b: 4, h: 3 } }));
  await grid.drag([2, 1, 3], [2, 1, 6]);
  await trial(page, (box) => expect(box).toMatchObject({ size: { a: 7, b: 4, h: 6 } }));
  await page.keyboard.press('Control+z');
  await trial(page, (box) => expect(box).toMatchObject({ size: { a: 7, b: 4, h: 3 } }));
  await button(page, 'two-point perspective').click();
  await trial(page, (box) => expect(box).toEqual({ at: { a: 2, b: 1, h: 0 }, size: { a: 7, b: 4, h: 3 } }));
  await page.mouse.move(700, 720);
  await button(page, 'Use the dark theme').click();
  await page.reload();
  await page.getByRole('button', { name: 'Projection', exact: true }).first().click();
  await page.getByRole('button', { name: /^Projection 2/ }).click();
  await expect(field(page, 'Extent along a')).toHaveValue('7');
  await button(page, 'Draw it').click();
  await kept(page, (document) => {
    expect(document).not.toHaveProperty('trial');
    expect(document.nodes[0] as ShapeNode).toMatchObject({ name: 'box 1, floor', solid: 'box', depth: 3, plane: { kind: 'floor', offset: 0 } });
  });
  await expect(button(page, 'box 1, floor')).toBeVisible();
});

test.describe('by touch', () => {
  test.use({ hasTouch: true });

  test('a finger drags a corner of the trial box', async ({ page }) => {
    const grid = await openEmpty(page);
    await page.keyboard.press('Control+K');
    await page.locator('chemin-finder input').fill('Set up a trial box');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Projection', exact: true }).first().click();
    await trial(page, (box) => expect(box).toBeDefined());
    const { at, size } = (await kept(page, () => undefined)).trial!;
    const fingers = await Fingers.on(page);
    const from = await grid.at([at.a + size.a, at.b, 0]);
    const to = await grid.at([at.a + size.a + 3, at.b, 0]);
    await fingers.put(from);
    await fingers.move({ x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 });
    await fingers.move(to);
    await fingers.lift();
    await trial(page, (box) => expect(box!.size).toEqual({ ...size, a: size.a + 3 }));
  });
});
