import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pixelmatch from 'pixelmatch';
import { PNG } from 'pngjs';

/** Share of px in percent that differ by more than anti-aliasing, of what two pictures have in common. */
export function difference(p: PNG, q: PNG, threshold: number): number {
  const [width, height] = [Math.min(p.width, q.width), Math.min(p.height, q.height)];
  const crop = (png: PNG): PNG => {
    const out = new PNG({ width, height });
    PNG.bitblt(png, out, 0, 0, width, height, 0, 0);
    return out;
  };
  return (100 * pixelmatch(crop(p).data, crop(q).data, undefined, width, height, { threshold, includeAA: false })) / (width * height);
}

/** The first page of a PDF file as another program draws it. */
export function pdfPage(file: string, dpi: number): PNG {
  const folder = mkdtempSync(join(tmpdir(), 'chemin-pdf-'));
  copyFileSync(file, join(folder, 'page.pdf'));
  execFileSync('pdftoppm', ['-png', '-r', String(dpi), '-singlefile', join(folder, 'page.pdf'), join(folder, 'page')]);
  return PNG.sync.read(readFileSync(join(folder, 'page.png')));
}
