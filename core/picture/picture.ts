import polygonClipping, { type Polygon } from 'polygon-clipping';
import { boxFromArtwork } from '../artwork/artwork';
import { flatInk, type GroupMark, type LineStyle, type Mark, type PathMark } from '../artwork/marks';
import { projectMarks } from '../artwork/project';
import { readResolvedSvg, type FlatArtwork } from '../artwork/read-svg';
import { flattenTree } from '../document/tree';
import type { Artwork, CheminDocument, Light, LinePaint, PlacementNode, ShapeNode, Sheet } from '../document/types';
import { faceColour } from '../light/tones';
import { apply33, IDENTITY, matrixOf, multiply33 } from '../math/matrix';
import type { WorldPoint } from '../math/points';
import { projectionFrom } from '../projection/projection';
import { sightFrom } from '../projection/sight';
import { joinPaths, polygonPath, polylinePath, type Path } from '../shape/path';
import { drawSegments } from '../shape/draw-segments';
import { flattenOutline, isCurved, outlineSegments } from '../shape/segments';
import { FACET, faceWord, type FaceName } from '../solid/faces';
import { rangeDirections } from '../visibility/drawn-face';
import { OrderKeeper } from '../visibility/order';
import { boxCorners, placementMap, placementThing, shapesById, shapeThings, type Stage, type Thing } from './things';

/** Sheet units of same-coloured line that close the hair line between two faces that share an edge. */
const SEAM = 0.12;

/** Something visible that can be pointed at, in paint order. */
export interface Visible {
  readonly node: string;
  readonly face: FaceName | null;
  /** Flat sheet coordinates. */
  readonly polygon: ArrayLike<number>;
  /** Open lines are hit along their length, areas inside. */
  readonly open: boolean;
}

/** The picture of a document: what painters paint, and what can be pointed at. */
export interface Picture {
  readonly sheet: Sheet;
  readonly marks: readonly GroupMark[];
  readonly visible: readonly Visible[];
}

/**
 * Makes pictures of documents, remembering what did not change: geometry by node, order by face, tones by colour.
 * One maker for one view; drop it and nothing is lost.
 */
export class PictureMaker {
  private stage: Stage | null = null;
  private stageKey: readonly unknown[] = [];
  private things = new WeakMap<ShapeNode | PlacementNode, readonly Thing[]>();
  private tones = new Map<string, Map<number, string>>();
  private tonesOf: Light | null = null;
  /** Painted things without cuts or artwork, as long as the light is the same. */
  private painted = new WeakMap<Thing, Painted>();
  private readonly order = new OrderKeeper();

  /** The geometry's frame for a document: its projection, lines of sight and cell. Kept while they are the same. */
  stageOf({ projection, grid }: CheminDocument): Stage {
    if (!this.stage || this.stageKey[0] !== projection || this.stageKey[1] !== grid.cell) {
      const sight = sightFrom(projectionFrom(projection));
      this.stage = { sight, directions: rangeDirections(sight), cell: grid.cell };
      this.stageKey = [projection, grid.cell];
      this.things = new WeakMap();
    }
    return this.stage;
  }

  /** Forgets colours where the light is another. */
  private lightUp(light: Light): void {
    if (this.tonesOf === light) return;
    this.tones = new Map();
    this.painted = new WeakMap();
    this.tonesOf = light;
  }

  /** The picture: what lies on the sheet under everything, then space in its visible order, then the sheet on top. */
  make(document: CheminDocument): Picture {
    const stage = this.stageOf(document);
    this.lightUp(document.light);
    const under: Painted[] = [];
    const over: Painted[] = [];
    const inSpace: Thing[] = [];
    const hosts = shapesById(document.nodes);
    const onFaces = new Map<string, PlacementNode[]>();
    const artworks = new Map(document.artworks.map((artwork) => [artwork.id, artwork]));
    for (const { node, hidden } of flattenTree(document.nodes)) {
      if (hidden || node.kind === 'group') continue;
      if (node.kind === 'placement' && node.target.kind === 'face') {
        const key = `${node.target.node} ${node.target.face}`;
        onFaces.set(key, [...(onFaces.get(key) ?? []), node]);
        continue;
      }
      const flat = node.kind === 'shape' ? node.plane.kind === 'sheet' : node.target.kind === 'plane' && node.target.plane.kind === 'sheet';
      if (flat) (inSpace.length > 0 ? over : under).push(this.paintFlat(stage, node, artworks));
      else for (const thing of this.thingsOf(stage, node)) inSpace.push(thing);
    }
    const { order, cuts } = this.order.update(inSpace.map((thing) => thing.drawn));
    const space = order.map((i): Painted => {
      const thing = inSpace[i]!;
      const cut = cuts.get(i)?.map((k) => inSpace[k]!.drawn.polygon) ?? [];
      const { node, face } = thing;
      if (node.kind === 'placement') return paintPlacement(stage, node, hosts, artworks, cut.length ? cutPath(thing.drawn.polygon, cut) : null);
      const placed = face && onFaces.size > 0 ? onFaces.get(`${node.id} ${face.name}`) : undefined;
      if (cut.length === 0 && !placed) return this.paintPlain(document.light, thing, node);
      const path = cut.length === 0 && thing.path ? thing.path : cutPath(thing.drawn.polygon, cut);
      const art = placed?.map((placement) => paintPlacement(stage, placement, hosts, artworks, path)) ?? [];
      return this.paintShape(document.light, thing, node, path, art);
    });
    const painted = [...under, ...space, ...over];
    return { sheet: document.sheet, marks: groupByNode(painted), visible: visibleOf(painted) };
  }

  private thingsOf(stage: Stage, node: ShapeNode | PlacementNode): readonly Thing[] {
    let things = this.things.get(node);
    if (!things) {
      const placed = node.kind === 'placement' ? placementThing(stage, node) : null;
      things = node.kind === 'shape' ? shapeThings(stage, node) : placed ? [placed] : [];
      this.things.set(node, things);
    }
    return things;
  }

  private colour(light: Light, base: string, normal: WorldPoint): string {
    let byNormal = this.tones.get(base);
    if (!byNormal) this.tones.set(base, (byNormal = new Map()));
    const key = normalKey(normal);
    let tone = byNormal.get(key);
    if (tone === undefined) {
      tone = faceColour(base, normal, light.sun, light.ramp);
      byNormal.set(key, tone);
    }
    return tone;
  }

  /** A thing with nothing cut out of it and nothing on it: the same as last time while it and the light are. */
  private paintPlain(light: Light, thing: Thing, node: ShapeNode): Painted {
    let painted = this.painted.get(thing);
    if (!painted) {
      painted = this.paintShape(light, thing, node, thing.path ?? polygonPath(thing.drawn.polygon), []);
      this.painted.set(thing, painted);
    }
    return painted;
  }

  private paintShape(light: Light, { face, drawn, polyline, path: exact }: Thing, node: ShapeNode, path: Path, art: readonly Painted[]): Painted {
    if (polyline || !face) {
      const mark: PathMark = { kind: 'path', path: exact ?? polylinePath(polyline ?? []), fill: null, rule: 'nonzero', line: lineStyle(node.paint.line) };
      return { node: node.id, name: node.name, marks: mark.line ? [mark] : [], visible: [{ node: node.id, face: null, polygon: polyline ?? [], open: true }] };
    }
    const solid = node.depth !== 0;
    const fill = node.paint.fill === null ? null : flatInk(this.colour(light, node.paint.fill, face.normal));
    const line = lineStyle(node.paint.line) ?? (fill && solid ? seam(fill) : null);
    const own: Mark[] = fill || line ? [{ kind: 'path', path, fill, rule: 'evenodd', line }] : [];
    own.push(...groupByNode(art));
    const visible: Visible[] = [{ node: node.id, face: face.name, polygon: drawn.polygon, open: false }, ...art.flatMap((p) => p.visible)];
    const name = `${node.name}, ${faceWord(face.normal)}`;
    const marks: Mark[] = own.length > 0 && solid ? [{ kind: 'group', node: null, name, clip: null, strength: 1, marks: own }] : own;
    return { node: node.id, name: node.name, marks, visible };
  }

  private paintFlat(stage: Stage, node: ShapeNode | PlacementNode, artworks: ReadonlyMap<string, Artwork>): Painted {
    if (node.kind === 'placement') return paintPlacement(stage, node, new Map(), artworks, null);
    const coords = flattenOutline(node.outline, FACET).flatMap((p) => [p.u * stage.cell, p.v * stage.cell]);
    const { closed } = node.outline;
    const scale = [stage.cell, 0, 0, 0, stage.cell, 0, 0, 0, 1] as const;
    const exact = isCurved(node.outline) ? drawSegments(outlineSegments(node.outline), closed, scale, 0) : null;
    const fill = closed && node.paint.fill !== null ? flatInk(node.paint.fill) : null;
    const line = lineStyle(node.paint.line);
    const mark: PathMark = { kind: 'path', path: exact ?? (closed ? polygonPath(coords) : polylinePath(coords)), fill, rule: 'evenodd', line };
    return {
      node: node.id,
      name: node.name,
      marks: fill || line ? [mark] : [],
      visible: [{ node: node.id, face: closed ? 'end' : null, polygon: coords, open: !closed }],
    };
  }
}

/** A unit normal to a millionth as one number: two coordinates and the sign of the third tell it. */
function normalKey({ a, b, h }: WorldPoint): number {
  return ((Math.round(a * 1e6) + 1e6) * 2_000_003 + Math.round(b * 1e6) + 1e6) * 2 + (h < 0 ? 1 : 0);
}

interface Painted {
  readonly node: string;
  readonly name: string;
  readonly marks: readonly Mark[];
  readonly visible: readonly Visible[];
}

function visibleOf(painted: readonly Painted[]): Visible[] {
  const all: Visible[] = [];
  for (const { visible } of painted) for (const part of visible) all.push(part);
  return all;
}

/** Neighbours in paint order that belong to one node become one named group. */
function groupByNode(painted: readonly Painted[]): GroupMark[] {
  const groups: { node: string; name: string; marks: Mark[] }[] = [];
  for (const { node, name, marks } of painted) {
    if (marks.length === 0) continue;
    const last = groups.at(-1);
    if (last?.node === node) for (const mark of marks) last.marks.push(mark);
    else groups.push({ node, name, marks: [...marks] });
  }
  return groups.map(({ node, name, marks }) => ({ kind: 'group', node, name, clip: null, strength: 1, marks }));
}

function lineStyle(line: LinePaint | null): LineStyle | null {
  return line && { ink: flatInk(line.colour), width: line.width, cap: 'round', join: 'round', miterLimit: 4, dashes: [], pen: IDENTITY };
}

function seam(ink: LineStyle['ink']): LineStyle {
  return { ink, width: SEAM, cap: 'round', join: 'round', miterLimit: 4, dashes: [], pen: IDENTITY };
}

const parsedArtworks = new WeakMap<Artwork, FlatArtwork | null>();

/** The marks of an artwork, read once; null where its SVG cannot be read, which the schema has refused before. */
export function flatArtwork(artwork: Artwork): FlatArtwork | null {
  let flat = parsedArtworks.get(artwork);
  if (flat === undefined) {
    const read = readResolvedSvg(artwork.svg);
    flat = read.ok ? read.value : null;
    parsedArtworks.set(artwork, flat);
  }
  return flat;
}

function paintPlacement(
  stage: Stage,
  node: PlacementNode,
  hosts: ReadonlyMap<string, ShapeNode>,
  artworks: ReadonlyMap<string, Artwork>,
  clip: Path | null,
): Painted {
  const artwork = artworks.get(node.artwork);
  const flat = artwork && flatArtwork(artwork);
  const homography = placementMap(stage, node, hosts);
  const nothing: Painted = { node: node.id, name: node.name, marks: [], visible: [] };
  if (!flat || !homography) return nothing;
  const marks = projectMarks(flat.marks, multiply33(homography, matrixOf(boxFromArtwork(flat, node.box))), stage.sight.projection.near);
  const polygon = boxCorners(node).flatMap(([x, y]) => {
    const p = apply33(homography, x, y);
    return p ? [p.x, p.y] : [];
  });
  const clipped: readonly Mark[] = clip ? [{ kind: 'group', node: null, name: '', clip: { path: clip, rule: 'evenodd' }, strength: 1, marks }] : marks;
  return { node: node.id, name: node.name, marks: clipped, visible: [{ node: node.id, face: null, polygon, open: false }] };
}

/** A polygon without the parts under others that are painted before it though they are in front. */
function cutPath(polygon: ArrayLike<number>, others: readonly ArrayLike<number>[]): Path {
  if (others.length === 0) return polygonPath(polygon);
  const ring = (flat: ArrayLike<number>): Polygon => {
    const points: [number, number][] = [];
    for (let i = 0; i < flat.length; i += 2) points.push([flat[i]!, flat[i + 1]!]);
    return [points];
  };
  const left = polygonClipping.difference(ring(polygon), ...others.map(ring));
  return joinPaths(left.flat().map((points) => polygonPath(points.slice(0, -1).flat())));
}
