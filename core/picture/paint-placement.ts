import { boxFromArtwork, mapMarks } from '../artwork/artwork';
import { flatInk, type Mark, type PathMark } from '../artwork/marks';
import { tiledMarks, type PatternBox } from '../artwork/pattern';
import { projectMarks } from '../artwork/project';
import type { FlatArtwork } from '../artwork/read-svg';
import type { CheminDocument, PlacementNode } from '../document/types';
import { nodesById } from '../document/tree';
import { artworkOnPlane, artworkOnSurface, readingFrameOf, SHEET_READING } from '../geometry/anchor';
import { flippedForm, surfaceNamed, type Surface } from '../geometry/body';
import { bodyOf, type SpaceNode } from '../geometry/book';
import { carriedFrame } from '../geometry/moved-body';
import type { RigidMap } from '../geometry/rigid';
import { isRuled, ruledCoordinates, type Ruled } from '../geometry/ruled';
import { artworkOnRuled, type Wrapping } from '../geometry/wrapping';
import { keptBy } from '../math/keep';
import { affineOf, apply33, IDENTITY, invert33, matrixOf, multiply33, type Affine, type Mat33 } from '../math/matrix';
import { CORNERS } from '../math/tolerances';
import { dotWorld, subtractWorld, type SheetPoint, type WorldPoint } from '../math/points';
import { sheetFromFrame, type Plane, type PlaneFrame } from '../projection/planes';
import { boxPath, flattenPath, pathBox, polygonPath, type PathBox } from '../shape/path';
import type { DrawnSurface } from '../visibility/drawn-body';
import type { Stage } from './stage';
import { wrapMarks } from './wrap-marks';

const turnedSurface = keptBy((surface: Surface): Surface => ({ ...surface, form: flippedForm(surface.form) }));

/** The surface of a thing that a target names, as it is read: from within where it is seen from there. Null where it is gone. */
export function targetSurface(host: SpaceNode, { face, inside }: Pick<FaceTarget, 'face' | 'inside'>): Surface | null {
  const surface = surfaceNamed(bodyOf(host), face);
  return surface && inside ? turnedSurface(surface) : surface;
}

type FaceTarget = Extract<PlacementNode['target'], { kind: 'face' }>;

/** The surface on which a placement lies; null for one on a plane, and where the surface is gone. */
export function placementSurface(node: PlacementNode, find: (id: string) => SpaceNode | null): Surface | null {
  const host = node.target.kind === 'face' ? find(node.target.node) : null;
  return host && node.target.kind === 'face' ? targetSurface(host, node.target) : null;
}

/** The homography from the frame in which a placement's surface or plane is read, in cells, to the sheet. */
export function readingMap({ cell, view }: Stage, target: Surface | Plane, carried: RigidMap | null = null): Mat33 | null {
  if ('kind' in target && target.kind === 'sheet') return [cell, 0, 0, 0, cell, 0, 0, 0, 1];
  const frame = readingFrameOf(target);
  return frame && sheetFromFrame(view.sight.projection, carried ? carriedFrame(frame, carried) : frame);
}

/** What a placement of a document lies on: its plane, or its surface; null where the surface is gone. */
export function placementGround(document: CheminDocument, node: PlacementNode): Surface | Plane | null {
  if (node.target.kind === 'plane') return node.target.plane;
  const host = nodesById(document.nodes).get(node.target.node);
  return host?.kind === 'shape' ? targetSurface(host, node.target) : null;
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
  /** Its marks are carried by the canvas: good enough for a frame of a gesture alone. */
  readonly hasty: boolean;
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
  quick = false,
): PlacedArtwork | null {
  if (!artwork) return null;
  if (surface && isRuled(surface.form)) return part && wrappedArtwork(stage, node, artwork, surface, part);
  let byNode = kept.get(map ?? ROOT);
  if (!byNode) kept.set(map ?? ROOT, (byNode = new WeakMap()));
  const known = byNode.get(node);
  if (known && known.stage === stage && known.artwork === artwork && known.surface === surface && (quick || !known.hasty)) return known;
  const homography = placementMap(stage, node, surface, map);
  if (!homography) return null;
  const { width, height } = node.anchor;
  const box = { x: 0, y: 0, width, height };
  const region = node.pattern ? patternRegion(stage, node, surface, homography) : null;
  const flat = shownPart(artwork, node.part);
  const own = region ? tiledMarks(flat, node.pattern!, node.anchor, region) : flat.marks;
  const toSheet = multiply33(homography, matrixOf(boxFromArtwork(flat, box)));
  const whole = quick && canBeCarried(own) ? affineOf(toSheet) : null;
  const marks: readonly Mark[] = whole
    ? [{ kind: 'group', node: null, name: '', clip: null, strength: 1, map: whole, marks: own }]
    : projectMarks(own, toSheet, stage.sight.projection.near);
  const { minX, minY, maxX, maxY } = region ?? { minX: 0, minY: 0, maxX: width, maxY: height };
  const polygon = [[minX, minY], [maxX, minY], [maxX, maxY], [minX, maxY]].flatMap(([x, y]) => {
    const p = apply33(homography, x!, y!);
    return p ? [p.x, p.y] : [];
  }); // prettier-ignore
  const placed = { marks, hasty: whole !== null, polygon, stage, artwork, surface };
  byNode.set(node, placed);
  return placed;
}

const carriable = new WeakMap<readonly Mark[], boolean>();

/** Whether a canvas can carry marks as they are: nothing of them depends on how large they become on the sheet. */
function canBeCarried(marks: readonly Mark[]): boolean {
  let can = carriable.get(marks);
  if (can === undefined) carriable.set(marks, (can = marks.every(isCarriable)));
  return can;
}

function isCarriable(mark: Mark): boolean {
  if (mark.kind === 'group') return mark.strength === 1 && !mark.blend && !mark.blur && canBeCarried(mark.marks);
  return mark.kind === 'path' && (mark.line === null || mark.line.dashes.length === 0);
}

const parts = new WeakMap<FlatArtwork, WeakMap<PatternBox, FlatArtwork>>();

/** The part of an artwork that a placement shows, as an artwork by itself: it fills the placement's box. */
export function shownPart(flat: FlatArtwork, part: PatternBox | undefined): FlatArtwork {
  if (!part) return flat;
  let known = parts.get(flat);
  if (!known) parts.set(flat, (known = new WeakMap()));
  let made = known.get(part);
  if (!made) known.set(part, (made = cutPart(flat, part)));
  return made;
}

function cutPart({ marks, width, height }: FlatArtwork, part: PatternBox): FlatArtwork {
  const [x, y] = [part.minX * width, part.minY * height];
  const size = { width: (part.maxX - part.minX) * width, height: (part.maxY - part.minY) * height };
  const path = boxPath({ minX: 0, minY: 0, maxX: size.width, maxY: size.height });
  // What lies beside the part is not carried along.
  const near = mapMarks(marks, [1, 0, 0, 1, -x, -y]).filter((mark) => mark.kind === 'group' || touchesBox(pathBox(mark.path), size, mark));
  return { ...size, marks: near.length === 0 ? [] : [{ kind: 'group', node: null, name: '', clip: { path, rule: 'nonzero' }, strength: 1, marks: near }] };
}

function touchesBox(box: PathBox | null, { width, height }: { readonly width: number; readonly height: number }, mark: Mark): boolean {
  const room = mark.kind === 'path' && mark.line ? mark.line.width * Math.hypot(...mark.line.pen.slice(0, 4)) : 0;
  return box !== null && box.minX - room < width && box.minY - room < height && box.maxX + room > 0 && box.maxY + room > 0;
}

/** Cells by which a pattern goes on beyond the corners that are known of a face. */
const BEYOND = 0.01;
/** Most cells that a pattern on a bare plane reaches, where it is seen without end. */
const FAR = 400;

/** The box that a pattern has to fill, in cells from the artwork's upper left corner: its face, or what is seen of its plane. */
function patternRegion(stage: Stage, node: PlacementNode, surface: Surface | null, homography: Mat33): PatternBox {
  const frame = surface && artworkOnSurface(node.anchor, surface);
  if (surface && frame) {
    return boxAround(
      surface.loops.flatMap((loop) =>
        Array.from({ length: loop.length / 3 }, (_, i) => {
          const off = subtractWorld({ a: loop[3 * i]!, b: loop[3 * i + 1]!, h: loop[3 * i + 2]! }, frame.origin);
          return { x: dotWorld(off, frame.u), y: dotWorld(off, frame.v) };
        }),
      ),
    );
  }
  const back = invert33(homography);
  const { minX, minY, maxX, maxY } = stage.seen;
  const corners = [[minX, minY], [maxX, minY], [maxX, maxY], [minX, maxY]].flatMap(([x, y]) => {
    // Beyond the horizon nothing of the plane is seen.
    const w = back ? back[6] * x! + back[7] * y! + back[8] : 0;
    const p = back && w > 0 === back[8] > 0 ? apply33(back, x!, y!) : null;
    return p ? [p] : [];
  }); // prettier-ignore
  if (corners.length < 4) return { minX: -FAR, minY: -FAR, maxX: FAR, maxY: FAR };
  const box = boxAround(corners);
  return { minX: Math.max(-FAR, box.minX), minY: Math.max(-FAR, box.minY), maxX: Math.min(FAR, box.maxX), maxY: Math.min(FAR, box.maxY) };
}

function boxAround(points: readonly SheetPoint[]): PatternBox {
  const of = (pick: (p: SheetPoint) => number, most: boolean): number => points.reduce((found, p) => (most ? Math.max(found, pick(p)) : Math.min(found, pick(p))), most ? -Infinity : Infinity); // prettier-ignore
  return {
    minX: of((p) => p.x, false) - BEYOND,
    minY: of((p) => p.y, false) - BEYOND,
    maxX: of((p) => p.x, true) + BEYOND,
    maxY: of((p) => p.y, true) + BEYOND,
  };
}

/** The box that a pattern has to fill on a round side, all round it. */
function ruledRegion(ruled: Ruled, { origin, right, down }: Wrapping): PatternBox {
  const n = ruled.directrix.length;
  const ends = Array.from({ length: 8 * n + 1 }, (_, i) => [0, 1].map((k) => ruledCoordinates(ruled, Math.min(n - 1e-9, i / 8), k))).flat();
  return boxAround(ends.map(({ u, v }) => ({ x: (u - origin.u) * right.u + (v - origin.v) * right.v, y: (u - origin.u) * down.u + (v - origin.v) * down.v })));
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
  const whole = shownPart(flat, node.part);
  const box: Affine = boxFromArtwork(whole, { x: 0, y: 0, width, height });
  const { projection } = stage.view.sight;
  const region = node.pattern ? ruledRegion(surface.form, wrapping) : null;
  const own = region ? tiledMarks(whole, node.pattern!, node.anchor, region) : whole.marks;
  const marks = wrapMarks(own, box, wrapping, there.form, stretch, projection);
  const outline: PathMark = {
    kind: 'path',
    path: region ? boxPath(region) : polygonPath([0, 0, width, 0, width, height, 0, height]),
    fill: flatInk('#000000'),
    rule: 'evenodd',
    line: null,
  };
  const shown = wrapMarks([outline], IDENTITY, wrapping, there.form, stretch, projection);
  const polygon = shown.flatMap((mark) => (mark.kind === 'path' ? flattenPath(mark.path, CORNERS) : []))[0] ?? [];
  const placed = { marks, hasty: false, polygon, stage, artwork: flat, surface };
  byNode.set(node, placed);
  return placed;
}
