import type { CheminDocument, PlacementNode, Plane } from '../core/index';
import { Hand } from './hand';
import { expect, openEmpty, storedOpen, test } from './support';

const LEFT: Plane = { kind: 'left', offset: 0 };
const SVG = '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20" viewBox="0 0 40 20"><rect width="40" height="20" fill="#1b6c8c"/></svg>';

test('artwork on a face is duplicated, repeated, laid on another plane and back, and stays where it is when its face is cut', async ({ page }) => {
  const hand = new Hand(page, await openEmpty(page));
  const placed = async (count: number): Promise<readonly PlacementNode[]> => {
    let all: readonly PlacementNode[] = [];
    await expect(async () => {
      const { nodes } = (await storedOpen(page)).document as CheminDocument;
      all = nodes.filter((node) => node.kind === 'placement');
      expect(all).toHaveLength(count);
    }).toPass();
    return all;
  };
  await hand.tool('3');
  await hand.key('l');
  await hand.dragOn(LEFT, [0, 0], [8, 5]);
  const chooser = page.waitForEvent('filechooser');
  await hand.find('Add a picture or SVG as artwork');
  await (await chooser).setFiles({ name: 'harbour.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(SVG) });
  await hand.button('Choose harbour');
  await hand.pressOn(LEFT, 6, 3);
  const [first] = await placed(1);
  expect(first!.target.kind).toBe('face');

  // A duplicate lies beside the first one on the same face.
  await hand.find('duplicate');
  const two = await placed(2);
  expect(two[1]!.target).toEqual(first!.target);
  expect(two[1]!.anchor.at).not.toEqual(first!.anchor.at);

  // Steps away from the face are refused with words; steps along it make the row.
  await hand.find('repeat in rows');
  await hand.type('Copies', '2');
  await hand.type('Step along a', '3');
  await hand.type('Step along b', '0');
  await hand.button('Make the row');
  await expect(page.getByText('these steps lead away from it')).toBeVisible();
  expect(await placed(2)).toHaveLength(2);
  await hand.type('Step along b', '-1');
  await hand.type('Step along a', '0');
  await hand.button('Make the row');
  const four = await placed(4);
  expect(four.slice(2).map(({ anchor }) => anchor.at.b - two[1]!.anchor.at.b)).toEqual([-1, -2]);

  // From the face to its own plane and back nothing jumps.
  const bench = page.getByRole('combobox', { name: 'Lies on' });
  await page.getByRole('button', { name: four[0]!.name, exact: true }).first().click();
  const last = async (): Promise<PlacementNode> => {
    const selected = await page.locator('[role=treeitem][aria-selected=true]').first().getAttribute('data-row');
    return (await placed(4)).find(({ id }) => id === selected)!;
  };
  await page.getByRole('button', { name: 'Artwork', exact: true }).click();
  const before = await last();
  await bench.click();
  await page.getByRole('option', { name: 'left wall, offset 0' }).click();
  await expect.poll(async () => (await last()).target.kind).toBe('plane');
  expect((await last()).anchor).toEqual(before.anchor);
  await bench.click();
  await page.getByRole('option', { name: /^rectangle 1/ }).click();
  await expect.poll(async () => (await last()).target.kind).toBe('face');
  expect((await last()).anchor).toEqual(before.anchor);

  // The face's far side is moved: artwork stays.
  const shape = page.getByRole('button', { name: 'rectangle 1, left wall', exact: true });
  await shape.click();
  await page.getByRole('button', { name: 'Draw', exact: true }).click();
  const anchors = (await placed(4)).map(({ anchor }) => anchor);
  await page.getByRole('textbox', { name: 'Length along b' }).fill('6.5');
  await page.keyboard.press('Enter');
  await expect.poll(async () => JSON.stringify(((await storedOpen(page)).document as CheminDocument).nodes[0])).toContain('6.5');
  expect((await placed(4)).map(({ anchor }) => anchor)).toEqual(anchors);
});
