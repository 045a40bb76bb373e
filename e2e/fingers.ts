import type { CDPSession, Page } from '@playwright/test';

/** Fingers on the screen, as the browser's own input events. */
export class Fingers {
  constructor(
    private readonly session: CDPSession,
    private readonly page: Page,
  ) {}

  static async on(page: Page): Promise<Fingers> {
    return new Fingers(await page.context().newCDPSession(page), page);
  }

  async put(...at: readonly { x: number; y: number }[]): Promise<void> {
    await this.session.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: at.map((p, id) => ({ ...p, id })) });
  }

  async move(...at: readonly { x: number; y: number }[]): Promise<void> {
    await this.session.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: at.map((p, id) => ({ ...p, id })) });
    await this.page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  }

  async lift(): Promise<void> {
    await this.session.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  }

  async lose(): Promise<void> {
    await this.session.send('Input.dispatchTouchEvent', { type: 'touchCancel', touchPoints: [] });
  }
}
