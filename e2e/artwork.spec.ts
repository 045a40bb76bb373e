import { expect, openDemo, storedOpen, test } from './support';
import type { Page } from '@playwright/test';
import type { PlacementNode } from '../core/document/types';

const SIGN = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 240 60"><rect width="240" height="60" fill="#d9a441"/><path d="M10 40q20-30 40 0t40 0 40 0 40 0" fill="none" stroke="#ffffff" stroke-width="4" stroke-dasharray="9 4"/></svg>'; // prettier-ignore

const picture = (page: Page): Promise<string> => page.evaluate(() => document.querySelector<HTMLCanvasElement>('.surface canvas')!.toDataURL('image/png'));

async function placement(page: Page, name: RegExp): Promise<PlacementNode> {
  let found: PlacementNode | undefined;
  await expect(async () => {
    const { nodes } = (await storedOpen(page)).document as { nodes: PlacementNode[] };
    found = nodes.find((node) => node.kind === 'placement' && name.test(node.name));
    expect(found).toBeDefined();
  }).toPass();
  return found!;
}

test('a band with lettering goes round a bollard in four gestures, and is slid round it', async ({ page }) => {
  await openDemo(page);
  await page.keyboard.press('g');
  await page.getByRole('button', { name: 'Artwork', exact: true }).first().click();
  const before = await picture(page);
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByRole('button', { name: 'Add a picture or SVG' }).click()]);
  await chooser.setFiles({ name: 'band.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(SIGN) });
  await expect(page.getByText('“band.svg” was added')).toBeVisible();
  // Chosen by its name; it can be pressed as well.
  await page.getByRole('combobox', { name: 'Place it on' }).click();
  await page.getByRole('option', { name: 'post, round side' }).first().click();
  await page.getByRole('group', { name: 'Fit' }).getByRole('button', { name: 'All round' }).click();
  console.log('a band round a bollard: the file, its place in two presses, all round: 4 gestures');
  const band = await placement(page, /^band, post/);
  expect(band.target).toMatchObject({ kind: 'face' });
  // All round a post of a diameter of one cell.
  await expect.poll(async () => (await placement(page, /^band, post/)).anchor.width).toBeCloseTo(Math.PI, 3);
  await expect.poll(() => picture(page)).not.toBe(before);
  const round = await picture(page);
  const left = page.getByRole('textbox', { name: 'From the left', exact: true });
  await left.fill('1');
  await left.press('Enter');
  await expect.poll(() => picture(page)).not.toBe(round);
  await expect.poll(async () => (await placement(page, /^band, post/)).anchor.at).not.toEqual(band.anchor.at);
  expect((await placement(page, /^band, post/)).anchor.width).toBeCloseTo(Math.PI, 3);
  const unlit = await picture(page);
  await page.getByRole('checkbox', { name: 'Takes the tone of its face' }).click();
  await expect.poll(() => picture(page)).not.toBe(unlit);
  await expect.poll(async () => (await placement(page, /^band, post/)).lit).toBe(1);
  const covers = page.getByRole('textbox', { name: 'Covers', exact: true });
  await covers.fill('60');
  await covers.press('Enter');
  await expect.poll(async () => (await placement(page, /^band, post/)).strength).toBe(0.6);
});

test('one artwork goes on all right sides in two gestures, and another takes its place everywhere', async ({ page }) => {
  await openDemo(page);
  await page.keyboard.press('g');
  await page.getByRole('button', { name: 'Artwork', exact: true }).first().click();
  await page.getByRole('button', { name: 'crates', exact: true }).click();
  const before = await picture(page);
  await page.getByRole('button', { name: 'Choose Quay 9 sign' }).click();
  await page
    .getByRole('group', { name: 'On all of the selection' })
    .getByRole('button', { name: /right side/ })
    .click();
  console.log('one artwork on all right sides: 2 gestures');
  const onCrates = async (): Promise<readonly PlacementNode[]> => ((await storedOpen(page)).document as { nodes: PlacementNode[] }).nodes.filter((node) => node.kind === 'placement' && /crate, right side/.test(node.name)); // prettier-ignore
  await expect.poll(async () => (await onCrates()).length).toBe(4);
  await expect.poll(() => picture(page)).not.toBe(before);
  const first = (await onCrates())[0]!.artwork;
  await page.getByRole('button', { name: 'Choose Quay 9 sign' }).click();
  await page.getByRole('combobox', { name: 'Put another in its place' }).click();
  await page.getByRole('option', { name: 'Crossings poster' }).click();
  await expect.poll(async () => new Set((await onCrates()).map(({ artwork }) => artwork)).has(first)).toBe(false);
  expect(await onCrates()).toHaveLength(4);
});
