import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import type { GroupNode, ShapeNode } from '../core/index';
import { begin, BuildHand, things } from './build-hand';
import { expect, kept, openEmpty, test, within } from './support';

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
  // What is being typed when the page goes away is there when it comes again.
  await hand.tool('Lettering');
  await hand.press([-4, 0, 12]);
  await page.keyboard.type('TIDE');
  await page.reload();
  await things(page, (list) => list.some(({ lettering, children }) => lettering?.text === 'TIDE' && children?.length === 4));
});

/** A word in another font with depth and three colours, from the empty page on; a projection may be chosen first. */
async function colouredWord(page: Page, projection: string | null): Promise<BuildHand> {
  const grid = await openEmpty(page);
  const hand = new BuildHand(page, grid);
  if (projection !== null) {
    await page.keyboard.press('Control+K');
    await page.locator('chemin-finder input').fill(projection);
    await page.keyboard.press('Enter');
    // The finder is counted as two.
    hand.gestures += 2;
  }
  await hand.click('Build');
  await hand.tool('Lettering');
  const area = (await page.locator('.area').boundingBox())!;
  await page.mouse.click(area.x + area.width * 0.45, area.y + area.height * 0.5);
  hand.gestures++;
  await page.keyboard.type('QUAY');
  hand.gestures++;
  await page.getByRole('combobox', { name: 'Font' }).click();
  await page.getByRole('option', { name: /Zilla Slab/ }).click();
  hand.gestures += 2;
  await hand.fill('Depth of letters', '2');
  await hand.fill('Front', '#f0c040');
  await hand.fill('Sides', '#803020');
  await hand.fill('Counters', '#204060');
  await kept(page, ({ nodes }) => {
    const [word] = nodes as readonly GroupNode[];
    expect(word!.lettering).toMatchObject({ kind: 'font', text: 'QUAY', font: 'slab' });
    const letters = word!.children as readonly ShapeNode[];
    expect(letters.map(({ depth }) => Math.abs(depth))).toEqual([2, 2, 2, 2]);
    const colours = letters.map((letter) => new Set([letter.paint.fill, ...Object.values(letter.surfaces ?? {}).map(({ fill }) => fill)]));
    for (const own of colours) expect([...own]).toEqual(expect.arrayContaining(['#f0c040', '#803020']));
    // Q and A have counters.
    expect(colours.filter((own) => own.has('#204060'))).toHaveLength(2);
  });
  return hand;
}

test('a word in a font with depth and three colours', async ({ page }) => {
  within(10, 'a word in a font with depth and three colours', await colouredWord(page, null));
});

test('a word in a font with depth and three colours, in one-point perspective', async ({ page }) => {
  within(12, 'a word in one-point perspective', await colouredWord(page, 'use one-point perspective'));
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
  await hand.click('Straight');
  await things(page, (list) => (list.at(-1)!.lettering as unknown as { along?: unknown }).along === undefined);
});

test('a font is imported, kept with the drawing, and refused where it is none', async ({ page }) => {
  const hand = await begin(page);
  await hand.tool('Lettering');
  const choose = async (name: string, buffer: Buffer): Promise<void> => {
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Import a font…', exact: true }).click();
    await (await chooser).setFiles({ name, mimeType: 'font/woff2', buffer });
  };
  const font = readFileSync('node_modules/@fontsource/zilla-slab/files/zilla-slab-latin-700-normal.woff2');
  const messages = page.locator('chemin-messages');
  await choose('notes.ttf', Buffer.from('these are no letters'));
  await expect(messages).toContainText('It is no TTF, OTF, WOFF or WOFF2 font.');
  await choose('cut.woff2', font.subarray(0, 4000));
  await expect(messages).toContainText('It is cut short.');
  await choose('large.ttf', Buffer.alloc(50_000_000, font));
  await expect(messages).toContainText('It has 50 MB; a font has at most 16 MB.');
  const damaged = Buffer.from(font);
  damaged.fill(0x5a, 200, 3000);
  await choose('damaged.woff2', damaged);
  await expect(messages).toContainText('It is damaged');
  await choose('own.woff2', font);
  await expect(page.locator('#lettering-font')).toContainText('Zilla Slab');
  for (let left = await messages.getByRole('button').count(); left > 0; left--) await messages.getByRole('button').first().click();
  await hand.press([0, 0, 0]);
  await page.keyboard.type('DECK');
  await page.keyboard.press('Escape');

  const [text] = await things(page, (nodes) => nodes[0]?.lettering?.text === 'DECK');
  expect((text!.lettering as unknown as { font: string }).font).toMatch(/^[0-9a-f]{64}$/);
  await page.reload();
  await page
    .getByRole('button', { name: /^Build/ })
    .first()
    .click();
  await page.getByRole('button', { name: '“DECK”', exact: true }).click();
  await expect(page.locator('#lettering-font')).toContainText('Zilla Slab');
  await page.getByRole('textbox', { name: 'Text', exact: true }).fill('DECK 9');
  await page.keyboard.press('Escape');
  await things(page, (nodes) => nodes[0]?.lettering?.text === 'DECK 9' && nodes[0].children?.length === 5);
});
