import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { PNG } from 'pngjs';
import { flattenTree, inscribedIn, type CheminDocument, type PlacementNode, type Plane, type ShapeNode } from '../core/index';
import { Hand } from './hand';
import { expect, kept, openEmpty, test, within } from './support';

const FLOOR: Plane = { kind: 'floor', offset: 0 };
const LEFT: Plane = { kind: 'left', offset: 0 };
const RIGHT: Plane = { kind: 'right', offset: 0 };

const shapesOf = (document: CheminDocument): readonly ShapeNode[] => flattenTree(document.nodes).flatMap(({ node }) => (node.kind === 'shape' ? [node] : []));

async function start(page: Page): Promise<Hand> {
  return new Hand(page, await openEmpty(page));
}

async function exported(page: Page, act: () => Promise<void>): Promise<PNG> {
  const download = page.waitForEvent('download');
  await act();
  return PNG.sync.read(readFileSync(await (await download).path()));
}

test('a grid of 1920 × 1080 px with one family of lines hidden leaves as PNG on transparent ground, and again with other lines', async ({ page }) => {
  const hand = await start(page);
  await hand.key('q');
  await hand.data('Sheet width', '1920 px');
  await hand.data('Sheet height', '1080 px');
  await hand.data('Lines apart', '40 px');
  await page.getByRole('switch', { name: 'along b' }).click();
  hand.gestures++;
  const png = await exported(page, () => hand.button('Export the grid as PNG'));
  expect([png.width, png.height]).toEqual([1920, 1080]);
  // Down a column the lines along a follow each other at 40 px square to them: 40 / cos 30° = 46.19 px.
  const rows = crossed(png, 700);
  expect(rows.length).toBe(Math.round(1080 / 46.188));
  for (let i = 1; i < rows.length; i++) expect(Math.abs(rows[i]! - rows[i - 1]! - 46.188)).toBeLessThan(1.5);
  // Of the other families the upright one runs between these columns, and the hidden one nowhere: what is met further
  // along is met higher up by tan 30°, and nothing else.
  const further = crossed(png, 710);
  expect(further.length).toBeGreaterThan(20);
  for (const row of further) expect(Math.min(...rows.map((r) => Math.abs((r - 10 * Math.tan(Math.PI / 6) - row) % 46.188 || 0)))).toBeLessThan(1.6);
  // On an upright line every row is inked.
  expect(inkedRows(png, 720)).toBe(1080);
  within(3, 'a grid of 1920 × 1080 px as PNG, one family hidden', hand);

  hand.gestures = 0;
  await hand.data('Lines apart', '60 px');
  const next = await exported(page, () => hand.button('Export the grid as PNG'));
  expect(crossed(next, 700).length).toBe(Math.round(1080 / (60 / Math.cos(Math.PI / 6))));
  within(1, 'a further one', hand);
});

const inkedRows = ({ width, height, data }: PNG, column: number): number =>
  Array.from({ length: height }, (_, y) => data[4 * (y * width + column) + 3]! > 8).filter(Boolean).length;

/** Rows at which a line is met in a column of a picture on transparent ground. */
function crossed({ width, height, data }: PNG, column: number): readonly number[] {
  const rows: number[] = [];
  let from = -1;
  let clear = 0;
  for (let y = 0; y < height; y++) {
    const inked = data[4 * (y * width + column) + 3]! > 8;
    if (!inked) clear++;
    if (inked && from < 0) from = y;
    if (!inked && from >= 0) {
      rows.push((from + y - 1) / 2);
      from = -1;
    }
  }
  expect(clear).toBeGreaterThan(height / 2);
  return rows;
}

test('circles in the three faces of a box are inscribed by a press each, and follow when the box changes', async ({ page }) => {
  const hand = await start(page);
  await hand.tool('3');
  await hand.dragOn(FLOOR, [1, 1], [7, 6]);
  await hand.type('Depth', '4');
  await hand.tool('5');
  await page.getByRole('button', { name: 'In a face' }).click();
  hand.gestures = 0;
  await hand.pressOn({ kind: 'floor', offset: 4 }, 4, 3.2);
  await hand.pressOn({ kind: 'left', offset: 1 }, 3.2, 2.2);
  await hand.pressOn({ kind: 'right', offset: 1 }, 4.2, 2.2);
  within(3, 'circles in the three faces of a box', hand);
  const inscribed = (document: CheminDocument): void => {
    const [box, ...circles] = shapesOf(document);
    expect(circles.map((circle) => circle.plane.kind)).toEqual(['floor', 'left', 'right']);
    for (const circle of circles) {
      const wanted = inscribedIn(box!, circle.inscribed!.face)!;
      expect([circle.plane, circle.outline.points.map((p) => [p.u, p.v])]).toEqual([wanted.plane, wanted.outline.points.map((p) => [p.u, p.v])]);
    }
  };
  await kept(page, inscribed);

  // The box gets other sizes; the circles take no gesture at all.
  hand.gestures = 0;
  await page.getByRole('treeitem', { name: /^rectangle 1/ }).click();
  await hand.data('Length along a', '9');
  await hand.data('Depth', '6');
  await kept(page, (document) => {
    expect(shapesOf(document)[0]!.depth).toBe(6);
    inscribed(document);
    expect(shapesOf(document)[3]!.outline.points.map((p) => p.u)).toEqual([8.5, 5.5, 2.5, 5.5]);
  });
  within(0, 'circles after the size changed', hand);

  // Let go, a circle stays where it is.
  await page.getByRole('treeitem', { name: /^circle 1/ }).click();
  await page.getByRole('button', { name: 'Let go of the face' }).click();
  await page.getByRole('treeitem', { name: /^rectangle 1/ }).click();
  await hand.data('Depth', '3');
  await kept(page, (document) => expect(shapesOf(document).slice(1).map((circle) => circle.inscribed?.face ?? null)).toEqual([null, 'side:4', 'side:1'])); // prettier-ignore
});

test('what was just drawn is painted, aligned and repeated without choosing it first', async ({ page }) => {
  const hand = await start(page);
  await hand.tool('3');
  await hand.dragOn(FLOOR, [0, 0], [8, 8]);
  await hand.tool('3');
  await hand.dragOn(FLOOR, [1, 1], [3, 3]);
  await kept(page, (document) => expect(shapesOf(document)).toHaveLength(2));
  hand.gestures = 0;
  await hand.button('Linear');
  await hand.button('Centre on rectangle 1, floor');
  await hand.find('Duplicate the selection');
  await kept(page, (document) => {
    const [, small, copy] = shapesOf(document);
    expect(small!.paint.fill).toMatchObject({ kind: 'linear' });
    expect(small!.outline.points[0]).toMatchObject({ u: 3, v: 3 });
    expect(copy!.outline.points[0]).toMatchObject({ u: 4, v: 3 });
  });
  within(3, 'what was just drawn painted, centred and duplicated, an act each', hand);
});

test('a panel on a receding wall is repeated in equal true steps', async ({ page }) => {
  const hand = await start(page);
  await hand.find('use two-point');
  await kept(page, ({ projection }) => expect(projection.chosen).toBe('two-point'));
  await hand.key('l');
  await hand.tool('3');
  await hand.dragOn(LEFT, [0, 1], [1, 4]);
  await kept(page, (document) => expect(shapesOf(document)).toHaveLength(1));
  await hand.find('repeat in rows');
  await hand.type('Copies', '5');
  await hand.type('Step along b', '1.5');
  await hand.button('Make the row');
  await kept(page, (document) => expect(shapesOf(document).map((shape) => shape.outline.points[0]!.u)).toEqual([0, 1.5, 3, 4.5, 6, 7.5]));
  // The finder is counted as two.
  hand.gestures += 2;
  within(10, 'a panel on a receding wall, five times more', hand);
});

const ARTWORK = (fill: string): Buffer =>
  Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20" viewBox="0 0 40 20"><rect width="40" height="20" fill="${fill}"/></svg>`);

test('a corner in two-point: two artworks on one wall, one of them four times in a row, and a floor with a gradient', async ({ page }) => {
  const hand = await start(page);
  await hand.find('use two-point');
  await kept(page, ({ projection }) => expect(projection.chosen).toBe('two-point'));
  // Floor and both walls.
  await hand.tool('3');
  await hand.dragOn(FLOOR, [0, 0], [7, 7]);
  await hand.button('Linear');
  await hand.key('l');
  await hand.dragOn(LEFT, [0, 0], [7, 5]);
  await hand.key('r');
  await hand.dragOn(RIGHT, [0, 0], [7, 5]);
  await kept(page, (document) => expect(shapesOf(document).map((shape) => shape.plane.kind)).toEqual(['floor', 'left', 'right']));
  // Two artworks come in together, and are pressed onto the wall one after the other.
  const chooser = page.waitForEvent('filechooser');
  await hand.find('Add a picture or SVG as artwork');
  await (
    await chooser
  ).setFiles([
    { name: 'pennant.svg', mimeType: 'image/svg+xml', buffer: ARTWORK('#c2452d') },
    { name: 'harbour.svg', mimeType: 'image/svg+xml', buffer: ARTWORK('#1b6c8c') },
  ]);
  await kept(page, ({ artworks }) => expect(artworks).toHaveLength(2));
  await hand.key('l');
  await hand.button('Choose pennant');
  await hand.pressOn(LEFT, 6, 4);
  await hand.button('Choose harbour');
  await hand.pressOn(LEFT, 6, 2);
  await hand.find('repeat in rows');
  await hand.type('Copies', '3');
  await hand.type('Step along a', '0');
  await hand.type('Step along b', '-1.6');
  await hand.button('Make the row');
  const document = await kept(page, (now) => expect(now.nodes).toHaveLength(8));
  const placed = document.nodes.filter((node): node is PlacementNode => node.kind === 'placement');
  expect(placed).toHaveLength(5);
  // The row lies on the wall in equal steps, read from left to right.
  const row = placed.slice(1).map(({ anchor }) => -anchor.at.b);
  expect(row.slice(1).map((x, i) => Math.round(1000 * (x - row[i]!)))).toEqual([1600, 1600, 1600]);
  expect(shapesOf(document)[0]!.paint.fill).toMatchObject({ kind: 'linear' });
  within(22, 'a corner with two artworks, four in a row, and a gradient on the floor', hand);
});

test('a planometric deck with uprights, doors by dividing, and regions filled', async ({ page }) => {
  const hand = await start(page);
  await hand.find('use planometric');
  await kept(page, ({ projection }) => expect(projection.chosen).toBe('planometric'));
  // The deck, typed.
  await hand.tool('3');
  await hand.pressOn(FLOOR, 0, 0);
  await hand.over(FLOOR, 5, 4);
  await hand.measures('12', '8');
  await hand.type('Depth', '0.5');
  // An upright, and eight of them in two rows along the edges.
  await hand.type('Offset', '0.5');
  await hand.tool('3');
  await hand.dragOn({ kind: 'floor', offset: 0.5 }, [0, 0], [1, 1]);
  await kept(page, (document) => expect(shapesOf(document)).toHaveLength(2));
  await hand.type('Depth', '3');
  await hand.find('repeat in rows');
  await hand.type('Copies', '3');
  await hand.type('Step along a', '3');
  await hand.type('Further rows', '1');
  await hand.type('Row step along b', '7');
  await hand.type('Row step along h', '0');
  await hand.button('Make the row');
  await kept(page, (document) => expect(shapesOf(document)).toHaveLength(9));
  // A cabin whose front is divided into doors.
  await hand.tool('3');
  await hand.dragOn({ kind: 'floor', offset: 0.5 }, [4, 3], [9, 5]);
  await hand.type('Depth', '3');
  await hand.tool('1');
  await hand.pressOn({ kind: 'right', offset: 3 }, 7.4, 1.7);
  await hand.find('divide');
  await hand.type('Columns', '4');
  await hand.type('Gap', '0.2');
  await hand.button('Divide');
  await kept(page, (document) => expect(shapesOf(document)).toHaveLength(14));
  // Lines on the floor before the deck, and the regions between them filled.
  await hand.key('f');
  await hand.tool('4');
  const lines = [[-6, 0, 0, 0], [-6, 4, 0, 4], [-6, 8, 0, 8], [-6, 0, -6, 8], [-1, 0, -1, 8]] as const; // prettier-ignore
  for (const [a, b, c, d] of lines) await hand.dragOn(FLOOR, [a, b], [c, d]);
  await hand.tool('Shift+Digit3');
  await hand.pressOn(FLOOR, -3, 2);
  await hand.pressOn(FLOOR, -3, 6);
  const document = await kept(page, (now) => expect(shapesOf(now)).toHaveLength(21));
  const shapes = shapesOf(document);
  expect(shapes.filter((shape) => shape.name.startsWith('region'))).toHaveLength(2);
  expect(shapes.filter((shape) => shape.depth === 3)).toHaveLength(9);
  within(40, 'a planometric deck with uprights, doors and regions', hand);
});

test('all three vanishing points are locked in one act', async ({ page }) => {
  const hand = await start(page);
  await hand.find('use three-point');
  await page.getByRole('button', { name: 'Projection', exact: true }).click();
  hand.gestures = 0;
  await hand.button('Lock all vanishing points');
  await expect(page.getByRole('button', { name: 'Unlock the vanishing points' })).toBeVisible();
  within(1, 'all three vanishing points locked', hand);
});
