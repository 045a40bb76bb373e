import { sameData } from '../math/same';
import { namedSvg } from './named-artworks';
import { presentDocument, replayHistory, soundHistory, startHistory, thinned, type History, type Step } from './history';
import { checkDocument } from './read';
import type { Artwork, CheminDocument } from './types';

/** What storage keeps of a drawing, unchecked: the drawing, the document that its steps start from, and where it stands. */
export interface KeptDrawing {
  readonly document: CheminDocument;
  readonly base: CheminDocument;
  readonly position: number;
  readonly stepCount: number;
}

/** A kept drawing opened, or why it cannot be, with what its steps still tell. */
export type OpenedKept =
  | { readonly ok: true; readonly history: History; /** The steps could not be used; only the drawing itself is there. */ readonly stepsLost: boolean }
  | {
      readonly ok: false;
      readonly reason: string;
      /** The last good state, with the steps up to it. */ readonly recovered: History | null;
      readonly lost: number;
    };

type WithArtworks = { readonly artworks?: readonly Artwork[] } | null | undefined;

/** Hashes of the SVGs that a stored document or edit names. */
export function svgsNamed(data: WithArtworks): readonly string[] {
  return Array.isArray(data?.artworks) ? (data.artworks as readonly Artwork[]).flatMap(({ svg }) => namedSvg(svg) ?? []) : [];
}

/** A stored document or edit with its SVGs again; those that are gone stay named, and are refused when they are checked. */
export function withSvgs<T extends WithArtworks>(data: T, svgs: ReadonlyMap<string, string>): T {
  if (svgsNamed(data).length === 0) return data;
  const artworks = data!.artworks!.map((artwork) => ({ ...artwork, svg: svgs.get(namedSvg(artwork.svg) ?? '') ?? artwork.svg }));
  return { ...data!, artworks };
}

/** Hashes of all SVGs that a kept drawing and its steps name; none where it is too damaged to say. */
export function svgsOfKept({ document, base }: Pick<KeptDrawing, 'document' | 'base'>, steps: readonly Step[]): readonly string[] {
  try {
    return [...new Set([document, base, ...steps.map(({ edit }) => (edit.kind === 'add' ? edit : null))].flatMap(svgsNamed))];
  } catch {
    return [];
  }
}

/**
 * Checks a kept drawing and replays its steps. Works in seconds on large drawings: away from the page. What comes back
 * has few of the documents in between, so that it is handed over quickly.
 * @param svgs the SVGs that it names, by their hash
 */
export function openKept(kept: KeptDrawing, stored: readonly Step[], svgs: ReadonlyMap<string, string>): OpenedKept {
  const checked = checkDocument(withSvgs(kept.document, svgs));
  const base = checkDocument(withSvgs(kept.base, svgs));
  const steps = stored.slice(0, kept.stepCount).map((step) => (step?.edit?.kind === 'add' ? { ...step, edit: withSvgs(step.edit, svgs) } : step));
  const history = base.ok ? replayHistory(base.value, steps, kept.position) : null;
  if (!checked.ok) {
    const recovered = history && soundHistory(history);
    const lost = kept.stepCount - (recovered?.steps.length ?? 0);
    return { ok: false, reason: checked.problems[0]?.message ?? 'It is damaged.', recovered: recovered && thinned(recovered), lost };
  }
  const whole = history !== null && history.steps.length === kept.stepCount && sameData(presentDocument(history), checked.value);
  return whole ? { ok: true, history: thinned(history), stepsLost: false } : { ok: true, history: startHistory(checked.value), stepsLost: true };
}
