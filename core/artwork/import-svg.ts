import type { Checked, Problem } from '../math/errors';
import { readResolvedSvg, type FlatArtwork } from './read-svg';
import { withoutBytes, withPictures, type EmbeddedPicture, type PictureSize, type SvgPainter } from './svg-pictures';

/** Most characters in an SVG file that is read. */
export const MAX_SVG_CHARACTERS = 8_000_000;

/** Most characters of the paths that an SVG unpacks to; what is larger could not be kept either. */
const MAX_RESOLVED_CHARACTERS = 12_000_000;
/** Most characters that entities may unpack to, tries of style rules on elements, and elements that uses unpack to. */
const MAX_ENTITY_CHARACTERS = 1_000_000;
const MAX_RULE_WORK = 10_000_000;
const MAX_USED = 100_000;

/** SVG that was cleaned: groups, paths, gradients and clips only, and what it shows. */
export interface ImportedSvg {
  readonly svg: string;
  readonly flat: FlatArtwork;
  /** The bitmaps that lay in it, by the names that it calls them by. */
  readonly pictures: readonly EmbeddedPicture[];
}

/** What else reading an SVG needs of a renderer and of who reads pictures. */
export interface SvgReading {
  /** Draws what no paths can be; without, it is left out. */
  readonly paint?: SvgPainter;
  readonly sizeOf?: PictureSize;
  /** The families of the fonts that text is laid out with, in small letters. */
  readonly families?: ReadonlySet<string>;
  /** What stands in for a family that is not there. */
  readonly standIn?: string;
}

/** What turns any SVG into groups and paths, such as a static renderer's parser; throws where it cannot. */
export type SvgResolver = (text: string) => string;

/**
 * Reads a foreign SVG file: checked for size, resolved to plain paths (which drops scripts, handlers and outside
 * references, and refuses entities that multiply), and read. Notes tell what was left out.
 */
export function importSvg(text: string, resolve: SvgResolver, { paint, sizeOf = () => null, families, standIn }: SvgReading = {}): Checked<ImportedSvg> {
  const refuse = (code: string, message: string): Checked<never> => ({ ok: false, problems: [{ code, path: '', message }] });
  if (text.length > MAX_SVG_CHARACTERS) return refuse('too-large', 'The SVG is larger than 8 MB. Simplify it where it was made.');
  if (!/<svg[\s>]/i.test(text)) return refuse('not-svg', 'The file holds no <svg> element.');
  if (entitySize(text) > MAX_ENTITY_CHARACTERS) return refuse('entity-bomb', 'The SVG’s entities unpack to more than 1 MB. It was not opened.');
  if (ruleWork(text) > MAX_RULE_WORK)
    return refuse('too-complex', 'The SVG has too many style rules for its many elements. Write the styles into the elements where it was made.');
  if (usedElements(text) > MAX_USED)
    return refuse('too-complex', 'The SVG’s uses of uses unpack to more than 100,000 elements. Simplify it where it was made.');
  if (multipliesEntities(text)) return refuse('entity-bomb', 'The SVG declares entities that multiply themselves. It was not opened.');
  let svg: string;
  try {
    svg = resolve(text);
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    return refuse('not-svg', `The SVG cannot be read: ${reason}`);
  }
  if (svg.length > MAX_RESOLVED_CHARACTERS) return refuse('too-complex', 'The SVG unpacks to more than 12 MB of paths. Simplify it where it was made.');
  // Lines of what the file was resolved to say nothing of the file: where its text tells the place, that is told.
  const placed = (problems: readonly Problem[]): Problem[] => problems.map((problem) => ({ ...problem, path: placeOf(text, problem.message) }));
  const pictured = paint ? tried(() => withPictures(svg, paint)) : null;
  const named = withoutBytes(pictured?.svg ?? svg, sizeOf);
  svg = named.svg;
  const read = readResolvedSvg(svg);
  if (!read.ok) return { ok: false, problems: placed(read.problems) };
  if (read.value.marks.length === 0) return refuse('empty', 'The SVG holds nothing that can be drawn as paths.');
  const parts = pictured?.parts ?? 0;
  const drawn: Problem[] = parts > 0 ? [{ code: 'pictures', path: '', message: `${parts === 1 ? 'A part' : `${parts} parts`} under filters or masks became ${parts === 1 ? 'a picture' : 'pictures'}, ${pictured!.px.toLocaleString('en')} px along the longer side: no paths can be ${parts === 1 ? 'it' : 'them'}.` }] : []; // prettier-ignore
  const notes = [...foreignNotes(text, families !== undefined), ...fontNotes(text, families, standIn), ...drawn, ...placed(read.notes)];
  return { ok: true, value: { svg, flat: read.value, pictures: named.pictures }, notes };
}

/** What in a file's own text stands for something that was left out. */
const SIGNS: Readonly<Record<string, RegExp>> = {
  'Left out: bitmaps.': /<(?:\w+:)?image[\s/>]/,
  'Left out: masks.': /\bmask\s*[=:]/,
  'Left out: filters.': /\bfilter\s*[=:]/,
  'Left out: patterns.': /<(?:\w+:)?pattern[\s/>]/,
  'Left out: clips of clips.': /<(?:\w+:)?clipPath[^>]*\bclip-path/,
};

/** The line of a file in which the sign of a problem stands first, or nothing where its text has none. */
function placeOf(text: string, message: string): string {
  const at = SIGNS[message]?.exec(text)?.index;
  return at === undefined ? '' : lineAt(text, at);
}

const lineAt = (text: string, index: number): string => `line ${text.slice(0, index).split('\n').length}`;

/** Characters that the entities of a file unpack to where it uses them. */
function entitySize(text: string): number {
  let size = 0;
  const lengths = new Map<string, number>();
  for (const match of text.matchAll(/<!ENTITY\s+([^\s%>]+)\s+(?:"([^"]*)"|'([^']*)')/g)) lengths.set(match[1]!, (match[2] ?? match[3] ?? '').length);
  if (lengths.size > 0) for (const match of text.matchAll(/&([^#;\s]{1,200});/g)) size += lengths.get(match[1]!) ?? 0;
  return size;
}

/** How many times a style rule would be tried on an element. */
function ruleWork(text: string): number {
  let selectors = 0;
  for (const [, sheet] of text.matchAll(/<style[^>]*>([\s\S]*?)<\/style>/gi)) selectors += sheet!.split(/[{,]/).length;
  return selectors === 0 ? 0 : selectors * text.split('<').length;
}

/** How many elements a file has once every use stands for what it names; references that run in circles count once. */
function usedElements(text: string): number {
  if (!/<(?:\w+:)?use[\s/>]/.test(text)) return 0;
  interface Part {
    readonly parts: Part[];
    readonly uses: string | null;
  }
  const root: Part = { parts: [], uses: null };
  const byId = new Map<string, Part>();
  const stack = [root];
  for (const match of text.matchAll(/<(\/?)([A-Za-z][\w:.-]*)((?:[^<>"']|"[^"]*"|'[^']*')*?)(\/?)>/g)) {
    if (match[1]) {
      if (stack.length > 1) stack.pop();
      continue;
    }
    const [id, uses] = [/\sid\s*=\s*["']([^"']*)/.exec(match[3]!)?.[1], /(?:^|:)use$/.test(match[2]!) ? /href\s*=\s*["']#([^"']*)/.exec(match[3]!)?.[1] : null];
    const part: Part = { parts: [], uses: uses ?? null };
    if (id) byId.set(id, part);
    stack.at(-1)!.parts.push(part);
    if (!match[4]) stack.push(part);
  }
  const counts = new Map<Part, number>();
  const count = (part: Part, depth: number): number => {
    const known = counts.get(part);
    if (known !== undefined || depth > 500) return known ?? 1;
    counts.set(part, 1);
    const used = part.uses === null ? undefined : byId.get(part.uses);
    const sum = part.parts.reduce((n, inner) => n + count(inner, depth + 1), 1) + (used ? count(used, depth + 1) : 0);
    counts.set(part, sum);
    return sum;
  };
  return count(root, 0);
}

/** Whether an entity's text uses other entities: the only form in which a small file can unpack to gigabytes. */
function multipliesEntities(text: string): boolean {
  for (const match of text.matchAll(/<!ENTITY\s+(?:%\s+)?[^\s>]+\s+(?:"([^"]*)"|'([^']*)')/g)) {
    if (/&[^#][^;]*;/.test(match[1] ?? match[2] ?? '')) return true;
  }
  return false;
}

/** What a renderer makes of it, or null where it fails: then it is left out and said. */
function tried<T>(make: () => T): T | null {
  try {
    return make();
  } catch {
    return null;
  }
}

/** The families of text that are not there, each with what stands in for it. */
function fontNotes(text: string, families: ReadonlySet<string> | undefined, standIn = 'another font'): Problem[] {
  if (!families || !/<text[\s>]/i.test(text)) return [];
  const missing = new Map<string, string>();
  for (const match of text.matchAll(/font-family\s*[:=]\s*(?:"([^"]*)"|'([^']*)'|([^;"'>}]+))/g)) {
    const list = (match[1] ?? match[2] ?? match[3] ?? '').split(',').map((name) => name.replace(/["']|&quot;|&apos;/g, '').trim());
    const known = list.some((name) => families.has(name.toLowerCase()) || GENERIC.has(name.toLowerCase()));
    const [first] = list;
    if (first && !known && !missing.has(first)) missing.set(first, lineAt(text, match.index));
  }
  return [...missing].slice(0, 6).map(([name, path]) => ({ code: 'font', path, message: `The font “${name}” is not here; ${standIn} stands in for it.` }));
}

/** Families that every renderer has something for (CSS Fonts 4). */
const GENERIC = new Set(['serif', 'sans-serif', 'monospace', 'cursive', 'fantasy', 'system-ui']);

function foreignNotes(text: string, hasFonts: boolean): Problem[] {
  const notes: Problem[] = [];
  const look = (pattern: RegExp, code: string, message: string): void => {
    const match = pattern.exec(text);
    if (match) notes.push({ code, path: lineAt(text, match.index), message });
  };
  look(/<script[\s>]|\son[a-z]+\s*=\s*["']/i, 'script', 'Left out: scripts.');
  look(/(?:href|src)\s*=\s*["'](?:https?:|\/\/|file:)|url\(\s*["']?(?:https?:|\/\/)/i, 'outside-reference', 'Left out: references to places outside the file.');
  if (!hasFonts) look(/<text[\s>]/i, 'text', 'Left out: text. Turn it into outlines where it was made.');
  return notes;
}

/** mm to a unit of length of SVG (CSS Values 3); px and plain numbers have no size of their own. */
const MM_TO: Readonly<Record<string, number>> = { mm: 1, cm: 10, in: 25.4, pt: 25.4 / 72, pc: 25.4 / 6, q: 0.25 };

/**
 * mm to a unit of an SVG's own coordinates, where it says how wide it is in a unit of length; null where it does not.
 * @param width in its own coordinates
 */
export function svgUnitMm(text: string, width: number): number | null {
  const root = /<svg\b[^>]*>/i.exec(text)?.[0] ?? '';
  const found = /\swidth\s*=\s*["']\s*([\d.]+(?:e[+-]?\d+)?)\s*(mm|cm|in|pt|pc|q)\s*["']/i.exec(root);
  const mm = found ? Number(found[1]) * MM_TO[found[2]!.toLowerCase()]! : NaN;
  return mm > 0 && mm / width <= 1000 ? mm / width : null;
}
