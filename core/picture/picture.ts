import type { GroupMark } from '../artwork/marks';
import { nodesById, shapesIn } from '../document/tree';
import type { CheminDocument, JoinedNode, Light, PlacementNode, ShapeNode, Sheet } from '../document/types';
import type { Body, Surface } from '../geometry/body';
import { geometry, type Evaluated } from '../geometry/book';
import type { Shade } from '../shadow/shade';
import { sunOf } from '../light/sun';
import { kept, Rounds, type Inputs } from '../math/keep';
import { cutSurface } from '../visibility/cut';
import { drawBody, THIN, type DrawnBody, type DrawnSurface } from '../visibility/drawn-body';
import { OrderKeeper, type OrderedSurface } from '../visibility/order';
import { drawingOf, drawnBody, type DrawnDocument, type DrawnNode } from './drawn-nodes';
import { LineKeeper } from './drawn-lines';
import { flatArtworks, type FlatArtworks } from './flat-artworks';
import { keyOf, sortedOnFaces, type OnFaces } from './on-faces';
import { paintArtwork, paintFlat, paintSurface, type OnFace } from './paint-surface';
import { groupByNode, type Painted, type Visible } from './painted';
import { ShadowKeeper } from './shadows';
import { ownLook, type OwnLook } from './own-looks';
import { stageFrom, type Haste, type Stage } from './stage';
import { paintMasks, paintPhoto, paintPhotographed } from './photographed';
import { cutThrough } from './through';
import { Tones } from './tones';

/** The picture of a document: what painters paint, and what can be pointed at. */
export interface Picture {
  readonly sheet: Sheet;
  readonly marks: readonly GroupMark[];
  readonly visible: readonly Visible[];
  /** Nodes of which a part could not be cut away, or would have taken too long to: painted whole though something lies in front of it. */
  readonly uncut: readonly string[];
  /** Nodes whose solids cut through others. */
  readonly through: readonly string[];
  /** Nodes on which shadows fall. */
  readonly shaded: readonly string[];
  /** Nodes whose solids are not joined in it: because they are being joined, or cannot be. */
  readonly unjoined: ReadonlyMap<string, Unready>;
  /** Nodes of whose solids nothing is left: what they have in common is nothing, or all of it is taken away. */
  readonly emptied: readonly string[];
  /** What is less than exact so far, made in pieces: run to its end, the picture made again is exact at once. */
  readonly later: Generator<undefined, void> | null;
}

/**
 * Makes pictures of documents, remembering what did not change: bodies as they are drawn, order by body, tones by
 * colour, marks by surface. One maker for one view; drop it and nothing is lost.
 */
export class PictureMaker {
  private readonly stage = kept((projection: CheminDocument['projection'], cell: number, width: number, height: number) => stageFrom({ projection, cell, width, height })); // prettier-ignore
  private readonly tones = kept((light: Light, swatches: CheminDocument['swatches'], azimuth: number, elevation: number) => new Tones(light, { azimuthDeg: azimuth, elevationDeg: elevation }, swatches)); // prettier-ignore
  /** What is drawn of each body, by the place of its node among what is drawn. */
  private readonly drawn = new Rounds<string, DrawnBody>();
  /** Surfaces as they were painted. */
  private readonly painted = new Rounds<DrawnSurface, PaintedPart>();
  private drawing: DrawnDocument | null = null;
  private readonly order = new OrderKeeper();
  private readonly shadows = new ShadowKeeper();
  private readonly lines = new LineKeeper();

  /** The geometry's frame for a document: its projection, lines of sight and cell. Kept while they are the same. */
  stageOf(document: CheminDocument): Stage {
    const { projection, grid, sheet } = document;
    return this.stage(projection, grid.cell, sheet.width, sheet.height);
  }

  private tonesOf(document: CheminDocument): Tones {
    const { azimuthDeg, elevationDeg } = sunOf(document);
    return this.tones(document.light, document.swatches, azimuthDeg, elevationDeg);
  }

  /**
   * The picture: what lies on the sheet under everything, then space in its visible order, then the sheet on top.
   * @param haste whether some of it may be less than exact
   */
  make(document: CheminDocument, haste: Haste = 'exact'): Picture {
    const pieces = this.making(document, haste);
    for (;;) {
      const { done, value } = pieces.next();
      if (done) return value;
    }
  }

  /**
   * The same in pieces of about a millisecond, but for the order of many things, which is one piece: for who may not be
   * kept waiting. Another picture may not be made in between.
   */
  *making(document: CheminDocument, haste: Haste = 'exact'): Generator<undefined, Picture> {
    const stage = this.stageOf(document);
    const tones = this.tonesOf(document);
    const { under, over, space, onFaces, artworks, emptied } = yield* this.gather(document, stage, tones);
    const { order, through, beyond } = this.order.update(
      space.map(({ drawn }) => drawn),
      haste === 'quick',
    );
    const { shades, floor, later } = this.shadows.update(document, stage, space, seenIn(order), haste);
    if (floor) under.push(floor);
    const [uncut, shaded] = [new Set(beyond.map((body) => space[body]!.node.owner)), new Set<string>()];
    const painted = under;
    // What lies on things, looked up once for each; on parts of what is one, for each surface.
    this.painted.begin();
    const onThings: (readonly OnFace[] | undefined)[] = [];
    const onPart = (within: string, id: string): readonly OnFace[] => onFaces.get(keyOf(within, id)) ?? NONE;
    for (const part of order) {
      const { node } = space[part.body]!;
      const { from } = part.surface.surface ?? {};
      const on = from ? onPart(node.within, from.node) : (onThings[part.body] ??= onPart(node.within, node.node.id));
      const source = node.node.kind === 'group' ? partOf(document, node.node, from?.node) : node.node;
      if (!source) continue;
      const dark = (part.surface.surface && shades.get(part.surface.surface)) ?? NO_SHADE;
      if (dark.length > 0) shaded.add(node.owner);
      const made = this.paintPart(document, tones, stage, part, dark, node, source, on, artworks, haste === 'quick');
      if (made.failed) uncut.add(node.owner);
      painted.push(made.painted);
      if (painted.length % PIECE === 0) yield;
    }
    this.painted.end();
    for (const part of this.lines.update(document, stage, tones, space, shades, haste === 'quick')) painted.push(part);
    for (const part of over) painted.push(part);
    let visible: readonly Visible[] | null = null;
    return {
      sheet: document.sheet,
      marks: groupByNode(painted),
      get visible() {
        return (visible ??= visibleOf(painted));
      },
      uncut: [...uncut],
      through: cutThrough(document, through, space),
      shaded: [...shaded],
      unjoined: unjoinedIn(space),
      emptied: [...emptied],
      later,
    };
  }

  /** What lies on the sheet is painted; what lies in space is drawn as bodies, with the artwork that lies on their surfaces. */
  private *gather(document: CheminDocument, stage: Stage, tones: Tones): Generator<undefined, Gathered> {
    const artworks = flatArtworks(document);
    const [under, over, space]: [Painted[], Painted[], Gathered['space'][number][]] = [[], [], []];
    const drawing = (this.drawing = drawingOf(document, this.drawing));
    this.drawn.begin();
    for (const photo of document.photos ?? []) under.push(paintPhoto(photo));
    const photos = under.length;
    const laid: Painted[] = [];
    const emptied = new Set<string>();
    for (const drawn of drawing.elsewhere) {
      const { node } = drawn;
      const onPhoto = node.kind === 'placement' ? paintPhotographed(stage, document, node, drawn, artworks.get(node.artwork)) : null;
      if (onPhoto) {
        laid.push(onPhoto);
        continue;
      }
      const body = drawnBody(drawn);
      if (space.length % PIECE === PIECE - 1) yield;
      if (body) space.push({ node: drawn, drawn: this.drawnOf(stage, drawn, body) });
      else if (node.kind === 'group') {
        if (geometry.of(node).state === 'ready') emptied.add(drawn.owner);
      } else if (isOnSheet(node))
        (space.length > 0 ? over : under).push(paintFlat(stage, tonesIn(tones, ownLook(document, drawn.owner, node.id)), drawn, node, artworks));
    }
    this.drawn.end();
    if (photos > 0) under.splice(photos, 0, ...laid, ...paintMasks(document));
    return { under, over, space, onFaces: sortedOnFaces(document, drawing.onFaces, artworks, tones), artworks, emptied };
  }

  private drawnOf(stage: Stage, { node, within }: DrawnNode, body: Body): DrawnBody {
    const line = body.wires.length > 0 && node.kind === 'shape' ? node.paint.line : null;
    const half = line ? Math.max(0.05, line.width / 2) : THIN;
    return this.drawn.of(keyOf(within, node.id), [stage, body, half], () => drawBody(stage.view, body, half));
  }

  /** A part is the same as last time while it, what is cut out of it, what lies on it and the light are. */
  private paintPart(
    document: CheminDocument,
    light: Tones,
    stage: Stage,
    { surface, cuts }: OrderedSurface,
    shades: readonly Shade[],
    drawn: DrawnNode,
    source: ShapeNode | PlacementNode,
    on: readonly OnFace[],
    artworks: FlatArtworks,
    quick: boolean,
  ): PaintedPart {
    const tones = tonesIn(light, ownLook(document, drawn.owner, source.id));
    const artwork = source.kind === 'placement' ? artworks.get(source.artwork) : null;
    const hasty = quick && (on.length > 0 || source.kind === 'placement');
    const inputs: Inputs = [source, drawn.node, drawn.owner, drawn.map, artwork, tones, on, cuts && cuts.map(({ polygon }) => polygon), shades];
    const make = (): PaintedPart => {
      const left = cuts ? cutSurface(surface, cuts) : null;
      const part = { drawn, surface, path: left?.path ?? surface.path, areas: left?.parts ?? null, cuts, shades, quick };
      const painted = source.kind === 'placement' ? paintArtwork(stage, tones, part, source, artwork) : paintSurface(stage, tones, part, source, on);
      return { painted, failed: left?.failed ?? false };
    };
    return this.painted.of(surface, inputs, make, hasty);
  }
}

/** Things, or their surfaces, after which a picture made in pieces pauses. */
const PIECE = 64;

interface PaintedPart {
  readonly painted: Painted;
  /** It could not be cut. */
  readonly failed: boolean;
}

/** Why a body in a picture is not the one that its recipe asks for. */
export interface Unready {
  readonly state: Exclude<Evaluated['state'], 'ready'>;
  readonly reason?: string;
}

function unjoinedIn(space: Gathered['space']): ReadonlyMap<string, Unready> {
  const unjoined = new Map<string, Unready>();
  for (const { node: drawn } of space) {
    if (drawn.node.kind !== 'group') continue;
    const { state, reason } = geometry.of(drawn.node);
    if (state !== 'ready') unjoined.set(drawn.owner, { state, ...(reason !== undefined && { reason }) });
  }
  return unjoined;
}

/** The surfaces that are turned to the viewer. */
function seenIn(order: readonly OrderedSurface[]): ReadonlySet<Surface> {
  const seen = new Set<Surface>();
  for (const { surface } of order) if (surface.surface) seen.add(surface.surface);
  return seen;
}

const tonesIn = (tones: Tones, look: OwnLook | null): Tones => (look ? tones.own(look) : tones);

function visibleOf(painted: readonly Painted[]): readonly Visible[] {
  const visible: Visible[] = [];
  for (const part of painted) for (const one of part.visible) visible.push(one);
  return visible;
}

const NONE: readonly OnFace[] = [];
const NO_SHADE: readonly Shade[] = [];

interface Gathered {
  readonly under: Painted[];
  readonly over: readonly Painted[];
  readonly space: readonly { readonly node: DrawnNode; readonly drawn: DrawnBody }[];
  readonly onFaces: OnFaces;
  readonly artworks: FlatArtworks;
  /** Things that are one of whose solids nothing is left. */
  readonly emptied: ReadonlySet<string>;
}

function isOnSheet(node: ShapeNode | PlacementNode): boolean {
  const plane = node.kind === 'shape' ? node.plane : node.target.kind === 'plane' ? node.target.plane : null;
  return plane?.kind === 'sheet';
}

/** The part of solids that are one which a surface came from; the first of them where it is gone. */
function partOf(document: CheminDocument, node: JoinedNode, id: string | undefined): ShapeNode | null {
  const part = id === undefined ? undefined : nodesById(document.nodes).get(id);
  return part?.kind === 'shape' ? part : (shapesIn(node.children)[0] ?? null);
}
