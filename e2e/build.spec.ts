import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { PNG } from 'pngjs';
import { begin, BuildHand, things } from './build-hand';
import { expect, goOffline, Grid, test, within } from './support';

/** How many px of the drawing have other colours after something is done. */
async function changed(page: Page, act: () => Promise<void>): Promise<number> {
  const area = page.locator('.area canvas').first();
  // The px stay in the page: carrying them out of it takes longer than all else.
  const before = await area.evaluateHandle((canvas) => {
    const { width, height } = canvas as HTMLCanvasElement;
    return (canvas as HTMLCanvasElement).getContext('2d')!.getImageData(0, 0, width, height).data;
  });
  await act();
  return area.evaluate((canvas, old) => {
    const { width, height } = canvas as HTMLCanvasElement;
    const now = (canvas as HTMLCanvasElement).getContext('2d')!.getImageData(0, 0, width, height).data;
    return now.reduce((count, n, i) => count + (i % 4 !== 3 && Math.abs(n - old[i]!) > 12 ? 1 : 0), 0);
  }, before);
}

test('a kiosk with an opening with inner walls, a counter, a sloping awning and a frame for its roof', async ({ page }) => {
  const hand = await begin(page);
  await hand.tool('Box');
  await hand.drag([0, 0, 0], [8, 5, 0]);
  await hand.press([8, 5, 6]);
  await hand.tool('Opening');
  await hand.drag([1, 0, 2], [6, 0, 5]);
  await hand.press([6, 2, 5]);
  await things(page, (nodes) => nodes.length === 1 && nodes[0]!.joined === 'take away');
  // The counter stands out of the front under the opening.
  await hand.tool('Box');
  await hand.drag([1, 0, 1], [6, 0, 2]);
  await hand.press([6, -1, 2]);
  await hand.tool('Frame');
  await hand.drag([0, 0, 6], [8, 5, 6]);
  await hand.press([8, 5, 7]);
  await hand.tool('Wedge');
  await hand.press([0, -3, 0]);
  await page.keyboard.type('8');
  await page.keyboard.press('Tab');
  await page.keyboard.type('3');
  await page.keyboard.press('Tab');
  await page.keyboard.type('2');
  await hand.key('Enter');
  const nodes = await things(page, (list) => list.length === 4);
  console.log(`a kiosk: ${hand.gestures} gestures`);
  expect(hand.gestures).toBeLessThanOrEqual(45);
  expect(nodes.map(({ name }) => name)).toEqual(['box 1, floor', 'box 2, right wall', 'frame 1, floor', 'wedge 1, floor']);
  await expect(page.locator('chemin-messages')).toHaveCount(0);
});

test('an opening made wider and a frame thicker later take one gesture each', async ({ page }) => {
  const hand = await begin(page);
  await hand.tool('Box');
  await hand.drag([0, 0, 0], [8, 5, 0]);
  await hand.press([8, 5, 6]);
  await hand.tool('Opening');
  await hand.drag([1, 0, 2], [4, 0, 5]);
  await hand.press([4, 2, 5]);
  await things(page, (nodes) => nodes[0]?.joined !== undefined);
  await hand.tool('Frame');
  await hand.drag([0, 0, 6], [8, 5, 6]);
  await hand.press([8, 5, 7]);
  await hand.tool('Pick');
  hand.gestures = 0;
  // Pressed twice on one of its walls, the opening is chosen, and its width typed.
  await hand.twice([2, 1, 2]);
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('opening 1');
  const more = await changed(page, async () => {
    await hand.fill('Width', '6');
    await page.waitForTimeout(600);
  });
  expect(more).toBeGreaterThan(400);
  expect(hand.gestures).toBeLessThanOrEqual(2);
  await page.getByRole('button', { name: 'frame 1, floor', exact: true }).click();
  hand.gestures = 0;
  await hand.fill('Height', '2');
  expect(hand.gestures).toBeLessThanOrEqual(2);
  await things(page, (nodes) => nodes.some(({ name, depth }) => name.startsWith('frame') && depth === 2));
});

test('solids are joined, taken apart, turned and dropped, each one step that can be undone', async ({ page }) => {
  const hand = await begin(page);
  await hand.tool('Box');
  await hand.drag([0, 0, 0], [4, 4, 0]);
  await hand.press([4, 4, 3]);
  await hand.tool('Cylinder');
  await page.getByText('Stands on the face under the pointer').click();
  await hand.drag([2, 2, 0], [6, 6, 0]);
  await hand.press([6, 6, 5]);
  await page.getByRole('button', { name: 'box 1, floor', exact: true }).click({ modifiers: ['Control'] });
  await hand.tool('Pick');
  await hand.click('Take away');
  await things(page, (nodes) => nodes[0]?.joined === 'take away' && nodes[0].children?.length === 2);
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('cut solid 1');
  await hand.click('Quarter turn about a');
  await things(page, (nodes) => nodes[0]?.children?.[0]?.plane?.kind === 'right');
  await hand.click('Drop to the floor');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await things(page, (nodes) => nodes[0]?.children?.[0]?.plane?.kind === 'floor');
  await page.keyboard.press('Control+Shift+b');
  await things(page, (nodes) => nodes.length === 2 && nodes.every(({ joined }) => joined === undefined));
});

test('an object is kept by name and dropped into another drawing at its true size', async ({ page }) => {
  const hand = await begin(page);
  await hand.tool('Cylinder');
  await hand.drag([0, 0, 0], [2, 2, 0]);
  await hand.press([2, 2, 3]);
  await hand.tool('Pick');
  await page.getByLabel('Name of the object').fill('bollard');
  await hand.click('Keep the selection');
  await expect(page.getByRole('button', { name: 'Drop bollard into the drawing' })).toBeVisible();
  const file = page.waitForEvent('download');
  await hand.click('Export bollard');
  expect((await file).suggestedFilename()).toBe('bollard.chemin-object');
  await page.getByRole('button', { name: 'Drawings', exact: true }).click();
  await page.getByRole('button', { name: 'New drawing' }).click();
  await expect(page.getByText('Nothing is drawn yet.')).toBeVisible();
  await hand.click('Drop bollard into the drawing');
  const [node] = await things(page, (nodes) => nodes.length === 1);
  expect(node).toMatchObject({ kind: 'shape', solid: 'cylinder', depth: 3 });
  await hand.click('Delete bollard');
  await expect(page.getByRole('button', { name: 'Drop bollard into the drawing' })).toHaveCount(0);
});

test('things are set down on top of others, and all edges are seen by looking through', async ({ page }) => {
  const hand = await begin(page);
  await hand.tool('Box');
  await hand.drag([0, 0, 0], [6, 6, 0]);
  await hand.press([6, 6, 3]);
  await hand.tool('Ball');
  await hand.drag([-6, 2, 0], [-4, 4, 0]);
  await hand.tool('Set down');
  const [from, to] = [await hand.grid.at([-5, 3, 1]), await hand.grid.at([3, 3, 3])];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await expect(page.getByText('on top of box 1, floor')).toBeVisible();
  await page.mouse.up();
  await things(page, (nodes) => nodes[1]?.plane?.kind === 'floor' && (nodes[1] as unknown as { plane: { offset: number } }).plane.offset === 3);
  const more = await changed(page, async () => {
    await page.keyboard.press('e');
    await page.waitForTimeout(300);
  });
  expect(more).toBeGreaterThan(500);
});

test('a low bank of lockers with two compartments, feet and a centred pull, moved to the other wall', async ({ page }) => {
  const hand = await begin(page);
  hand.gestures++;
  // A foot of 1 by 1 by 1 cell in each corner of 12 by 5.
  await hand.tool('Box');
  for (const [a, b] of [
    [0, 0],
    [11, 0],
    [0, 4],
    [11, 4],
  ] as const) {
    await hand.press([a, b, 0]);
    await hand.measures('1', '1', '1');
  }
  // The bank from foot to foot, 5 high; it stands on them.
  await hand.drag([0, 0, 1], [12, 5, 1]);
  await hand.measures('5');
  await hand.tool('Opening');
  await hand.drag([1, 0, 2], [5, 0, 5]);
  await hand.measures('4');
  await hand.drag([7, 0, 2], [11, 0, 5]);
  await hand.measures('4');
  await things(page, (nodes) => nodes.some(({ joined, children }) => joined === 'take away' && children?.length === 3));
  // A pull in the middle of the front, a cell out of it.
  await hand.tool('Box');
  await hand.press([5, 0, 3]);
  await hand.measures('0.5', '2', '0.5');
  await hand.tool('Pick');
  await hand.click('box 5, floor', { modifiers: ['Control'] });
  await hand.click('Middle along a');
  await hand.key('Control+a');
  await hand.click('To the other wall');
  await things(page, (list) => list.length === 6 && list[0]!.plane?.kind === 'floor' && list.at(-1)!.plane?.kind === 'left');
  within(36, 'low lockers with two compartments, to the other wall', hand);
  await expect(page.locator('chemin-messages')).toHaveCount(0);
});

test('steps with rails, three bollards in a row and a lantern on a pole', async ({ page }) => {
  const hand = await begin(page);
  await hand.tool('Steps');
  await hand.press([0, 0, 0]);
  await hand.measures('4', '6', '3');
  // Two posts on the first and the last step, and a round rail over them that rises as the steps do.
  await hand.tool('Box');
  await hand.press([0, 0.4, 0.6]);
  await hand.measures('0.3', '0.3', '3');
  await hand.press([0, 5.2, 3]);
  await hand.measures('0.3', '0.3', '3');
  await hand.key('r');
  await hand.tool('Cylinder');
  await hand.press([0, 0, 3.6]);
  await hand.measures('0.3', '0.3', '-6');
  await hand.fill('Leans along v', '2.4');
  await hand.click('box 2, floor', { modifiers: ['Control'] });
  await hand.click('box 1, floor', { modifiers: ['Control'] });
  await hand.fill('Copies in a row', '1');
  await hand.fill('Apart', '3.7');
  await hand.click('Row along a');
  await things(page, (nodes) => nodes.length === 7);
  await hand.key('f');
  await hand.press([8, 0, 0]);
  await hand.measures('1', '1', '2');
  await hand.fill('Copies in a row', '2');
  await hand.fill('Apart', '3');
  await hand.click('Row along b');
  await hand.press([7, -4, 0]);
  await hand.measures('0.5', '0.5', '7');
  await hand.tool('Box');
  await hand.press([7, -4, 7]);
  await hand.measures('1', '1', '1.5');
  await things(page, (list) => list.length === 12);
  console.log(`steps, rails, bollards and a lantern: ${hand.gestures} gestures`);
  expect(hand.gestures).toBeLessThanOrEqual(30);
  await page.keyboard.press('Escape');
});

test('round things have no seams on the screen at 6,400 %, nor in a large PNG', async ({ page }) => {
  const hand = await begin(page);
  await hand.tool('Cylinder');
  await hand.drag([-4, -4, 0], [4, 4, 0]);
  await hand.press([4, 4, 3]);
  await hand.tool('Dome');
  await hand.drag([-3, -3, 3], [3, 3, 3]);
  await hand.press([3, 3, 6]);
  await hand.tool('Ball');
  await hand.drag([6, -6, 0], [8, -4, 0]);
  await hand.tool('Pick');
  await page.keyboard.press('g');
  await page.keyboard.press('Escape');
  await things(page, (nodes) => nodes.length === 3);
  // Where the drum's side turns away, its rim, the dome's foot and edge, and the ball's edge.
  const edge = 4 * Math.SQRT1_2;
  for (const place of [
    [edge, -edge, 3],
    [edge, -edge, 1],
    [-edge, -edge, 3],
    [-2.12, -2.12, 3],
    [-2, 2, 5],
    [6.3, -5.7, 1],
  ] as const) {
    await page.getByRole('button', { name: 'Fit', exact: true }).click();
    const { x, y } = await hand.grid.at(place);
    await page.mouse.move(x, y);
    for (let i = 0; i < 40; i++) await page.mouse.wheel(0, -400);
    await expect(page.getByLabel('Zoom', { exact: true })).toHaveText(/^6,?400/);
    await page.mouse.move(5, 300);
    await page.waitForTimeout(200);
    const shot = PNG.sync.read(await page.locator('.area').screenshot());
    expect([place, whiteWithin(shot.data, shot.width)]).toEqual([place, 0]);
  }
  await page.getByRole('button', { name: 'Output', exact: true }).click();
  await page.getByRole('region', { name: 'Sheet as PNG' }).getByRole('textbox', { name: 'Width' }).fill('6000');
  await page.keyboard.press('Enter');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export PNG', exact: true }).click();
  const png = PNG.sync.read(readFileSync(await (await download).path()));
  expect(png.width).toBe(6000);
  expect(whiteWithin(png.data, png.width)).toBe(0);
});

test.describe('without a network', () => {
  test.use({ serviceWorkers: 'allow' });

  test('openings and lettering work after the first visit', async ({ page, context }) => {
    await begin(page);
    await goOffline(page);
    await page.reload();
    const hand = new BuildHand(page, new Grid(page));
    await page
      .getByRole('button', { name: /^Build/ })
      .first()
      .click();
    await hand.tool('Box');
    await hand.drag([0, 0, 0], [8, 5, 0]);
    await hand.press([8, 5, 6]);
    await hand.tool('Opening');
    await hand.drag([1, 0, 2], [6, 0, 5]);
    await hand.press([6, 2, 5]);
    await hand.tool('Lettering');
    await page.locator('#lettering-font').click();
    await page.getByRole('option', { name: /typewriter/ }).click();
    await hand.press([-6, -6, 0]);
    await page.keyboard.type('DECK');
    await page.keyboard.press('Escape');
    await things(page, (nodes) => nodes[0]?.joined === 'take away' && nodes[1]?.lettering?.text === 'DECK' && nodes[1].children?.length === 4);
    await expect(page.locator('chemin-messages')).toHaveCount(0);
    await context.setOffline(false);
  });
});

/** Px within what is drawn, three px from its edge, that are whiter than any of its tones. */
function whiteWithin(data: ArrayLike<number>, width: number): number {
  const height = data.length / 4 / width;
  const bare = (i: number): boolean => data[4 * i + 2]! > 248 || data[4 * i + 3]! < 250;
  let count = 0;
  for (let y = 3; y < height - 3; y++) {
    for (let x = 3; x < width - 3; x++) {
      const i = y * width + x;
      if (data[4 * i + 2]! < 190) continue;
      if (![-3, 0, 3].some((dy) => [-3, 0, 3].some((dx) => bare(i + dy * width + dx)))) count++;
    }
  }
  return count;
}
