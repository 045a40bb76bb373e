import { PNG } from 'pngjs';
import type { Page } from '@playwright/test';
import { projectionFrom, sheetFromWorld, vanishingPoints, viewAngleDeg, withPointAt, type PerspectiveSetup, type WorldPoint } from '../core/index';
import { expect, openEmpty, storedDrawing, test } from './support';

const SHEET = { width: 300, height: 200 };

/** A made-up photograph of 600 x 400 px: its size is that of the empty sheet in half millimetres. */
const CAMERA: PerspectiveSetup = withPointAt(
  {
    kind: 'perspective',
    chosen: 'two-point',
    focal: 240,
    principal: { x: 150, y: 95 },
    turnDeg: 38,
    tiltDeg: 0,
    rollDeg: 0,
    eye: { a: 0, b: 0, h: 0 },
  },
  { a: 0, b: 0, h: 0 },
  { x: 140, y: 160 },
  300,
);

const at = (p: WorldPoint): { x: number; y: number } => sheetFromWorld(projectionFrom(CAMERA), p)!;
const EDGES: readonly (readonly [WorldPoint, WorldPoint])[] = [
  [{ a: 0, b: 0, h: 0 }, { a: 120, b: 0, h: 0 }],
  [{ a: 0, b: 0, h: 80 }, { a: 120, b: 0, h: 80 }],
  [{ a: 0, b: 0, h: 0 }, { a: 0, b: 90, h: 0 }],
  [{ a: 0, b: 0, h: 80 }, { a: 0, b: 90, h: 80 }],
  [{ a: 0, b: 0, h: 0 }, { a: 0, b: 0, h: 80 }],
  [{ a: 120, b: 0, h: 0 }, { a: 120, b: 0, h: 80 }],
]; // prettier-ignore

function photograph(): Buffer {
  const png = new PNG({ width: 600, height: 400 });
  png.data.fill(232);
  for (const [p, q] of EDGES) {
    const [from, to] = [at(p), at(q)];
    for (let i = 0; i <= 2000; i++) {
      const t = i / 2000;
      const x = Math.round((from.x + (to.x - from.x) * t) * 2);
      const y = Math.round((from.y + (to.y - from.y) * t) * 2);
      if (x < 0 || y < 0 || x >= 600 || y >= 400) continue;
      png.data.set([40, 35, 51, 255], 4 * (y * 600 + x));
    }
  }
  return PNG.sync.write(png);
}

async function addPicture(page: Page, file: { name: string; mimeType: string; buffer: Buffer }): Promise<void> {
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Add a picture' }).click();
  await (await chooser).setFiles(file);
}

async function openPicturePage(page: Page): Promise<void> {
  await openEmpty(page);
  await page.getByRole('button', { name: 'Projection', exact: true }).first().click();
  await page.locator('.area').focus();
  await page.keyboard.press('5');
}

test('a projection is read from a picture by tracing its edges, refined, adopted and drawn in', async ({ page }) => {
  await openPicturePage(page);
  await addPicture(page, { name: 'box.png', mimeType: 'image/png', buffer: photograph() });
  await expect(page.getByRole('group', { name: 'Reference box' })).toBeVisible();
  const area = (await page.locator('.area').boundingBox())!;
  const zoom = Math.min((area.width - 72) / SHEET.width, (area.height - 72) / SHEET.height);
  const px = ({ x, y }: { x: number; y: number }): [number, number] => [
    area.x + Math.round((area.width - SHEET.width * zoom) / 2) + x * zoom,
    area.y + Math.round((area.height - SHEET.height * zoom) / 2) + y * zoom,
  ];
  let gestures = 0;
  const stroke = async (p: WorldPoint, q: WorldPoint): Promise<void> => {
    // A little inside the edge's ends, so that neighbouring ends are not taken hold of.
    const inside = (s: WorldPoint, t: WorldPoint): WorldPoint => ({ a: s.a + (t.a - s.a) * 0.12, b: s.b + (t.b - s.b) * 0.12, h: s.h + (t.h - s.h) * 0.12 });
    await page.mouse.move(...px(at(inside(p, q))));
    await page.mouse.down();
    await page.mouse.move(...px(at(inside(q, p))), { steps: 4 });
    await page.mouse.up();
    gestures++;
  };
  await stroke(...EDGES[0]!);
  await expect(page.getByText('Still needed:')).toBeVisible();
  for (const edge of EDGES.slice(1)) await stroke(...edge);
  console.log(`${gestures} gestures for six strokes`);
  const axes = (number: number, axis: string): ReturnType<Page['getByRole']> =>
    page.getByRole('group', { name: `Axis of edge ${number}` }).getByRole('button', { name: axis, exact: true });
  // Over the horizon an edge along a falls: its axis was guessed from the strokes so far, or is told.
  for (const [number, axis] of [
    [1, 'a'],
    [2, 'a'],
    [3, 'b'],
    [4, 'b'],
    [5, 'h'],
    [6, 'h'],
  ] as const) {
    // prettier-ignore
    if ((await axes(number, axis).getAttribute('aria-pressed')) !== 'true') await axes(number, axis).click();
  }
  await page.getByRole('combobox', { name: 'The picture shows' }).click();
  await page.getByRole('option', { name: 'two, uprights upright' }).click();
  await expect(page.getByRole('listbox')).toHaveCount(0);
  await expect(page.getByRole('region', { name: 'Projection from traced edges' })).toContainText('two-point perspective');
  // Refining: its middle chooses a stroke, then an end is dragged, and undo brings it back.
  const [near, far] = [at({ a: 14.4, b: 0, h: 0 }), at({ a: 105.6, b: 0, h: 0 })];
  await page.mouse.click(...px({ x: (near.x + far.x) / 2, y: (near.y + far.y) / 2 }));
  const region = page.getByRole('region', { name: 'Projection from traced edges' });
  await expect(region).not.toContainText('Reading the edges');
  const before = (await region.textContent())!;
  await page.mouse.move(...px(near));
  await page.mouse.down();
  await page.mouse.move(px(near)[0], px(near)[1] - 30, { steps: 3 });
  await page.mouse.up();
  await expect(region).not.toHaveText(before);
  await page.keyboard.press('Control+z');
  await expect(region).toHaveText(before);
  const told = /angle of view ([\d.]+)° ± ([\d.]+)°/.exec((await region.textContent())!)!;
  expect(Math.abs(Number(told[1]) - viewAngleDeg(240, 300))).toBeLessThan(3);
  await page.getByRole('button', { name: 'Adopt this projection' }).click();
  await expect(page.getByRole('button', { name: /^Projection: two-point perspective/ })).toBeVisible();
  const x = async (name: string): Promise<number> => Number((await page.getByRole('textbox', { name, exact: true }).inputValue()).replace('\u2212', '-'));
  const truth = vanishingPoints(CAMERA);
  expect(Math.abs((await x('x of a')) / truth.a.x - 1)).toBeLessThan(0.05);
  expect(Math.abs((await x('x of b')) / truth.b.x - 1)).toBeLessThan(0.06);
  expect(Math.abs((await x('y at the middle')) - 95)).toBeLessThan(2);
  // Everything is kept, the picture apart from the steps.
  await expect(async () => {
    const kept = await storedDrawing(page, 'Untitled drawing');
    expect((kept.document['strokes'] as unknown[]).length).toBe(6);
    expect(kept.document['projection']).toMatchObject({ kind: 'perspective' });
    expect(JSON.stringify(kept.document['bitmaps'])).toMatch(/"asset":"[0-9a-f]{64}"/);
  }).toPass();
  await page.reload();
  await expect(page.getByRole('button', { name: /^Projection: two-point perspective/ })).toBeVisible();
  await page.getByRole('button', { name: 'Projection', exact: true }).first().click();
  await page.locator('.area').focus();
  await page.keyboard.press('5');
  await expect(page.getByRole('group', { name: 'Reference box' })).toBeVisible();
});

test('references: strength, over, blink, lock, drop, paste, orientation, and files that are none', async ({ page }) => {
  await openPicturePage(page);
  const canvas = (): Promise<string> => page.evaluate(() => document.querySelector<HTMLCanvasElement>('.surface canvas')!.toDataURL());
  const empty = await canvas();
  await addPicture(page, { name: 'box.png', mimeType: 'image/png', buffer: photograph() });
  const box = page.getByRole('group', { name: 'Reference box' });
  await expect(box).toBeVisible();
  await expect.poll(async () => (await canvas()) === empty).toBe(false);
  const shown = await canvas();
  const opacity = box.getByRole('slider', { name: 'Opacity' });
  await opacity.focus();
  for (const key of ['Home', 'PageUp', 'PageUp']) await opacity.press(key);
  await expect.poll(async () => (await canvas()) === shown).toBe(false);
  // By a key it is seen on top: held as long as that, pressed until the next press.
  const onTop = page.getByRole('button', { name: 'References on top' });
  await page.locator('.area').focus();
  await page.keyboard.down('b');
  await expect(onTop).toHaveAttribute('aria-pressed', 'true');
  await page.waitForTimeout(500);
  await page.keyboard.up('b');
  await expect(onTop).toHaveAttribute('aria-pressed', 'false');
  await page.keyboard.press('b');
  await expect(onTop).toHaveAttribute('aria-pressed', 'true');
  await onTop.click();
  await expect(onTop).toHaveAttribute('aria-pressed', 'false');
  await box.getByRole('button', { name: 'Over' }).click();
  await expect(box.getByRole('button', { name: 'Over' })).toHaveAttribute('aria-pressed', 'true');
  // Without motion, each press of Blink shows the other state.
  let over = '';
  await expect(async () => {
    const before = over;
    over = await canvas();
    expect(over === before).toBe(true);
  }).toPass();
  await box.getByRole('button', { name: 'Blink' }).click();
  await expect.poll(async () => (await canvas()) === over).toBe(false);
  await box.getByRole('button', { name: 'Blink' }).click();
  await expect.poll(async () => (await canvas()) === over).toBe(true);
  await box.getByRole('button', { name: 'Unlock box' }).click();
  await box.getByRole('textbox', { name: 'Width' }).fill('150');
  await page.keyboard.press('Enter');
  await expect(async () =>
    expect((await storedDrawing(page, 'Untitled drawing')).document['references']).toMatchObject([{ width: 150, height: 100 }]),
  ).toPass();

  // A JPEG that says it lies on its side is shown upright.
  const jpeg = await page.evaluate(async () => {
    const canvas = new OffscreenCanvas(80, 40);
    const context = canvas.getContext('2d')!;
    context.fillStyle = '#2c7f7a';
    context.fillRect(0, 0, 80, 40);
    const bytes = new Uint8Array(await (await canvas.convertToBlob({ type: 'image/jpeg' })).arrayBuffer());
    const exif = [0xff, 0xe1, 0, 34, 0x45, 0x78, 0x69, 0x66, 0, 0, 0x4d, 0x4d, 0, 42, 0, 0, 0, 8, 0, 1, 1, 0x12, 0, 3, 0, 0, 0, 1, 0, 6, 0, 0, 0, 0, 0, 0];
    return [...bytes.subarray(0, 2), ...exif, ...bytes.subarray(2)];
  });
  await addPicture(page, { name: 'side.jpg', mimeType: 'image/jpeg', buffer: Buffer.from(jpeg) });
  await expect(page.getByRole('group', { name: 'Reference side' })).toBeVisible();
  await expect(async () => expect((await storedDrawing(page, 'Untitled drawing')).document['bitmaps']).toMatchObject([{}, { width: 40, height: 80 }])).toPass();

  // Dropped SVG and a pasted PNG become references too; what is none is refused with its reason.
  const svg = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20 10"><script>alert(1)</script><rect width="20" height="10" fill="#b4553c"/></svg>';
  const png = photograph().toString('base64');
  await page.locator('.area').evaluate(
    (area, [text, data]) => {
      const drop = new DataTransfer();
      drop.items.add(new File([text!], 'plan.svg', { type: 'image/svg+xml' }));
      area.dispatchEvent(new DragEvent('drop', { dataTransfer: drop, bubbles: true, cancelable: true }));
      const paste = new DataTransfer();
      paste.items.add(new File([Uint8Array.from(atob(data!), (c) => c.charCodeAt(0))], 'pasted.png', { type: 'image/png' }));
      document.dispatchEvent(new ClipboardEvent('paste', { clipboardData: paste, bubbles: true, cancelable: true }));
    },
    [svg, png],
  );
  await expect(page.getByRole('group', { name: 'Reference plan' })).toBeVisible();
  await expect(page.getByRole('group', { name: 'Reference pasted' })).toBeVisible();
  await addPicture(page, { name: 'notes.png', mimeType: 'image/png', buffer: Buffer.from('no picture at all') });
  await expect(page.getByText('“notes.png” was not added')).toBeVisible();
  await expect(page.getByText('It is no PNG, JPEG, WebP or SVG picture.')).toBeVisible();
  await addPicture(page, { name: 'cut.png', mimeType: 'image/png', buffer: photograph().subarray(0, 40) });
  await expect(page.getByText('The file is cut short: it ends before the picture does. Copy it again.')).toBeVisible();
  await page.getByRole('button', { name: 'Delete plan' }).click();
  await expect(page.getByRole('group', { name: 'Reference plan' })).toBeHidden();
});
