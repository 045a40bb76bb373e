import type { Checked, Problem } from '../math/errors';
import { readResolvedSvg, type FlatArtwork } from './read-svg';

/** Most characters in an SVG file that is read. */
export const MAX_SVG_CHARACTERS = 8_000_000;

/** SVG that was cleaned: groups, paths, gradients and clips only, and what it shows. */
export interface ImportedSvg {
  readonly svg: string;
  readonly flat: FlatArtwork;
}

/** What turns any SVG into groups and paths, such as a static renderer's parser; throws where it cannot. */
export type SvgResolver = (text: string) => string;

/**
 * Reads a foreign SVG file: checked for size, resolved to plain paths (which drops scripts, handlers and outside
 * references, and refuses entities that multiply), and read. Notes tell what was left out.
 */
export function importSvg(text: string, resolve: SvgResolver): Checked<ImportedSvg> {
  const refuse = (code: string, message: string): Checked<never> => ({ ok: false, problems: [{ code, path: '', message }] });
  if (text.length > MAX_SVG_CHARACTERS) return refuse('too-large', 'The SVG is larger than 8 MB. Simplify it where it was made.');
  if (!/<svg[\s>]/i.test(text)) return refuse('not-svg', 'The file holds no <svg> element.');
  if (multipliesEntities(text)) return refuse('entity-bomb', 'The SVG declares entities that multiply themselves. It was not opened.');
  let svg: string;
  try {
    svg = resolve(text);
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    return refuse('not-svg', `The SVG cannot be read: ${reason}`);
  }
  const read = readResolvedSvg(svg);
  if (!read.ok) return read;
  if (read.value.marks.length === 0) return refuse('empty', 'The SVG holds nothing that can be drawn as paths.');
  return { ok: true, value: { svg, flat: read.value }, notes: [...foreignNotes(text), ...read.notes] };
}

/** Whether an entity's text uses other entities: the only form in which a small file can unpack to gigabytes. */
function multipliesEntities(text: string): boolean {
  for (const match of text.matchAll(/<!ENTITY\s+(?:%\s+)?[^\s>]+\s+(?:"([^"]*)"|'([^']*)')/g)) {
    if (/&[^#][^;]*;/.test(match[1] ?? match[2] ?? '')) return true;
  }
  return false;
}

function foreignNotes(text: string): Problem[] {
  const notes: Problem[] = [];
  const lineOf = (index: number): string => `line ${text.slice(0, index).split('\n').length}`;
  const look = (pattern: RegExp, code: string, message: string): void => {
    const match = pattern.exec(text);
    if (match) notes.push({ code, path: lineOf(match.index), message });
  };
  look(/<script[\s>]|\son[a-z]+\s*=\s*["']/i, 'script', 'Left out: scripts.');
  look(/(?:href|src)\s*=\s*["'](?:https?:|\/\/|file:)|url\(\s*["']?(?:https?:|\/\/)/i, 'outside-reference', 'Left out: references to places outside the file.');
  look(/<text[\s>]/i, 'text', 'Left out: text. Turn it into outlines where it was made.');
  return notes;
}
