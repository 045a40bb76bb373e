import type { Page } from '@playwright/test';
import { emptyDocument, flattenTree, settled, writeProject, type CheminDocument, type DocumentNode, type PlacementNode, type SheetPoint } from '../core/index';
import { facePlaces, type FacePlace } from '../core/testing/faced-things';
import { base, box, group, solid } from '../core/testing/things';
import { joinInTests } from '../core/testing/kernel';
import { runs } from '../core/testing/random';
import { Hand } from './hand';
import { drop, expect, kept, openEmpty, storedOpen, test } from './support';

test.describe.configure({ timeout: 600_000 * runs(1) });

/** One of each kind that has faces, none before another. */
const THINGS: readonly DocumentNode[] = [
  box('crate', [-2, 12, 0], [4, 4, 4]),
  box('plinth', [5, 5, 0], [4, 4, 3], { taper: 0.4 }),
  solid('tank', 'cylinder', [12, -2, 0], [4, 4, 4]),
  group('kiosk', [box('walls', [-5, 2, 0], [6, 5, 5]), box('hatch', [-4, 1, 1], [4, 4, 3])], 'take away'),
  group('vat', [solid('wall', 'cylinder', [3, -6, 0], [5, 5, 4]), box('notch', [4, -8, 2], [2, 4, 3])], 'take away'),
  { ...base('copied'), kind: 'copy', of: 'crate', by: { a: -6, b: -18, h: 0 } },
  { ...base('again'), kind: 'copy', of: 'copied', by: { a: -6, b: 6, h: 0 } },
];
const ART = { id: 'art', name: 'flag', svg: '<svg viewBox="0 0 4 2"><path d="M0 0H4V2H0Z"/></svg>', width: 0.5, height: 0.25 };
const SVG = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="4mm" height="2mm" viewBox="0 0 4 2"><path fill="#c03040" d="M0 0H4V2H0Z"/></svg>'); // prettier-ignore
/** Square mm that a face has to show for a hand to meet it. */
const MET = 40;

/** A hand on a drawing of which the whole sheet is shown, its places in mm of the sheet. */
class SheetHand extends Hand {
  async place({ x, y }: SheetPoint): Promise<SheetPoint> {
    const { sheet } = (await storedOpen(this.page)).document as CheminDocument;
    const area = (await this.page.locator('.area').boundingBox())!;
    const zoom = Math.min((area.width - 72) / sheet.width, (area.height - 72) / sheet.height);
    const left = area.x + Math.round((area.width - sheet.width * zoom) / 2);
    return { x: left + x * zoom, y: area.y + Math.round((area.height - sheet.height * zoom) / 2) + y * zoom };
  }

  async pressAt(at: SheetPoint): Promise<void> {
    const { x, y } = await this.place(at);
    await this.page.mouse.move(x, y, { steps: 2 });
    await this.drawn();
    await this.page.mouse.down();
    await this.page.mouse.up();
  }

  async drawn(): Promise<void> {
    await this.page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  }
}

const rows = async (page: Page): Promise<number> => Number(/\d+/.exec(await page.locator('chemin-contents h2').innerText())?.[0] ?? 0);

/** The things with letters beside them, opened, and the faces that are seen of all. */
async function opened(page: Page): Promise<{ readonly hand: SheetHand; readonly places: readonly FacePlace[] }> {
  const hand = new SheetHand(page, await openEmpty(page));
  const whole: CheminDocument = { ...emptyDocument('faces', 'Faces'), nodes: THINGS, artworks: [ART] };
  await drop(page, { name: 'faces.chemin', mimeType: 'application/json', buffer: Buffer.from(writeProject(whole)) });
  await expect.poll(() => rows(page)).toBe(11);
  await hand.find('write text');
  await hand.pressAt({ x: 40, y: 185 });
  await page.keyboard.type('H');
  await hand.data('Depth of letters', '2');
  await page.locator('.area').focus();
  await page.keyboard.press('Escape');
  const document = await kept(page, ({ nodes }) => expect(nodes.at(-1)).toMatchObject({ lettering: { text: 'H' }, children: [{ depth: 2 }] }));
  await expect(page.locator('.area')).not.toHaveAttribute('aria-busy', 'true');
  await joinInTests();
  expect(await settled(document)).toEqual([]);
  return { hand, places: facePlaces(document, MET) };
}

const placed = ({ nodes }: CheminDocument): PlacementNode => flattenTree(nodes).flatMap(({ node }) => (node.kind === 'placement' ? [node] : []))[0]!;

/** The first flat and the first round face of each thing. */
const onePerSort = (places: readonly FacePlace[]): readonly FacePlace[] => [
  ...new Map([...places].reverse().map((place) => [`${place.seen.owner} ${place.seen.surface.form.kind === 'flat'}`, place])).values(),
];

test('artwork, lettering, an opening and a dimension are put on every kind of face by a press, artwork by dropping too', async ({ page }) => {
  const { hand, places: seen } = await opened(page);
  // A flat and a round one of each thing, or every one in the long run.
  const places = runs(1) > 1 ? seen : onePerSort(seen);
  const before = await rows(page);
  const begun = await kept(page, ({ nodes }) => expect(nodes.length).toBeGreaterThan(0));
  /** Does something that adds to the drawing, looks at it, and takes it back. */
  const added = async (act: () => Promise<void>, holds: (whole: CheminDocument) => void): Promise<void> => {
    await act();
    await kept(page, holds);
    await page.keyboard.press('Escape');
    await page.locator('.area').focus();
    while ((await rows(page)) > before) {
      await page.keyboard.press('Control+z');
      await hand.drawn();
    }
    // What storage still has of it would stand for what comes next.
    await kept(page, ({ nodes }) => expect(flattenTree(nodes)).toHaveLength(flattenTree(begun.nodes).length));
  };
  for (const { seen, at } of places) {
    const named = `${seen.owner}, ${seen.shape} ${JSON.stringify(seen.face)}`;
    const lies = (whole: CheminDocument): void => expect(placed(whole), named).toMatchObject({ target: { kind: 'face', node: seen.shape, face: seen.face } });
    await added(async () => {
      await hand.find('place artwork');
      await hand.pressAt(at);
    }, lies);
    const over = await hand.place(at);
    await page.mouse.move(over.x, over.y);
    await added(() => drop(page, { name: 'pennon.svg', mimeType: 'image/svg+xml', buffer: SVG }, over), lies);
    await added(
      async () => {
        await hand.find('write text');
        await hand.pressAt(at);
        await page.keyboard.type('A');
        await page.keyboard.press('Escape');
      },
      // What is written already is taken up where it is pressed.
      ({ nodes }) => expect(nodes.map((node) => (node.kind === 'group' ? node.lettering?.text : '')).join(' '), named).toMatch(/A/),
    );
    if (seen.surface.form.kind !== 'flat') continue;
    await added(
      async () => {
        await hand.find('press an opening into a face');
        await hand.pressAt(at);
        await hand.measures('0.5', '0.5', '0.3');
      },
      ({ nodes }) => expect(JSON.stringify(nodes), named).toContain('opening 1'),
    );
    await added(
      async () => {
        await hand.find('draw a dimension line');
        await hand.pressAt(at);
        await hand.pressAt({ x: at.x + 15, y: at.y + 2 });
        await hand.pressAt({ x: at.x + 6, y: at.y + 12 });
      },
      ({ nodes }) => expect(nodes.at(-1), named).toMatchObject({ kind: 'dimension' }),
    );
  }
  console.log(`${places.length} faces: ${[...new Set(places.map(({ seen }) => seen.owner))].join(', ')}`);
  expect(new Set(places.map(({ seen }) => seen.owner)).size).toBeGreaterThan(THINGS.length);
});

test('artwork is laid on every face by its name', async ({ page }) => {
  const { hand, places } = await opened(page);
  await hand.find('place artwork');
  await hand.pressAt(places[0]!.at);
  const list = page.getByRole('combobox', { name: 'Lies on' });
  await list.click();
  await expect(page.getByRole('option').first()).toBeVisible();
  const names = await page.getByRole('option').allInnerTexts();
  expect(new Set(names).size).toBe(names.length);
  await page.keyboard.press('Escape');
  const reached = new Set<string>();
  let before = JSON.stringify(placed(await kept(page, (whole) => expect(placed(whole)).toBeDefined())).target);
  // Each in its turn, the last first, on which nothing lies.
  for (const i of [names.length - 1, ...Array(names.length - 1).keys()]) {
    await list.click();
    await page.getByRole('option').nth(i).click();
    const whole = await kept(page, (now) => expect(JSON.stringify(placed(now).target), names[i]).not.toBe(before));
    const { target } = placed(whole);
    before = JSON.stringify(target);
    if (target.kind === 'face') reached.add(`${target.node} ${target.face}`);
  }
  console.log(`${names.length} names`);
  for (const { seen } of places) expect([...reached], `${seen.owner} ${seen.face}`).toContain(`${seen.shape} ${seen.face}`);
});
