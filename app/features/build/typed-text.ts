import type { Lettering } from '@core';
import type { Writing } from './lettering.store';

/** Text that is being typed and is in no drawing yet, so that it outlasts the page. */
export interface TypedText {
  /** The drawing that it is for. */
  readonly drawing: string;
  readonly lettering: Lettering;
  /** Where it is begun; of text that is changed, the lettering that it is of. */
  readonly writing: Writing | null;
  readonly changes: string | null;
}

const KEY = 'chemin-text';

/** Keeps what is being typed; nothing once it is in the drawing, or given up. */
export function keepTyped(text: TypedText | null): void {
  try {
    if (text) localStorage.setItem(KEY, JSON.stringify(text));
    else localStorage.removeItem(KEY);
  } catch {
    // Without storage it lasts as long as the page.
  }
}

/** What was being typed for a drawing when its page went away. */
export function typedFor(drawing: string): TypedText | null {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? 'null') as TypedText | null;
    return kept?.drawing === drawing && typeof kept.lettering.text === 'string' ? kept : null;
  } catch {
    return null;
  }
}
