import type { CheminDocument } from '../document/types';
import type { SheetPoint } from '../math/points';
import { pickAt } from '../picture/pick';
import { PictureMaker } from '../picture/picture';
import { seenFace, type SeenFace } from '../picture/seen-face';

/** A face, and a place of the sheet at which it is seen, well within it. */
export interface FacePlace {
  readonly seen: SeenFace;
  readonly at: SheetPoint;
}

/** Places of the sheet, in mm each way, at which faces are looked for. */
const STEP = 1.03;

/** Every face that is seen, with a place in its middle. @param fewest square mm, about, of which less is not looked at */
export function facePlaces(document: CheminDocument, fewest = 12): readonly FacePlace[] {
  const picture = new PictureMaker().make(document);
  const coords = (rest: 0 | 1): readonly number[] => picture.visible.flatMap(({ polygon }) => Array.from(polygon).filter((_, i) => i % 2 === rest));
  const [xs, ys] = [coords(0), coords(1)];
  const found = new Map<string, { readonly seen: SeenFace; readonly places: SheetPoint[] }>();
  for (let x = Math.min(...xs); x < Math.max(...xs); x += STEP)
    for (let y = Math.min(...ys); y < Math.max(...ys); y += STEP) {
      const hit = pickAt(picture, { x, y }, 0);
      const seen = seenFace(hit);
      if (!seen || !hit) continue;
      const key = `${seen.owner} ${hit.drawn.within} ${hit.drawn.node.id} ${hit.face}`;
      const known = found.get(key) ?? { seen, places: [] };
      known.places.push({ x, y });
      found.set(key, known);
    }
  return [...found.values()].flatMap(({ seen, places }) => {
    if (places.length < fewest) return [];
    const mean = (of: (p: SheetPoint) => number): number => places.reduce((sum, p) => sum + of(p), 0) / places.length;
    const middle = { x: mean((p) => p.x), y: mean((p) => p.y) };
    const far = (p: SheetPoint): number => Math.hypot(p.x - middle.x, p.y - middle.y);
    return [{ seen, at: places.reduce((p, q) => (far(q) < far(p) ? q : p)) }];
  });
}
