import type { Page } from '@playwright/test';
import { PNG } from 'pngjs';
import { flattenTree, photoSide, type CheminDocument, type Photo, type Pixels, type PlacementNode } from '../core/index';
import { practicePlace, takePractice, type PracticeThing } from '../core/photo/practice';
import { PRACTICE_LATTICE, practiceSetup } from '../core/photo/practice-setups';
import { croppedPx } from '../core/testing/practice';
import { randomFrom } from '../core/testing/random';
import { Hand } from './hand';
import { drop, expect, kept, openEmpty, test, within } from './support';

// Photographs are looked through px by px: a busy machine takes its time.
test.describe.configure({ timeout: 400_000 });

const [WIDTH, HEIGHT] = [640, 480];
const { columns, rows, box } = PRACTICE_LATTICE;

const pngOf = ({ width, height, data }: Pixels): Buffer => {
  const png = new PNG({ width, height });
  png.data = Buffer.from(data);
  return PNG.sync.write(png);
};

/** A pair of photographs as files, and what is photographed. */
function pairOf(thing: PracticeThing, seed = 5) {
  const random = randomFrom(seed);
  const setup = practiceSetup({ thing, lattice: PRACTICE_LATTICE, width: WIDTH, height: HEIGHT, arc: 1.8, noise: 1, blur: 0.5 }, random);
  const pair = takePractice({ ...setup, moved: { dx: 4.2, dy: -2.4, turn: 0.004, scale: 1 } }, random);
  return { setup, pair, bare: file('bare.png', pair.bare), latticed: file('latticed.png', pair.latticed) };
}

const file = (name: string, px: Pixels) => ({ name, mimeType: 'image/png', buffer: pngOf(px) });

/** A band of 90 mm by 30. */
const BAND = { name: 'band.svg', mimeType: 'image/svg+xml', buffer: Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="30mm" viewBox="0 0 90 30"><rect width="90" height="30" fill="#f4efe2"/><rect y="10" width="90" height="10" fill="#d9672c"/></svg>') }; // prettier-ignore
const LABEL = { name: 'label.svg', mimeType: 'image/svg+xml', buffer: Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="30mm" viewBox="0 0 90 30"><rect width="90" height="30" fill="#1d5c7a"/></svg>') }; // prettier-ignore

type Files = readonly { readonly name: string; readonly mimeType: string; readonly buffer: Buffer }[];

async function choose(hand: Hand, button: string, files: Files): Promise<void> {
  const [chooser] = await Promise.all([hand.page.waitForEvent('filechooser'), hand.page.getByRole('button', { name: button, exact: true }).click()]);
  await chooser.setFiles([...files]);
  hand.gestures += 2;
}

async function openPhoto(page: Page): Promise<Hand> {
  const hand = new Hand(page, await openEmpty(page));
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('button', { name: 'Photo' }).click();
  hand.gestures++;
  await expect(page.getByRole('heading', { name: 'Photo', exact: true })).toBeVisible();
  return hand;
}

async function fit(hand: Hand): Promise<void> {
  await hand.button('Find and fit');
  await expect(hand.page.getByText(/crossings, .* off in the mean/)).toBeVisible({ timeout: 120_000 });
}

const photoOf = ({ photos }: CheminDocument): Photo => photos![0]!;
const placed = (document: CheminDocument): readonly PlacementNode[] =>
  flattenTree(document.nodes).flatMap(({ node }) => (node.kind === 'placement' ? [node] : []));

/** The screen place of a px of the photograph, the whole sheet shown. */
async function screen(page: Page, x: number, y: number): Promise<{ x: number; y: number }> {
  const area = (await page.locator('.area').boundingBox())!;
  const [w, h] = [(WIDTH * 25.4) / 300, (HEIGHT * 25.4) / 300];
  const zoom = Math.min((area.width - 72) / w, (area.height - 72) / h);
  const [left, top] = [area.x + Math.round((area.width - w * zoom) / 2), area.y + Math.round((area.height - h * zoom) / 2)];
  return { x: left + ((x * 25.4) / 300) * zoom, y: top + ((y * 25.4) / 300) * zoom };
}

const colourAt = (page: Page, { x, y }: { x: number; y: number }): Promise<readonly number[]> =>
  page.evaluate(
    ([px, py]) => {
      const canvas = document.querySelector<HTMLCanvasElement>('.surface canvas')!;
      const rect = canvas.getBoundingClientRect();
      const k = canvas.width / rect.width;
      return [...canvas.getContext('2d')!.getImageData((px! - rect.left) * k, (py! - rect.top) * k, 1, 1).data];
    },
    [x, y],
  );

test('from two pictures to a fitted, shaded band; made longer; another label on the kept fit', async ({ page }) => {
  const { setup, bare, latticed } = pairOf('funnel');
  const hand = await openPhoto(page);
  await choose(hand, 'Take two photographs', [bare, latticed]);
  for (const [name, value] of [['Columns', columns], ['Rows', rows], ['Box', box]] as const) await hand.type(name, String(value)); // prettier-ignore
  await fit(hand);
  await choose(hand, 'Lay a file on it', [BAND]);
  const drawn = await kept(page, (now) => expect(placed(now)).toHaveLength(1));
  within(15, 'from two pictures to a fitted, shaded band', hand);
  const surface = photoOf(drawn).surfaces[0]!;
  expect(surface.light).toBeDefined();
  // The band has its true size, and lies where the thing has it.
  const { anchor } = placed(drawn)[0]!;
  expect(anchor.width * drawn.grid.cell).toBeCloseTo(90, 2);
  const middle = practicePlace(setup, (columns * box) / 2, (rows * box) / 2)!;
  const shown = photoSide(surface.fit!).shown((columns * box) / 2, (rows * box) / 2)!;
  expect(Math.hypot(shown.x - middle.at.x, shown.y - middle.at.y)).toBeLessThan(0.5);
  await page.getByLabel('Lattice over the photograph').click();
  const at = await screen(page, middle.at.x, middle.at.y);
  // The stripe of the band, darkened by the light on the funnel, or as bright as it is.
  await expect
    .poll(async () => {
      const [r, , b] = await colourAt(page, at);
      return r! > b! + 40;
    })
    .toBe(true);

  // Changed flat, and seen at once: one press beyond the edit.
  const flat = new Hand(page, null as never);
  await page.getByRole('button', { name: /^Edit flat: band/ }).click();
  flat.gestures++;
  await expect(page.getByRole('region', { name: 'Flat sheet' })).toBeVisible();
  const look = (): Promise<string> => page.evaluate(() => document.querySelector<HTMLCanvasElement>('chemin-beside canvas')!.toDataURL());
  const before = await look();
  await page.getByRole('button', { name: 'Rectangle', exact: false }).first().click();
  const area = (await page.locator('.area').boundingBox())!;
  await page.mouse.move(area.x + area.width * 0.45, area.y + area.height * 0.45);
  await page.mouse.down();
  await page.mouse.move(area.x + area.width * 0.55, area.y + area.height * 0.55, { steps: 4 });
  await expect.poll(look).not.toBe(before);
  await page.mouse.up();
  within(1, 'the band changed flat, besides the change', flat);
  await page.getByRole('button', { name: 'Close the flat sheet' }).click();

  // Another label in the place of the first, on the kept fit.
  const again = new Hand(page, null as never);
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('button', { name: 'Photo' }).click();
  await choose(again, 'Put another file in the place of band, surface 1', [LABEL]);
  within(3, 'a second label on the kept fit', again);
  await kept(page, (now) => expect(now.artworks.find(({ id }) => id === placed(now)[0]!.artwork)?.name).toBe('label'));
  await expect
    .poll(async () => {
      const [r, , b] = await colourAt(page, at);
      return b! > r!;
    })
    .toBe(true);
});

test('a wrong crossing is found by its arrow, and mended', async ({ page }) => {
  const { bare, latticed } = pairOf('cup', 9);
  const hand = await openPhoto(page);
  await choose(hand, 'Take two photographs', [bare, latticed]);
  await fit(hand);
  const clean = photoOf(await kept(page, (now) => expect(photoOf(now).surfaces[0]!.fit).toBeDefined())).surfaces[0]!;
  const victim = clean.crossings.find(({ column, row }) => column === 4 && row === 3)!;
  // Set wrongly by hand.
  await page.getByRole('button', { name: 'Crossings' }).click();
  const from = await screen(page, victim.x, victim.y);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 14, from.y + 10, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByText(/70.*, 1 left out|, 1 left out/)).toBeVisible();
  const mending = new Hand(page, null as never);
  await mending.button('Go to the worst');
  await expect(page.getByText(/Crossing 4, 3: .* left out as wrong/)).toBeVisible();
  await mending.button('Find it again');
  within(2, 'a wrong crossing found and mended', mending);
  const mended = await kept(page, (now) => expect(photoOf(now).surfaces[0]!.fit!.wrong).toEqual([]));
  const now = photoOf(mended).surfaces[0]!.crossings.find(({ column, row }) => column === 4 && row === 3)!;
  expect(Math.hypot(now.x - victim.x, now.y - victim.y)).toBeLessThan(0.2);
  // Charts come when they are asked for, and keys move a crossing.
  await page.getByRole('button', { name: 'Charts' }).click();
  await expect(page.locator('chemin-miss-charts .bars, chemin-miss-charts .scatterlayer').first()).toBeAttached();
  await page.getByRole('application', { name: /Loupe at crossing 4, 3/ }).focus();
  await page.keyboard.press('ArrowRight');
  await kept(page, (later) =>
    expect(photoOf(later).surfaces[0]!.crossings.find(({ column, row }) => column === 4 && row === 3)!.x).toBeCloseTo(now.x + 0.1, 2),
  );
});

test('a panel without a lattice is fitted by its four edges', async ({ page }) => {
  const { setup, bare } = pairOf('hatch', 3);
  const hand = await openPhoto(page);
  await choose(hand, 'Take two photographs', [bare]);
  await kept(page, (now) => expect(now.photos).toHaveLength(1));
  const taken = new Hand(page, null as never);
  await page.getByRole('button', { name: 'Panel by edges' }).click();
  taken.gestures++;
  await taken.type('Width', String(columns * box));
  await taken.type('Height', String(rows * box));
  for (const [u, v] of [[0, 0], [columns, 0], [columns, rows], [0, rows]] as const) {
    const { at } = practicePlace(setup, u * box, v * box)!;
    const { x, y } = await screen(page, at.x, at.y);
    await page.mouse.click(x, y);
    taken.gestures++;
  } // prettier-ignore
  within(8, 'a panel without lattice by four edges', taken);
  const document = await kept(page, (now) => expect(photoOf(now).surfaces[0]!.fit?.kind).toBe('panel'));
  const shown = photoSide(photoOf(document).surfaces[0]!.fit!).shown((columns * box) / 2, (rows * box) / 2)!;
  const truth = practicePlace(setup, (columns * box) / 2, (rows * box) / 2)!;
  expect(Math.hypot(shown.x - truth.at.x, shown.y - truth.at.y)).toBeLessThan(5);
});

/** A picture as a camera that was held upright writes it: lying on its side, with a tag that says so. */
async function lyingJpeg(page: Page, name: string, picture: Buffer) {
  const base64 = await page.evaluate(async (png) => {
    const image = new Image();
    image.src = `data:image/png;base64,${png}`;
    await image.decode();
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [image.height, image.width];
    const context = canvas.getContext('2d')!;
    context.translate(0, image.width);
    context.rotate(-Math.PI / 2);
    context.drawImage(image, 0, 0);
    return canvas.toDataURL('image/jpeg', 0.97).split(',')[1]!;
  }, picture.toString('base64'));
  const jpeg = Buffer.from(base64, 'base64');
  // To be turned a quarter clockwise (Exif 2.3, tag 0x0112).
  const tag = Buffer.from('ffe1002245786966000049492a00080000000100120103000100000006000000' + '00000000', 'hex');
  return { name, mimeType: 'image/jpeg', buffer: Buffer.concat([jpeg.subarray(0, 2), tag, jpeg.subarray(2)]) };
}

test('photographs that lie on their side with a tag that says so are used upright', async ({ page }) => {
  const { setup, bare, latticed } = pairOf('hatch', 11);
  const hand = await openPhoto(page);
  await choose(hand, 'Take two photographs', [await lyingJpeg(page, 'bare.jpg', bare.buffer), await lyingJpeg(page, 'latticed.jpg', latticed.buffer)]);
  await fit(hand);
  const document = await kept(page, (now) => expect(photoOf(now).surfaces[0]!.fit).toBeDefined());
  expect(document.bitmaps.find(({ id }) => id === photoOf(document).bitmap)).toMatchObject({ width: WIDTH, height: HEIGHT });
  const { fit: found } = photoOf(document).surfaces[0]!;
  const shown = photoSide(found!).shown((columns * box) / 2, (rows * box) / 2)!;
  const { at } = practicePlace(setup, (columns * box) / 2, (rows * box) / 2)!;
  expect(Math.hypot(shown.x - at.x, shown.y - at.y)).toBeLessThan(0.5);
});

test('a lattice is set by hand: corners snap to its lines, and the others are counted from them', async ({ page }) => {
  const { setup, bare, latticed } = pairOf('hatch', 3);
  const hand = await openPhoto(page);
  // Dropped one after the other they are a pair too.
  await drop(page, bare);
  await kept(page, (now) => expect(now.photos).toHaveLength(1));
  await drop(page, latticed);
  await kept(page, (now) => expect(photoOf(now).surfaces[0]!.latticed).toBeDefined());
  await page.getByRole('button', { name: 'Crossings' }).click();
  const press = async (column: number, row: number): Promise<void> => {
    // Where the photograph with the lattice shows it, which lies a little beside the bare one, some px off; none of them waited for.
    const { at } = practicePlace(setup, column * box, row * box)!;
    const { x, y } = await screen(page, at.x + 4.2 + 1, at.y - 2.4 - 1);
    await page.mouse.click(x, y);
  };
  const corners = [[0, 0], [columns, 0], [columns, rows], [0, rows]] as const; // prettier-ignore
  for (const [column, row] of corners) await press(column, row);
  const surface = photoOf(await kept(page, (now) => expect(photoOf(now).surfaces[0]!.fit?.kind).toBe('panel'))).surfaces[0]!;
  for (const [column, row] of corners) {
    const { at } = practicePlace(setup, column * box, row * box)!;
    const own = surface.crossings.find((one) => one.column === column && one.row === row)!;
    expect(Math.hypot(own.x - at.x, own.y - at.y)).toBeLessThan(0.6);
  }
  await fit(hand);
  const all = photoOf(await kept(page, (now) => expect(photoOf(now).surfaces[0]!.crossings.length).toBeGreaterThan(60))).surfaces[0]!;
  expect(all.fit!.wrong).toEqual([]);
  // As soft as the photograph: artwork laid there is blurred by what was measured.
  await drop(page, BAND);
  await kept(page, (now) => expect(placed(now)).toHaveLength(1));
  await page.getByLabel('As soft as the photograph').click();
  await kept(page, (now) => expect(photoOf(now).surfaces[0]!.light!.blur).toBeGreaterThan(0.3));
});

test('the lattice is printed for practice, before anything is photographed and as a surface has it', async ({ page }) => {
  const hand = await openPhoto(page);
  await hand.button('Lattice on paper');
  const dialog = page.getByRole('dialog', { name: 'Practice printer' });
  await expect(dialog.getByRole('img', { name: /^Lattice 9 × 6, boxes of 12/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await hand.button('Cup');
  const columns = page.getByRole('region', { name: 'Lattice', exact: true }).getByRole('textbox', { name: 'Columns' });
  await columns.fill('11');
  await columns.press('Enter');
  await hand.button('Lattice on paper');
  await expect(dialog.getByRole('img', { name: /^Lattice 11 × / })).toBeVisible();
});

test('what cannot be fitted is told with what to do', async ({ page }) => {
  const { pair, bare, latticed } = pairOf('funnel', 5);
  const hand = await openPhoto(page);
  const tried = async (files: Files, words: RegExp): Promise<void> => {
    await choose(hand, 'Take two photographs', files);
    await hand.button('Find and fit');
    await expect(page.getByText(words)).toBeVisible({ timeout: 120_000 });
    await page.keyboard.press('Control+z');
  };
  await tried([bare], /No lattice was found|The numbers of the lattice cannot be read/);
  await tried([file('other.png', pairOf('pennant', 4).pair.bare), latticed], /photographs of different things/);
  await tried([file('mirror.png', croppedPx(pair.latticed, 0, 0, WIDTH, HEIGHT, true))], /The lattice is mirrored/);
  await tried([file('part.png', croppedPx(pair.bare, 0, 0, 300, 480)), latticed], /do not fit each other/);
  // Who knows better than the picture says so, and has a fit.
  await choose(hand, 'Take two photographs', [file('other.png', pairOf('pennant', 4).pair.bare), latticed]);
  await hand.button('Find and fit');
  await hand.button('Nothing moved between them');
  await expect(page.getByText(/crossings, .* off in the mean/)).toBeVisible({ timeout: 120_000 });
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  // Given the wrong way round the pair is found all the same.
  await choose(hand, 'Take two photographs', [latticed, bare]);
  await fit(hand);
});
