import { readFileSync } from 'node:fs';
import { Resvg } from '@resvg/resvg-js';
import { PNG } from 'pngjs';
import type { Page } from '@playwright/test';
import { placedForm, type ShapeNode } from '../core/index';
import { difference, pdfPage } from '../core/testing/pictures';
import { Fingers } from './fingers';
import { expect, kept, openEmpty, test, type Place } from './support';

const DPI = 120;
const field = (page: Page, name: string): ReturnType<Page['getByRole']> => page.getByRole('textbox', { name, exact: true });

async function type(page: Page, name: string, text: string): Promise<void> {
  await field(page, name).fill(text);
  await field(page, name).press('Enter');
}

const shapes = (page: Page, holds: (shapes: readonly ShapeNode[]) => void): Promise<unknown> => kept(page, ({ nodes }) => holds(nodes as readonly ShapeNode[]));

async function exported(page: Page, name: string): Promise<string> {
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name, exact: true }).click();
  return (await download).path();
}

test('a star and a spiral by hand and by number: handles, measures, undo, and three painters that agree', async ({ page }) => {
  const grid = await openEmpty(page);
  await page.getByRole('button', { name: /^Star/ }).click();
  await page.keyboard.press('f');
  await grid.drag([5, 5, 0], [9, 5, 0]);
  await expect(field(page, 'Outer radius')).toHaveValue('4');
  await expect(field(page, 'Points').last()).toHaveValue('5');
  await field(page, 'Points').last().fill('7');
  await field(page, 'Points').last().press('Enter');
  await shapes(page, ([star]) => expect(star).toMatchObject({ form: { kind: 'star', points: 7, outer: 4, inner: 2 } }));
  await page.getByRole('button', { name: /^Pick 1/ }).click();
  // The first inner corner is a handle: its radius and its turn.
  const turn = Math.PI / 7;
  const from = await grid.at([5 + 2 * Math.cos(turn), 5 + 2 * Math.sin(turn), 0]);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  const to = await grid.at([6, 5.5, 0]);
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
  await shapes(page, ([star]) => expect((star!.form as { inner: number }).inner).toBeLessThan(1.5));
  await page.keyboard.press('Control+z');
  await shapes(page, ([star]) => expect(star!.form).toMatchObject({ inner: 2 }));
  await type(page, 'Points rounded', '0.2');
  await type(page, 'Inner corners rounded', '0.4');
  await type(page, 'Inner radius', '1.5');
  await shapes(page, ([star]) => expect(placedForm(star!.outline, star!.form!)).toMatchObject({ rounded: { outer: 0.2, inner: 0.4 }, form: { inner: 1.5 } }));
  await type(page, 'Inner radius', '0');
  await expect(page.getByText('At least 0.001.')).toBeVisible();
  await page.keyboard.press('Escape');

  // A spiral by number, on a wall, as a band with depth.
  await page.keyboard.press('Escape');
  await page
    .getByRole('button', { name: /^Spiral/ })
    .first()
    .click();
  await page.keyboard.press('r');
  await type(page, 'Band, 0 for a line', '0.5');
  await page.locator('.area').focus();
  await grid.press([7, 0, 7]);
  await grid.move([11, 0, 7]);
  await page.keyboard.type('5');
  await page.keyboard.press('Tab');
  await page.keyboard.type('0.5');
  await page.keyboard.press('Tab');
  await page.keyboard.type('2.5');
  await page.keyboard.press('Enter');
  await shapes(page, (all) => {
    expect(all).toHaveLength(2);
    expect(all[1]).toMatchObject({ form: { kind: 'spiral', turns: 2.5, outer: 5, inner: 0.5, band: 0.5 }, outline: { closed: true } });
  });
  await page.getByRole('button', { name: 'Turn the other way' }).click();
  await page.getByRole('button', { name: 'Growing', exact: true }).last().click();
  await expect(page.getByText('The band is narrower than the way from turn to turn.')).toHaveCount(0);
  await page.getByRole('button', { name: /^Pick 1/ }).click();

  // Around a point: three stops, the handle at its start.
  await page.getByRole('button', { name: 'star 1, floor', exact: true }).click();
  await page.getByRole('button', { name: 'Around a point', exact: true }).click();
  await expect(page.getByText('Drag “centre” and “start” on the shape')).toBeVisible();
  await shapes(page, ([star]) => expect(star!.paint.fill).toMatchObject({ kind: 'conic', stops: [{}, {}, {}] }));

  await page.getByRole('button', { name: 'Output', exact: true }).click();
  await field(page, 'Width')
    .last()
    .fill(String(Math.round((300 / 25.4) * DPI)));
  await page.keyboard.press('Enter');
  const png = PNG.sync.read(readFileSync(await exported(page, 'Export PNG')));
  const svgText = readFileSync(await exported(page, 'Export SVG'), 'utf8');
  const svg = PNG.sync.read(Buffer.from(new Resvg(svgText, { font: { loadSystemFonts: false }, fitTo: { mode: 'width', value: png.width } }).render().asPng()));
  const pdf = pdfPage(await exported(page, 'Export PDF'), DPI);
  for (const [pair, p, q] of [
    ['PNG and SVG', png, svg],
    ['PNG and PDF', png, pdf],
    ['SVG and PDF', svg, pdf],
  ] as const) {
    // prettier-ignore
    const share = difference(p, q, 0.06);
    console.log(`star, spiral and gradient, ${pair}: ${share.toFixed(3)} % of px differ`);
    expect(share).toBeLessThan(0.4);
  }
});

test('a star by the keyboard alone', async ({ page }) => {
  await openEmpty(page);
  await page.keyboard.press('Control+k');
  await page.locator('chemin-finder input').fill('draw a star');
  await page.keyboard.press('Enter');
  await page.locator('.area').focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await shapes(page, ([star]) => expect(star).toMatchObject({ form: { kind: 'star', points: 5, outer: 3 } }));
  await page.keyboard.press('Control+z');
  await shapes(page, (all) => expect(all).toEqual([]));
});

test.describe('by touch', () => {
  test.use({ hasTouch: true });

  test('a finger draws a star, moves its inner corners, and turns a gradient around its middle', async ({ page }) => {
    const grid = await openEmpty(page);
    const fingers = await Fingers.on(page);
    const drag = async (from: Place, to: Place): Promise<void> => {
      const [p, q] = [await grid.at(from), await grid.at(to)];
      await fingers.put(p);
      await fingers.move({ x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 });
      await fingers.move(q);
      await fingers.lift();
    };
    await page.getByRole('button', { name: /^Star/ }).tap();
    await page.keyboard.press('f');
    await drag([5, 5, 0], [9, 5, 0]);
    await shapes(page, ([star]) => expect(star).toMatchObject({ form: { kind: 'star', points: 5, outer: 4, inner: 2 } }));
    await page.getByRole('button', { name: /^Pick 1/ }).tap();
    const turn = Math.PI / 5;
    await drag([5 + 2 * Math.cos(turn), 5 + 2 * Math.sin(turn), 0], [6, 5.5, 0]);
    await shapes(page, ([star]) => expect((star!.form as { inner: number }).inner).toBeLessThan(1.5));
    await page.getByRole('button', { name: 'Around a point', exact: true }).tap();
    const edge = ([star]: readonly ShapeNode[]): { readonly u: number; readonly v: number } => (star!.paint.fill as { edge: { u: number; v: number } }).edge;
    let from = { u: 0, v: 0 };
    await shapes(page, (all) => {
      expect((all[0]!.paint.fill as { kind: string }).kind).toBe('conic');
      from = edge(all);
    });
    await drag([from.u, from.v, 0], [5, 8, 0]);
    await shapes(page, (all) => expect(edge(all)).toMatchObject({ u: 5, v: 8 }));
  });
});
