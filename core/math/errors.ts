/** Stable codes of misuse; a caller may branch on them, a message may be reworded. */
export type CoreErrorCode = 'bad-argument' | 'unknown-node' | 'unknown-artwork' | 'wrong-kind' | 'bad-document' | 'refused';

/**
 * Thrown where core is used wrongly: an id that is not there, an edit that does not fit its target.
 * Expected geometric outcomes (parallel, behind the eye, no area) are results, never this error.
 */
export class CoreError extends Error {
  constructor(
    readonly code: CoreErrorCode,
    message: string,
    readonly details: Readonly<Record<string, unknown>> = {},
  ) {
    super(message);
    this.name = 'CoreError';
  }
}

/** One thing wrong in imported data, and where. */
export interface Problem {
  readonly code: string;
  /** Place in the data, such as `nodes[3].outline.points[0].u`, or empty for the whole. */
  readonly path: string;
  readonly message: string;
}

/** What a door for foreign data gives back: the value, or every problem that was found. */
export type Checked<T> =
  { readonly ok: true; readonly value: T; readonly notes: readonly Problem[] } | { readonly ok: false; readonly problems: readonly Problem[] };

/** A refusal of foreign data for one reason: a stable code, the place in the data or an empty text, and words for people. */
export function refuse(code: string, path: string, message: string): Checked<never> {
  return { ok: false, problems: [{ code, path, message: path ? `${message} (${path})` : message }] };
}
