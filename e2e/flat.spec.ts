import { execFileSync } from 'node:child_process';
import type { Page } from '@playwright/test';
import { PNG } from 'pngjs';
import { flattenTree, type CheminDocument, type PlacementNode, type Plane } from '../core/index';
import { Hand } from './hand';
import { expect, kept, openDemo, openEmpty, test, within } from './support';

const RIGHT: Plane = { kind: 'right', offset: 0 };

const placementsOf = (document: CheminDocument): readonly PlacementNode[] =>
  flattenTree(document.nodes).flatMap(({ node }) => (node.kind === 'placement' ? [node] : []));

/** A photograph: a sky over the sea. */
function photograph(): Buffer {
  const png = new PNG({ width: 600, height: 400 });
  for (let y = 0; y < 400; y++)
    for (let x = 0; x < 600; x++) png.data.set(y < 220 ? [150 + y / 4, 190, 215, 255] : [40 + 20 * Math.sin(x / 9 + y), 100, 120, 255], 4 * (y * 600 + x));
  return PNG.sync.write(png);
}

/** A timetable of forty parts. */
const FORTY = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 80 50">${Array.from({ length: 40 }, (_, i) => `<rect x="${(i % 8) * 10}" y="${Math.floor(i / 8) * 10}" width="8" height="7" fill="#${((i * 397) % 4096).toString(16).padStart(3, '0')}"/>`).join('')}</svg>`; // prettier-ignore

const shown = (page: Page): Promise<string> => page.evaluate(() => document.querySelector<HTMLCanvasElement>('.surface canvas')!.toDataURL('image/png'));

const pictureOf = (page: Page, selector: string): Promise<string> =>
  page.evaluate((found) => document.querySelector<HTMLCanvasElement>(found)!.toDataURL('image/png'), selector);

/** Drops a file on a place of the right wall. */
async function dropOn(hand: Hand, file: { readonly name: string; readonly type: string; readonly base64: string }, u: number, v: number): Promise<void> {
  const { x, y } = await hand.pixel(RIGHT, u, v);
  await hand.page.locator('.area').evaluate(
    (area, { name, type, base64, clientX, clientY }) => {
      const data = new DataTransfer();
      data.items.add(new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], name, { type }));
      area.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true, clientX, clientY }));
    },
    { ...file, clientX: x, clientY: y },
  );
  hand.gestures++;
}

test('a hoarding in two-point perspective with a photograph, an SVG of forty parts and a line of type, in equal steps, moved to the other wall', async ({
  page,
}) => {
  const hand = new Hand(page, await openEmpty(page));
  await hand.find('use two-point');
  await hand.key('r');
  // Files are dropped where they are to lie.
  await dropOn(hand, { name: 'timetable.svg', type: 'image/svg+xml', base64: Buffer.from(FORTY).toString('base64') }, 6, 4);
  await kept(page, (document) => expect(placementsOf(document)).toHaveLength(1));
  await dropOn(hand, { name: 'sea.png', type: 'image/png', base64: photograph().toString('base64') }, 0, 4);
  await kept(page, (document) => expect(placementsOf(document)).toHaveLength(2));
  // A line of type on the same wall.
  await hand.find('write text');
  await expect(page.getByRole('heading', { name: 'Build' })).toBeVisible();
  await hand.pressOn(RIGHT, 0, 6);
  await page.keyboard.type('TIMES');
  hand.gestures++;
  await hand.tool('1');
  await kept(page, ({ nodes }) => expect(nodes).toHaveLength(3));
  await hand.find('select everything');
  await hand.find('repeat in rows');
  await hand.data('Copies', '2');
  await hand.data('Step along a', '14');
  await hand.button('Make the row');
  const rows = await kept(page, ({ nodes }) => expect(nodes).toHaveLength(9));
  const at = placementsOf(rows)
    .filter(({ artwork }) => artwork === rows.artworks[1]!.id)
    .map(({ anchor }) => anchor.at.a);
  expect(at.slice(1).map((a, i) => Math.round((a - at[i]!) * 1e9) / 1e9)).toEqual([14, 14]);
  await hand.find('select everything');
  await hand.find('to the left wall');
  await kept(page, (document) => {
    for (const { target } of placementsOf(document)) expect(target).toMatchObject({ kind: 'plane', plane: { kind: 'left' } });
  });
  within(14, 'a hoarding with a photograph, forty parts and type in equal steps, on the other wall', hand);
});

test('an artwork is changed flat with both views in sight, and every placement follows', async ({ page }) => {
  await openDemo(page);
  await page.keyboard.press('g');
  const hand = new Hand(page, null as never);
  await page.getByRole('button', { name: 'Artwork', exact: true }).first().click();
  await page.getByRole('button', { name: 'crates', exact: true }).click();
  await page.getByRole('button', { name: 'Choose Quay 9 sign' }).click();
  await page.getByRole('group', { name: 'On all of the selection' }).getByRole('button', { name: /right side/ }).click(); // prettier-ignore
  await kept(page, (document) => expect(placementsOf(document).length).toBeGreaterThan(4));
  // To the sheet, and the change.
  await hand.button('Edit flat');
  await expect(page.getByRole('region', { name: 'Flat sheet' })).toBeVisible();
  const before = await pictureOf(page, 'chemin-beside canvas');
  await page.getByRole('button', { name: 'Rectangle', exact: false }).first().click();
  const area = (await page.locator('.area').boundingBox())!;
  await page.mouse.move(area.x + area.width * 0.4, area.y + area.height * 0.4);
  await page.mouse.down();
  await page.mouse.move(area.x + area.width * 0.6, area.y + area.height * 0.6, { steps: 5 });
  // Already while the hand draws, the drawing beside it follows.
  await page.mouse.up();
  await expect.poll(() => pictureOf(page, 'chemin-beside canvas')).not.toBe(before);
  await kept(page, ({ artworks }) => expect(artworks.find(({ name }) => name === 'Quay 9 sign')?.nodes).toHaveLength(1));
  // What is pointed at in one is marked in the other.
  const plain = await pictureOf(page, 'chemin-beside canvas');
  await page.mouse.move(area.x + area.width * 0.45, area.y + area.height * 0.5);
  await expect.poll(() => pictureOf(page, 'chemin-beside canvas')).not.toBe(plain);
  await hand.button('See it there');
  await expect(page.getByRole('button', { name: /^The flat sheet of Quay 9 sign/ })).toBeVisible();
  within(2, 'an artwork changed flat, besides the change', hand);
  // Undo takes the change back everywhere, and closing leaves the drawing alone.
  await page.keyboard.press('Control+z');
  await kept(page, ({ artworks }) => expect(artworks.find(({ name }) => name === 'Quay 9 sign')?.nodes).toBeUndefined());
  await page.getByRole('button', { name: 'Close the flat sheet' }).click();
  await expect(page.getByRole('region', { name: 'Flat sheet' })).toBeHidden();
});

test('a pattern of planks on a wall goes on round its corner', async ({ page }) => {
  await openDemo(page);
  await page.keyboard.press('g');
  await page.getByRole('button', { name: 'Artwork', exact: true }).first().click();
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByRole('button', { name: 'Add a picture or SVG' }).click()]);
  const plank =
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 10"><rect width="40" height="10" fill="#b98552"/><path d="M1 3h30M6 7h28" stroke="#8a5f37" fill="none"/></svg>';
  await chooser.setFiles({ name: 'plank.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(plank) });
  await expect(page.getByText('“plank.svg” was added')).toBeVisible();
  const hand = new Hand(page, null as never);
  await page.getByRole('combobox', { name: 'Place it on' }).click();
  await page.getByRole('option', { name: 'kiosk, left side' }).click();
  hand.gestures += 2;
  const once = await shown(page);
  await hand.button('Offset rows');
  await expect.poll(() => shown(page)).not.toBe(once);
  await page.getByRole('group', { name: 'Go on round the corner' }).getByRole('button', { name: 'right side' }).click();
  hand.gestures++;
  const document = await kept(page, (now) => expect(placementsOf(now).filter(({ pattern }) => pattern)).toHaveLength(2));
  const [first, second] = placementsOf(document).filter(({ pattern }) => pattern) as [PlacementNode, PlacementNode];
  expect([second.anchor.width, second.anchor.height, second.pattern]).toEqual([first.anchor.width, first.anchor.height, first.pattern]);
  within(5, 'a pattern of planks on a wall and round its corner', hand);
});

test('a crate unfolded, drawn over its edge, seen on three faces, and its net printed in true size', async ({ page }) => {
  await openDemo(page);
  await page.keyboard.press('g');
  const hand = new Hand(page, null as never);
  await page.getByRole('button', { name: 'Artwork', exact: true }).first().click();
  await hand.button('long crate');
  const before = await shown(page);
  await hand.button('Unfold the solid');
  const unfolded = await kept(page, ({ artworks }) => expect(artworks.at(-1)!.net).toBeDefined());
  const { width, height, id } = unfolded.artworks.at(-1)!;
  expect(placementsOf(unfolded).filter(({ artwork }) => artwork === id)).toHaveLength(6);
  await page.keyboard.press('3');
  hand.gestures++;
  const area = (await page.locator('.area').boundingBox())!;
  await page.mouse.move(area.x + area.width * 0.42, area.y + area.height * 0.3);
  await page.mouse.down();
  await page.mouse.move(area.x + area.width * 0.58, area.y + area.height * 0.8, { steps: 6 });
  await page.mouse.up();
  hand.gestures++;
  await kept(page, ({ artworks }) => expect(artworks.at(-1)!.nodes).toHaveLength(1));
  await page.getByRole('button', { name: 'Output', exact: true }).first().click();
  hand.gestures++;
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'PDF', exact: false }).first().click();
  hand.gestures++;
  const info = execFileSync('pdfinfo', [await (await download).path()], { encoding: 'utf8' });
  const [, w, h] = /Page size: +([\d.]+) x ([\d.]+) pts/.exec(info)!;
  // True size: 72 points to the inch.
  expect(Number(w) * (25.4 / 72)).toBeCloseTo(width, 1);
  expect(Number(h) * (25.4 / 72)).toBeCloseTo(height, 1);
  await hand.button('Close the flat sheet');
  await expect.poll(() => shown(page)).not.toBe(before);
  within(12, 'a crate unfolded, drawn over its edge, and its net printed', hand);
});

test('two versions of a sign are exchanged in every place by one press, and a shape is lifted into an artwork and put back', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Artwork', exact: true }).first().click();
  await page.getByRole('button', { name: 'Choose Quay 9 sign' }).click();
  const first = (await kept(page, ({ artworks }) => expect(artworks.length).toBeGreaterThan(0))).artworks.find(({ name }) => name === 'Quay 9 sign')!.id;
  const lies = (document: CheminDocument, artwork: string): number => placementsOf(document).filter((node) => node.artwork === artwork).length;
  const times = lies((await kept(page, () => undefined)), first); // prettier-ignore
  await page.getByRole('button', { name: 'Add a version' }).click();
  const second = (await kept(page, ({ artworks }) => expect(artworks.filter(({ version }) => version)).toHaveLength(2))).artworks.at(-1)!.id;
  await kept(page, (document) => expect([lies(document, first), lies(document, second)]).toEqual([0, times]));
  await page.getByRole('textbox', { name: 'Version' }).fill('evening');
  await page.keyboard.press('Enter');
  await page.getByRole('group', { name: 'Versions' }).getByRole('button', { name: 'version 1' }).click();
  await kept(page, (document) => expect([lies(document, first), lies(document, second)]).toEqual([times, 0]));
  // A flat shape of the drawing.
  await page.getByRole('button', { name: 'water', exact: true }).click();
  await page.getByRole('button', { name: 'Lift the selection' }).click();
  const lifted = (await kept(page, ({ artworks }) => expect(artworks.at(-1)!.name).toBe('water'))).artworks.at(-1)!;
  await kept(page, (document) => expect(lies(document, lifted.id)).toBe(1));
  await page.getByRole('button', { name: 'Put back as shapes' }).click();
  await kept(page, (document) => {
    expect(lies(document, lifted.id)).toBe(0);
    expect(flattenTree(document.nodes).some(({ node }) => node.kind === 'shape' && node.name === 'water' && node.plane.kind === 'floor')).toBe(true);
  });
});
