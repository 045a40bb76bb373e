import type { Page } from '@playwright/test';
import { EVERY_SETTING } from '../app/features/every-word';
import { expect, openDemo, test } from './support';

/** The name of what has the focus, as the accessibility tree has it. */
async function focused(page: Page): Promise<string> {
  return page.evaluate(() => {
    const control = document.activeElement as HTMLElement;
    if (!control.closest('chemin-bench, chemin-selection')) return `nothing on the bench but ${control.tagName}`;
    const text = (element: Element | null | undefined): string => element?.textContent?.trim() ?? '';
    const by = control.getAttribute('aria-labelledby');
    const label = control.id ? document.querySelector(`label[for="${control.id}"]`) : null;
    return (by && text(document.getElementById(by))) || control.getAttribute('aria-label') || text(label) || text(control.closest('label')) || text(control);
  });
}

const SWITCHED: Readonly<Record<string, string>> = {
  'Line width': 'Line',
  'Soft edges of shadows': 'Cast shadows',
  'Contact shadows': 'Cast shadows',
  'Thirds and other divisions': 'Divide a face',
};

test('every setting that the finder knows is gone to, and its control has the focus', async ({ page }) => {
  test.setTimeout(240_000);
  await openDemo(page);
  const missed: string[] = [];
  for (const { title, controls, wants } of EVERY_SETTING) {
    await page.keyboard.press('Escape');
    if (wants === 'perspective') await run(page, 'Use three-point perspective');
    if (wants === 'things' || wants === 'shapes') await page.getByRole('treeitem', { name: 'water' }).click();
    if (wants === 'several') await page.locator('.area').press('Control+a');
    await run(page, title);
    // What is set of something that is off is where it is switched on.
    const wanted = SWITCHED[title] ?? controls[0]!;
    const there = await expect
      .poll(() => focused(page), { timeout: 4000 })
      .toMatch(new RegExp(`^${wanted}`))
      .then(() => true, () => false); // prettier-ignore
    if (!there) missed.push(`${title}: wanted “${wanted}”, “${await focused(page)}” has the focus`);
  }
  expect(missed).toEqual([]);
});

async function run(page: Page, words: string): Promise<void> {
  await page.keyboard.press('Control+k');
  const field = page.locator('chemin-finder input');
  await field.fill(words);
  await page.keyboard.press('Enter');
  await expect(field).toBeHidden();
}
