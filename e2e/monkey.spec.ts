import { checkDocument } from '../core/index';
import { randomFrom, runs } from '../core/testing/random';
import { expect, openDemo, openEmpty, storedOpen, test } from './support';

/** Keys that mean something somewhere; none that opens a file or leaves the page. */
const KEYS = [
  ...'123456789flrukgeonw[],.+-',
  ...['Escape', 'Enter', 'Backspace', 'Delete', 'Tab', 'ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Space'],
  ...['Control+z', 'Control+Shift+z', 'Control+a', 'Control+m', 'Control+Shift+m', 'Control+b', 'Control+Shift+b', 'Control+.', 'Control+,', 'Control+j', 'Control+k', 'Shift+ArrowUp', '?'],
  ...['Shift+Digit1', 'Shift+Digit2', 'Shift+Digit3', 'Shift+Digit4', 'Shift+Digit5', 'Shift+Digit6', 'Shift+Digit7', 'Shift+Digit9'],
] as const; // prettier-ignore
const TEXTS = ['0', '-3', '1e9', '3000000', '2.4 m', '(12-3*2)/4', 'x', '', '0.001', '100', '50 %', '#ff8800', 'a name'];
/** What opens a chooser of the system, exports, or changes how the page itself is. */
const LEFT_ALONE = /export|save|import|add a|from the screen|chooser|open a project|lattice|use it now|copy$|paste|cut$/i;

for (const seed of [1, 2, 3]) {
  test(`seed ${seed}: whatever is pressed, nothing breaks, the drawing stays valid, and a reload gives it back`, async ({ page }) => {
    const count = runs(120);
    test.setTimeout(60_000 + count * 900);
    const random = randomFrom(seed);
    const whole = (below: number): number => Math.floor(random() * below);
    const one = <T>(of: readonly T[]): T => of[whole(of.length)]!;
    if (seed === 3) await openEmpty(page);
    else await openDemo(page);
    page.on('dialog', (dialog) => void dialog.dismiss());
    const area = (await page.locator('.area').boundingBox())!;
    const place = (): [number, number] => [area.x + random() * area.width, area.y + random() * area.height];
    const kept = async (): Promise<{ name: string; text: string }> => {
      let [name, text] = ['', ''];
      await expect(async () => {
        await expect(page.locator('chemin-head .saved')).toContainText('saved', { timeout: 2000 });
        const stored = await storedOpen(page);
        [name, text] = [stored.name, JSON.stringify(stored.document)];
        // Solids of hundreds of cells that cut through each other keep the page busy for some time.
      }).toPass({ timeout: 40_000 });
      return { name, text };
    };
    let made = 0;
    for (let act = 0; act < count; act++) {
      const kind = random();
      if (kind < 0.34) {
        await page.mouse.move(...place());
        await page.mouse.down();
        if (random() < 0.6) await page.mouse.move(...place(), { steps: 2 });
        await page.mouse.up();
      } else if (kind < 0.72) await page.keyboard.press(one(KEYS));
      else if (kind < 0.76) await page.mouse.wheel(0, (random() - 0.5) * 600);
      else if (kind < 0.9) {
        const buttons = page.locator('button:visible:enabled, [role=option]:visible, [role=radio]:visible');
        const n = await buttons.count();
        const button = buttons.nth(whole(n));
        const name = `${(await button.getAttribute('aria-label', { timeout: 600 }).catch(() => '')) ?? ''} ${(await button.textContent({ timeout: 600 }).catch(() => '')) ?? ''}`;
        if (!LEFT_ALONE.test(name)) await button.click({ timeout: 600, force: true }).catch(() => undefined);
      } else {
        const inputs = page.locator('chemin-bench input[type=text]:visible, chemin-bench input:not([type]):visible, chemin-selection input:visible');
        const n = await inputs.count();
        if (n > 0) {
          await inputs
            .nth(whole(n))
            .fill(one(TEXTS), { timeout: 600, force: true })
            .catch(() => undefined);
          await page.keyboard.press(random() < 0.8 ? 'Enter' : 'Escape');
        }
      }
      made++;
      if (act % 20 === 19) {
        const { name, text } = await kept();
        const read = checkDocument(JSON.parse(text));
        expect([name, read.ok ? [] : read.problems]).toEqual([name, []]);
      }
    }
    for (let i = 0; i < 3; i++) await page.keyboard.press('Escape');
    const before = await kept();
    await page.reload();
    await expect(page.locator('#title')).toHaveValue(before.name);
    await expect(page.getByText('could not be read')).toHaveCount(0);
    expect((await kept()).text).toBe(before.text);
    console.log(`seed ${seed}: ${made} acts, ${(JSON.parse(before.text) as { nodes: unknown[] }).nodes.length} things at the end`);
  });
}
