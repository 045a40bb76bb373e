import { expect, openEmpty, storedOpen, test, type Grid, type Place } from './support';
import type { Page } from '@playwright/test';

/** A hand that counts what it does: each press, drag, key or typed field is one gesture. */
class Hand {
  gestures = 0;

  constructor(
    readonly page: Page,
    readonly grid: Grid,
  ) {}

  async tool(name: string): Promise<void> {
    this.gestures++;
    await this.page.locator('chemin-bench').getByRole('button', { name: new RegExp(`^${name}`) }).first().click(); // prettier-ignore
  }

  async press(place: Place): Promise<void> {
    this.gestures++;
    await this.grid.press(place);
  }

  async drag(from: Place, to: Place): Promise<void> {
    this.gestures++;
    await this.grid.drag(from, to);
  }

  async key(key: string): Promise<void> {
    this.gestures++;
    await this.page.keyboard.press(key);
  }

  async click(name: string, how: { readonly modifiers?: ('Control' | 'Shift')[] } = {}): Promise<void> {
    this.gestures++;
    await this.page.getByRole('button', { name, exact: true }).first().click(how);
  }

  /** Measures typed while drawing, a Tab between them, and Enter. */
  async measures(...texts: readonly string[]): Promise<void> {
    this.gestures++;
    for (const [i, text] of texts.entries()) {
      if (i > 0) await this.page.keyboard.press('Tab');
      await this.page.keyboard.type(text);
    }
    await this.page.keyboard.press('Enter');
  }

  /** A field filled and taken. */
  async fill(label: string, value: string): Promise<void> {
    this.gestures++;
    const field = this.page.getByLabel(label, { exact: true });
    await field.fill(value);
    await field.press('Enter');
  }

  async twice(place: Place): Promise<void> {
    this.gestures++;
    const { x, y } = await this.grid.at(place);
    await this.page.mouse.dblclick(x + 2, y - 2);
  }
}

interface Node {
  readonly kind: string;
  readonly name: string;
  readonly joined?: string;
  readonly lettering?: { readonly text: string; readonly kind: string };
  readonly depth?: number;
  readonly plane?: { readonly kind: string };
  readonly children?: readonly Node[];
}

async function begin(page: Page): Promise<Hand> {
  const grid = await openEmpty(page);
  await page
    .getByRole('button', { name: /^Build/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { name: 'Build', exact: true })).toBeVisible();
  return new Hand(page, grid);
}

/** The things of the drawing as they are kept, once they are as wanted. */
async function things(page: Page, wanted: (nodes: readonly Node[]) => boolean): Promise<readonly Node[]> {
  let nodes: readonly Node[] = [];
  await expect(async () => {
    nodes = ((await storedOpen(page)).document as { nodes: readonly Node[] }).nodes;
    expect(wanted(nodes)).toBe(true);
  }).toPass({ timeout: 10_000 });
  return nodes;
}

/** How many px of the drawing have other colours after something is done. */
async function changed(page: Page, act: () => Promise<void>): Promise<number> {
  const area = page.locator('.area canvas').first();
  const read = (): Promise<number[]> =>
    area.evaluate((canvas) => {
      const { width, height } = canvas as HTMLCanvasElement;
      return Array.from((canvas as HTMLCanvasElement).getContext('2d')!.getImageData(0, 0, width, height).data);
    });
  const before = await read();
  await act();
  const after = await read();
  return before.reduce((count, n, i) => count + (i % 4 !== 3 && Math.abs(n - after[i]!) > 12 ? 1 : 0), 0);
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

test('typed lettering with depth on a wall, and cell letters', async ({ page }) => {
  const hand = await begin(page);
  await hand.key('r');
  await hand.tool('Lettering');
  await hand.press([-4, 0, 3]);
  hand.gestures++;
  await page.keyboard.type('QUAY 9');
  await hand.fill('Depth of letters', '2');
  const [text] = await things(page, (nodes) => nodes[0]?.lettering?.text === 'QUAY 9' && nodes[0].children?.[0]?.depth === 2);
  console.log(`typed lettering with depth: ${hand.gestures} gestures`);
  expect(hand.gestures).toBeLessThanOrEqual(8);
  expect(text!.children!.map(({ name }) => name).join('')).toBe('QUAY9');
  await page.keyboard.press('Control+z');
  hand.gestures = 0;
  await hand.click('On cells');
  await hand.press([-6, 0, 8]);
  hand.gestures++;
  await page.keyboard.type('DECK4');
  await hand.fill('Depth of letters', '3');
  const nodes = await things(page, (list) => list.some(({ lettering, children }) => lettering?.text === 'DECK4' && children?.[4]?.depth === 3));
  console.log(`cell letters with depth: ${hand.gestures} gestures`);
  expect(hand.gestures).toBeLessThanOrEqual(10);
  expect(nodes.at(-1)!.lettering!.kind).toBe('cells');
  // It is still text after the page was closed and opened again.
  await page.reload();
  await page
    .getByRole('button', { name: /^Build/ })
    .first()
    .click();
  await page.getByRole('button', { name: '“DECK4”', exact: true }).click();
  await expect(page.getByRole('textbox', { name: 'Text', exact: true })).toHaveValue('DECK4');
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

test('a round plinth with a dome and a band of lettering round it', async ({ page }) => {
  const hand = await begin(page);
  await hand.tool('Cylinder');
  await hand.drag([-4, -4, 0], [4, 4, 0]);
  await hand.press([4, 4, 5]);
  await hand.tool('Dome');
  await hand.drag([-3, -3, 5], [3, 3, 5]);
  await hand.press([3, 3, 8]);
  await hand.tool('Lettering');
  // On the side that faces the viewer, two cells up.
  const facing = 4 * Math.SQRT1_2;
  await hand.press([-facing, -facing, 2]);
  hand.gestures++;
  await page.keyboard.type('QUAY NINE FERRY');
  await hand.click('Centred');
  await hand.fill('Height of capitals', '1');
  await hand.fill('Depth of letters', '0.5');
  const nodes = await things(
    page,
    (list) => list.length === 3 && list[2]!.lettering?.text === 'QUAY NINE FERRY' && (list[2]!.children?.[3]?.depth ?? 0) === 0.5,
  );
  console.log(`a round plinth with a dome and lettering round it: ${hand.gestures} gestures`);
  expect(hand.gestures).toBeLessThanOrEqual(15);
  const letters = nodes[2]!.children as unknown as readonly { readonly plane: { readonly stance: { readonly at: { a: number; b: number; h: number } } } }[];
  for (const { plane } of letters) {
    const { a, b, h } = plane.stance.at;
    expect([Math.abs(Math.hypot(a, b) - 4) < 1e-3, h]).toEqual([true, 2]);
  }
  await expect(page.locator('chemin-messages')).toHaveCount(0);
  await page.screenshot({ path: '/tmp/f.png' });
});

test('lettering runs along an edge, and around a drawn circle', async ({ page }) => {
  const hand = await begin(page);
  await hand.tool('Cylinder');
  await hand.drag([-5, -5, 0], [5, 5, 0]);
  await hand.press([5, 5, 2]);
  await hand.tool('Lettering');
  await hand.click('Along a line');
  const edge = 5 * Math.SQRT1_2;
  await hand.press([-edge, -edge, 2]);
  await page.keyboard.type('AROUND');
  await hand.fill('Height of capitals', '1');
  await hand.fill('Depth of letters', '0.3');
  const nodes = await things(page, (list) => list.some(({ lettering, children }) => lettering?.text === 'AROUND' && children?.[0]?.depth === 0.3));
  const text = nodes.at(-1)!.children as unknown as readonly {
    readonly outline: { readonly points: readonly { u: number; v: number }[] };
    readonly plane: { readonly kind: string; readonly offset: number };
  }[];
  expect(text[0]!.plane).toMatchObject({ kind: 'floor', offset: 2 });
  for (const { outline } of text) expect(Math.min(...outline.points.map(({ u, v }) => Math.abs(Math.hypot(u, v) - 5)))).toBeLessThan(0.3);
  await hand.click('Read the other way');
  await page.screenshot({ path: '/tmp/f2.png' });
  await hand.click('Straight');
  await things(page, (list) => (list.at(-1)!.lettering as unknown as { along?: unknown }).along === undefined);
});

test('a low bank of lockers with two compartments, feet and a centred pull, moved to the other wall', async ({ page }) => {
  const hand = await begin(page);
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
  const nodes = await things(page, (list) => list.length === 6 && list[0]!.plane?.kind === 'floor' && list.at(-1)!.plane?.kind === 'left');
  console.log(`a bank of lockers: ${hand.gestures} gestures`);
  expect(hand.gestures).toBeLessThanOrEqual(40);
  await expect(page.locator('chemin-messages')).toHaveCount(0);
  await page.screenshot({ path: '/tmp/a.png' });
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
  await page.screenshot({ path: '/tmp/d0.png' });
});
