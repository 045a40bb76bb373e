import { anchorIn, boxIn, readingFrameOf, SHEET_READING, type ArtworkAnchor, type ReadBox } from '../geometry/anchor';
import type { Surface } from '../geometry/body';
import { surfaceReadingFrame } from '../geometry/reading';
import { carriedForm } from '../geometry/moved-body';
import type { RigidMap } from '../geometry/rigid';
import { isRuled, type Ruled } from '../geometry/ruled';
import { anchorOnRuled, artworkOnRuled, placeRead, readPlace, roomOnRuled, ruledOf, turnRead } from '../geometry/wrapping';
import { apply33, invert33 } from '../math/matrix';
import type { SheetPoint } from '../math/points';
import { exactCells } from '../math/exact';
import type { Plane } from '../projection/planes';
import { ruledUnder } from '../visibility/place-under';
import { readingMap } from './paint-placement';
import type { Stage } from './stage';

/** What artwork lies on. */
type Ground = Surface | Plane;

const formOf = (ground: Ground) => ('kind' in ground ? null : isRuled(ground.form) ? ground.form : null); // prettier-ignore

/**
 * An anchor as a box in cells as its ground is read: x to the right and y down, on round sides along the unrolled side,
 * before any turn. Inverse of `anchorOfBox`.
 */
export function readBox(ground: Ground, anchor: ArtworkAnchor): ReadBox {
  const ruled = formOf(ground);
  if (!ruled) return boxIn(readingFrameOf(ground) ?? SHEET_READING, anchor);
  const { origin, right, down } = artworkOnRuled(anchor, ruled);
  const { width, height } = anchor;
  const middle = { u: origin.u + (right.u * width + down.u * height) / 2, v: origin.v + (right.v * width + down.v * height) / 2 };
  const { x, y } = readPlace(ruled, ruledOf(ruled, middle));
  return { x: exactCells(x - width / 2), y: exactCells(y - height / 2), width, height };
}

/** The anchor of a box as its ground is read; turns and mirrors are those of the anchor that it comes from. */
export function anchorOfBox(ground: Ground, box: ReadBox, from: Pick<ArtworkAnchor, 'turn' | 'mirrored'> = {}): ArtworkAnchor {
  const ruled = formOf(ground);
  if (!ruled) return anchorIn(readingFrameOf(ground) ?? SHEET_READING, box, from);
  const { x, y, width, height } = box;
  return anchorOnRuled(ruled, placeRead(ruled, { x: x + width / 2, y: y + height / 2 }), box, from);
}

/**
 * The place of a ground that is drawn at a place of the sheet, as it is read, in cells; null where it is not.
 * @param carried where the ground is seen carried to, as by a copy
 */
export function readUnder(stage: Stage, ground: Ground, at: SheetPoint, carried: RigidMap | null = null): SheetPoint | null {
  const ruled = formOf(ground);
  if (ruled) {
    const place = ruledUnder(stage.view.sight.projection, carried ? (carriedForm(ruled, carried) as Ruled) : ruled, at);
    return place && readPlace(ruled, place);
  }
  const map = readingMap(stage, ground, carried);
  const back = map && invert33(map);
  return back && apply33(back, at.x, at.y);
}

/** From one place of a ground to another as they are read: on what is closed the short way round. */
export function readWay(ground: Ground, from: SheetPoint, to: SheetPoint): SheetPoint {
  const ruled = formOf(ground);
  const way = { x: to.x - from.x, y: to.y - from.y };
  return ruled ? turnRead(ruled, way) : way;
}

/** The room that a surface has for artwork, in cells; null for what has none. */
export function artworkRoom(surface: Surface): { readonly width: number; readonly height: number } | null {
  const ruled = formOf(surface);
  return ruled ? roomOnRuled(ruled) : surfaceReadingFrame(surface);
}
