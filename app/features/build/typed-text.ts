import type { TextDraft } from '../../platform/database';

const KEY = 'chemin-text';

/**
 * Keeps what is being typed for this page when it is loaded anew, at once: storage, which keeps it with its drawing for
 * every other case, needs a moment, which a page that goes away has not. Null once it is in the drawing, or given up.
 */
export function keepTyped(drawing: string, draft: TextDraft | null): void {
  try {
    if (draft) sessionStorage.setItem(KEY, JSON.stringify({ drawing, draft }));
    else sessionStorage.removeItem(KEY);
  } catch {
    // What storage keeps is a moment older.
  }
}

/** What was being typed for a drawing when its page was loaded anew. */
export function typedFor(drawing: string): TextDraft | null {
  try {
    const kept = JSON.parse(sessionStorage.getItem(KEY) ?? 'null') as { readonly drawing: string; readonly draft: TextDraft } | null;
    return kept?.drawing === drawing && typeof kept.draft.lettering.text === 'string' ? kept.draft : null;
  } catch {
    return null;
  }
}
