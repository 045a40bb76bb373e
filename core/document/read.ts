import { refuse, type Checked, type Problem } from '../math/errors';
import { toPresentVersion } from './migrations';
import type { GridSettings } from '../grid/settings';
import type { ProjectionSetup } from '../projection/setup';
import { noteRight } from './gate';
import { documentSchema, setupFileSchema } from './schema';
import { DOCUMENT_VERSION, MAX_GROUP_DEPTH, type CheminDocument } from './types';

/** Most characters in a project file. */
export const MAX_PROJECT_CHARACTERS = 64_000_000;

/** Most parts of any list in a project. */
const MOST_PARTS = 100_000;

/** Most reasons that are told; a file of another kind would give one for each of its parts. */
const MOST_PROBLEMS = 50;

/** Deepest nesting of brackets in a project file: groups twice over, and what one node needs. */
const MAX_NESTING = 2 * MAX_GROUP_DEPTH + 12;

/** A document as the text of a project file: indented JSON, documented in docs/file-format.md. */
export function writeProject(document: CheminDocument): string {
  return JSON.stringify(document, null, 1) + '\n';
}

/**
 * The document in the text of a project file, or every reason why it is none, each with its place. Nothing is
 * trusted: size and nesting are checked before the text is parsed, then version, schema and references.
 * @param asset the text of an asset that the project names, for artworks; null where it is not there
 */
export function readProject(text: string, asset: (hash: string) => string | null = () => null): Checked<CheminDocument> {
  if (text.length > MAX_PROJECT_CHARACTERS) return refuse('too-large', '', 'The file is larger than 64 MB.');
  const deep = tooDeepAt(text);
  if (deep !== null) return refuse('too-deep', placeOf(text, deep), `The file is nested too deeply; groups may be ${MAX_GROUP_DEPTH} deep.`);
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    const at = faultPosition(text);
    const found = text
      .slice(at, at + 12)
      .split('\n')[0]
      ?.trim();
    return refuse('not-json', placeOf(text, at), found ? `The file is damaged near “${found}”.` : 'The file is damaged or cut short.');
  }
  return checkDocument(withSvgs(data, asset));
}

/** Data whose artworks name their SVG, with the SVGs in their places; those that are not there are left to be refused. */
function withSvgs(data: unknown, asset: (hash: string) => string | null): unknown {
  const { artworks } = (data ?? {}) as { artworks?: unknown };
  if (!Array.isArray(artworks)) return data;
  const filled = artworks.map((artwork: unknown) => {
    const name = /^asset:([0-9a-f]{64})$/.exec(String((artwork as { svg?: unknown } | null)?.svg ?? ''))?.[1];
    const svg = name === undefined ? null : asset(name);
    return svg === null ? artwork : { ...(artwork as object), svg };
  });
  return { ...(data as object), artworks: filled };
}

/** A projection and grid by name, without any drawing. */
export interface KeptSetup {
  readonly name: string;
  readonly projection: ProjectionSetup;
  readonly grid: GridSettings;
}

/** A set-up as the text of a file. */
export function writeSetup({ name, projection, grid }: KeptSetup): string {
  return JSON.stringify({ format: 'chemin-setup', version: DOCUMENT_VERSION, name, projection, grid }, null, 1) + '\n';
}

/** The set-up in the text of a file, or every reason why it is none, each with its place. */
export function readSetup(text: string): Checked<KeptSetup> {
  if (text.length > 100_000) return refuse('too-large', '', 'The file is larger than a set-up can be.');
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return refuse('not-json', placeOf(text, faultPosition(text)), 'The file is damaged or cut short.');
  }
  if (typeof data !== 'object' || data === null || (data as { format?: unknown }).format !== 'chemin-setup') {
    return refuse('not-a-setup', '', 'This is not a set-up: it does not say "format": "chemin-setup".');
  }
  const { version } = data as { version?: unknown };
  if (typeof version === 'number' && version > DOCUMENT_VERSION) {
    return refuse('later-version', 'version', `The set-up was saved by a later Chemin (format ${version}; this one reads up to ${DOCUMENT_VERSION}).`);
  }
  const parsed = setupFileSchema.safeParse(data);
  if (!parsed.success) return { ok: false, problems: parsed.error.issues.map((issue) => problemOf(issue, 'the set-up')) };
  const { name, projection, grid } = parsed.data;
  return { ok: true, value: { name, projection, grid }, notes: [] };
}

/** Checks data from storage, a file or the clipboard as a document. */
export function checkDocument(data: unknown): Checked<CheminDocument> {
  if (typeof data !== 'object' || data === null || Array.isArray(data) || (data as { format?: unknown }).format !== 'chemin') {
    return refuse('not-a-project', '', 'This is not a Chemin project: it does not say "format": "chemin".');
  }
  const { version } = data as { version?: unknown };
  if (version === 1 || version === 2 || version === 3) return checkDocument(toPresentVersion(data as Record<string, unknown>));
  if (typeof version === 'number' && version > DOCUMENT_VERSION) {
    return refuse('later-version', 'version', `The project was saved by a later Chemin (format ${version}; this one reads up to ${DOCUMENT_VERSION}).`);
  }
  const long = longListIn(data);
  if (long) return refuse('too-large', pathText(long), `A list has more than ${MOST_PARTS.toLocaleString('en')} parts.`);
  const checked = checkedBy(documentSchema, data);
  if (!checked) return refuse('too-large', '', 'The project has more faults than can be listed.');
  if (!checked.success) return { ok: false, problems: checked.error.issues.slice(0, MOST_PROBLEMS).map((issue) => problemOf(issue, 'the project')) };
  noteRight(checked.data);
  return { ok: true, value: checked.data, notes: [] };
}

/**
 * The place of a list with more parts than any may have, or null. Looked for first: a schema reads all parts of a list
 * before it counts them, and gathers what is wrong with each.
 */
function longListIn(data: unknown): readonly PropertyKey[] | null {
  if (typeof data !== 'object' || data === null) return null;
  if (Array.isArray(data)) {
    if (data.length > MOST_PARTS) return [];
    for (let i = 0; i < data.length; i++) {
      const inside = longListIn(data[i]);
      if (inside) return [i, ...inside];
    }
    return null;
  }
  for (const [key, part] of Object.entries(data)) {
    const inside = longListIn(part);
    if (inside) return [key, ...inside];
  }
  return null;
}

function problemOf(issue: { readonly path: readonly PropertyKey[]; readonly message: string }, whole: string): Problem {
  const path = pathText(issue.path);
  return { code: 'schema', path, message: `${path || whole}: ${issue.message}` };
}

/** What a schema says, or null where it gathered more faults than it can hold. */
function checkedBy(schema: typeof documentSchema, data: unknown): ReturnType<typeof schema.safeParse> | null {
  try {
    return schema.safeParse(data);
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
}

/** A path as people read it: `nodes[2].plane.offset`. */
export function pathText(path: readonly PropertyKey[]): string {
  return path.reduce<string>((text, part) => (typeof part === 'number' ? `${text}[${part}]` : text ? `${text}.${String(part)}` : String(part)), '');
}

function tooDeepAt(text: string): number | null {
  let depth = 0;
  let quoted = false;
  for (let i = 0; i < text.length; i++) {
    const sign = text.charCodeAt(i);
    if (quoted) {
      if (sign === 92) i++;
      else if (sign === 34) quoted = false;
    } else if (sign === 34) quoted = true;
    else if (sign === 123 || sign === 91) {
      if (++depth > MAX_NESTING) return i;
    } else if (sign === 125 || sign === 93) depth--;
  }
  return null;
}

const TOKEN = /\s+|[[\]{},:]|"(?:[^"\\]|\\.)*"|-?\d+(?:\.\d+)?(?:[eE][-+]?\d+)?(?![\w.])|(?:true|false|null)(?!\w)/y;

/** Where text stops being JSON's words; its end where all are words, but not in an order that makes sense. */
function faultPosition(text: string): number {
  let at = 0;
  TOKEN.lastIndex = 0;
  while (at < text.length && TOKEN.test(text)) at = TOKEN.lastIndex;
  return at;
}

function placeOf(text: string, position: number): string {
  const before = text.slice(0, position).split('\n');
  return `line ${before.length}, column ${(before.at(-1)?.length ?? 0) + 1}`;
}
