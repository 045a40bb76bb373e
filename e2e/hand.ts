import type { Page } from '@playwright/test';
import { apply33, projectionFrom, sheetFromPlane, type CheminDocument, type Plane } from '../core/index';
import { expect, storedOpen, type Grid } from './support';

const field = (page: Page, name: string): ReturnType<Page['getByRole']> => page.getByRole('textbox', { name, exact: true });
const button = (page: Page, name: string): ReturnType<Page['getByRole']> => page.getByRole('button', { name, exact: true });

/** Counts what a hand does: a press, a drag, a key, or a measure that is typed. */
export class Hand {
  gestures = 0;

  constructor(
    readonly page: Page,
    readonly grid: Grid,
  ) {}

  async key(key: string): Promise<void> {
    await this.page.keyboard.press(key);
    this.gestures++;
  }

  /** Takes a tool: back on the drawing, its digit. */
  async tool(key: string): Promise<void> {
    await this.page.locator('.area').focus();
    await this.key(key);
  }

  async press(a: number, b: number, h = 0): Promise<void> {
    await this.grid.press([a, b, h]);
    this.gestures++;
  }

  async button(name: string): Promise<void> {
    await button(this.page, name).click();
    this.gestures++;
  }

  async type(name: string, text: string): Promise<void> {
    await field(this.page, name).fill(text);
    await field(this.page, name).press('Enter');
    this.gestures++;
  }

  /** Measures typed while drawing, a Tab between them. */
  async measures(...texts: string[]): Promise<void> {
    for (const [i, text] of texts.entries()) {
      if (i > 0) await this.page.keyboard.press('Tab');
      await this.page.keyboard.type(text);
    }
    await this.page.keyboard.press('Enter');
    this.gestures++;
  }

  /** Presses a place of the sheet in mm. */
  async sheet(x: number, y: number): Promise<void> {
    const area = (await this.page.locator('.area').boundingBox())!;
    const zoom = Math.min((area.width - 72) / 300, (area.height - 72) / 200);
    const [left, top] = [area.x + Math.round((area.width - 300 * zoom) / 2), area.y + Math.round((area.height - 200 * zoom) / 2)];
    await this.page.mouse.move(left + x * zoom, top + y * zoom, { steps: 2 });
    await this.page.mouse.down();
    await this.page.mouse.up();
    this.gestures++;
  }

  /** Finds a command or setting by words: its key, the words and Enter are one gesture. */
  async find(words: string): Promise<void> {
    await this.page.keyboard.press('Control+k');
    const input = this.page.locator('chemin-finder input');
    await input.fill(words);
    await this.page.keyboard.press('Enter');
    await expect(input).toBeHidden();
    this.gestures++;
  }

  /** Data: a figure typed where it is asked for; no gesture of its own. */
  async data(name: string, text: string): Promise<void> {
    await field(this.page, name).fill(text);
    await field(this.page, name).press('Enter');
  }

  /** The pixel of a place of a plane in cells, however the drawing is projected now. The whole sheet has to be shown. */
  async pixel(plane: Plane, u: number, v: number): Promise<{ x: number; y: number }> {
    const { sheet, projection, grid } = (await storedOpen(this.page)).document as CheminDocument;
    const on = apply33(sheetFromPlane(projectionFrom(projection), plane, grid.cell), u, v)!;
    const area = (await this.page.locator('.area').boundingBox())!;
    const zoom = Math.min((area.width - 72) / sheet.width, (area.height - 72) / sheet.height);
    const [left, top] = [area.x + Math.round((area.width - sheet.width * zoom) / 2), area.y + Math.round((area.height - sheet.height * zoom) / 2)];
    return { x: left + on.x * zoom, y: top + on.y * zoom };
  }

  /** Moves near a place of a plane. */
  async over(plane: Plane, u: number, v: number): Promise<void> {
    const { x, y } = await this.pixel(plane, u, v);
    await this.page.mouse.move(x + 1, y - 1, { steps: 3 });
    await this.page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  }

  async pressOn(plane: Plane, u: number, v: number): Promise<void> {
    await this.over(plane, u, v);
    await this.page.mouse.down();
    await this.page.mouse.up();
    this.gestures++;
  }

  /** A rectangle, or a line, by one drag from corner to corner. */
  async dragOn(plane: Plane, from: readonly [number, number], to: readonly [number, number]): Promise<void> {
    await this.over(plane, ...from);
    await this.page.mouse.down();
    await this.over(plane, ...to);
    await this.page.mouse.up();
    this.gestures++;
  }
}
