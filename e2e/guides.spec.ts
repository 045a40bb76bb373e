import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import type { Guide } from '../core/index';
import { Fingers } from './fingers';
import { expect, kept, openEmpty, test } from './support';

const field = (page: Page, name: string): ReturnType<Page['getByRole']> => page.getByRole('textbox', { name, exact: true });
const button = (page: Page, name: string | RegExp): ReturnType<Page['getByRole']> => page.getByRole('button', { name, exact: typeof name === 'string' });

async function find(page: Page, words: string): Promise<void> {
  await page.keyboard.press('Control+K');
  await page.locator('chemin-finder input').fill(words);
  await expect(page.locator('chemin-finder').getByRole('option').first()).toContainText(words);
  await page.keyboard.press('Enter');
}

const guides = (page: Page, holds: (guides: readonly Guide[]) => void): Promise<unknown> => kept(page, (document) => holds(document.guides ?? []));

/** The ruler along the top, or down the left. */
async function ruler(page: Page, side: 'across' | 'down'): Promise<{ x: number; y: number }> {
  const box = (await page.locator(`chemin-rulers .${side}`).boundingBox())!;
  return { x: box.x + (side === 'across' ? 300 : 9), y: box.y + (side === 'across' ? 9 : 300) };
}

test('guides are pulled out of the rulers, drawn, caught, moved by number, locked, hidden, and handed over when asked for', async ({ page }) => {
  const grid = await openEmpty(page);
  await find(page, 'Show or hide the rulers');
  await page.keyboard.press('f');
  // Out of the ruler along the top: a guide along a, where it is let go.
  const from = await ruler(page, 'across');
  const to = await grid.at([4, 3, 0]);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 5 });
  await page.mouse.up();
  await guides(page, (all) => expect(all).toMatchObject([{ name: 'guide 1', plane: { kind: 'floor' }, at: { v: 3 }, along: { u: 1, v: 0 } }]));
  // Let go over the ruler again, it is dropped.
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 3 });
  await page.mouse.move(from.x, from.y, { steps: 3 });
  await page.mouse.up();
  await guides(page, (all) => expect(all).toHaveLength(1));

  await find(page, 'Draw a guide');
  await button(page, 'Along b').first().click();
  await grid.press([5, 0, 0]);
  await button(page, 'Choose guide 2').click();
  await field(page, 'Position along a').fill('20 mm');
  await page.keyboard.press('Enter');
  await guides(page, (all) => expect(all[1]).toMatchObject({ at: { u: 2.5 }, along: { u: 0, v: 1 } }));
  // They are caught: a line between their crossing and a place along one of them.
  await page.locator('.area').focus();
  await page.keyboard.press('4');
  await grid.move([2.6, 2.95, 0], 0);
  await expect(page.locator('chemin-pointer-words')).toContainText('intersection');
  await page.keyboard.press('Escape');

  await button(page, 'Lock guide 2').click();
  await expect(page.getByText('It is locked: unlock it to move it.')).toBeVisible();
  await button(page, 'Hide guide 1').click();
  await guides(page, (all) => expect(all.map(({ hidden, locked }) => [hidden, locked])).toEqual([[true, false], [false, true]])); // prettier-ignore
  await page.keyboard.press('Control+z');
  await guides(page, (all) => expect(all[0]!.hidden).toBe(false));

  // By the keyboard alone: a guide through the middle of the plane.
  await find(page, 'Draw a guide');
  await button(page, 'Out of the plane').click();
  await page.locator('.area').focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await guides(page, (all) => expect(all[2]).toMatchObject({ along: 'out' }));
  await button(page, 'Use the dark theme').click();

  // Thirds of the sheet in one press.
  await button(page, 'Divide a face').click();
  await field(page, 'Divided in').fill('3');
  const corner = await grid.at([0, 0, 0]);
  await page.mouse.click(corner.x, corner.y);
  await guides(page, (all) => expect(all.slice(3).map(({ at }) => [at.u, at.v])).toEqual([[0, 200 / 24], [0, 400 / 24], [12.5, 0], [25, 0]].map(([u, v]) => [expect.closeTo(u!, 4), expect.closeTo(v!, 4)]))); // prettier-ignore

  await button(page, 'Output').click();
  const exported = async (): Promise<string> => {
    const download = page.waitForEvent('download');
    await button(page, 'Export SVG').click();
    return readFileSync(await (await download).path(), 'utf8');
  };
  expect(await exported()).not.toContain('guide');
  await page.getByRole('switch', { name: 'Guides' }).click();
  const svg = await exported();
  expect(svg.match(/<title>guide \d<\/title>/g)).toHaveLength(7);
  expect(svg).toContain('stroke-dasharray');
  await find(page, 'Remove all guides');
  await expect(page.getByText('1 locked guide was kept')).toBeVisible();
  await guides(page, (all) => expect(all).toHaveLength(1));
});

test.describe('by touch', () => {
  test.use({ hasTouch: true });

  test('a finger pulls a guide out of a ruler, and sets one with the tool', async ({ page }) => {
    const grid = await openEmpty(page);
    await find(page, 'Show or hide the rulers');
    await page.keyboard.press('f');
    const fingers = await Fingers.on(page);
    const [from, to] = [await ruler(page, 'down'), await grid.at([4, 3, 0])];
    await fingers.put(from);
    await fingers.move({ x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 });
    await fingers.move(to);
    await fingers.lift();
    await guides(page, (all) => expect(all).toMatchObject([{ along: { u: 0, v: 1 }, at: { u: 4 } }]));
    await find(page, 'Draw a guide');
    await fingers.put(await grid.at([6, 1, 0]));
    await fingers.lift();
    await guides(page, (all) => expect(all[1]).toMatchObject({ along: { u: 1, v: 0 }, at: { v: 1 } }));
  });
});
