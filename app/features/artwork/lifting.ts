import {
  aroundAll,
  artworkOnPlane,
  artworkOnSurface,
  exactCells,
  FLAT_CELL_MM,
  flattenTree,
  mapOutline,
  mapPaint,
  mapPoint,
  mirrorLaid,
  moveLaid,
  outlineBox,
  placementGround,
  planeOfSurface,
  samePlane,
  sizeMm,
  toPlane,
  turnLaid,
  type Artwork,
  type CheminDocument,
  type DocumentNode,
  type Laid,
  type PlacementNode,
  type Plane,
  type PlaneBox,
  type PlanePoint,
} from '@core';
import { laidOf, placedIn } from '../../state/laid-things';

/** Things of one plane as an artwork, and the placement that shows it where they were; or why they cannot be. */
export type Lifted = { readonly artwork: Artwork; readonly placement: PlacementNode } | { readonly why: string };

/** Flat things with their boundaries laid elsewhere; groups keep what they hold together. */
function relaid(nodes: readonly DocumentNode[], document: CheminDocument, change: (laid: Laid) => Laid): readonly DocumentNode[] {
  return nodes.map((node): DocumentNode => {
    if (node.kind === 'group') return { ...node, children: relaid(node.children, document, change) };
    const laid = laidOf(node, document);
    if (!laid || (node.kind !== 'shape' && node.kind !== 'placement')) return node;
    const next = change(laid);
    return node.kind === 'shape' ? { ...node, ...next } : placedIn(node, laid, next, document);
  });
}

/** Lifts flat things of one plane into an artwork of their own, in their true size, and lays it where they were. */
export function lifted(document: CheminDocument, nodes: readonly DocumentNode[], newId: () => string): Lifted {
  const parts = flattenTree(nodes).flatMap(({ node }) => (node.kind === 'group' ? [] : [node]));
  const laid = parts.map((node) => laidOf(node, document));
  const first = laid[0];
  if (!first || laid.some((one) => !one)) return { why: 'Only shapes, text and artwork can be lifted into a flat artwork.' };
  if (parts.some((node) => node.kind === 'shape' && node.depth !== 0)) return { why: 'What has depth is not flat. Take its depth off first.' };
  if (laid.some((one) => !samePlane(one!.plane, first.plane))) return { why: 'What is lifted lies in one plane.' };
  const boxes = laid.flatMap((one) => outlineBox(one!.outline) ?? []);
  const box = aroundAll(boxes);
  const [width, height] = [box.maxU - box.minU, box.maxV - box.minV];
  if (!(width > 0 && height > 0)) return { why: 'It has no area.' };
  const onSheet = relaid(nodes, document, (one) => {
    const flat = one.plane.kind === 'sheet' ? one : toPlane(one, 'sheet', 'corner', box);
    return moveLaid(flat, exactCells(-box.minU), exactCells(-box.minV));
  });
  const name = nodes.length === 1 ? nodes[0]!.name : `${nodes[0]!.name} and more`;
  const { cell } = document.grid;
  const id = newId();
  const artwork: Artwork = { id, name, svg: '', width: width * cell, height: height * cell, unitMm: 1, nodes: onSheet, ...(cell !== FLAT_CELL_MM && { cell }) };
  // The placement is what the box of all of it was.
  const frame: Laid = { outline: boxOutline(box, first.plane), plane: first.plane, paint: { fill: null, line: null } };
  const blank: PlacementNode = { kind: 'placement', id: newId(), name, hidden: false, locked: false, artwork: id, target: { kind: 'plane', plane: first.plane }, anchor: { at: { a: 0, b: 0, h: 0 }, width, height } }; // prettier-ignore
  const toned = first.plane.kind !== 'sheet' && parts.some((node) => node.kind === 'shape' && !node.paint.unlit);
  return { artwork, placement: { ...placedIn(blank, frame, frame, document), ...(toned && { lit: 1 }) } };
}

/** The corners of a box as artwork has them where it is read: upper left first, then along its width. */
function boxOutline({ minU, minV, maxU, maxV }: PlaneBox, plane: Plane): Laid['outline'] {
  const down = plane.kind === 'sheet';
  const [top, low] = down ? [minV, maxV] : [maxV, minV];
  const [left, right] = plane.kind === 'left' ? [maxU, minU] : [minU, maxU];
  const corners = [[left, top], [right, top], [right, low], [left, low]]; // prettier-ignore
  return { points: corners.map(([u, v], i) => ({ id: i + 1, u: u!, v: v! })), closed: true };
}

/** The plane that a placement lies in; null round sides and where its face is gone. */
function planeOf(document: CheminDocument, node: PlacementNode): Plane | null {
  const ground = placementGround(document, node);
  return ground && ('kind' in ground ? ground : planeOfSurface(ground));
}

/** What is drawn on a placement's artwork as things of the drawing, where they are seen; null where it cannot be. */
export function putBack(
  document: CheminDocument,
  node: PlacementNode,
  artwork: Artwork,
  copy: (nodes: readonly DocumentNode[]) => readonly DocumentNode[],
): readonly DocumentNode[] | null {
  const plane = planeOf(document, node);
  const ground = placementGround(document, node);
  const laid = laidOf(node, document);
  const frame = ground && ('kind' in ground ? artworkOnPlane(node.anchor, ground) : artworkOnSurface(node.anchor, ground));
  const box = laid && outlineBox(laid.outline);
  if (!plane || !frame || !box || !artwork.nodes) return null;
  const { width, height } = sizeMm(artwork);
  const cell = artwork.cell ?? FLAT_CELL_MM;
  const whole: PlaneBox = { minU: 0, minV: 0, maxU: width / cell, maxV: height / cell };
  const [kx, ky] = [node.anchor.width / whole.maxU, node.anchor.height / whole.maxV];
  const middle = { u: (box.minU + box.maxU) / 2, v: (box.minV + box.maxV) / 2 };
  const own = { u: whole.maxU / 2, v: whole.maxV / 2 };
  return relaid(copy(artwork.nodes), { ...document, artworks: document.artworks }, (one) => {
    let next = plane.kind === 'sheet' ? one : { ...toPlane(one, plane, 'corner', whole), plane };
    next = stretched(next, own, kx, ky);
    if (node.anchor.mirrored) next = mirrorLaid(next, 'u', own.u);
    if (node.anchor.turn) next = turnLaid(next, own, plane.kind === 'sheet' || plane.kind === 'left' ? node.anchor.turn : -node.anchor.turn);
    return moveLaid(next, exactCells(middle.u - own.u), exactCells(middle.v - own.v));
  });
}

/** A boundary scaled along u and v about a place; roundings by the mean of both. */
function stretched(laid: Laid, about: PlanePoint, ku: number, kv: number): Laid {
  const at = ({ u, v }: PlanePoint): PlanePoint => ({ u: exactCells(about.u + (u - about.u) * ku), v: exactCells(about.v + (v - about.v) * kv) });
  const outline = mapOutline(laid.outline, (p) => {
    const moved = mapPoint(p, at);
    return p.corner ? { ...moved, corner: { ...p.corner, size: exactCells(p.corner.size * Math.sqrt(ku * kv)) } } : moved;
  });
  return { ...laid, outline, paint: mapPaint(laid.paint, at) };
}
