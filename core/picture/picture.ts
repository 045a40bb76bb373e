import { boxFromArtwork } from '../artwork/artwork';
import { flatInk, type GroupMark, type LineStyle, type Mark } from '../artwork/marks';
import { projectMarks } from '../artwork/project';
import { readResolvedSvg, type FlatArtwork } from '../artwork/read-svg';
import type { Artwork, CheminDocument, Light, PlacementNode, ShapeNode, Sheet } from '../document/types';
import { faceColour } from '../light/tones';
import { apply33, IDENTITY, matrixOf, multiply33, type Mat33 } from '../math/matrix';
import { addWorld, scaleWorld, type WorldPoint } from '../math/points';
import { seenBox } from './dashes';
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
import { rangeDirections } from '../visibility/drawn-face';
import { OrderKeeper } from '../visibility/order';
import { cutFace, type Area } from './cut';
import { drawnNodes } from './drawn-nodes';
import { boxCorners, drawRings, placementMap, placementThing, shapeThings, type Stage, type Thing } from './things';

/** Sheet units of same-coloured line that close the hair line between two faces that share an edge. */
const SEAM = 0.12;

/** Something visible that can be pointed at, in paint order. */
export interface Visible extends Area {
  readonly node: string;
  readonly face: FaceName | null;
  /** Areas one of which it is seen inside of, such as the face that artwork lies on; everywhere without. */
  readonly inside?: readonly Area[];
  /** Open lines are hit along their length, areas inside. */
  readonly open: boolean;
}

/** The picture of a document: what painters paint, and what can be pointed at. */
export interface Picture {
  readonly sheet: Sheet;
  readonly marks: readonly GroupMark[];
  readonly visible: readonly Visible[];
  /** Nodes of which a part could not be cut away, and which are painted whole though something lies in front of it. */
  readonly uncut: readonly string[];
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
  stageOf({ projection, grid, sheet }: CheminDocument): Stage {
    const key = [projection, grid.cell, sheet.width, sheet.height];
    if (!this.stage || key.some((part, i) => part !== this.stageKey[i])) {
      const sight = sightFrom(projectionFrom(projection));
      this.stage = { sight, directions: rangeDirections(sight), cell: grid.cell, seen: seenBox(sheet) };
      this.stageKey = key;
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
    const uncut = new Set<string>();
    const space = order.map((i): Painted => {
      const thing = inSpace[i]!;
      const cut = cuts.get(i)?.map((k) => inSpace[k]!.drawn) ?? [];
      const { node, face } = thing;
      const left = cut.length > 0 ? cutFace(thing.drawn, cut) : null;
      if (left?.failed) uncut.add(owners.get(node.id) ?? node.id);
      const areas = left?.parts ?? [thing.drawn];
      if (node.kind === 'placement') return paintPlacement(stage, node, hosts, artworks, left && { path: areasPath(areas), areas });
      const placed = face && onFaces.size > 0 ? onFaces.get(`${node.id} ${face.name}`) : undefined;
      if (cut.length === 0 && !placed) return this.paintPlain(document.light, thing, node);
      const path = (!left && thing.path) || areasPath(areas);
      const art = placed?.map((placement) => paintPlacement(stage, placement, hosts, artworks, { path, areas })) ?? [];
      return this.paintShape(document.light, thing, node, path, art, areas);
    });
    const painted = ownedBy([...under, ...space, ...over], owners);
    return { sheet: document.sheet, marks: groupByNode(painted), visible: visibleOf(painted), uncut: [...uncut] };
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
      painted = this.paintShape(light, thing, node, thing.path ?? areasPath([thing.drawn]), [], [thing.drawn]);
      this.painted.set(thing, painted);
    }
    return painted;
  }

  private paintShape(
    light: Light,
    { face, polyline, path: exact }: Thing,
    node: ShapeNode,
    path: Path,
    art: readonly Painted[],
    areas: readonly Area[],
  ): Painted {
    const stage = this.stage!;
    const { line } = node.paint;
    const map = mapOf(stage, node, face);
    const plane = { map, cell: stage.cell, near: stage.sight.projection.near, seen: stage.seen };
    const stroke = (along: Path): Mark[] => (line ? [lineMark(line, along, node.outline, plane, plainColour(line.colour, this.swatches))] : []);
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
    const visible: Visible[] = [...areas.map((area) => visibleFace(node.id, face.name, area)), ...art.flatMap((p) => p.visible)];
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
    if (paint.line)
      marks.push(
        ...joined(marks, [lineMark(paint.line, path, outline, { map: scale, cell: stage.cell, near: 0, seen: stage.seen }, plain(paint.line.colour))]),
      );
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

function visibleFace(node: string, face: FaceName, { polygon, holes }: Area): Visible {
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
  clip: { readonly path: Path; readonly areas: readonly Area[] } | null,
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
  const clipped: readonly Mark[] = clip ? [{ kind: 'group', node: null, name: '', clip: { path: clip.path, rule: 'evenodd' }, strength: 1, marks }] : marks;
  return {
    node: node.id,
    name: node.name,
    look: PLAIN,
    marks: clipped,
    visible: [{ node: node.id, face: null, polygon, open: false, ...(clip && { inside: clip.areas }) }],
  };
}

/** The path of areas, holes and all. */
function areasPath(areas: readonly Area[]): Path {
  const [first] = areas;
  if (first && areas.length === 1 && !first.holes) return polygonPath(first.polygon);
  return joinPaths(areas.flatMap(({ polygon, holes = [] }) => [polygon, ...holes].map(polygonPath)));
}
