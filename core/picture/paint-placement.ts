import { boxFromArtwork } from '../artwork/artwork';
import { flatInk, type Mark, type PathMark } from '../artwork/marks';
import { projectMarks } from '../artwork/project';
import type { FlatArtwork } from '../artwork/read-svg';
import type { CheminDocument, PlacementNode } from '../document/types';
import { nodesById } from '../document/tree';
import { artworkOnPlane, artworkOnSurface, readingFrameOf, SHEET_READING } from '../geometry/anchor';
import { surfaceNamed, type Surface } from '../geometry/body';
import { bodyOf, type SpaceNode } from '../geometry/book';
import { carriedFrame } from '../geometry/moved-body';
import type { RigidMap } from '../geometry/rigid';
import { isRuled } from '../geometry/ruled';
import { artworkOnRuled } from '../geometry/wrapping';
import { apply33, IDENTITY, matrixOf, multiply33, type Affine, type Mat33 } from '../math/matrix';
import { CORNERS } from '../math/tolerances';
import type { WorldPoint } from '../math/points';
import { sheetFromFrame, type Plane, type PlaneFrame } from '../projection/planes';
import { flattenPath, polygonPath } from '../shape/path';
import type { DrawnSurface } from '../visibility/drawn-body';
import type { Stage } from './stage';
import { wrapMarks } from './wrap-marks';

/** The surface on which a placement lies; null for one on a plane, and where the surface is gone. */
export function placementSurface(node: PlacementNode, find: (id: string) => SpaceNode | null): Surface | null {
  const host = node.target.kind === 'face' ? find(node.target.node) : null;
  return host && node.target.kind === 'face' ? surfaceNamed(bodyOf(host), node.target.face) : null;
}

/** The homography from the frame in which a placement's surface or plane is read, in cells, to the sheet. */
export function readingMap({ cell, view }: Stage, target: Surface | Plane): Mat33 | null {
  if ('kind' in target && target.kind === 'sheet') return [cell, 0, 0, 0, cell, 0, 0, 0, 1];
  const frame = readingFrameOf(target);
  return frame && sheetFromFrame(view.sight.projection, frame);
}

/** What a placement of a document lies on: its plane, or its surface; null where the surface is gone. */
export function placementGround(document: CheminDocument, node: PlacementNode): Surface | Plane | null {
  if (node.target.kind === 'plane') return node.target.plane;
  const host = nodesById(document.nodes).get(node.target.node);
  return placementSurface(node, () => (host?.kind === 'shape' ? host : null));
}

/** The normal by which artwork on a plane or surface is read; null on the sheet and on round surfaces. */
export function groundNormal(ground: Surface | Plane): WorldPoint | null {
  if ('kind' in ground) return ground.kind === 'sheet' ? null : (readingFrameOf(ground)?.normal ?? null);
  return ground.form.kind === 'flat' ? ground.form.frame.normal : null;
}

/** The homography from a placement's own frame, in cells from its upper left corner, to the sheet; null where it cannot be drawn. */
export function placementMap(stage: Stage, node: PlacementNode, surface: Surface | null, map: RigidMap | null = null): Mat33 | null {
  const { cell, view } = stage;
  if (node.target.kind === 'plane' && node.target.plane.kind === 'sheet') {
    const { origin, u, v } = artworkOnPlane(node.anchor, node.target.plane) ?? SHEET_READING;
    const by = map?.by ?? SHEET_READING.origin;
    return [u.a * cell, v.a * cell, (origin.a + by.a) * cell, u.b * cell, v.b * cell, (origin.b + by.b) * cell, 0, 0, 1];
  }
  const frame: PlaneFrame | null =
    node.target.kind === 'plane' ? artworkOnPlane(node.anchor, node.target.plane) : surface && artworkOnSurface(node.anchor, surface);
  return frame && sheetFromFrame(view.sight.projection, map ? carriedFrame(frame, map) : frame);
}

/** A placement as it lies on the sheet, whole as if nothing bounded it. */
export interface PlacedArtwork {
  readonly marks: readonly Mark[];
  /** Its box as corners. */
  readonly polygon: readonly number[];
}

interface Kept extends PlacedArtwork {
  readonly stage: Stage;
  readonly artwork: FlatArtwork;
  readonly surface: Surface | null;
}

const ROOT = {};
const kept = new WeakMap<object, WeakMap<PlacementNode, Kept>>();

/** A placement's marks on the sheet, kept as long as it, its artwork, its host's surface and the stage are the same. */
export function placedArtwork(
  stage: Stage,
  node: PlacementNode,
  artwork: FlatArtwork | null | undefined,
  surface: Surface | null,
  map: RigidMap | null,
  part: DrawnSurface | null = null,
): PlacedArtwork | null {
  if (!artwork) return null;
  if (surface && isRuled(surface.form)) return part && wrappedArtwork(stage, node, artwork, surface, part);
  let byNode = kept.get(map ?? ROOT);
  if (!byNode) kept.set(map ?? ROOT, (byNode = new WeakMap()));
  const known = byNode.get(node);
  if (known && known.stage === stage && known.artwork === artwork && known.surface === surface) return known;
  const homography = placementMap(stage, node, surface, map);
  if (!homography) return null;
  const { width, height } = node.anchor;
  const box = { x: 0, y: 0, width, height };
  const marks = projectMarks(artwork.marks, multiply33(homography, matrixOf(boxFromArtwork(artwork, box))), stage.sight.projection.near);
  const polygon = [[0, 0], [width, 0], [width, height], [0, height]].flatMap(([x, y]) => {
    const p = apply33(homography, x!, y!);
    return p ? [p.x, p.y] : [];
  }); // prettier-ignore
  const placed = { marks, polygon, stage, artwork, surface };
  byNode.set(node, placed);
  return placed;
}

/** By the part of a side that is drawn, as each has its own. */
const wrapped = new WeakMap<DrawnSurface, WeakMap<PlacementNode, Kept>>();

/** A placement on the part of a round side that is drawn. */
function wrappedArtwork(stage: Stage, node: PlacementNode, flat: FlatArtwork, surface: Surface, part: DrawnSurface): PlacedArtwork | null {
  const { stretch, surface: there } = part;
  if (!stretch || !there || !isRuled(surface.form) || !isRuled(there.form)) return null;
  let byNode = wrapped.get(part);
  if (!byNode) wrapped.set(part, (byNode = new WeakMap()));
  const known = byNode.get(node);
  if (known && known.stage === stage && known.artwork === flat && known.surface === surface) return known;
  const { width, height } = node.anchor;
  const wrapping = artworkOnRuled(node.anchor, surface.form);
  const box: Affine = boxFromArtwork(flat, { x: 0, y: 0, width, height });
  const { projection } = stage.view.sight;
  const marks = wrapMarks(flat.marks, box, wrapping, there.form, stretch, projection);
  const outline: PathMark = {
    kind: 'path',
    path: polygonPath([0, 0, width, 0, width, height, 0, height]),
    fill: flatInk('#000000'),
    rule: 'evenodd',
    line: null,
  };
  const shown = wrapMarks([outline], IDENTITY, wrapping, there.form, stretch, projection);
  const polygon = shown.flatMap((mark) => (mark.kind === 'path' ? flattenPath(mark.path, CORNERS) : []))[0] ?? [];
  const placed = { marks, polygon, stage, artwork: flat, surface };
  byNode.set(node, placed);
  return placed;
}
