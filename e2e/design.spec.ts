import { PNG } from 'pngjs';
import type { Page } from '@playwright/test';
import { doubleAreaOf, outlineSegments, ringsOf, type Gradient, type Outline, type ShapeNode } from '../core/index';
import { Hand } from './hand';
import { expect, openEmpty, storedDrawing, test } from './support';

const field = (page: Page, name: string): ReturnType<Page['getByRole']> => page.getByRole('textbox', { name, exact: true });
const button = (page: Page, name: string): ReturnType<Page['getByRole']> => page.getByRole('button', { name, exact: true });

async function shapes(page: Page, count: number): Promise<readonly ShapeNode[]> {
  let nodes: readonly ShapeNode[] = [];
  await expect(async () => {
    nodes = (await storedDrawing(page, 'Untitled drawing')).document.nodes as unknown as readonly ShapeNode[];
    expect(nodes).toHaveLength(count);
  }).toPass();
  return nodes;
}

const areaOf = (outline: Outline): number =>
  ringsOf(outline).reduce((sum, ring, i) => sum + (i === 0 ? 1 : -1) * Math.abs(doubleAreaOf(outlineSegments(ring))), 0) / 2;

/** Four fields of colour along the top of a picture as large as the sheet: 30 mm each. */
const COLOURS = ['#1b6c8c', '#9fd0dc', '#c2452d', '#f2c14e'] as const;

function picture(): Buffer {
  const png = new PNG({ width: 600, height: 400 });
  png.data.fill(255);
  for (let y = 0; y < 60; y++) {
    for (let x = 0; x < 240; x++) {
      const colour = COLOURS[Math.floor(x / 60)]!;
      png.data.set(
        [1, 3, 5].map((i) => parseInt(colour.slice(i, i + 2), 16)),
        4 * (y * 600 + x),
      );
    }
  }
  return PNG.sync.write(png);
}

test('a pennant emblem of six parts on the right wall, corners rounded, two gradients picked from a picture', async ({ page }) => {
  const grid = await openEmpty(page);
  const hand = new Hand(page, grid);
  const chooser = page.waitForEvent('filechooser');
  await page.keyboard.press('Control+k');
  await page.locator('chemin-finder input').waitFor();
  await page.keyboard.type('reference picture');
  await page.keyboard.press('Enter');
  await (await chooser).setFiles({ name: 'harbour.png', mimeType: 'image/png', buffer: picture() });
  hand.gestures++;
  await button(page, 'Draw').click();

  // The plate, its rim, the pole, the pennant, a stripe on it, and the knob.
  await hand.tool('r');
  await hand.tool('3');
  await hand.press(1, 0, 0);
  await hand.press(13, 0, 11);
  await hand.type('Round corners', '2');
  await hand.tool('3');
  await hand.press(2, 0, 1);
  await hand.press(12, 0, 10);
  await hand.type('Round corners', '1.5');
  await hand.tool('3');
  await hand.press(4, 0, 2);
  await grid.move([5, 0, 9]);
  await hand.measures('0.5', '7');
  await hand.tool('2');
  for (const [a, h] of [[5, 8], [11, 6], [5, 4]] as const) await hand.press(a, 0, h); // prettier-ignore
  await hand.key('Enter');
  await hand.type('Round corners', '0.5');
  await hand.tool('2');
  for (const [a, h] of [[5, 7], [8, 6], [5, 5]] as const) await hand.press(a, 0, h); // prettier-ignore
  await hand.key('Enter');
  await hand.tool('5');
  await hand.press(4, 0, 9);
  await grid.move([5, 0, 9]);
  await hand.measures('0.75');
  await shapes(page, 6);

  // Two gradients: the pennant's across it, the plate's from its middle.
  await hand.tool('1');
  await button(page, 'outline 1, right wall').click();
  await hand.button('Linear');
  await hand.button('Pick Stop 1 from the drawing');
  await hand.sheet(15, 15);
  await hand.button('Pick Stop 2 from the drawing');
  await hand.sheet(45, 15);
  await button(page, 'rectangle 1, right wall').click();
  await hand.button('Radial');
  await hand.button('Pick Stop 1 from the drawing');
  await hand.sheet(75, 15);
  await hand.button('Pick Stop 2 from the drawing');
  await hand.sheet(105, 15);
  hand.gestures += 2;

  await expect(async () => {
    const nodes = await shapes(page, 6);
    const stops = (name: string): string[] => (nodes.find((n) => n.name === name)!.paint.fill as Gradient).stops.map((s) => s.colour);
    expect(stops('outline 1, right wall')).toEqual([COLOURS[0], COLOURS[1]]);
    expect(stops('rectangle 1, right wall')).toEqual([COLOURS[2], COLOURS[3]]);
    expect(nodes.every((n) => n.plane.kind === 'right' && n.plane.offset === 0)).toBe(true);
    expect(nodes[0]!.outline.points.map((p) => p.corner?.size)).toEqual([2, 2, 2, 2]);
    expect(nodes[3]!.outline.points.map((p) => p.corner?.size)).toEqual([0.5, 0.5, 0.5]);
    // Rounding by a radius takes r^2 (4 - pi) off a box.
    expect(areaOf(nodes[0]!.outline)).toBeCloseTo(12 * 11 - 4 * (4 - Math.PI), 9);
  }).toPass();
  console.log(`pennant emblem of six parts with two gradients: ${hand.gestures} gestures`);
  expect(hand.gestures).toBeLessThan(60);

  // The gradient's own end is taken and moved in the wall.
  await page.locator('.area').focus();
  await button(page, 'outline 1, right wall').click();
  const pennant = (await shapes(page, 6)).find((n) => n.name === 'outline 1, right wall')!;
  const { to } = pennant.paint.fill as Extract<Gradient, { kind: 'linear' }>;
  await grid.drag([to.u, 0, to.v], [9, 0, 6]);
  await expect(async () => {
    const now = (await shapes(page, 6)).find((n) => n.name === 'outline 1, right wall')!;
    expect((now.paint.fill as Extract<Gradient, { kind: 'linear' }>).to).toEqual({ u: 9, v: 6 });
  }).toPass();
});

/** Lettering as paths: an L and a T, read from left to right, in px of 96 to the inch. */
const LETTERS = `<svg xmlns="http://www.w3.org/2000/svg" width="150" height="40" viewBox="0 0 150 40">
<path id="L" d="M0 0H10V30H40V40H0Z" fill="#f1ede5"/><path id="T" d="M50 0H90V10H75V40H65V10H50Z" fill="#f1ede5"/></svg>`;

async function paste(page: Page, text: string): Promise<void> {
  await page.evaluate((svg) => {
    const data = new DataTransfer();
    data.setData('text/plain', svg);
    document.querySelector('.area')!.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  }, text);
}

test('the front of a bank of luggage lockers typed in mm, with a sign, goes to the other wall and stays readable', async ({ page }) => {
  const grid = await openEmpty(page);
  const hand = new Hand(page, grid);
  await hand.tool('r');
  await hand.tool('3');
  await hand.press(0, 0, 0);
  await grid.move([6, 0, 5]);
  // Given: 120 mm in all, two rows of doors 24 mm high, gaps of 4 mm, margins of 6 mm; nothing is computed by hand.
  await hand.measures('120 mm', '2*24+4+2*6 mm');
  await page.getByText('Divide the rectangle').click();
  await field(page, 'Columns').fill('5');
  await field(page, 'Rows').fill('2');
  await hand.type('Gap', '4 mm');
  await hand.type('Margin', '6 mm');
  await hand.button('Divide');
  let nodes = await shapes(page, 11);
  const doors = nodes.slice(1);
  // (120 - 2 x 6 - 4 x 4) / 5 = 18.4 mm, to the tick; 24 mm high.
  for (const door of doors) {
    const [p, , q] = door.outline.points;
    expect((q!.u - p!.u) * 8).toBeCloseTo(18.4, 3);
    expect((q!.v - p!.v) * 8).toBeCloseTo(24, 3);
  }
  expect(doors[4]!.outline.points[1]!.u * 8).toBeCloseTo(114, 3);

  // The sign over them, and its lettering pasted, laid over it and centred.
  await hand.tool('3');
  await hand.press(0, 0, 9);
  await grid.move([6, 0, 10]);
  await hand.measures('120 mm', '12 mm');
  await hand.tool('1');
  await paste(page, LETTERS);
  hand.gestures++;
  nodes = await shapes(page, 14);
  const [l] = nodes.slice(12);
  const corner = l!.outline.points[0]!;
  await grid.drag([corner.u + 0.45, 0, corner.v - 1.24], [5.45, 0, 9.16]);
  hand.gestures++;
  await hand.button('Centre on rectangle 2, right wall');
  const readOn = (all: readonly ShapeNode[]): number[][] => {
    // Right along u, against it on the left wall; measured from the left end of everything.
    const x = (n: ShapeNode, u: number): number => (n.plane.kind === 'left' ? -u : u);
    const least = Math.min(...all.flatMap((n) => n.outline.points.map((p) => x(n, p.u))));
    return all.map((n) => n.outline.points.flatMap((p) => [Math.round((x(n, p.u) - least) * 25_200), Math.round(p.v * 25_200)]));
  };
  await expect(async () => {
    const letters = (await shapes(page, 14)).slice(12).flatMap((n) => n.outline.points.map((p) => p.u));
    expect((Math.min(...letters) + Math.max(...letters)) / 2).toBeCloseTo(120 / 8 / 2, 3);
  }).toPass();
  const before = await shapes(page, 14);

  await page.locator('.area').focus();
  await hand.key('Control+a');
  await hand.button('to the left wall');
  await expect(async () => {
    const after = await shapes(page, 14);
    expect(after.every((n) => n.plane.kind === 'left')).toBe(true);
    expect(readOn(after)).toEqual(readOn(before));
  }).toPass();
  console.log(`bank of ten lockers with a sign, to the other wall: ${hand.gestures} gestures`);
  expect(hand.gestures).toBeLessThan(26);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await shapes(page, 14))[3]!.plane.kind).toBe('right');
});

test('loose lines become faces with one press each; what is loose is listed, cut away and extended', async ({ page }) => {
  const grid = await openEmpty(page);
  const hand = new Hand(page, grid);
  await hand.tool('4');
  const lines = [[0, 0, 12, 0], [0, 8, 12, 8], [1, -1, 1, 9], [11, -1, 11, 8], [6, 0, 6, 8], [6, 4, 10, 4]] as const; // prettier-ignore
  for (const [a, b, c, d] of lines) {
    await hand.press(a, b);
    await hand.press(c, d);
  }
  await shapes(page, 6);
  // The last line ends before the wall at 11: extended to it, and what sticks out at the corner is cut away.
  await hand.tool('Shift+Digit5');
  await hand.press(9.6, 4);
  await hand.tool('Shift+Digit4');
  await hand.press(1, -0.6);
  await hand.tool('Shift+Digit3');
  await expect(page.getByRole('region', { name: 'Loose ends' }).getByRole('listitem').first()).toBeVisible();
  const before = await page.getByRole('region', { name: 'Loose ends' }).getByRole('listitem').count();
  for (const [a, b] of [[3, 3], [8, 2], [8, 6]] as const) await hand.press(a, b); // prettier-ignore
  const nodes = await shapes(page, 9);
  expect(nodes.filter((n) => n.outline.closed).map((n) => areaOf(n.outline)).sort((p, q) => p - q)).toEqual([20, 20, 40]); // prettier-ignore
  // Regions lie under the lines that enclose them.
  expect(nodes.slice(0, 3).every((n) => n.outline.closed)).toBe(true);
  expect(before).toBeGreaterThan(3);
  await hand.press(14, 3);
  await expect(page.locator('chemin-pointer-words')).toContainText('no line goes all round here');
  console.log(`three faces from six loose lines: ${hand.gestures} gestures`);
});

test('a length of 11 is corrected to 10 by typing, and it is shown which end moves', async ({ page }) => {
  const grid = await openEmpty(page);
  const hand = new Hand(page, grid);
  await hand.tool('r');
  await hand.tool('3');
  await hand.press(2, 0, 1);
  await hand.press(13, 0, 6);
  hand.gestures = 0;
  await hand.tool('1');
  // The bar in the middle of the lower edge.
  await hand.press(7.5, 0, 1);
  await expect(field(page, 'Edge length')).toHaveValue('11');
  await expect(button(page, 'its end moves')).toHaveAttribute('aria-pressed', 'true');
  await hand.type('Edge length', '10');
  await expect.poll(async () => (await shapes(page, 1))[0]!.outline.points.map((p) => `${p.u} ${p.v}`)).toEqual(['2 1', '12 1', '12 6', '2 6']);
  console.log(`11 corrected to 10: ${hand.gestures} gestures`);
  await page.keyboard.press('Control+z');
  await button(page, 'its start moves').click();
  await hand.type('Edge length', '10');
  await expect.poll(async () => (await shapes(page, 1))[0]!.outline.points.map((p) => `${p.u} ${p.v}`)).toEqual(['3 1', '13 1', '13 6', '3 6']);
});
