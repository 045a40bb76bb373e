import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Browser, type Page } from '@playwright/test';
import { flattenTree, type CheminDocument } from '../core/index';
import { randomFrom, runs } from '../core/testing/random';
import { begin } from './build-hand';
import { drop, expect, openEmpty, storedOpen, test } from './support';

/** What storage has of the drawing that is open. */
interface Stored {
  readonly document: CheminDocument;
  readonly position: number;
  readonly draft: { readonly lettering?: { readonly text: string } } | null;
}

/** Something that is done again and again while the browser dies. */
interface Work {
  readonly words: string;
  readonly before: (page: Page) => Promise<void>;
  readonly act: (page: Page, i: number) => Promise<void>;
  /** How many of the acts storage has. */
  readonly kept: (stored: Stored, before: Stored) => number;
}

/** A browser with its profile on a disk, which can be killed as a machine that loses its power would. */
class Mortal {
  private constructor(
    private readonly process: ChildProcess,
    private readonly browser: Browser,
    readonly page: Page,
  ) {}

  static async born(profile: string, url: string): Promise<Mortal> {
    const port = join(profile, 'DevToolsActivePort');
    rmSync(port, { force: true });
    const args = ['--headless', '--no-sandbox', '--disable-gpu', '--no-first-run', '--disable-background-networking', '--window-size=1280,800'];
    const process = spawn('/usr/bin/chromium', [...args, '--remote-debugging-port=0', `--user-data-dir=${profile}`, 'about:blank'], {
      stdio: 'ignore',
      detached: true,
    });
    await expect(() => expect(readFileSync(port, 'utf8')).toMatch(/^\d+\n/)).toPass();
    const browser = await chromium.connectOverCDP(`http://127.0.0.1:${readFileSync(port, 'utf8').split('\n')[0]}`);
    const context = browser.contexts()[0]!;
    const page = context.pages()[0] ?? (await context.newPage());
    await page.setViewportSize({ width: 1280, height: 800 });
    // Links in tests are relative to where the application is served.
    const goto = page.goto.bind(page);
    page.goto = (to, how) => goto(new URL(to, url).href, how);
    return new Mortal(process, browser, page);
  }

  /** Kills the browser with all its processes, at once. */
  async kill(): Promise<void> {
    const gone = new Promise((done) => this.process.once('exit', done));
    process.kill(-this.process.pid!, 'SIGKILL');
    await gone;
    await this.browser.close().catch(() => undefined);
  }
}

const stored = async (page: Page): Promise<Stored> => (await storedOpen(page)) as unknown as Stored;

/** What the page says of its saving, once what was just done is shown. */
const said = (page: Page): Promise<string> =>
  page.evaluate(
    () =>
      new Promise<string>((done) =>
        requestAnimationFrame(() => requestAnimationFrame(() => done(document.querySelector('chemin-head .saved')?.textContent ?? ''))),
      ),
  );

const stage = (page: Page, name: string): Promise<void> => page.getByRole('navigation', { name: 'Stages' }).getByRole('button', { name }).click();

const TEXT = 'THE QUICK HARBOUR LAUNCH CARRIES NINE CRATES OF BRASS LAMPS PAST THE OLD QUAY';
const artwork = (i: number): { name: string; mimeType: string; buffer: Buffer } => ({
  name: `mark ${i}.svg`,
  mimeType: 'image/svg+xml',
  buffer: Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="16mm" height="8mm" viewBox="0 0 16 8"><path fill="#${i.toString(16).padStart(6, '0')}" d="M0 0H16V8H0Z"/></svg>`,
  ),
});

const WORK: readonly Work[] = [
  {
    words: 'an opening moved, and joined anew each time',
    before: async (page) => {
      const hand = await begin(page);
      await hand.tool('Box');
      await hand.drag([0, 0, 0], [8, 4, 0]);
      await hand.press([8, 4, 6]);
      await hand.tool('Opening');
      await hand.drag([1, 0, 1], [4, 0, 4]);
      await hand.press([4, 3, 4]);
      await hand.tool('Pick');
      await hand.click('opening 1');
      await page.locator('.area').focus();
    },
    act: (page, i) => page.keyboard.press(i % 4 < 2 ? 'ArrowRight' : 'ArrowLeft'),
    kept: ({ position }, before) => position - before.position,
  },
  {
    words: 'lettering typed',
    before: async (page) => {
      const hand = await begin(page);
      await hand.tool('Lettering');
      await hand.press([-4, 0, 3]);
    },
    act: (page, i) => page.keyboard.type(TEXT[i % TEXT.length]!),
    kept: ({ document, draft }) => {
      const drawn = flattenTree(document.nodes).map(({ node }) => (node.kind === 'group' && node.lettering ? node.lettering.text.length : 0));
      return Math.max(0, draft?.lettering?.text.length ?? 0, ...drawn);
    },
  },
  {
    words: 'artwork brought in',
    before: async (page) => {
      await openEmpty(page);
      await stage(page, 'Artwork');
    },
    act: async (page, i) => {
      await drop(page, artwork(i), { x: 640, y: 400 });
      await expect(page.getByText(`mark ${i}`).first()).toBeVisible();
    },
    kept: ({ document }) => document.artworks.length,
  },
  {
    words: 'photographs taken and fitted',
    before: async (page) => {
      await openEmpty(page);
      await stage(page, 'Photo');
    },
    act: async (page, i) => {
      await page.getByRole('button', { name: i % 2 === 0 ? 'Hatch' : 'Cup', exact: true }).click();
      await expect(page.getByRole('button', { name: 'Find and fit', exact: true })).toBeEnabled();
      await page.getByRole('button', { name: 'Find and fit', exact: true }).click();
      await page.getByRole('button', { name: 'Stop', exact: true }).waitFor({ state: 'visible' });
    },
    kept: ({ document }) => document.photos?.length ?? 0,
  },
];

for (const { words, before, act, kept } of WORK) {
  test(`the browser is killed: ${words}`, async ({ baseURL }) => {
    const count = runs(1);
    test.setTimeout(120_000 * (count + 1));
    const random = randomFrom(words.length);
    const lost: number[] = [];
    for (let run = 0; run < count; run++) {
      const profile = mkdtempSync(join(tmpdir(), 'chemin-profile-'));
      try {
        const first = await Mortal.born(profile, baseURL!);
        await before(first.page);
        await expect(() => said(first.page).then((now) => expect(now).toMatch(/^saved/))).toPass();
        const begun = await stored(first.page);
        // Acts by when they were done, and how many of them the page said it had kept.
        const done: number[] = [];
        let promised = 0;
        const dies = new Promise((end) => setTimeout(end, 1500 + 3500 * random()));
        const works = (async () => {
          for (let i = 0; ; i++) {
            await act(first.page, i);
            done.push(Date.now());
            if (/^saved/.test(await said(first.page))) promised = done.length;
          }
        })().catch(() => undefined);
        await dies;
        const killed = Date.now();
        await first.kill();
        await works;
        const second = await Mortal.born(profile, baseURL!);
        const faults: string[] = [];
        second.page.on('pageerror', ({ message }) => faults.push(message));
        await second.page.goto('/');
        await expect(() => said(second.page).then((now) => expect(now).toMatch(/^saved/))).toPass();
        const there = kept(await stored(second.page), begun);
        await second.kill();
        expect(faults).toEqual([]);
        expect(there, `${promised} of ${done.length} were said to be saved`).toBeGreaterThanOrEqual(promised);
        // Of a second and what a hand takes to see that it was done.
        const missing = done[there];
        lost.push(missing === undefined ? 0 : Math.max(0, killed - missing));
      } finally {
        rmSync(profile, { recursive: true, force: true });
      }
    }
    console.log(`${words}: ${count} kills, the oldest that was lost ${Math.max(...lost)} ms old`);
    // Alone, a machine that is busy with other tests keeps nobody to a second.
    if (count >= 10) expect(Math.max(...lost)).toBeLessThanOrEqual(1000);
  });
}
