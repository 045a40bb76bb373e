import type { Page } from '@playwright/test';
import {
  emptyDocument,
  facesOf,
  flattenTree,
  PictureMaker,
  pickAt,
  rectangleOutline,
  seenFace,
  settled,
  writeProject,
  type CheminDocument,
  type DocumentNode,
  type GroupNode,
  type JoinKind,
  type SeenFace,
  type ShapeNode,
  type SheetPoint,
} from '../core/index';
import { solidOn } from '../core/later';
import { joinInTests } from '../core/testing/kernel';
import { Hand } from './hand';
import { drop, expect, kept, openEmpty, storedOpen, test } from './support';

test.describe.configure({ timeout: 600_000 });

const base = (id: string) => ({ id, name: id, hidden: false, locked: false });
const PAINT = { fill: '#c98a4b', line: null };

function box(id: string, [a, b, h]: readonly number[], [w, l, t]: readonly number[], more: Partial<ShapeNode> = {}): ShapeNode {
  const outline = rectangleOutline({ u: a!, v: b! }, { u: a! + w!, v: b! + l! });
  return { ...base(id), kind: 'shape', plane: { kind: 'floor', offset: h! }, outline, depth: t!, paint: PAINT, ...more };
}

function cylinder(id: string, [a, b, h]: readonly number[], [w, l, t]: readonly number[]): ShapeNode {
  const made = solidOn('cylinder', { plane: { kind: 'floor', offset: h! }, from: { u: a!, v: b! }, to: { u: a! + w!, v: b! + l! }, height: t!, turn: 0 }, { ridge: 1, wall: 0.5, bar: 1, pier: 1, crown: 1, sides: 5, count: 3, top: 0.5 }); // prettier-ignore
  if (!made.ok) throw new Error(made.reason);
  return { ...base(id), kind: 'shape', paint: PAINT, ...made.value };
}

const group = (id: string, children: readonly DocumentNode[], joined: JoinKind): GroupNode => ({ ...base(id), kind: 'group', children, joined });

/** One of each kind that has faces, none before another. */
const THINGS: readonly DocumentNode[] = [
  box('crate', [-2, 12, 0], [4, 4, 4]),
  box('plinth', [5, 5, 0], [4, 4, 3], { taper: 0.4 }),
  cylinder('tank', [12, -2, 0], [4, 4, 4]),
  group('kiosk', [box('walls', [-5, 2, 0], [6, 5, 5]), box('hatch', [-4, 1, 1], [4, 4, 3])], 'take away'),
  group('vat', [cylinder('wall', [3, -6, 0], [5, 5, 4]), box('notch', [4, -8, 2], [2, 4, 3])], 'take away'),
  { ...base('copied'), kind: 'copy', of: 'crate', by: { a: -6, b: -18, h: 0 } },
  { ...base('again'), kind: 'copy', of: 'copied', by: { a: -6, b: 6, h: 0 } },
];
const ART = { id: 'art', name: 'flag', svg: '<svg viewBox="0 0 4 2"><path d="M0 0H4V2H0Z"/></svg>', width: 0.5, height: 0.25 };
const SVG = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="4mm" height="2mm" viewBox="0 0 4 2"><path fill="#c03040" d="M0 0H4V2H0Z"/></svg>'); // prettier-ignore

/** Each face that is seen, with a place well within it. */
function placesOf(document: CheminDocument): readonly { readonly seen: SeenFace; readonly at: SheetPoint }[] {
  const picture = new PictureMaker().make(document);
  const found = new Map<string, { seen: SeenFace; places: SheetPoint[] }>();
  for (let x = 4; x < document.sheet.width; x += 1.03)
    for (let y = 4; y < document.sheet.height; y += 1.03) {
      const hit = pickAt(picture, { x, y }, 0);
      const seen = seenFace(hit);
      if (!seen || !hit) continue;
      const key = `${seen.owner} ${hit.drawn.within} ${hit.drawn.node.id} ${hit.face}`;
      const known = found.get(key) ?? { seen, places: [] };
      known.places.push({ x, y });
      found.set(key, known);
    }
  return [...found.values()].flatMap(({ seen, places }) => {
    if (places.length < 40) return [];
    const mean = (of: (p: SheetPoint) => number): number => places.reduce((sum, p) => sum + of(p), 0) / places.length;
    const [x, y] = [mean((p) => p.x), mean((p) => p.y)];
    const far = (p: SheetPoint): number => Math.hypot(p.x - x, p.y - y);
    return [{ seen, at: places.reduce((p, q) => (far(q) < far(p) ? q : p)) }];
  });
}

/** Acts on the drawing of which the whole sheet is shown, each place given in mm of the sheet. */
class SheetHand extends Hand {
  /** The screen place of one of the sheet. */
  async place({ x, y }: SheetPoint): Promise<SheetPoint> {
    const { sheet } = (await storedOpen(this.page)).document as CheminDocument;
    const area = (await this.page.locator('.area').boundingBox())!;
    const zoom = Math.min((area.width - 72) / sheet.width, (area.height - 72) / sheet.height);
    return {
      x: area.x + Math.round((area.width - sheet.width * zoom) / 2) + x * zoom,
      y: area.y + Math.round((area.height - sheet.height * zoom) / 2) + y * zoom,
    };
  }

  async pressAt(at: SheetPoint): Promise<void> {
    const { x, y } = await this.place(at);
    await this.page.mouse.move(x, y, { steps: 2 });
    await this.page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
    await this.page.mouse.down();
    await this.page.mouse.up();
  }
}

async function opened(page: Page): Promise<{ readonly hand: SheetHand; readonly document: CheminDocument }> {
  const hand = new SheetHand(page, await openEmpty(page));
  const whole: CheminDocument = { ...emptyDocument('faces', 'Faces'), nodes: THINGS, artworks: [ART] };
  await drop(page, { name: 'faces.chemin', mimeType: 'application/json', buffer: Buffer.from(writeProject(whole)) });
  await expect(page.locator('chemin-contents h2')).toContainText('11');
  await joinInTests();
  const document = (await storedOpen(page)).document as CheminDocument;
  expect(await settled(document)).toEqual([]);
  return { hand, document };
}

const counted = (document: CheminDocument): number => flattenTree(document.nodes).length;

test('artwork, lettering, an opening and a dimension are put on every kind of face by a press, artwork by dropping too', async ({ page }) => {
  const { hand, document } = await opened(page);
  const places = placesOf(document);
  expect(places.length).toBeGreaterThan(15);
  const before = counted(document);
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('button', { name: 'Artwork' }).click();
  await hand.button('Choose flag');
  /** Does something that adds to the drawing, looks at it, and takes it back. */
  const added = async (what: string, act: () => Promise<void>, holds: (node: DocumentNode, whole: CheminDocument) => void): Promise<void> => {
    await act();
    await kept(page, (whole) => {
      expect(counted(whole), what).toBeGreaterThan(before);
      holds(flattenTree(whole.nodes).at(-1)!.node, whole);
    });
    await page.keyboard.press('Escape');
    while (counted((await storedOpen(page)).document as CheminDocument) > before) {
      await page.locator('.area').focus();
      await page.keyboard.press('Control+z');
      await page.evaluate(() => new Promise((done) => setTimeout(done, 60)));
    }
  };
  for (const { seen, at } of places) {
    const named = `${seen.owner} ${JSON.stringify(seen.face)}`;
    const lies = (node: DocumentNode): void => expect(node, named).toMatchObject({ kind: 'placement', target: { kind: 'face', node: seen.shape, face: seen.face } }); // prettier-ignore
    await added(`${named}, pressed`, async () => {
      await hand.find('place artwork');
      await hand.pressAt(at);
    }, (_, whole) => lies(whole.nodes.find(({ kind }) => kind === 'placement')!)); // prettier-ignore
    const dropped = await hand.place(at);
    await page.mouse.move(dropped.x, dropped.y);
    await added(`${named}, dropped`, () => drop(page, { name: 'pennon.svg', mimeType: 'image/svg+xml', buffer: SVG }, dropped), (_, whole) => lies(whole.nodes.find(({ kind }) => kind === 'placement')!)); // prettier-ignore
    await added(`${named}, lettering`, async () => {
      await hand.find('write text');
      await hand.pressAt(at);
      await page.keyboard.type('A');
      await page.keyboard.press('Escape');
    }, (_, whole) => expect(whole.nodes.some((node) => node.kind === 'group' && node.lettering?.text === 'A'), named).toBe(true)); // prettier-ignore
    if (seen.surface.form.kind !== 'flat') continue;
    await added(`${named}, opening`, async () => {
      await hand.find('press an opening into a face');
      await hand.pressAt(at);
      await hand.measures('0.5', '0.5', '0.3');
    }, (_, whole) => expect(JSON.stringify(whole.nodes), named).toContain('opening 1')); // prettier-ignore
    await added(`${named}, dimension`, async () => {
      await hand.find('draw a dimension line');
      await hand.pressAt(at);
      await hand.pressAt({ x: at.x + 15, y: at.y + 2 });
      await hand.pressAt({ x: at.x + 6, y: at.y + 12 });
    }, (_, whole) => expect(whole.nodes.at(-1), named).toMatchObject({ kind: 'dimension' })); // prettier-ignore
  }
  console.log(`${places.length} faces of ${THINGS.length} things`);
  // Each of them has a name too, by which artwork is laid on it.
  expect(facesOf(document).length).toBeGreaterThanOrEqual(places.length);
});
