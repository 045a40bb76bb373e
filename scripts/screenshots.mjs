// Makes the pictures of the guide and the README from the demo, in a running build.
import { spawn } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { CHROMIUM, ensureBrowser, ensureBuild, ensurePackages, root } from './prepare.mjs';

ensurePackages();
ensureBrowser();
await ensureBuild();
const port = 4318;
const out = join(root, process.argv[2] ?? 'docs/screenshots');
mkdirSync(out, { recursive: true });
const server = spawn(process.execPath, ['dist/server/main.mjs', 'dist/app'], { cwd: root, env: { ...process.env, PORT: String(port) } });
const browser = await chromium.launch({ executablePath: CHROMIUM, args: ['--headless', '--no-sandbox', '--disable-gpu'] });

/** A page on the demo, its messages closed. */
async function demo(size, dark = false) {
  const page = await browser.newPage({ viewport: size, reducedMotion: 'reduce' });
  if (dark) await page.addInitScript(() => localStorage.setItem('chemin-theme', 'dark'));
  for (let tries = 0; tries < 40; tries++) {
    try {
      await page.goto(`http://localhost:${port}/`);
      break;
    } catch {
      await new Promise((done) => setTimeout(done, 250));
    }
  }
  await page.getByRole('button', { name: 'serving hatch', exact: true }).waitFor();
  return page;
}

async function shoot(page, name) {
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await page.waitForTimeout(150);
  await page.screenshot({ path: join(out, `${name}.png`) });
}

const press = (page, name) => page.getByRole('button', { name, exact: true }).click();
const SMALL = { width: 1280, height: 800 };
const LARGE = { width: 1600, height: 1000 };

try {
  // Projection: two points with the standing figure, and the comparison.
  const first = await demo(SMALL);
  await first.getByRole('button', { name: 'Projection', exact: true }).first().click();
  await press(first, 'two-point perspective');
  await first.waitForTimeout(300);
  const photograph = await first
    .locator('.surface canvas')
    .first()
    .evaluate((canvas) => {
      const sheet = document.createElement('canvas');
      [sheet.width, sheet.height] = [608, 430];
      sheet.getContext('2d').drawImage(canvas, 36, Math.round((canvas.height - 430) / 2), 608, 430, 0, 0, 608, 430);
      return sheet.toDataURL('image/png').split(',')[1];
    });
  await press(first, 'Standing figure');
  await first.locator('.area').focus();
  await first.keyboard.press('4');
  await press(first, '1:50');
  await first.locator('.area').focus();
  await first.keyboard.press('2');
  await press(first, 'standing');
  await first.locator('chemin-bench').evaluate((bench) => (bench.scrollTop = 0));
  await first.waitForTimeout(400);
  await shoot(first, 'projection');
  await press(first, 'Compare');
  await first.waitForTimeout(900);
  await shoot(first, 'compare');
  await press(first, 'Close');

  // From a picture: strokes over that perspective as if it were a photograph.
  await press(first, 'Drawings');
  await press(first, 'New drawing');
  await first.getByText('Nothing is drawn yet.').waitFor();
  await first.getByRole('button', { name: 'Projection', exact: true }).first().click();
  await first.locator('.area').focus();
  await first.keyboard.press('5');
  const chooser = first.waitForEvent('filechooser');
  await press(first, 'Add a picture');
  await (await chooser).setFiles({ name: 'landing.png', mimeType: 'image/png', buffer: Buffer.from(photograph, 'base64') });
  await first.getByRole('group', { name: 'Reference landing' }).waitFor();
  await first.getByRole('button', { name: 'Close' }).first().click();
  await first.getByRole('button', { name: 'Grid shown' }).click();
  const room = await first.locator('.area').boundingBox();
  const scale = (room.width - 72) / 300;
  const place = (x, y) => [room.x + 36 + 8.571 * scale + x * 0.4651 * scale, room.y + Math.round((room.height - 200 * scale) / 2) + y * 0.4651 * scale];
  for (const [x0, y0, x1, y1] of [
    [257, 275, 506, 231],
    [257, 239, 506, 198],
    [257, 275, 119, 226],
    [257, 239, 119, 197],
    [257, 239, 257, 275],
    [287, 97, 287, 208],
    [287, 97, 381, 91],
  ]) {
    // prettier-ignore
    await first.mouse.move(...place(x0, y0));
    await first.mouse.down();
    await first.mouse.move(...place(x1, y1), { steps: 3 });
    await first.mouse.up();
  }
  await first.mouse.move(...place(560, 380));
  await first.waitForTimeout(200);
  await shoot(first, 'trace');
  await first.close();

  // Forms: circles, a rounded rectangle, a polygon and a curve on three planes, in perspective.
  const forms = await demo(SMALL);
  await press(forms, 'Drawings');
  await press(forms, 'New drawing');
  await forms.getByText('Nothing is drawn yet.').waitFor();
  const field = await forms.locator('.area').boundingBox();
  const fit = Math.min((field.width - 72) / 300, (field.height - 72) / 200);
  const spot = (a, b, h) => [
    field.x + Math.round((field.width - 300 * fit) / 2) + (150 + (a - b) * 8 * Math.cos(Math.PI / 6)) * fit,
    field.y + Math.round((field.height - 200 * fit) / 2) + (150 - ((a + b) / 2 + h) * 8) * fit,
  ];
  const tool = async (plane, digit, ...places) => {
    await forms.locator('.area').focus();
    await forms.keyboard.press(plane);
    await forms.keyboard.press(digit);
    for (const place of places) {
      await forms.mouse.move(...spot(...place), { steps: 3 });
      await forms.mouse.down();
      await forms.mouse.up();
      await forms.waitForTimeout(30);
    }
  };
  await tool('r', '3', [8, 0, 1], [15, 0, 8]);
  await forms.getByRole('textbox', { name: 'Round corners' }).fill('1.5');
  await forms.keyboard.press('Enter');
  await tool('r', '5', [4, 0, 5], [6, 0, 5]);
  await tool('l', '6', [0, 1, 1], [0, 8, 6]);
  await tool('f', '7', [8, 8, 0], [11, 8, 0]);
  await tool('f', '9', [1, 9, 0], [4, 12, 0], [9, 13, 0], [13, 9, 0]);
  await forms.keyboard.press('Escape');
  await forms.keyboard.press('1');
  await forms.waitForTimeout(200);
  await shoot(forms, 'forms');

  // Paint: a pennant on the right wall with a gradient in its plane, a dimension along it, its points shown.
  await press(forms, 'Drawings');
  await press(forms, 'New drawing');
  await forms.getByText('Nothing is drawn yet.').waitFor();
  await tool('r', '3', [1, 0, 0], [14, 0, 9]);
  await forms.getByRole('textbox', { name: 'Round corners' }).fill('1.5');
  await forms.keyboard.press('Enter');
  await tool('r', '2', [3, 0, 7], [12, 0, 4.5], [3, 0, 2]);
  await forms.keyboard.press('Enter');
  await tool('r', 'Shift+Digit7', [1, 0, 0], [14, 0, 0], [7, 0, -2]);
  await tool('l', '5', [0, 5, 5], [0, 7, 5]);
  await forms.locator('.area').focus();
  await forms.keyboard.press('1');
  await press(forms, 'rectangle 1, right wall');
  await forms.getByRole('textbox', { name: 'Fill', exact: true }).fill('#1b6c8c');
  await forms.keyboard.press('Enter');
  await press(forms, 'outline 1, right wall');
  await press(forms, 'Linear');
  await forms.getByRole('textbox', { name: 'Stop 1', exact: true }).fill('#c2452d');
  await forms.keyboard.press('Enter');
  await forms.getByRole('textbox', { name: 'Stop 2', exact: true }).fill('#f2c14e');
  await forms.keyboard.press('Enter');
  await forms.mouse.move(field.x + 40, field.y + 600);
  await forms.waitForTimeout(200);
  await shoot(forms, 'paint');
  await forms.close();

  // The demo drawings of solids and letters.
  const solids = await demo(SMALL);
  for (const [name, file] of [
    ['QUAY 9', 'quay-nine'],
    ['Deck plan', 'deck-plan'],
    ['Lighthouse', 'lighthouse'],
  ]) {
    await press(solids, 'Drawings');
    await press(solids, name);
    await solids.waitForTimeout(1800);
    await solids.getByRole('button', { name: 'Build', exact: true }).first().click();
    await solids.getByRole('button', { name: 'Grid shown' }).click();
    await solids.waitForTimeout(400);
    await shoot(solids, file);
    await solids.getByRole('button', { name: 'Grid hidden' }).click();
  }
  await press(solids, 'Drawings');
  await press(solids, 'Timetable hoarding');
  await solids.waitForTimeout(2500);
  await solids.getByRole('button', { name: 'Artwork', exact: true }).first().click();
  await solids.getByRole('button', { name: 'Grid shown' }).click();
  await press(solids, 'timetable');
  await solids.waitForTimeout(1200);
  await shoot(solids, 'hoarding');
  await press(solids, 'Edit flat');
  await solids.waitForTimeout(1500);
  await shoot(solids, 'flat');
  await press(solids, 'Close the flat sheet');
  await press(solids, 'Drawings');
  await press(solids, 'Funnel livery');
  await solids.waitForTimeout(1500);
  await solids.getByRole('navigation', { name: 'Stages' }).getByRole('button', { name: 'Photo' }).click();
  await solids.waitForTimeout(1500);
  await solids.getByRole('button', { name: 'Charts' }).scrollIntoViewIfNeeded();
  await solids.waitForTimeout(1500);
  await shoot(solids, 'photo');
  await solids.close();

  const page = await demo(SMALL);
  // Draw: an outline on the quay, about to be closed.
  await page.keyboard.press('f');
  await page.keyboard.press('2');
  const area = await page.locator('.area').boundingBox();
  const zoom = Math.min((area.width - 72) / 297, (area.height - 72) / 210);
  const at = (a, b) => [
    area.x + Math.round((area.width - 297 * zoom) / 2) + (146 + (a - b) * 6 * Math.cos(Math.PI / 6)) * zoom,
    area.y + Math.round((area.height - 210 * zoom) / 2) + (146 - (a + b) * 3) * zoom,
  ];
  for (const [a, b] of [
    [-1, 1],
    [4, 1],
    [4, 4],
    [2, 4],
    [2, 9],
    [-1, 9],
  ]) {
    // prettier-ignore
    await page.mouse.move(...at(a, b), { steps: 3 });
    await page.mouse.down();
    await page.mouse.up();
    await page.waitForTimeout(40);
  }
  await page.mouse.move(...at(-1, 1), { steps: 3 });
  await shoot(page, 'draw');
  for (let i = 0; i < 6; i++) await page.keyboard.press('Backspace');
  await page.keyboard.press('1');
  await press(page, 'kiosk');
  await press(page, 'Build');
  await shoot(page, 'build');
  await press(page, 'Light');
  await page.getByRole('switch', { name: 'Cast shadows' }).click();
  await page.waitForTimeout(900);
  await shoot(page, 'light');
  await press(page, 'sign artwork');
  await press(page, 'Artwork');
  await shoot(page, 'artwork');
  await press(page, 'Drawings');
  await page.getByRole('dialog').waitFor();
  await page.waitForTimeout(400);
  await shoot(page, 'drawings');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: /^Words of the command/ }).fill('plane');
  await page.waitForTimeout(300);
  await shoot(page, 'finder');
  await page.close();

  const wide = await demo(LARGE);
  await wide.keyboard.press('g');
  await shoot(wide, 'landing');
  await wide.close();

  const dark = await demo(LARGE, true);
  await press(dark, 'Output');
  await dark.keyboard.press('e');
  await shoot(dark, 'output-dark');
  await dark.close();
} finally {
  await browser.close();
  server.kill();
}
