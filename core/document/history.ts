import * as z from 'zod';
import { applyEdit, describeEdit, editSchema, type Edit } from './edits';
import type { CheminDocument } from './types';

/** One step that can be undone. */
export interface Step {
  readonly edit: Edit;
  readonly label: string;
}

export const stepSchema: z.ZodType<Step> = z.strictObject({ edit: editSchema, label: z.string().max(300) });

/**
 * All documents from the first to the newest, sharing what did not change, and which of them is shown. There is no
 * limit on steps.
 */
export interface History {
  readonly base: CheminDocument;
  readonly steps: readonly Step[];
  /** `documents[i]` is the document after the first i steps. */
  readonly documents: readonly CheminDocument[];
  readonly position: number;
}

export function startHistory(base: CheminDocument): History {
  return { base, steps: [], documents: [base], position: 0 };
}

/** The document that is shown. */
export function presentDocument(history: History): CheminDocument {
  return history.documents[history.position] ?? history.base;
}

/** The history after one more edit; steps that were undone before are dropped. */
export function commitEdit(history: History, edit: Edit, label = describeEdit(edit)): History {
  const document = applyEdit(presentDocument(history), edit);
  const { position } = history;
  return {
    base: history.base,
    steps: [...history.steps.slice(0, position), { edit, label }],
    documents: [...history.documents.slice(0, position + 1), document],
    position: position + 1,
  };
}

/** The history at another step, kept within its ends. */
export function goToStep(history: History, position: number): History {
  const to = Math.max(0, Math.min(history.steps.length, position));
  return to === history.position ? history : { ...history, position: to };
}

/**
 * A history from what storage keeps: the first document and the steps since. Steps from the first that does not fit
 * on are dropped.
 */
export function replayHistory(base: CheminDocument, steps: readonly Step[], position: number): History {
  const documents = [base];
  const kept: Step[] = [];
  let present = base;
  try {
    for (const step of steps) {
      present = applyEdit(present, step.edit);
      documents.push(present);
      kept.push(step);
    }
  } catch {
    // What fits so far is a valid history; the caller compares its end with the document that was saved.
  }
  return { base, steps: kept, documents, position: Math.max(0, Math.min(kept.length, position)) };
}
