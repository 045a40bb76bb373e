import { begin, things } from './build-hand';
import { expect, test } from './support';

test('five thousand letters', async ({ page }) => {
  test.setTimeout(300_000);
  const hand = await begin(page);
  await hand.tool('Lettering');
  await hand.fill('Height of capitals', '0.3');
  await hand.fill('Line spacing', '0.5');
  await hand.press([-10, -10, 0]);
  const line = 'The ferry to Quay Nine leaves at every full hour from the pier. '.repeat(2).trim();
  const text = Array.from({ length: 48 }, () => line).join('\n').slice(0, 5000);
  console.log(text.length);
  let t = Date.now();
  await page.getByRole('textbox', { name: 'Text', exact: true }).fill(text);
  await page.keyboard.press('Escape');
  await things(page, (nodes) => nodes.some(({ children }) => (children?.length ?? 0) > 3000)).catch((e) => console.log('slow', String(e).slice(0, 100)));
  console.log('written', Date.now() - t);
  await page.waitForTimeout(2000);
  t = Date.now();
  const frames = await page.evaluate(async () => {
    const area = document.querySelector('.area')!;
    const box = area.getBoundingClientRect();
    const times: number[] = [];
    for (let i = 0; i < 20; i++) {
      const s = performance.now();
      area.dispatchEvent(new WheelEvent('wheel', { deltaY: i % 2 ? 60 : -60, clientX: box.x + 300, clientY: box.y + 300, bubbles: true, cancelable: true }));
      await new Promise((d) => requestAnimationFrame(() => requestAnimationFrame(d)));
      times.push(performance.now() - s);
    }
    return times.sort((a, b) => a - b);
  });
  console.log('zoom frames', frames[10], frames.at(-1));
  t = Date.now();
  await page.getByRole('textbox', { name: 'Text', exact: true }).fill(text.replace('ferry', 'FERRY'));
  await page.keyboard.press('Escape');
  await things(page, (nodes) => nodes.some(({ lettering }) => lettering?.text.includes('FERRY') === true)).catch((e) => console.log('slow', String(e).slice(0, 100)));
  console.log('changed', Date.now() - t);
  t = Date.now();
  await hand.fill('Depth of letters', '0.1');
  await things(page, (nodes) => nodes.some(({ children }) => JSON.stringify(children?.[5]).includes('"depth":0.1'))).catch((e) => console.log('slow', String(e).slice(0, 100)));
  console.log('depth', Date.now() - t);
  await page.screenshot({ path: '/tmp/5000.png' });


});
