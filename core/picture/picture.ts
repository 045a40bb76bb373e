import type { GroupMark } from '../artwork/marks';
import type { FlatArtwork } from '../artwork/read-svg';
import { nodesById, shapesIn } from '../document/tree';
import type { CheminDocument, JoinedNode, PlacementNode, ShapeNode, Sheet } from '../document/types';
import type { Body, Surface } from '../geometry/body';
import type { Shade } from '../shadow/shade';
import { sunOf } from '../light/sun';
import { cutSurface } from '../visibility/cut';
import { drawBody, THIN, type Area, type DrawnBody } from '../visibility/drawn-body';
import { OrderKeeper, type OrderedSurface } from '../visibility/order';
import { drawingOf, drawnBody, type DrawnDocument, type DrawnNode } from './drawn-nodes';
import { LineKeeper } from './drawn-lines';
import { flatArtworks, type FlatArtworks } from './flat-artworks';
import { FaceKeeper, keyOf, type OnFaces } from './on-faces';
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
  /** Nodes of which a part could not be cut away, and which are painted whole though something lies in front of it. */
  readonly uncut: readonly string[];
  /** Nodes whose solids cut through others. */
  readonly through: readonly string[];
  /** Nodes on which shadows fall. */
  readonly shaded: readonly string[];
  /** What is less than exact so far, made in pieces: run to its end, the picture made again is exact at once. */
  readonly later: Generator<undefined, void> | null;
}

/**
 * Makes pictures of documents, remembering what did not change: bodies as they are drawn, order by body, tones by
 * colour, marks by surface. One maker for one view; drop it and nothing is lost.
 */
export class PictureMaker {
  private stage: Stage | null = null;
  private stageKey: readonly unknown[] = [];
  /** What is drawn of each body, by the place of its node among what is drawn. */
  private drawn = new Map<string, Drawn>();
  private drawing: DrawnDocument | null = null;
  private tones: Tones | null = null;
  private tonesFor: CheminDocument['projection'] | null = null;
  private readonly order = new OrderKeeper();
  private readonly faces = new FaceKeeper();
  private readonly shadows = new ShadowKeeper();
  private readonly lines = new LineKeeper();

  /** The geometry's frame for a document: its projection, lines of sight and cell. Kept while they are the same. */
  stageOf(document: CheminDocument): Stage {
    const { projection, grid, sheet } = document;
    const key = [projection, grid.cell, sheet.width, sheet.height];
    if (!this.stage || key.some((part, i) => part !== this.stageKey[i])) {
      this.stage = stageFrom(document);
      this.stageKey = key;
      this.drawn = new Map();
    }
    return this.stage;
  }

  /** The tones of a document's light; what was painted in another light, or with another palette, is forgotten. */
  private tonesOf(document: CheminDocument): Tones {
    const { light, swatches, projection } = document;
    const known = this.tones;
    const same = known?.light === light && known.swatches === swatches && (light.keep !== 'picture' || this.tonesFor === projection);
    if (same) return known;
    for (const drawn of this.drawn.values()) drawn.painted.length = 0;
    this.tonesFor = projection;
    return (this.tones = new Tones(light, sunOf(document), swatches));
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
    const { under, over, space, onFaces, artworks } = yield* this.gather(document, stage, tones);
    if (this.drawn.size > 2 * space.length + 64) this.forgetGone(space);
    const { order, through } = this.order.update(
      space.map(({ drawn }) => drawn.drawn),
      haste === 'quick',
    );
    const { shades, floor, later } = this.shadows.update(document, stage, space, seenIn(order), haste);
    if (floor) under.push(floor);
    const [uncut, shaded] = [new Set<string>(), new Set<string>()];
    const painted = under;
    // What lies on things, looked up once for each; on parts of what is one, for each surface.
    const onThings: (readonly OnFace[] | undefined)[] = [];
    const onPart = (within: string, id: string): readonly OnFace[] => onFaces.get(keyOf(within, id)) ?? NONE;
    for (const part of order) {
      const { node, drawn } = space[part.body]!;
      const { from } = part.surface.surface ?? {};
      const on = from ? onPart(node.within, from.node) : (onThings[part.body] ??= onPart(node.within, node.node.id));
      const source = node.node.kind === 'group' ? partOf(document, node.node, from?.node) : node.node;
      if (!source) continue;
      const dark = (part.surface.surface && shades.get(part.surface.surface)) ?? NO_SHADE;
      if (dark.length > 0) shaded.add(node.owner);
      const kept = this.paintPart(document, tones, stage, part, drawn.painted, dark, node, source, on, artworks, haste === 'quick');
      if (kept.failed) uncut.add(node.owner);
      painted.push(kept.painted);
      if (painted.length % PIECE === 0) yield;
    }
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
      later,
    };
  }

  /** What lies on the sheet is painted; what lies in space is drawn as bodies, with the artwork that lies on their surfaces. */
  private *gather(document: CheminDocument, stage: Stage, tones: Tones): Generator<undefined, Gathered> {
    const artworks = flatArtworks(document);
    const [under, over, space]: [Painted[], Painted[], Gathered['space'][number][]] = [[], [], []];
    const drawing = (this.drawing = drawingOf(document, this.drawing));
    for (const photo of document.photos ?? []) under.push(paintPhoto(photo));
    const photos = under.length;
    const laid: Painted[] = [];
    for (const drawn of drawing.elsewhere) {
      const { node } = drawn;
      const onPhoto = node.kind === 'placement' ? paintPhotographed(stage, document, node, drawn.owner, artworks.get(node.artwork)) : null;
      if (onPhoto) {
        laid.push(onPhoto);
        continue;
      }
      const body = drawnBody(drawn);
      if (space.length % PIECE === PIECE - 1) yield;
      if (body) space.push({ node: drawn, drawn: this.drawnOf(stage, drawn, body) });
      else if (node.kind !== 'group' && isOnSheet(node))
        (space.length > 0 ? over : under).push(paintFlat(stage, tonesIn(tones, ownLook(document, drawn.owner, node.id)), drawn, node, artworks));
    }
    if (photos > 0) under.splice(photos, 0, ...laid, ...paintMasks(document));
    return { under, over, space, onFaces: this.faces.update(document, drawing.onFaces, artworks, tones), artworks };
  }

  /** Lets go of what is no longer drawn. */
  private forgetGone(space: Gathered['space']): void {
    const keys = space.map(({ node: { node, within } }) => keyOf(within, node.id));
    this.drawn = new Map(keys.map((key) => [key, this.drawn.get(key)!]));
  }

  private drawnOf(stage: Stage, { node, within }: DrawnNode, body: Body): Drawn {
    const key = keyOf(within, node.id);
    const line = body.wires.length > 0 && node.kind === 'shape' ? node.paint.line : null;
    const half = line ? Math.max(0.05, line.width / 2) : THIN;
    const known = this.drawn.get(key);
    if (known && known.body === body && known.half === half) return known;
    const drawn = { body, half, drawn: drawBody(stage.view, body, half), painted: [] };
    this.drawn.set(key, drawn);
    return drawn;
  }

  /** A part is the same as last time while it, what is cut out of it, what lies on it and the light are. */
  private paintPart(
    document: CheminDocument,
    light: Tones,
    stage: Stage,
    { surface, index, cuts }: OrderedSurface,
    kept: KeptPaint[],
    shades: readonly Shade[],
    drawn: DrawnNode,
    source: ShapeNode | PlacementNode,
    on: readonly OnFace[],
    artworks: FlatArtworks,
    quick: boolean,
  ): KeptPaint {
    const known = kept[index];
    const tones = tonesIn(light, ownLook(document, drawn.owner, source.id));
    const artwork = source.kind === 'placement' ? artworks.get(source.artwork) : null;
    const same = known?.node === source && known.artwork === artwork && known.tones === tones && sameOn(known.on, on);
    if (same && sameCuts(known.cuts, cuts) && sameShades(known.shades, shades) && (quick || !known.hasty)) return known;
    const left = cuts ? cutSurface(surface, cuts) : null;
    const part = { drawn, surface, path: left?.path ?? surface.path, areas: left?.parts ?? null, cuts, shades, quick };
    const painted = source.kind === 'placement' ? paintArtwork(stage, tones, part, source, artwork) : paintSurface(stage, tones, part, source, on);
    const hasty = quick && (on.length > 0 || source.kind === 'placement');
    return (kept[index] = { node: source, artwork, tones, on, cuts, shades, painted, hasty, failed: left?.failed ?? false });
  }
}

/** Things, or their surfaces, after which a picture made in pieces pauses. */
const PIECE = 64;

interface Drawn {
  readonly body: Body;
  readonly half: number;
  readonly drawn: DrawnBody;
  /** Its surfaces as they were painted last, as long as node, cuts, artwork and light are the same. */
  readonly painted: KeptPaint[];
}

interface KeptPaint {
  readonly node: DrawnNode['node'];
  /** What it shows, for a placement. */
  readonly artwork: FlatArtwork | null | undefined;
  readonly tones: Tones;
  readonly on: readonly OnFace[];
  /** What was cut out of it. */
  readonly cuts: readonly Area[] | null;
  /** The shadows on it. */
  readonly shades: readonly Shade[];
  readonly painted: Painted;
  /** It is good enough for the frames of a gesture alone. */
  readonly hasty: boolean;
  /** It could not be cut. */
  readonly failed: boolean;
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

/** Areas of surfaces that did not change keep their corners' identity. */
function sameCuts(p: readonly Area[] | null, q: readonly Area[] | null): boolean {
  return p === q || (p !== null && q !== null && p.length === q.length && p.every(({ polygon }, i) => polygon === q[i]!.polygon));
}

const NONE: readonly OnFace[] = [];
const NO_SHADE: readonly Shade[] = [];

const sameShades = (p: readonly Shade[], q: readonly Shade[]): boolean => p === q || (p.length === q.length && p.every((shade, i) => shade === q[i]));

const sameOn = (p: readonly OnFace[], q: readonly OnFace[]): boolean =>
  p === q ||
  (p.length === q.length && p.every((one, i) => one === q[i] || (one.node === q[i]!.node && one.artwork === q[i]!.artwork && one.tones === q[i]!.tones)));

interface Gathered {
  readonly under: Painted[];
  readonly over: readonly Painted[];
  readonly space: readonly { readonly node: DrawnNode; readonly drawn: Drawn }[];
  readonly onFaces: OnFaces;
  readonly artworks: FlatArtworks;
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
