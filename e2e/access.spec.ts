import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';
import { expect, openDemo, openEmpty, test } from './support';

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

interface Violation {
  readonly id: string;
  readonly impact: string;
  readonly nodes: readonly { readonly html: string; readonly failureSummary: string }[];
}

async function seriousFaults(page: Page): Promise<string[]> {
  await page.evaluate(axeSource);
  const violations = await page.evaluate(async () => {
    const { axe } = window as unknown as { axe: { run: (root: Document, options: object) => Promise<{ violations: Violation[] }> } };
    return (await axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'] })).violations;
  });
  return violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .flatMap((v) => v.nodes.map((node) => `${v.id}: ${node.html.slice(0, 160)} ${node.failureSummary}`));
}

for (const theme of ['light', 'dark'] as const) {
  test(`no serious fault of access in any stage or dialog, ${theme}`, async ({ page }) => {
    await openDemo(page);
    if (theme === 'dark') await page.getByRole('button', { name: 'Use the dark theme' }).click();
    for (const stage of ['Draw', 'Build', 'Light', 'Artwork', 'Output']) {
      await page.getByRole('button', { name: stage, exact: true }).click();
      for (const thing of ['kiosk', 'sign artwork']) {
        await page.getByRole('button', { name: thing, exact: true }).click();
        expect(await seriousFaults(page), `${stage}, ${thing} selected`).toEqual([]);
      }
    }
    for (const keys of ['Control+o', 'Control+k', '?']) {
      await page.locator('.area').focus();
      await page.keyboard.press(keys);
      await expect(page.getByRole('dialog')).toBeVisible();
      expect(await seriousFaults(page), keys).toEqual([]);
      await page.keyboard.press('Escape');
      await expect(page.getByRole('dialog')).toHaveCount(0);
    }
  });
}

test('every control is reached by Tab, in every stage', async ({ page }) => {
  await openDemo(page);
  for (const stage of ['Draw', 'Build', 'Light', 'Artwork', 'Output']) {
    await page.getByRole('button', { name: stage, exact: true }).click();
    await page.getByRole('button', { name: 'kiosk', exact: true }).click();
    const missed = await page.evaluate(() => {
      const controls = Array.from(
        document.querySelectorAll<HTMLElement>(
          'button, input, a[href], select, [role=button], [role=radio], [role=slider], [role=combobox], [role=application], [role=switch]',
        ),
      );
      const visible = controls.filter((c) => c.checkVisibility() && !(c as HTMLButtonElement).disabled && getComputedStyle(c).visibility !== 'hidden');
      return visible
        .filter((c) => c.tabIndex < 0 && !c.closest('[tabindex="0"], p-select, p-toggleswitch, [role=tree], [role=radiogroup]'))
        .map((c) => c.outerHTML.slice(0, 120));
    });
    expect(missed, stage).toEqual([]);
  }
  const seen = new Set<string>();
  await page.getByRole('button', { name: 'Drawings', exact: true }).focus();
  for (let i = 0; i < 360; i++) {
    seen.add(await page.evaluate(() => (document.activeElement?.getAttribute('aria-label') ?? document.activeElement?.textContent ?? '').trim().slice(0, 30)));
    await page.keyboard.press('Tab');
  }
  for (const name of ['Find', 'Draw', 'Output', 'Export SVG', 'kiosk', 'floor', 'Zoom in']) {
    expect(
      [...seen].some((s) => s.startsWith(name)),
      name,
    ).toBe(true);
  }
});

test('the tree of contents is walked, folded, renamed, moved and emptied by the keyboard, with the focus where the work is', async ({ page }) => {
  await openDemo(page);
  const tree = page.getByRole('tree', { name: 'Things of the drawing' });
  const at = page.locator('[role=treeitem]:focus');
  expect(await tree.locator('[role=treeitem][tabindex="0"]').count()).toBe(1);
  await tree.locator('[role=treeitem][tabindex="0"]').focus();
  await page.keyboard.press('Home');
  await expect(at).toHaveAttribute('aria-label', 'ticket kiosk');
  await page.keyboard.press('ArrowLeft');
  await expect(at).toHaveAttribute('aria-expanded', 'false');
  await page.keyboard.press('ArrowDown');
  await expect(at).toHaveAttribute('aria-label', 'lamp');
  await page.keyboard.press('c');
  await expect(at).toHaveAttribute('aria-label', 'crates');
  await page.keyboard.press('ArrowRight');
  await expect(at).toHaveAttribute('aria-label', 'small crate');
  await page.keyboard.press('F2');
  await expect(page.getByRole('textbox', { name: 'New name' })).toBeFocused();
  await page.keyboard.type('tiny crate');
  await page.keyboard.press('Enter');
  await expect(at).toHaveAttribute('aria-label', 'tiny crate');
  await page.keyboard.press('F2');
  await expect(page.getByRole('textbox', { name: 'New name' })).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(at).toHaveAttribute('aria-label', 'tiny crate');
  await page.keyboard.press('Alt+ArrowDown');
  await page.keyboard.press('ArrowUp');
  await expect(at).toHaveAttribute('aria-label', 'top crate');
  await page.keyboard.press('Delete');
  await expect(at).toHaveAttribute('aria-label', 'tiny crate');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+Shift+O');
  await page.keyboard.press('Control+Shift+L');
  await expect(page.getByRole('button', { name: 'Show tiny crate' })).toBeAttached();
  await expect(page.getByRole('button', { name: 'Unlock tiny crate' })).toBeAttached();
  await expect(at).toHaveAttribute('aria-label', 'tiny crate');
});

test('a rectangle by the keyboard alone, and its depth', async ({ page }) => {
  await openEmpty(page);
  await page.getByRole('radio', { name: 'right wall' }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('3');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight');
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowUp');
  await expect(page.locator('chemin-pointer-words')).toContainText('5 × 3\u2009cells');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'rectangle 1, right wall', exact: true })).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Length along a' })).toHaveValue('5');
  await page.keyboard.press('.');
  const depth = page.getByRole('region', { name: 'Depth' }).getByRole('textbox', { name: 'Depth' });
  await depth.focus();
  await page.keyboard.type('2');
  await page.keyboard.press('Enter');
  await expect(page.getByText('solid of 4 points, right wall')).toBeVisible();
});
