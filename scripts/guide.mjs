// Writes the guide as pages that the application brings along, from docs/guide.
import { copyFileSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { Marked } from 'marked';

/** The pages in the order of their list; others follow by name. */
const FIRST = ['first-drawing', 'projections', 'drawing', 'building', 'lettering', 'light', 'artwork', 'photo', 'keys'];
const FONT = 'node_modules/@fontsource/hanken-grotesk/files/hanken-grotesk-latin-';
const WEIGHTS = [400, 600];

const STYLE = `
${WEIGHTS.map((weight) => `@font-face { font-family: 'Hanken Grotesk'; font-weight: ${weight}; src: url('${weight}.woff2') format('woff2'); }`).join('\n')}
:root { color-scheme: light dark; --paper: #fbfaf7; --ink: #28232f; --ink-2: #625a6b; --line: #d9d4cb; --wash: #f1eee7; --violet: #5b3fa8; }
@media (prefers-color-scheme: dark) { :root { --paper: #1d1a22; --ink: #ece8e1; --ink-2: #aaa2b0; --line: #3a3542; --wash: #27232d; --violet: #b7a3f2; } }
body { margin: 0; background: var(--paper); color: var(--ink); font: 400 16px/1.6 'Hanken Grotesk', sans-serif; }
header { border-bottom: 1px solid var(--line); padding: 14px 24px; display: flex; flex-wrap: wrap; gap: 6px 20px; align-items: baseline; }
header strong { font-weight: 600; letter-spacing: -0.01em; }
header a { color: var(--ink-2); text-decoration: none; }
header a[aria-current] { color: var(--ink); border-bottom: 2px solid var(--violet); }
main { max-width: 760px; margin: 0 auto; padding: 12px 24px 72px; }
h1 { font-weight: 600; font-size: 30px; letter-spacing: -0.015em; margin: 28px 0 8px; }
h2 { font-weight: 600; font-size: 20px; letter-spacing: -0.01em; margin: 36px 0 6px; }
a { color: var(--violet); }
img { max-width: 100%; height: auto; border: 1px solid var(--line); }
code { background: var(--wash); padding: 1px 5px; border-radius: 3px; font-size: 0.92em; }
table { border-collapse: collapse; width: 100%; font-size: 15px; }
th, td { text-align: left; vertical-align: top; padding: 6px 14px 6px 0; border-bottom: 1px solid var(--line); }
th { font-weight: 600; color: var(--ink-2); }
:focus-visible { outline: 2px solid var(--violet); outline-offset: 2px; }
`;

/** @param from the project's folder @param to where the pages go */
export function writeGuide(from, to) {
  mkdirSync(join(to, 'pictures'), { recursive: true });
  for (const weight of WEIGHTS) copyFileSync(join(from, `${FONT}${weight}-normal.woff2`), join(to, `${weight}.woff2`));
  const rank = (name) => (FIRST.indexOf(name) + FIRST.length + 1) % (FIRST.length + 1);
  const pages = readdirSync(join(from, 'docs/guide'))
    .filter((file) => file.endsWith('.md'))
    .map((file) => ({ name: basename(file, '.md'), text: readFileSync(join(from, 'docs/guide', file), 'utf8') }))
    .sort((p, q) => rank(p.name) - rank(q.name) || p.name.localeCompare(q.name));
  const titleOf = ({ text }) => /^# (.+)$/m.exec(text)?.[1] ?? 'Guide';
  for (const page of pages) {
    const text = page.text
      .replace(/\]\((?:\.\.\/guide\/)?([\w-]+)\.md(#[\w-]+)?\)/g, ']($1.html$2)')
      .replace(/\.\.\/screenshots\/([\w-]+\.png)/g, (_, name) => {
        copyFileSync(join(from, 'docs/screenshots', name), join(to, 'pictures', name));
        return `pictures/${name}`;
      });
    const links = pages.map((other) => `<a href="${other.name}.html"${other === page ? ' aria-current="page"' : ''}>${titleOf(other)}</a>`).join('');
    const body = new Marked().parse(text);
    writeFileSync(
      join(to, `${page.name}.html`),
      `<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${titleOf(page)}: Chemin</title><link rel="icon" href="../favicon.svg"><style>${STYLE}</style></head>\n<body><header><strong>Chemin</strong>${links}</header><main>${body}</main></body></html>\n`,
    );
  }
}
