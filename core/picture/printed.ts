import { recolouredMarks } from '../artwork/recolour-marks';
import type { GroupMark, Mark } from '../artwork/marks';
import { isRuled, ruledUnitNormal, type Ruled } from '../geometry/ruled';
import type { EyeMatrix } from '../projection/projection';
import type { DrawnSurface } from '../visibility/drawn-body';
import { ruledPath } from '../visibility/stretches';
import type { Tones } from './tones';

/** Strips of a quarter of a round side in which what is printed on it has one tone. */
const STRIPS = 12;

/**
 * Artwork in the tone of what it lies on, as printed there: each colour is toned as the face is, in parts of the whole
 * way. On round sides it is toned in strips along the generators, each reaching below the next so that no seam is seen.
 */
export function printedMarks(tones: Tones, part: DrawnSurface, marks: readonly Mark[], share: number): readonly Mark[] {
  const { surface, stretch, normal, view } = part;
  const there = tones.lightOn(surface);
  const known = new Map<string, string>();
  const form = surface?.form;
  if (!form || !isRuled(form) || !stretch)
    return recolouredMarks(marks, (colour) => known.get(colour) ?? keep(known, colour, tones.printed(colour, normal, there, share)));
  const { projection } = view.sight;
  const count = Math.max(1, Math.ceil((stretch.to - stretch.from) * STRIPS));
  return Array.from({ length: count }, (_, i): readonly Mark[] => {
    const [from, middle] = [i, i + 0.5].map((k) => stretch.from + ((stretch.to - stretch.from) * k) / count) as [number, number];
    const clip = i === 0 ? part.path : stripFrom(projection, form, from, stretch.to);
    const toward = ruledUnitNormal(form, middle % form.directrix.length) ?? normal;
    const own = new Map<string, string>();
    const toned = recolouredMarks(marks, (colour) => own.get(colour) ?? keep(own, colour, tones.printed(colour, toward, there, share)));
    const group: GroupMark = { kind: 'group', node: null, name: '', clip: clip && { path: clip, rule: 'evenodd' }, strength: 1, marks: toned };
    return [group];
  }).flat();
}

const stripFrom = (projection: EyeMatrix, form: Ruled, from: number, to: number): DrawnSurface['path'] | null => ruledPath(projection, form, { from, to }); // prettier-ignore

function keep(map: Map<string, string>, key: string, value: string): string {
  map.set(key, value);
  return value;
}
