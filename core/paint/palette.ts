import type { Checked, Problem } from '../math/errors';
import { readColour, type Swatch } from './paint';

/** Most swatches of a palette. */
export const MAX_SWATCHES = 500;
/** Most characters of a palette's text. */
const MAX_CHARACTERS = 2_000_000;

/** A palette as CSS custom properties on the root, names made into identifiers. */
export function cssFromPalette(swatches: readonly Swatch[]): string {
  const names = uniqueNames(swatches);
  return `:root {\n${swatches.map((s, i) => `  --${names[i]}: ${s.colour};\n`).join('')}}\n`;
}

/** A palette as a design-token file (Design Tokens Community Group): one colour token a swatch, under its name. */
export function tokensFromPalette(swatches: readonly Swatch[]): string {
  const names = uniqueNames(swatches);
  const tokens = Object.fromEntries(swatches.map((s, i) => [names[i]!, { $type: 'color', $value: s.colour, $description: s.name }]));
  return JSON.stringify(tokens, null, 2) + '\n';
}

function uniqueNames(swatches: readonly Swatch[]): readonly string[] {
  const taken = new Set<string>();
  return swatches.map(({ name }) => {
    const stem =
      name
        .normalize('NFKD')
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, '-')
        .replace(/^-+|-+$/g, '') || 'colour';
    let unique = stem;
    for (let count = 2; taken.has(unique); count++) unique = `${stem}-${count}`;
    taken.add(unique);
    return unique;
  });
}

/**
 * The swatches of a text: a design-token file, or CSS with custom properties. What is no colour is left out and said.
 * @param newId gives an id that no other swatch has
 */
export function readPalette(text: string, newId: () => string): Checked<readonly Swatch[]> {
  if (text.length > MAX_CHARACTERS) return refuse('too-large', '', 'The palette is larger than 2 MB.');
  const found: { name: string; value: string; path: string }[] = [];
  if (text.trimStart().startsWith('{')) {
    let data: unknown;
    try {
      data = JSON.parse(text);
    } catch {
      return refuse('not-json', '', 'The design-token file is damaged or cut short.');
    }
    if (!gatherTokens(data, [], null, found, 0)) return refuse('too-deep', '', 'The design-token file is nested more than 32 deep.');
  } else {
    for (const [, name, value] of text.replace(/\/\*[\s\S]*?\*\//g, '').matchAll(/--([\w-]+)\s*:\s*([^;}]+)/g)) {
      found.push({ name: name!.replace(/[-_]+/g, ' '), value: value!.trim(), path: `--${name}` });
    }
  }
  if (found.length === 0) return refuse('no-colours', '', 'There are no colours in this text: neither CSS custom properties nor design tokens.');
  const swatches: Swatch[] = [];
  const notes: Problem[] = [];
  for (const { name, value, path } of found) {
    const colour = readColour(value);
    if (colour && swatches.length < MAX_SWATCHES) swatches.push({ id: newId(), name: name.slice(0, 200), colour });
    else
      notes.push({
        code: 'left-out',
        path,
        message: colour ? `${path}: left out, a palette holds ${MAX_SWATCHES}` : `${path}: “${value.slice(0, 40)}” is no colour`,
      });
  }
  return swatches.length > 0 ? { ok: true, value: swatches, notes } : { ok: false, problems: notes };
}

function gatherTokens(data: unknown, path: readonly string[], type: unknown, found: { name: string; value: string; path: string }[], depth: number): boolean {
  if (typeof data !== 'object' || data === null) return true;
  if (depth > 32) return false;
  const token = data as Readonly<Record<string, unknown>>;
  const kind = token['$type'] ?? type;
  if ('$value' in token) {
    if (kind === 'color') found.push({ name: path.join(' ').replace(/[-_]+/g, ' '), value: colourText(token['$value']), path: path.join('.') });
    return true;
  }
  return Object.entries(token).every(([key, value]) => key.startsWith('$') || gatherTokens(value, [...path, key], kind, found, depth + 1));
}

/** A token's value as CSS: a text as it is, or an object of a colour space and components. */
function colourText(value: unknown): string {
  if (typeof value === 'string') return value;
  if (typeof value !== 'object' || value === null) return String(value);
  const { hex, colorSpace, components } = value as { hex?: unknown; colorSpace?: unknown; components?: unknown };
  if (typeof hex === 'string') return hex;
  if (!Array.isArray(components)) return '';
  const numbers = components.map((c) => (typeof c === 'number' ? String(c) : 'none')).join(' ');
  return colorSpace === 'oklch' || colorSpace === 'oklab' ? `${colorSpace}(${numbers})` : `color(${String(colorSpace)} ${numbers})`;
}

function refuse(code: string, path: string, message: string): Checked<never> {
  return { ok: false, problems: [{ code, path, message }] };
}
