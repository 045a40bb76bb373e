import {
  anchorIn,
  anchorOfBox,
  artworkRoom,
  boxIn,
  placementGround,
  PLANE_NAMES,
  readBox,
  readingFrameOf,
  readUnder,
  SHEET_PLANE,
  SHEET_READING,
  sizeMm,
  surfaceWord,
  targetFace,
  type Artwork,
  type CheminDocument,
  derivedName,
  type Edit,
  type SingleEdit,
  type PlacementNode,
  type PlacementTarget,
  type Plane,
  type ReadBox,
  type RigidMap,
  type ShapeNode,
  type SheetPoint,
  type Surface,
} from '@core';
import type { ToolContext } from '../../tools/tool';

/** Cells that artwork is wide when it is placed on a bare plane. */
const WIDTH_ON_PLANE = 6;
/** Part of the way round a side that artwork takes at first. */
const ROUND_PART = 0.3;

/** What a target is in a document: its plane, or the surface with its name; null where that is gone. */
function groundOf(target: PlacementTarget, document: CheminDocument): Surface | Plane | null {
  return target.kind === 'plane' ? target.plane : (targetFace(document, target)?.surface ?? null);
}

/** A target as people name it: `kiosk, left side`. */
export function targetWords(target: PlacementTarget, { document }: Pick<ToolContext, 'document'>): string {
  if (target.kind === 'plane') return PLANE_NAMES[target.plane.kind];
  const found = targetFace(document, target);
  return found ? faceWords(found.shape, found.surface) : 'a face that is gone';
}

/** A face as people name it; what is flat has no other than itself. */
export function faceWords(shape: ShapeNode, surface: Surface): string {
  return shape.depth === 0 ? shape.name : `${shape.name}, ${surfaceWord(surface)}`;
}

/** How new artwork is laid. */
export interface Laying {
  /** Where it was pressed or dropped; null in no place of its own. */
  readonly at: SheetPoint | null;
  /** Where the face is seen carried to, as by a copy. */
  readonly carried?: RigidMap | null;
  /** As large as its file says where that fits, about the place; else as large as the face has room for. */
  readonly ownSize?: boolean;
  /** What was laid there just before it, with what it begins beside. */
  readonly beside?: readonly ReadBox[];
}

/** A new placement, and its box as its ground is read: fitted to the middle of a face, or at a place of it or of a plane; its proportions are kept. */
export function placementOn(
  artwork: Artwork,
  target: PlacementTarget,
  context: Pick<ToolContext, 'document' | 'geometry' | 'newId'>,
  how: Laying,
): { readonly node: PlacementNode; readonly box: ReadBox } {
  const ground = groundOf(target, context.document) ?? SHEET_PLANE;
  const pressed = how.at && readUnder(context.geometry, ground, how.at, how.carried ?? null);
  const box = how.ownSize && pressed ? ownBox(artwork, ground, pressed, context.document, how.beside ?? []) : fittedAt(artwork, ground, pressed);
  const node: PlacementNode = {
    kind: 'placement',
    id: context.newId(),
    name: `${artwork.name}, ${targetWords(target, context)}`,
    hidden: false,
    locked: false,
    artwork: artwork.id,
    target,
    anchor: anchorOfBox(ground, box),
  };
  return { node, box };
}

/** As much of a face as there is, or some cells of a plane. */
function fittedAt(artwork: Artwork, ground: Surface | Plane, pressed: SheetPoint | null): ReadBox {
  const ratio = artwork.height / artwork.width;
  const room = 'kind' in ground ? null : artworkRoom(ground);
  if (!room) return { x: pressed ? Math.round(pressed.x) : 0, y: pressed ? Math.round(pressed.y) : 0, width: WIDTH_ON_PLANE, height: WIDTH_ON_PLANE * ratio };
  const isFlat = !('kind' in ground) && ground.form.kind === 'flat';
  // On a round side as much as is well seen at once, where it was pressed.
  const width = isFlat ? room.width : Math.min(room.width, ROUND_PART * (room.width > room.height * ROUND_PART ? room.width : room.height));
  const fitted = Math.min(width, room.height / ratio);
  const x = !isFlat && pressed ? pressed.x - fitted / 2 : (room.width - fitted) / 2;
  return { x, y: (room.height - fitted * ratio) / 2, width: fitted, height: fitted * ratio };
}

/** Cells between artworks that are laid beside each other. */
const BESIDE = 0.5;

/** The box of artwork in its own size about a place; smaller where its face has no room for it, and within the face. */
function ownBox(artwork: Artwork, ground: Surface | Plane, at: SheetPoint, { grid, sheet }: CheminDocument, beside: readonly ReadBox[]): ReadBox {
  const size = sizeMm(artwork);
  const room = 'kind' in ground ? null : artworkRoom(ground);
  const own = 1 / (grid.cell * sheet.scale);
  const k = Math.min(own, ...(room ? [room.width / size.width, room.height / size.height] : []));
  const [width, height] = [size.width * k, size.height * k];
  // Round sides go on where they begin.
  const isRound = !('kind' in ground) && ground.form.kind !== 'flat';
  const within = (from: number, length: number, all: number | undefined): number => (all === undefined ? from : Math.max(0, Math.min(all - length, from)));
  const last = beside.at(-1);
  const row = { x: at.x - width / 2, y: at.y - height / 2 };
  if (last) {
    Object.assign(row, { x: last.x + last.width + BESIDE, y: last.y });
    // Where the face ends a new row begins below what was laid so far.
    if (room && !isRound && row.x + width > room.width)
      Object.assign(row, { x: beside[0]!.x, y: Math.max(...beside.map((box) => box.y + box.height)) + BESIDE });
  }
  return { x: isRound ? row.x : within(row.x, width, room?.width), y: within(row.y, height, room?.height), width, height };
}

/**
 * The edit that lays a placement on another plane or face, its size kept: where it is in space, dropped square onto the
 * new place; in the middle of a face that it would miss.
 */
export function laidOn(document: CheminDocument, node: PlacementNode, target: PlacementTarget): Edit {
  const place = (anchor: PlacementNode['anchor']): SingleEdit => ({
    kind: 'place',
    id: node.id,
    target,
    anchor,
    ...(node.overhangs && { overhangs: node.overhangs }),
  });
  const edit = laidBy(document, node, target, place);
  // A name that tells where it lies follows it; one that was given stays.
  const [was, is] = [targetWords(node.target, { document }), targetWords(target, { document })];
  if (was === is || !node.name.endsWith(`, ${was}`)) return edit;
  return { kind: 'all', edits: [edit, { kind: 'name', id: node.id, name: derivedName(node.name.slice(0, -was.length - 2), `, ${is}`) }] };
}

function laidBy(document: CheminDocument, node: PlacementNode, target: PlacementTarget, place: (anchor: PlacementNode['anchor']) => SingleEdit): SingleEdit {
  const [from, to] = [placementGround(document, node), groundOf(target, document)];
  if (!from || !to) return place(node.anchor);
  const frame = readingFrameOf(to);
  const room = 'kind' in to ? null : artworkRoom(to);
  // Round sides have no frame: artwork comes to lie in their middle, or keeps its place round them.
  if (!frame || ('form' in from && from.form.kind !== 'flat')) {
    const { width, height } = node.anchor;
    const at = room ? { x: (room.width - width) / 2, y: (room.height - height) / 2 } : { x: 0, y: 0 };
    return place(anchorOfBox(to, { ...at, width, height }, node.anchor));
  }
  const onSheet = (ground: Surface | Plane): boolean => 'kind' in ground && ground.kind === 'sheet';
  const box = boxIn(frame, node.anchor);
  const misses = room !== null && (box.x >= room.width || box.y >= room.height || box.x + box.width <= 0 || box.y + box.height <= 0);
  if (room && (misses || onSheet(from)))
    return place(anchorIn(frame, { ...box, x: (room.width - box.width) / 2, y: (room.height - box.height) / 2 }, node.anchor));
  // The sheet has no place in space: counts are kept.
  if (onSheet(from) !== onSheet(to)) return place(anchorIn(frame, boxIn(readingFrameOf(from) ?? SHEET_READING, node.anchor), node.anchor));
  return place(anchorIn(frame, box, node.anchor));
}

/** How a placement is fitted: within its face, over all of it, stretched to it, or as large as its file says. */
export type Fit = 'inside' | 'cover' | 'stretch' | 'true';

/** The box of a placement that is fitted, in cells as its ground is read. @param room of its face; null on planes */
export function fittedBox(
  how: Fit,
  artwork: Pick<Artwork, 'width' | 'height' | 'unitMm'>,
  before: ReadBox,
  room: { readonly width: number; readonly height: number } | null,
  { grid, sheet }: Pick<CheminDocument, 'grid' | 'sheet'>,
): ReadBox {
  if (how === 'stretch' && room) return { x: 0, y: 0, width: room.width, height: room.height };
  const { width, height } = sizeMm(artwork);
  const ratios = room ? [room.width / width, room.height / height] : [];
  const k = how === 'true' || ratios.length === 0 ? 1 / (grid.cell * sheet.scale) : how === 'cover' ? Math.max(...ratios) : Math.min(...ratios);
  const [wide, high] = [width * k, height * k];
  // About the middle of the face, or of where it was.
  const [x, y] = room && how !== 'true' ? [room.width / 2, room.height / 2] : [before.x + before.width / 2, before.y + before.height / 2];
  return { x: x - wide / 2, y: y - high / 2, width: wide, height: high };
}

/** The placement with another artwork in its place: as large as it fits where the one before was, about the same middle. */
export function exchangedIn(document: CheminDocument, node: PlacementNode, artwork: Artwork): PlacementNode {
  const ground = placementGround(document, node);
  const next = { ...node, artwork: artwork.id };
  if (!ground) return next;
  const box = readBox(ground, node.anchor);
  const k = Math.min(box.width / artwork.width, box.height / artwork.height);
  const [width, height] = [artwork.width * k, artwork.height * k];
  // The same proportions keep the same box, to the last digit.
  if (Math.abs(width - box.width) + Math.abs(height - box.height) < 1e-6 * (box.width + box.height)) return next;
  return { ...next, anchor: anchorOfBox(ground, { x: box.x + (box.width - width) / 2, y: box.y + (box.height - height) / 2, width, height }, node.anchor) };
}
