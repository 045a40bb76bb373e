import { nodesById } from '../document/tree';
import type { CheminDocument, PlacementNode } from '../document/types';
import { artworkOnSurface } from '../geometry/anchor';
import type { Surface } from '../geometry/body';
import { carriedFrame } from '../geometry/moved-body';
import type { RigidMap } from '../geometry/rigid';
import { isRuled, ruledCoordinates, ruledPoint, ruledUnitNormal, type Ruled } from '../geometry/ruled';
import { artworkOnRuled, ruledOf, type Wrapping } from '../geometry/wrapping';
import { apply33, invert33 } from '../math/matrix';
import type { PlanePoint, SheetPoint } from '../math/points';
import { facing, sheetFromWorld } from '../projection/projection';
import { ruledUnder } from '../visibility/place-under';
import { drawnNodes } from './drawn-nodes';
import { placementMap, placementSurface } from './paint-placement';
import type { Stage } from './stage';

/** A spot of an artwork: parts of its width from the left and of its height from above. */
export type ArtworkSpot = SheetPoint;

function surfaceOf(document: CheminDocument, node: PlacementNode): Surface | null {
  return placementSurface(node, (id) => {
    const host = nodesById(document.nodes).get(id);
    return host?.kind === 'shape' ? host : null;
  });
}

/** A spot of the part of an artwork that a placement shows, as one of the whole artwork; and back. */
const ofWhole = ({ x, y }: ArtworkSpot, { part }: PlacementNode): ArtworkSpot => (part ? { x: part.minX + x * (part.maxX - part.minX), y: part.minY + y * (part.maxY - part.minY) } : { x, y }); // prettier-ignore
const ofPart = ({ x, y }: ArtworkSpot, { part }: PlacementNode): ArtworkSpot => (part ? { x: (x - part.minX) / (part.maxX - part.minX), y: (y - part.minY) / (part.maxY - part.minY) } : { x, y }); // prettier-ignore

/** The spot of a placement's artwork that is drawn at a place of the sheet, beyond its edges too; null where it is not drawn there. */
export function spotUnder(stage: Stage, document: CheminDocument, node: PlacementNode, at: SheetPoint): ArtworkSpot | null {
  const surface = surfaceOf(document, node);
  const { width, height } = node.anchor;
  if (surface && isRuled(surface.form)) {
    const place = ruledUnder(stage.view.sight.projection, surface.form, at);
    return place && ofWhole(spotOnRuled(surface.form, artworkOnRuled(node.anchor, surface.form), place, width, height), node);
  }
  const map = placementMap(stage, node, surface);
  const back = map && invert33(map);
  const found = back && apply33(back, at.x, at.y);
  return found && ofWhole({ x: found.x / width, y: found.y / height }, node);
}

function spotOnRuled(
  ruled: Ruled,
  { origin, right, down }: Wrapping,
  { s, k }: { readonly s: number; readonly k: number },
  width: number,
  height: number,
): ArtworkSpot {
  const [p, q] = [ruledCoordinates(ruled, s, 0), ruledCoordinates(ruled, s, 1)];
  const on: PlanePoint = ruled.kind === 'cylinder' ? { u: p.u, v: p.v + (q.v - p.v) * k } : { u: p.u * (1 - k) + q.u * k, v: p.v * (1 - k) + q.v * k };
  const [du, dv] = [on.u - origin.u, on.v - origin.v];
  // Both directions have length 1 and are square to each other.
  return { x: (du * right.u + dv * right.v) / width, y: (du * down.u + dv * down.v) / height };
}

/** Where a spot of an artwork is drawn: once for each of its placements that is turned to the viewer, what copies show included. */
export function spotsOnSheet(stage: Stage, document: CheminDocument, artwork: string, spot: ArtworkSpot): readonly SheetPoint[] {
  return drawnNodes(document).flatMap(({ node, hidden, map }) => {
    if (hidden || node.kind !== 'placement' || node.artwork !== artwork) return [];
    const own = ofPart(spot, node);
    if (node.part && (own.x < 0 || own.y < 0 || own.x > 1 || own.y > 1)) return [];
    return spotOnSheet(stage, document, node, own, map) ?? [];
  });
}

function spotOnSheet(stage: Stage, document: CheminDocument, node: PlacementNode, spot: ArtworkSpot, map: RigidMap | null): SheetPoint | null {
  const surface = surfaceOf(document, node);
  const [x, y] = [spot.x * node.anchor.width, spot.y * node.anchor.height];
  if (surface && isRuled(surface.form)) {
    if (map) return null;
    const { projection } = stage.view.sight;
    const { origin, right, down } = artworkOnRuled(node.anchor, surface.form);
    const { s, k } = ruledOf(surface.form, { u: origin.u + right.u * x + down.u * y, v: origin.v + right.v * x + down.v * y });
    const [at, normal] = [ruledPoint(surface.form, s, k), ruledUnitNormal(surface.form, s)];
    return normal && facing(projection, normal, at) > 0 ? sheetFromWorld(projection, at) : null;
  }
  const frame = surface && artworkOnSurface(node.anchor, surface);
  if (surface && frame && !surface.bothSides) {
    const there = map ? carriedFrame(frame, map) : frame;
    if (facing(stage.view.sight.projection, there.normal, there.origin) <= 0) return null;
  }
  const lies = placementMap(stage, node, surface, map);
  return lies && apply33(lies, x, y);
}
