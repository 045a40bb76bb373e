/**
 * A surface's name within its body: a path of steps such as `end`, `side:3`, `cut:hatch/side:2`. The last step tells
 * which surface it is, those before it which part of the body it came from. `end` is a flat shape's only surface and a
 * solid's at full depth, `base` lies in the drawn plane, `side:3` runs over the edge from point 3, `round:3` over the
 * rounding of that corner. Names survive moves, depth changes and edits of other parts; which of them exist is up to
 * the recipes. Paint, artwork and overrides hang on them, and wait while there is no such surface.
 */
export type SurfaceName = string;

/** One step of a name: its word, and the key that tells it from others with the same word. */
export interface NameStep {
  readonly word: string;
  readonly key?: string | number;
}

/** Most letters and steps of a name. */
const MAX_LETTERS = 400;
const MAX_STEPS = 8;
const STEP = /^[a-z]{1,20}(:[^/:\s]{1,240})?$/;

/** Whether a text can be the name of a surface, whether one has it or not. */
export function isSurfaceName(text: string): boolean {
  if (text.length > MAX_LETTERS) return false;
  const steps = text.split('/');
  return steps.length <= MAX_STEPS && steps.every((step) => STEP.test(step));
}

/** The name of some steps; keys may be any text, ids of nodes included. */
export function surfaceName(...steps: readonly NameStep[]): SurfaceName {
  return steps.map(({ word, key }) => (key === undefined ? word : `${word}:${encodeURIComponent(key)}`)).join('/');
}

/** The steps of a name, keys as texts. */
export function stepsOf(name: SurfaceName): readonly NameStep[] {
  return name.split('/').map((step) => {
    const at = step.indexOf(':');
    return at < 0 ? { word: step } : { word: step.slice(0, at), key: decodeURIComponent(step.slice(at + 1)) };
  });
}

/** The two ends of what depth makes. */
export const END: SurfaceName = 'end';
/** The face in the plane that a solid was drawn on. */
export const BASE: SurfaceName = 'base';
/** The side over the edge that starts at a point, and the one over the rounding of a corner. */
export const sideName = (point: number): SurfaceName => surfaceName({ word: 'side', key: point });
/** The side that starts at a point of the outline and runs on smoothly. */
export const roundName = (point: number): SurfaceName => surfaceName({ word: 'round', key: point });

/** Whether a surface carries what was drawn: its gradients and its line follow the drawn boundary there. */
export function isDrawnEnd(name: SurfaceName): boolean {
  return name === END || name === BASE;
}

/** A piece of a part's surface in what parts are joined to; `piece` counts the further ones where it is in several. */
export function partName(part: string, name: SurfaceName, piece = 0): SurfaceName {
  const steps: NameStep[] = [{ word: 'part', key: part }, ...(piece > 0 ? [{ word: 'piece', key: piece }] : [])];
  return `${surfaceName(...steps)}/${name}`;
}
