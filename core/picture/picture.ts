import polygonClipping, { type Polygon } from 'polygon-clipping';
import { boxFromArtwork } from '../artwork/artwork';
import { flatInk, type GroupMark, type LineStyle, type Mark } from '../artwork/marks';
import { projectMarks } from '../artwork/project';
import { readResolvedSvg, type FlatArtwork } from '../artwork/read-svg';
import type { Artwork, CheminDocument, Light, PlacementNode, ShapeNode, Sheet } from '../document/types';
import { faceColour } from '../light/tones';
import { apply33, IDENTITY, matrixOf, multiply33, type Mat33 } from '../math/matrix';
import { addWorld, scaleWorld, type WorldPoint } from '../math/points';
import { inkOf } from './inks';
import { lineMark } from './lines';
import { meanColour, plainColour, type Colour, type Fill, type LinePaint, type Swatch } from '../paint/paint';
import { projectionFrom } from '../projection/projection';
import { planeFrame, sheetFromFrame } from '../projection/planes';
import { sightFrom } from '../projection/sight';
import { ringsOf } from '../shape/outline';
import { joinPaths, polygonPath, polylinePath, type Path } from '../shape/path';
import { flattenOutline, isCurved } from '../shape/segments';
import { FACET, faceWord, type FaceName, type WorldFace } from '../solid/faces';
import { rangeDirections, type DrawnFace } from '../visibility/drawn-face';
import { OrderKeeper } from '../visibility/order';
import { drawnNodes } from './drawn-nodes';
import { boxCorners, drawRings, placementMap, placementThing, shapeThings, type Stage, type Thing } from './things';

/** Sheet units of same-coloured line that close the hair line between two faces that share an edge. */
const SEAM = 0.12;

/** Something visible that can be pointed at, in paint order. */
export interface Visible {
  readonly node: string;
  readonly face: FaceName | null;
  /** Flat sheet coordinates. */
  readonly polygon: ArrayLike<number>;
  /** What is left out inside, as flat sheet coordinates. */
  readonly holes?: readonly ArrayLike<number>[];
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
  private swatches: readonly Swatch[] = [];
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

  /** Forgets colours where the light or the palette is another. */
  private lightUp({ light, swatches }: CheminDocument): void {
    if (this.tonesOf === light && this.swatches === swatches) return;
    this.swatches = swatches;
    this.tones = new Map();
    this.painted = new WeakMap();
    this.tonesOf = light;
  }

  /** The picture: what lies on the sheet under everything, then space in its visible order, then the sheet on top. */
  make(document: CheminDocument): Picture {
    const stage = this.stageOf(document);
    this.lightUp(document);
    const under: Painted[] = [];
    const over: Painted[] = [];
    const inSpace: Thing[] = [];
    const drawn = drawnNodes(document);
    const hosts = new Map<string, ShapeNode>();
    const owners = new Map<string, string>();
    for (const { node, owner } of drawn) {
      if (node.kind === 'shape') hosts.set(node.id, node);
      if (node.id !== owner) owners.set(node.id, owner);
    }
    const onFaces = new Map<string, PlacementNode[]>();
    const artworks = new Map(document.artworks.map((artwork) => [artwork.id, artwork]));
    for (const { node, hidden } of drawn) {
      if (hidden) continue;
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
      const cut = cuts.get(i)?.map((k) => inSpace[k]!.drawn) ?? [];
      const { node, face } = thing;
      if (node.kind === 'placement') return paintPlacement(stage, node, hosts, artworks, cut.length ? cutPath(thing.drawn, cut) : null);
      const placed = face && onFaces.size > 0 ? onFaces.get(`${node.id} ${face.name}`) : undefined;
      if (cut.length === 0 && !placed) return this.paintPlain(document.light, thing, node);
      const path = cut.length === 0 && thing.path ? thing.path : cutPath(thing.drawn, cut);
      const art = placed?.map((placement) => paintPlacement(stage, placement, hosts, artworks, path)) ?? [];
      return this.paintShape(document.light, thing, node, path, art);
    });
    const painted = ownedBy([...under, ...space, ...over], owners);
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

  /** What a shape's fill looks like on a face: toned, its gradient on the face that carries it and one colour on the others. */
  private fillOf(light: Light, fill: Fill, face: WorldFace, map: Mat33 | null): ReturnType<typeof inkOf> {
    const tone = (colour: Colour): string => this.colour(light, plainColour(colour, this.swatches), face.normal);
    const carries = face.name === 'end' || face.name === 'base';
    const ink = typeof fill !== 'string' && carries && map ? inkOf(fill, map, tone) : null;
    return ink ?? flatInk(this.colour(light, meanColour(fill, this.swatches), face.normal));
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
      painted = this.paintShape(light, thing, node, thing.path ?? ringsPath(thing.drawn), []);
      this.painted.set(thing, painted);
    }
    return painted;
  }

  private paintShape(light: Light, { face, drawn, polyline, path: exact }: Thing, node: ShapeNode, path: Path, art: readonly Painted[]): Painted {
    const stage = this.stage!;
    const { line } = node.paint;
    const map = mapOf(stage, node, face);
    const stroke = (along: Path): Mark[] => (line ? [lineMark(line, along, node.outline, map, stage.cell, plainColour(line.colour, this.swatches))] : []);
    const look = lookOf(node);
    if (polyline || !face) {
      const marks = stroke(exact ?? polylinePath(polyline ?? []));
      return { node: node.id, name: node.name, marks, look, visible: [{ node: node.id, face: null, polygon: polyline ?? [], open: true }] };
    }
    const solid = node.depth !== 0;
    const fill = node.paint.fill === null ? null : this.fillOf(light, node.paint.fill, face, map);
    // A line in the plane, or of varying width, is drawn along ends only where it has a boundary to follow.
    const follows = line !== null && (!solid || face.name === 'end' || face.name === 'base');
    const lines: Mark[] = follows ? stroke(path) : line ? [sideLine(line, path, plainColour(line.colour, this.swatches))] : [];
    const own: Mark[] = fill ? [{ kind: 'path', path, fill, rule: 'evenodd', line: solid && !line ? seam(fill) : null }] : [];
    own.push(...joined(own, lines));
    own.push(...groupByNode(art));
    const visible: Visible[] = [visibleFace(node.id, face.name, drawn), ...art.flatMap((p) => p.visible)];
    const name = `${node.name}, ${faceWord(face.normal)}`;
    const marks: Mark[] = own.length > 0 && solid ? [{ kind: 'group', node: null, name, clip: null, strength: 1, marks: own }] : own;
    return { node: node.id, name: node.name, marks, look, visible };
  }

  private paintFlat(stage: Stage, node: ShapeNode | PlacementNode, artworks: ReadonlyMap<string, Artwork>): Painted {
    if (node.kind === 'placement') return paintPlacement(stage, node, new Map(), artworks, null);
    const { outline, paint } = node;
    const scale: Mat33 = [stage.cell, 0, 0, 0, stage.cell, 0, 0, 0, 1];
    const rings = ringsOf(outline).map((ring) => flattenOutline(ring, FACET).flatMap((p) => [p.u * stage.cell, p.v * stage.cell]));
    const coords = rings[0]!;
    const { closed } = outline;
    const exact = isCurved(outline) ? drawRings(outline, scale, 0) : null;
    const path = exact ?? (closed ? joinPaths(rings.map(polygonPath)) : polylinePath(coords));
    const plain = (colour: Colour): string => plainColour(colour, this.swatches);
    const fill = closed && paint.fill !== null ? inkOf(paint.fill, scale, plain) : null;
    const marks: Mark[] = fill ? [{ kind: 'path', path, fill, rule: 'evenodd', line: null }] : [];
    if (paint.line) marks.push(...joined(marks, [lineMark(paint.line, path, outline, scale, stage.cell, plain(paint.line.colour))]));
    const holes = rings.slice(1);
    const visible: Visible = { node: node.id, face: closed ? 'end' : null, polygon: coords, open: !closed, ...(holes.length > 0 && { holes }) };
    return { node: node.id, name: node.name, marks, look: lookOf(node), visible: [visible] };
  }
}

/** The homography of the plane in which a shape's face lies; of its base where the face has none of its own. */
function mapOf({ sight, cell }: Stage, node: ShapeNode, face: WorldFace | null): Mat33 {
  const frame = planeFrame(node.plane, cell);
  if (!frame) return [cell, 0, 0, 0, cell, 0, 0, 0, 1];
  const lifted = face?.name === 'end' && node.depth !== 0 ? addWorld(frame.origin, scaleWorld(frame.normal, node.depth * cell)) : frame.origin;
  return sheetFromFrame(sight.projection, { ...frame, origin: lifted });
}

/** A stroke along a fill's own path is one mark with it; anything else follows it. */
function joined(own: Mark[], lines: readonly Mark[]): readonly Mark[] {
  const [fill, line] = [own[0], lines[0]];
  if (fill?.kind !== 'path' || line?.kind !== 'path' || line.path !== fill.path || line.fill) return lines;
  own[0] = { ...fill, line: line.line };
  return [];
}

/** A line round a side of a solid. */
function sideLine({ width, join }: LinePaint, path: Path, colour: string): Mark {
  const style: LineStyle = { ink: flatInk(colour), width, cap: 'round', join: join ?? 'round', miterLimit: 4, dashes: [], pen: IDENTITY };
  return { kind: 'path', path, fill: null, rule: 'nonzero', line: style };
}

function lookOf({ paint: { strength, blend } }: ShapeNode): Look {
  return strength === undefined && blend === undefined ? PLAIN : { strength: strength ?? 1, ...(blend && { blend }) };
}

function visibleFace(node: string, face: FaceName, { polygon, holes }: DrawnFace): Visible {
  return holes ? { node, face, polygon, holes, open: false } : { node, face, polygon, open: false };
}

/** What was painted for copies and dimensions belongs to them. */
function ownedBy(painted: readonly Painted[], owners: ReadonlyMap<string, string>): readonly Painted[] {
  if (owners.size === 0) return painted;
  return painted.map((part) => {
    const owner = owners.get(part.node);
    if (owner === undefined && !part.visible.some((v) => owners.has(v.node))) return part;
    return { ...part, node: owner ?? part.node, visible: part.visible.map((v) => ({ ...v, node: owners.get(v.node) ?? v.node })) };
  });
}

/** A unit normal to a millionth as one number: two coordinates and the sign of the third tell it. */
function normalKey({ a, b, h }: WorldPoint): number {
  return ((Math.round(a * 1e6) + 1e6) * 2_000_003 + Math.round(b * 1e6) + 1e6) * 2 + (h < 0 ? 1 : 0);
}

/** How a whole thing is laid over what lies under it. */
type Look = Pick<GroupMark, 'strength' | 'blend'>;
const PLAIN: Look = { strength: 1 };

interface Painted {
  readonly node: string;
  readonly name: string;
  readonly look: Look;
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
  const groups: { node: string; name: string; look: Look; marks: Mark[] }[] = [];
  for (const { node, name, look, marks } of painted) {
    if (marks.length === 0) continue;
    const last = groups.at(-1);
    if (last?.node === node) for (const mark of marks) last.marks.push(mark);
    else groups.push({ node, name, look, marks: [...marks] });
  }
  return groups.map(({ node, name, look, marks }) => ({ kind: 'group', node, name, clip: null, ...look, marks }));
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
  const nothing: Painted = { node: node.id, name: node.name, look: PLAIN, marks: [], visible: [] };
  if (!flat || !homography) return nothing;
  const marks = projectMarks(flat.marks, multiply33(homography, matrixOf(boxFromArtwork(flat, node.box))), stage.sight.projection.near);
  const polygon = boxCorners(node).flatMap(([x, y]) => {
    const p = apply33(homography, x, y);
    return p ? [p.x, p.y] : [];
  });
  const clipped: readonly Mark[] = clip ? [{ kind: 'group', node: null, name: '', clip: { path: clip, rule: 'evenodd' }, strength: 1, marks }] : marks;
  return { node: node.id, name: node.name, look: PLAIN, marks: clipped, visible: [{ node: node.id, face: null, polygon, open: false }] };
}

/** A face without the parts under others that are painted before it though they are in front. */
function cutPath(face: DrawnFace, others: readonly DrawnFace[]): Path {
  if (others.length === 0) return ringsPath(face);
  const ring = (flat: ArrayLike<number>): [number, number][] => {
    const points: [number, number][] = [];
    for (let i = 0; i < flat.length; i += 2) points.push([flat[i]!, flat[i + 1]!]);
    return points;
  };
  const area = ({ polygon, holes = [] }: DrawnFace): Polygon => [ring(polygon), ...holes.map(ring)];
  const left = polygonClipping.difference(area(face), ...others.map(area));
  return joinPaths(left.flat().map((points) => polygonPath(points.slice(0, -1).flat())));
}

const ringsPath = ({ polygon, holes = [] }: DrawnFace): Path => (holes.length === 0 ? polygonPath(polygon) : joinPaths([polygon, ...holes].map(polygonPath)));
