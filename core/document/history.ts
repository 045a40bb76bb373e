import * as z from 'zod';
import { describeEdit } from './describe-edit';
import { applyEdit, editSchema, type Edit } from './edits';
import { documentFault, passEdit } from './gate';
import { presentEdit } from './migrations';
import type { CheminDocument } from './types';

/** One step that can be undone. */
export interface Step {
  readonly edit: Edit;
  readonly label: string;
}

/** Most characters of a step's label; longer ones are cut. */
const MAX_LABEL = 300;

/** A step as it is kept: its edit and the words that undo says. */
export const stepSchema: z.ZodType<Step> = z.strictObject({ edit: editSchema, label: z.string().max(MAX_LABEL) });

/**
 * The documents from the first to the newest, sharing what did not change, and which of them is shown. There is no
 * limit on steps.
 */
export interface History {
  readonly base: CheminDocument;
  readonly steps: readonly Step[];
  /** `documents[i]` is the document after the first i steps; null where it is made from the one before when it is asked for. */
  readonly documents: readonly (CheminDocument | null)[];
  readonly position: number;
}

/** A history without steps. O(1); the document is shared, not copied. */
export function startHistory(base: CheminDocument): History {
  return { base, steps: [], documents: [base], position: 0 };
}

/** The document that is shown. */
export function presentDocument(history: History): CheminDocument {
  return documentAt(history, history.position);
}

/** Documents that were made when they were asked for, by the document that a history starts from and the last step. */
const made = new WeakMap<CheminDocument, WeakMap<Step, CheminDocument>>();

/** The document after so many steps; made from the nearest one before that is known, those in between are kept too. */
export function documentAt({ base, steps, documents }: History, position: number): CheminDocument {
  let known = made.get(base);
  if (!known) made.set(base, (known = new WeakMap<Step, CheminDocument>()));
  const there = (i: number): CheminDocument | null => documents[i] ?? (i === 0 ? base : (known.get(steps[i - 1]!) ?? null));
  let at = Math.max(0, Math.min(position, steps.length));
  while (!there(at)) at--;
  let document = there(at)!;
  for (; at < position && at < steps.length; at++) {
    document = applyEdit(document, steps[at]!.edit);
    known.set(steps[at]!, document);
  }
  return document;
}

/** Steps between the documents that a thinned history has. */
const EVERY = 20;

/** The same history with few of its documents, to be handed over between pages and workers. */
export function thinned(history: History): History {
  const { position, documents } = history;
  const last = documents.length - 1;
  return { ...history, documents: documents.map((document, i) => (i % EVERY === 0 || i === position || i === last ? document : null)) };
}

/**
 * The history after one more edit; steps that were undone before are dropped.
 * @throws CoreError where the edit does not fit, or would make something that could not be opened again (`passEdit`)
 */
export function commitEdit(history: History, asked: Edit, label = describeEdit(asked)): History {
  const { edit, document } = passEdit(presentDocument(history), asked);
  const { position } = history;
  return {
    base: history.base,
    steps: [...history.steps.slice(0, position), { edit, label: label.slice(0, MAX_LABEL) }],
    documents: [...history.documents.slice(0, position + 1), document],
    position: position + 1,
  };
}

/**
 * The history up to the last document that could be opened again, or null where not even the first could. For what
 * storage kept from a time when it was not yet checked.
 */
export function soundHistory(history: History): History | null {
  const faulty = history.documents.findIndex((document) => document !== null && documentFault(document) !== null);
  if (faulty < 0) return history;
  if (faulty === 0) return null;
  const last = faulty - 1;
  return { ...history, steps: history.steps.slice(0, last), documents: history.documents.slice(0, faulty), position: Math.min(history.position, last) };
}

/** The same history as that of another drawing. */
export function historyAs(history: History, id: string): History {
  return { ...history, base: { ...history.base, id }, documents: history.documents.map((document) => document && { ...document, id }) };
}

/** The history at another step, kept within its ends. */
export function goToStep(history: History, position: number): History {
  const to = Math.max(0, Math.min(history.steps.length, position));
  return to === history.position ? history : { ...history, position: to };
}

/**
 * A history from what storage keeps: the first document and the steps since, of whatever format. Steps from the first
 * that is none, or does not fit, on are dropped.
 */
export function replayHistory(base: CheminDocument, steps: readonly Step[], position: number): History {
  const documents = [base];
  const kept: Step[] = [];
  let present = base;
  try {
    for (const step of steps) {
      const read = stepSchema.parse({ ...step, edit: presentEdit(step.edit, present) });
      present = applyEdit(present, read.edit);
      documents.push(present);
      kept.push(read);
    }
  } catch {
    // What fits so far is a valid history; the caller compares its end with the document that was saved.
  }
  return { base, steps: kept, documents, position: Math.max(0, Math.min(kept.length, position)) };
}
