import { PNG } from 'pngjs';
import { flattenTree, type CheminDocument, type Gradient, type ShapeNode } from '../core/index';
import { begin } from './build-hand';
import { Hand } from './hand';
import { expect, kept, openEmpty, storedOpen, test, within } from './support';

/** Five fields of colour along the top of a picture as large as the sheet: 30 mm each. */
const COLOURS = ['#1b6c8c', '#9fd0dc', '#c2452d', '#f2c14e', '#243b53'] as const;
/** The middles of these fields, in mm of the sheet. */
const at = (field: number): [number, number] => [15 + 30 * field, 15];

function picture(): Buffer {
  const png = new PNG({ width: 600, height: 400 });
  png.data.fill(255);
  for (let y = 0; y < 60; y++)
    for (let x = 0; x < 60 * COLOURS.length; x++) {
      const colour = COLOURS[Math.floor(x / 60)]!;
      const channels = [1, 3, 5].map((i) => parseInt(colour.slice(i, i + 2), 16));
      png.data.set(channels, 4 * (y * 600 + x));
    }
  return PNG.sync.write(png);
}

const shapesOf = ({ nodes }: CheminDocument): readonly ShapeNode[] => flattenTree(nodes).flatMap(({ node }) => (node.kind === 'shape' ? [node] : []));

test('a folded emblem of four faces over a picture: two gradients and three flat colours picked from it and kept in any light', async ({ page }) => {
  const hand = new Hand(page, await openEmpty(page));
  // A press on a place of a wall: the right one runs along a, the left one along b.
  const right = (a: number, h: number): Promise<void> => hand.press(a, 0, h);
  const left = (b: number, h: number): Promise<void> => hand.press(0, b, h);
  const pick = async (what: string, field: number): Promise<void> => {
    await hand.button(`Pick ${what} from the drawing`);
    await hand.sheet(...at(field));
  };
  const shade = async (from: number, to: number): Promise<void> => {
    await hand.button('Linear');
    await pick('Stop 1', from);
    await pick('Stop 2', to);
  };
  const chooser = page.waitForEvent('filechooser');
  await hand.find('reference picture');
  await (await chooser).setFiles({ name: 'harbour.png', mimeType: 'image/png', buffer: picture() });
  hand.gestures++;
  await hand.button('Draw');
  await hand.tool('r');
  // The first face has five corners, all rounded.
  await hand.tool('2');
  for (const [a, h] of [[0, 3], [6, 3], [6, 8], [3, 10], [0, 8]] as const) await right(a, h); // prettier-ignore
  await hand.key('Enter');
  await hand.type('Round corners', '0.5');
  await shade(0, 1);
  await hand.tool('3');
  await right(0, 0);
  await right(6, 3);
  await pick('Fill', 2);
  await hand.tool('l');
  await left(0, 3);
  await left(5, 8);
  await shade(1, 3);
  await left(0, 0);
  await left(5, 3);
  await pick('Fill', 3);
  await hand.key('Control+a');
  await page.getByRole('switch', { name: 'Line', exact: true }).click();
  hand.gestures++;
  await pick('Line colour', 4);
  await hand.button('Light');
  await page.getByText('Keep these 4 colours in any light').click();
  hand.gestures++;
  const faces = shapesOf(await kept(page, (now) => expect(shapesOf(now).filter(({ paint }) => paint.unlit)).toHaveLength(4)));
  expect(faces.map(({ plane }) => plane.kind)).toEqual(['right', 'right', 'left', 'left']);
  expect(faces[0]!.outline.points.map(({ corner }) => corner?.size)).toEqual([0.5, 0.5, 0.5, 0.5, 0.5]);
  const stops = (i: number): readonly string[] => (faces[i]!.paint.fill as Gradient).stops.map(({ colour }) => colour);
  expect([stops(0), faces[1]!.paint.fill, stops(2), faces[3]!.paint.fill]).toEqual([
    [COLOURS[0], COLOURS[1]],
    COLOURS[2],
    [COLOURS[1], COLOURS[3]],
    COLOURS[3],
  ]);
  expect(new Set(faces.map(({ paint }) => paint.line?.colour))).toEqual(new Set([COLOURS[4]]));
  within(40, 'a folded emblem of four faces, its colours from a picture', hand);
});

test('a scene of sixteen things with openings, panes and shadows', async ({ page }) => {
  const hand = await begin(page);
  hand.gestures++;
  // A house with a window and a door.
  await hand.tool('Box');
  await hand.drag([0, 0, 0], [8, 6, 0]);
  await hand.measures('7');
  await hand.tool('Opening');
  await hand.drag([1, 0, 2], [4, 0, 6]);
  await hand.measures('2');
  await hand.drag([5, 0, 0], [7, 0, 5]);
  await hand.measures('2');
  // Crates in a row, and bollards.
  await hand.tool('Box');
  await hand.press([10, 1, 0]);
  await hand.measures('1', '1', '1');
  await hand.fill('Copies in a row', '3');
  await hand.fill('Apart', '1');
  await hand.click('Row along b');
  await hand.tool('Cylinder');
  await hand.press([0, -5, 0]);
  await hand.measures('0.5', '0.5', '2');
  await hand.click('Row along a');
  // A ball, a cone and a wedge.
  await hand.tool('Ball');
  await hand.drag([-4, 1, 0], [-2, 3, 0]);
  await hand.tool('Cone');
  await hand.press([-4, 5, 0]);
  await hand.measures('1', '1', '3');
  await hand.tool('Wedge');
  await hand.press([9, -6, 0]);
  await hand.measures('2', '3', '1');
  // Panes before both openings.
  await hand.click('Draw');
  await hand.key('r');
  await hand.tool('Rectangle');
  await hand.press([1, 0, 2]);
  await hand.press([4, 0, 6]);
  await hand.fill('Opacity', '40');
  await hand.press([5, 0, 0]);
  await hand.press([7, 0, 5]);
  await hand.fill('Opacity', '40');
  await hand.click('Light');
  await page.getByRole('switch', { name: 'Cast shadows' }).click();
  hand.gestures++;
  const drawn = await kept(page, (now) => expect(now.light.shadows?.on).toBe(true));
  const things = flattenTree(drawn.nodes).filter(({ node }) => node.kind !== 'group');
  expect(things.length).toBeGreaterThanOrEqual(16);
  const panes = shapesOf(drawn).filter(({ paint }) => paint.strength === 0.4);
  expect(panes.map(({ plane, depth }) => [plane.kind, depth])).toEqual([['right', 0], ['right', 0]]); // prettier-ignore
  await expect(page.locator('chemin-messages p-message')).toHaveCount(0);
  expect(((await storedOpen(page)).document as CheminDocument).nodes.some((node) => node.kind === 'group' && node.joined === 'take away')).toBe(true);
  within(50, 'a scene of sixteen things with openings, panes and shadows', hand);
});
