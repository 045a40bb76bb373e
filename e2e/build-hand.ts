import type { Page } from '@playwright/test';
import { expect, openEmpty, storedOpen, type Grid, type Place } from './support';

/** A hand that counts what it does: each press, drag, key or typed field is one gesture. */
export class BuildHand {
  gestures = 0;

  constructor(
    readonly page: Page,
    readonly grid: Grid,
  ) {}

  async tool(name: string): Promise<void> {
    this.gestures++;
    await this.page.locator('chemin-bench').getByRole('button', { name: new RegExp(`^${name}`) }).first().click(); // prettier-ignore
  }

  async press(place: Place): Promise<void> {
    this.gestures++;
    await this.grid.press(place);
  }

  async drag(from: Place, to: Place): Promise<void> {
    this.gestures++;
    await this.grid.drag(from, to);
  }

  async key(key: string): Promise<void> {
    this.gestures++;
    await this.page.keyboard.press(key);
  }

  async click(name: string, how: { readonly modifiers?: ('Control' | 'Shift')[] } = {}): Promise<void> {
    this.gestures++;
    await this.page.getByRole('button', { name, exact: true }).first().click(how);
  }

  /** Measures typed while drawing, a Tab between them, and Enter. */
  async measures(...texts: readonly string[]): Promise<void> {
    this.gestures++;
    for (const [i, text] of texts.entries()) {
      if (i > 0) await this.page.keyboard.press('Tab');
      await this.page.keyboard.type(text);
    }
    await this.page.keyboard.press('Enter');
  }

  /** A field filled and taken. */
  async fill(label: string, value: string): Promise<void> {
    this.gestures++;
    const field = this.page.getByLabel(label, { exact: true });
    await field.fill(value);
    await field.press('Enter');
  }

  async twice(place: Place): Promise<void> {
    this.gestures++;
    const { x, y } = await this.grid.at(place);
    await this.page.mouse.dblclick(x + 2, y - 2);
  }
}

export interface Node {
  readonly kind: string;
  readonly name: string;
  readonly joined?: string;
  readonly lettering?: { readonly text: string; readonly kind: string };
  readonly depth?: number;
  readonly plane?: { readonly kind: string };
  readonly children?: readonly Node[];
}

/** An empty sheet in Build. */
export async function begin(page: Page): Promise<BuildHand> {
  const grid = await openEmpty(page);
  await page
    .getByRole('button', { name: /^Build/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { name: 'Build', exact: true })).toBeVisible();
  return new BuildHand(page, grid);
}

/** The things of the drawing as they are kept, once they are as wanted. */
export async function things(page: Page, wanted: (nodes: readonly Node[]) => boolean): Promise<readonly Node[]> {
  let nodes: readonly Node[] = [];
  await expect(async () => {
    nodes = ((await storedOpen(page)).document as { nodes: readonly Node[] }).nodes;
    expect(wanted(nodes)).toBe(true);
  }).toPass({ intervals: [100] });
  return nodes;
}
