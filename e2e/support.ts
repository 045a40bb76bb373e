import { emptyDocument, type CheminDocument } from '../core/index';
import { expect, test as base, type Page } from '@playwright/test';

/** Every test fails on a console error, a content-policy report, or a request to another host. */
export const test = base.extend<{ clean: undefined }>({
  clean: [
    async ({ page, baseURL }, use) => {
      const faults: string[] = [];
      page.on('console', (message) => {
        if (message.type() === 'error' || /content security policy/i.test(message.text())) faults.push(`console: ${message.text()}`);
      });
      page.on('pageerror', (error) => faults.push(`page error: ${error.message}`));
      page.on('request', (request) => {
        const url = new URL(request.url());
        if (!['blob:', 'data:'].includes(url.protocol) && url.origin !== baseURL) faults.push(`request to ${url.origin}`);
      });
      await page.addInitScript(() => {
        document.addEventListener('securitypolicyviolation', (event) =>
          console.error(`content security policy: ${event.violatedDirective} ${event.blockedURI}`),
        );
      });
      await use(undefined);
      expect(faults).toEqual([]);
    },
    { auto: true },
  ],
});

export { expect };

/** Opens the page and waits until the demo is drawn. */
export async function openDemo(page: Page): Promise<void> {
  await page.goto('/');
  // The first visit fetches everything and keeps it; a busy machine takes its time.
  await expect(page.getByRole('button', { name: 'serving hatch', exact: true })).toBeVisible();
}

interface DroppedFile {
  readonly name: string;
  readonly mimeType: string;
  readonly buffer: Buffer;
}

/** Drops a file, or several at once, on the drawing. @param at the place of the screen */
export async function drop(
  page: Page,
  files: DroppedFile | readonly DroppedFile[],
  at: { readonly x: number; readonly y: number } = { x: 0, y: 0 },
): Promise<void> {
  const all = ('name' in files ? [files] : files).map(({ name, mimeType, buffer }) => [name, mimeType, buffer.toString('base64')] as const);
  await page.locator('.area').evaluate(
    (area, { files, x, y }) => {
      const data = new DataTransfer();
      for (const [name, type, base64] of files) data.items.add(new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], name, { type }));
      area.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true, clientX: x, clientY: y }));
    },
    { files: all, ...at },
  );
}

/** Opens the page on a drawing that storage has already, without the way by a first visit and its demo. */
export async function openStored(page: Page, document: CheminDocument): Promise<void> {
  // An empty page of the same origin, so that storage can be written before the application looks at it.
  await page.route('**/empty', (route) => route.fulfill({ contentType: 'text/html', body: '<!doctype html><link rel="icon" href="data:,">' }));
  await page.goto('/empty');
  await page.unroute('**/empty');
  await page.evaluate(
    ({ version, stores, drawing }) =>
      new Promise<void>((resolve, reject) => {
        const open = indexedDB.open('chemin', version);
        open.onerror = () => reject(open.error);
        open.onupgradeneeded = () => {
          for (const [store, key, indices] of stores) {
            const made = open.result.createObjectStore(store, { keyPath: key });
            for (const [index, path] of indices) made.createIndex(index, path);
          }
        };
        open.onsuccess = () => {
          const write = open.result.transaction(['drawings', 'settings'], 'readwrite');
          write.objectStore('drawings').put(drawing);
          write.objectStore('settings').put({ key: 'open', value: drawing.id });
          write.onerror = () => reject(write.error);
          write.oncomplete = () => {
            open.result.close();
            resolve();
          };
        };
      }),
    { version: STORAGE_VERSION, stores: STORES, drawing: storedOf(document) },
  );
  await page.goto('/');
}

/** Storage as the application makes it, of the version that the browser counts. */
const STORAGE_VERSION = 50;
const STORES: readonly (readonly [string, string | string[], readonly (readonly [string, string | string[]])[]])[] = [
  ['drawings', 'id', [['changed', 'changed'], ['deleted', 'deleted']]], // prettier-ignore
  ['steps', ['drawing', 'index'], [['drawing', 'drawing']]],
  ['settings', 'key', []],
  ['assets', 'hash', []],
  ['setups', 'id', [['name', 'name']]],
  ['objects', 'id', [['name', 'name']]],
];

const storedOf = (document: CheminDocument) => ({
  id: document.id,
  name: document.name,
  changed: Date.now(),
  deleted: 0,
  revision: 1,
  document,
  base: document,
  position: 0,
  stepCount: 0,
  draft: null,
});

/** Opens the page on an empty sheet at 100 %, with crossings at known places. */
export async function openEmpty(page: Page): Promise<Grid> {
  await openStored(page, emptyDocument('empty', 'Untitled drawing'));
  await expect(page.getByText('Nothing is drawn yet.')).toBeVisible();
  return new Grid(page);
}

export type Place = readonly [number, number, number];

const CELL = 8;
const ORIGIN = { x: 150, y: 150 };

/** Finds places of the isometric drawing on the screen: an empty sheet of 300 x 200 mm with cells of 8 mm, fitted. */
export class Grid {
  constructor(private readonly page: Page) {}

  /** The screen point of a, b, h in cells, from the sheet's size and place alone. */
  async at([a, b, h]: Place): Promise<{ x: number; y: number }> {
    const box = await this.page.locator('.area').boundingBox();
    if (!box) throw new Error('The drawing area is not there.');
    const margin = 36;
    const zoom = Math.min((box.width - 2 * margin) / 300, (box.height - 2 * margin) / 200);
    const x = ORIGIN.x + (a - b) * CELL * Math.cos(Math.PI / 6);
    const y = ORIGIN.y - ((a + b) / 2 + h) * CELL;
    return {
      x: box.x + Math.round((box.width - 300 * zoom) / 2) + x * zoom,
      y: box.y + Math.round((box.height - 200 * zoom) / 2) + y * zoom,
    };
  }

  async move(place: Place, off = 3): Promise<void> {
    const { x, y } = await this.at(place);
    // A hand never meets a crossing exactly.
    await this.page.mouse.move(x + off, y - off, { steps: 3 });
    await this.page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  }

  async press(place: Place): Promise<void> {
    await this.move(place);
    await this.page.mouse.down();
    await this.page.mouse.up();
  }

  async drag(from: Place, to: Place): Promise<void> {
    await this.move(from);
    await this.page.mouse.down();
    await this.move(to);
    await this.page.mouse.up();
  }
}

/** Until the page has made its storage: opening it before would make an empty one. */
async function untilStored(page: Page): Promise<void> {
  await page.waitForFunction(async () => (await indexedDB.databases()).some(({ name, version }) => name === 'chemin' && (version ?? 0) >= 40));
}

/** The kept project as the browser's own storage has it. */
export async function storedDrawing(
  page: Page,
  name: string,
): Promise<{ document: { nodes: unknown[]; [key: string]: unknown }; position: number; stepCount: number; draft: unknown }> {
  await untilStored(page);
  return page.evaluate(
    (wanted) =>
      new Promise((resolve, reject) => {
        const open = indexedDB.open('chemin');
        open.onerror = () => reject(open.error);
        open.onsuccess = () => {
          // It is being made just now: whoever asks asks again.
          if (!open.result.objectStoreNames.contains('drawings')) return void (open.result.close(), reject(new Error('no storage yet')));
          const all = open.result.transaction('drawings').objectStore('drawings').getAll();
          all.onsuccess = () => {
            open.result.close();
            resolve(all.result.find((drawing: { name: string }) => drawing.name === wanted));
          };
        };
      }),
    name,
  );
}

/** The document of the drawing that is open, as the browser's own storage has it. */
export async function storedOpen(page: Page): Promise<{ id: string; name: string; document: unknown }> {
  await untilStored(page);
  return page.evaluate(
    () =>
      new Promise((resolve, reject) => {
        const open = indexedDB.open('chemin');
        open.onerror = () => reject(open.error);
        open.onsuccess = () => {
          if (!open.result.objectStoreNames.contains('settings')) return void (open.result.close(), reject(new Error('no storage yet')));
          const stores = open.result.transaction(['drawings', 'settings']);
          const setting = stores.objectStore('settings').get('open');
          setting.onsuccess = () => {
            const drawing = stores.objectStore('drawings').get((setting.result as { value: string }).value);
            drawing.onsuccess = () => {
              open.result.close();
              resolve(drawing.result);
            };
          };
        };
      }),
  );
}

/** Waits until everything that is fetched ahead is there, and cuts the network. */
export async function goOffline(page: Page): Promise<void> {
  await page.evaluate(async () => {
    const registration = await navigator.serviceWorker.ready;
    while (registration.active?.state !== 'activated') await new Promise((done) => setTimeout(done, 100));
  });
  // Everything that the page needs is being fetched ahead; once all of it is there, a second visit needs no network.
  const wanted = await page.evaluate(async () => {
    const { assetGroups } = (await (await fetch('/ngsw.json')).json()) as { assetGroups: { installMode: string; urls: string[] }[] };
    return assetGroups.filter((group) => group.installMode === 'prefetch').flatMap((group) => group.urls);
  });
  expect(wanted.length).toBeGreaterThan(10);
  await expect(async () => {
    const names = await page.evaluate(async () =>
      (await Promise.all((await caches.keys()).map(async (key) => (await (await caches.open(key)).keys()).map((request) => request.url)))).flat(),
    );
    expect(wanted.filter((url) => !names.some((name) => name.endsWith(url)))).toEqual([]);
  }).toPass();
  await page.context().setOffline(true);
}

/** The drawing as it is kept, once what is asked of it holds. */
export async function kept(page: Page, holds: (document: CheminDocument) => void): Promise<CheminDocument> {
  let document: CheminDocument | undefined;
  await expect(async () => {
    document = (await storedOpen(page)).document as CheminDocument;
    holds(document);
  }).toPass({ intervals: [100] });
  return document!;
}

/** Says what a job took, and holds it to its limit. */
export function within(limit: number, job: string, { gestures }: { readonly gestures: number }): void {
  console.log(`${job}: ${gestures} gestures, at most ${limit}`);
  expect(gestures).toBeLessThanOrEqual(limit);
}
