import { flatInk, type GroupMark, type Ink, type Mark } from '../artwork/marks';
import { nodesById, shapesIn } from '../document/tree';
import type { Artwork, CheminDocument, JoinedNode, Light, PlacementNode, ShapeNode, Sheet } from '../document/types';
import type { Body, Surface } from '../geometry/body';
import { isDrawnEnd } from '../geometry/names';
import type { Ruled } from '../geometry/ruled';
import type { Sphere } from '../geometry/sphere';
import { surfaceWord } from '../geometry/words';
import { faceColour, sunDirection, toneAt, toned, type Toned } from '../light/tones';
import type { Mat33 } from '../math/matrix';
import { dotWorld, type WorldPoint } from '../math/points';
import { inkOf } from './inks';
import { lineMark } from './lines';
import { meanColour, plainColour, type Colour, type Fill, type Paint, type Swatch } from '../paint/paint';
import { sheetFromFrame } from '../projection/planes';
import { drawRings } from '../shape/draw-segments';
import { ringsOf } from '../shape/outline';
import { joinPaths, polygonPath, polylinePath, type Path } from '../shape/path';
import { flattenOutline, isCurved } from '../shape/segments';
import { FACET } from '../geometry/facets';
import { drawBody, THIN, type Area, type DrawnBody, type DrawnSurface } from '../visibility/drawn-body';
import { OrderKeeper, type OrderedSurface } from '../visibility/order';
import { cutPath, cutSurface } from '../visibility/cut';
import { drawnBody, drawnNodes, type DrawnNode } from './drawn-nodes';
import { cutThrough } from './through';
import { paintPlacement } from './painted-placement';
import { groupByNode, withLines, lookOf, normalKey, PaintedSurface, seam, sideLine, type Painted, type Visible } from './painted';
import { roundFill } from './round-tones';
import { sphereFill } from './sphere-tones';
import { stageFrom, type Stage } from './stage';

/** The picture of a document: what painters paint, and what can be pointed at. */
export interface Picture {
  readonly sheet: Sheet;
  readonly marks: readonly GroupMark[];
  readonly visible: readonly Visible[];
  /** Nodes of which a part could not be cut away, and which are painted whole though something lies in front of it. */
  readonly uncut: readonly string[];
  /** Nodes whose solids cut through others. */
  readonly through: readonly string[];
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
  private tones = new Map<string, Map<number, string>>();
  /** Tones of round surfaces by how squarely they meet the light, in steps far below what a colour can show. */
  private roundTones = new Map<string, Map<number, Toned>>();
  private sun: WorldPoint = { a: 0, b: 0, h: 1 };
  private inks = new Map<string, Ink>();
  private tonesOf: Light | null = null;
  private swatches: readonly Swatch[] = [];
  private readonly order = new OrderKeeper();

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

  /** Forgets colours where the light or the palette is another. */
  private lightUp({ light, swatches }: CheminDocument): void {
    if (this.tonesOf === light && this.swatches === swatches) return;
    this.swatches = swatches;
    this.tones = new Map();
    this.roundTones = new Map();
    this.sun = sunDirection(light.sun);
    this.inks = new Map();
    for (const drawn of this.drawn.values()) drawn.painted.length = 0;
    this.tonesOf = light;
  }

  /**
   * The picture: what lies on the sheet under everything, then space in its visible order, then the sheet on top.
   * @param quick for a frame of a gesture: where round things cut through each other, the cut follows their facets
   */
  make(document: CheminDocument, quick = false): Picture {
    const pieces = this.making(document, quick);
    for (;;) {
      const { done, value } = pieces.next();
      if (done) return value;
    }
  }

  /**
   * The same in pieces of about a millisecond, but for the order of many things, which is one piece: for who may not be
   * kept waiting. Another picture may not be made in between.
   */
  *making(document: CheminDocument, quick = false): Generator<undefined, Picture> {
    const stage = this.stageOf(document);
    this.lightUp(document);
    const { under, over, space, onFaces, artworks } = yield* this.gather(document, stage);
    if (this.drawn.size > 2 * space.length + 64) this.forgetGone(space);
    const { order, through } = this.order.update(
      space.map(({ drawn }) => drawn.drawn),
      quick,
    );
    const uncut = new Set<string>();
    const painted = under;
    for (const part of order) {
      const { node, drawn } = space[part.body]!;
      const { from } = part.surface.surface ?? {};
      const on = onFaces?.get(keyOf(node.within, from?.node ?? node.node.id)) ?? NONE;
      const source = node.node.kind === 'group' ? partOf(document, node.node, from?.node) : node.node;
      if (!source) continue;
      const kept = this.paintPart(document.light, stage, part, drawn.painted, node, source, on, artworks);
      if (kept.failed) uncut.add(node.owner);
      painted.push(kept.painted);
      if (painted.length % PIECE === 0) yield;
    }
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
    };
  }

  /** What lies on the sheet is painted; what lies in space is drawn as bodies, with the artwork that lies on their surfaces. */
  private *gather(document: CheminDocument, stage: Stage): Generator<undefined, Gathered> {
    const artworks = new Map(document.artworks.map((artwork) => [artwork.id, artwork]));
    const [under, over, space]: [Painted[], Painted[], Gathered['space'][number][]] = [[], [], []];
    let onFaces: Map<string, OnFace[]> | null = null;
    for (const drawn of drawnNodes(document)) {
      const { node, hidden, within } = drawn;
      if (hidden) continue;
      if (node.kind === 'placement' && node.target.kind === 'face') {
        const key = keyOf(within, node.target.node);
        const list = (onFaces ??= new Map<string, OnFace[]>()).get(key);
        const placed: OnFace = { drawn, node, artwork: artworks.get(node.artwork) };
        if (list) list.push(placed);
        else onFaces.set(key, [placed]);
        continue;
      }
      const body = drawnBody(drawn);
      if (space.length % PIECE === PIECE - 1) yield;
      if (body) space.push({ node: drawn, drawn: this.drawnOf(stage, drawn, body) });
      else if (node.kind !== 'group' && isOnSheet(node)) (space.length > 0 ? over : under).push(this.paintFlat(stage, drawn, node, artworks));
    }
    return { under, over, space, onFaces, artworks };
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

  /** What a shape's fill looks like on a surface: toned, its gradient on the surface that carries it and one colour on the others. */
  private fillOf(light: Light, fill: Fill, { surface, normal }: DrawnSurface, map: Mat33 | null): ReturnType<typeof inkOf> {
    const tone = (colour: Colour): string => this.colour(light, plainColour(colour, this.swatches), normal);
    const ink = typeof fill !== 'string' && surface && isDrawnEnd(surface.from?.name ?? surface.name) && map ? inkOf(fill, map, tone) : null;
    return ink ?? this.flat(this.colour(light, typeof fill === 'string' ? plainColour(fill, this.swatches) : meanColour(fill, this.swatches), normal));
  }

  /** The ink of a tone: one object for each, with the line that closes its hair lines. */
  private flat(tone: string): Ink {
    let ink = this.inks.get(tone);
    if (!ink) this.inks.set(tone, (ink = flatInk(tone)));
    return ink;
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

  /** The tone of a round surface where its normal meets the light at this cosine. */
  private roundColour(light: Light, base: string, cosine: number): Toned {
    let bySteps = this.roundTones.get(base);
    if (!bySteps) this.roundTones.set(base, (bySteps = new Map()));
    const step = Math.round(Math.max(-1, Math.min(1, cosine)) * EXPOSURES);
    let tone = bySteps.get(step);
    if (tone === undefined) bySteps.set(step, (tone = toned(base, toneAt(light.ramp, step / EXPOSURES))));
    return tone;
  }

  /** A part is the same as last time while it, what is cut out of it, what lies on it and the light are. */
  private paintPart(
    light: Light,
    stage: Stage,
    { surface, index, cuts }: OrderedSurface,
    kept: KeptPaint[],
    drawn: DrawnNode,
    source: ShapeNode | PlacementNode,
    on: readonly OnFace[],
    artworks: ReadonlyMap<string, Artwork>,
  ): KeptPaint {
    const known = kept[index];
    if (known && known.node === source && sameOn(known.on, on) && sameCuts(known.cuts, cuts)) return known;
    const left = cuts ? cutSurface(surface, cuts) : null;
    const path = left?.path ?? surface.path;
    const areas = left?.parts ?? null;
    const painted =
      source.kind === 'placement'
        ? paintPlacement(stage, drawn, source, artworks.get(source.artwork), null, left && { path, areas: left.parts })
        : this.paintShape(light, stage, surface, drawn, source, path, areas, on, cuts);
    return (kept[index] = { node: source, on, cuts, painted, failed: left?.failed ?? false });
  }

  private paintShape(
    light: Light,
    stage: Stage,
    part: DrawnSurface,
    drawn: DrawnNode,
    node: ShapeNode,
    path: Path,
    cut: readonly Area[] | null,
    on: readonly OnFace[],
    cuts: readonly Area[] | null,
  ): Painted {
    const { surface, wire } = part;
    const { owner } = drawn;
    const { name } = drawn.node;
    const paint = paintOf(node, surface);
    // Of solids that are one, a surface is that of the part which it came from.
    const joined = surface?.from !== undefined;
    const look = lookOf(node.paint);
    const frame = surface?.form.kind === 'flat' ? surface.form.frame : (wire?.frame ?? null);
    const map = frame && sheetFromFrame(stage.view.sight.projection, frame);
    const { line } = paint;
    const colour = line ? plainColour(line.colour, this.swatches) : '';
    const plane = map && { map, cell: stage.cell, near: stage.sight.projection.near, seen: stage.seen };
    if (!surface) {
      const drawnLine = line && plane ? lineMark(line, path, node.outline, plane, colour) : null;
      // Where a line is an area of its plane, what is cut out of it is cut out of that.
      const marks = drawnLine ? [cuts && drawnLine.fill ? { ...drawnLine, path: cutPath(drawnLine.path, cuts).path } : drawnLine] : [];
      return { node: owner, name, look, marks, visible: (cut ?? part.outline).map(({ polygon }) => ({ node: owner, face: null, polygon, open: true })) };
    }
    const solid = node.depth !== 0;
    // A line in the plane, or of varying width, is drawn along ends only, where it has a boundary to follow.
    const follows = line !== null && plane !== null && (!solid || (isDrawnEnd(surface.name) && !joined));
    const lines: Mark[] = follows ? [lineMark(line, path, node.outline, plane, colour)] : line ? [sideLine(line, path, colour)] : [];
    // Where something was cut out of it, a seam would run over what is in front there.
    const own: Mark[] = this.filled(light, stage, paint, part, path, map, solid && !line && cut === null);
    own.push(...withLines(own, lines));
    const face = surface.from?.name ?? surface.name;
    const placed = on.flatMap(({ node: placement, artwork, drawn: there }): readonly Painted[] => {
      const named = placement.target.kind === 'face' && (placement.target.face === face || surface.also.includes(placement.target.face));
      return named ? [paintPlacement(stage, there, placement, artwork, node, placement.overhangs ? null : { path, areas: cut ?? part.outline })] : [];
    });
    own.push(...groupByNode(placed));
    const group: GroupMark = { kind: 'group', node: null, name: `${name}, ${surfaceWord(surface)}`, clip: null, strength: 1, marks: own };
    return new PaintedSurface(owner, name, look, own.length > 0 && solid ? [group] : own, part, cut, placed);
  }

  /** The fill of a part: one path, or for round parts whose generators meet on the sheet several. @param seam closes hair lines */
  private filled(light: Light, stage: Stage, { fill }: Paint, part: DrawnSurface, path: Path, map: Mat33 | null, seamed: boolean): Mark[] {
    if (fill === null) return [];
    const { surface } = part;
    if (surface && surface.form.kind !== 'flat') {
      const base = meanColour(fill, this.swatches);
      const marks = this.roundMarks(light, stage, surface.form, part, base);
      const [first] = marks;
      // Strips and bands lie on each other; balls turn away from their neighbours.
      const seams = seamed && first?.kind === 'path' && first.fill && surface.form.kind !== 'sphere';
      const inks = seams ? [{ ...first, line: seam(first.fill!) }, ...marks.slice(1)] : marks;
      if (path === part.path) return [...inks];
      // What is left of a cut surface is filled as the whole is.
      const [only] = inks;
      if (inks.length === 1 && only?.kind === 'path') return [{ ...only, path }];
      return [{ kind: 'group', node: null, name: '', clip: { path, rule: 'evenodd' }, strength: 1, marks: inks }];
    }
    const ink = this.fillOf(light, fill, part, map);
    return ink ? [{ kind: 'path', path, fill: ink, rule: 'evenodd', line: seamed ? seam(ink) : null }] : [];
  }

  private roundMarks(light: Light, { view }: Stage, form: Ruled | Sphere, { stretch, path }: DrawnSurface, base: string): readonly Mark[] {
    const { projection } = view.sight;
    if (form.kind === 'sphere') return sphereFill(projection, form, path, this.sun, (cosine) => this.roundColour(light, base, cosine));
    return stretch ? roundFill(projection, form, stretch, path, (normal) => this.roundColour(light, base, dotWorld(normal, this.sun))) : [];
  }

  private paintFlat(stage: Stage, drawn: DrawnNode, node: ShapeNode | PlacementNode, artworks: ReadonlyMap<string, Artwork>): Painted {
    const { owner } = drawn;
    if (node.kind === 'placement') return paintPlacement(stage, drawn, node, artworks.get(node.artwork), null, null);
    const { outline, paint } = node;
    const { cell } = stage;
    const by = drawn.map?.by ?? { a: 0, b: 0 };
    const scale: Mat33 = [cell, 0, by.a * cell, 0, cell, by.b * cell, 0, 0, 1];
    const rings = ringsOf(outline).map((ring) => flattenOutline(ring, FACET).flatMap((p) => [(p.u + by.a) * cell, (p.v + by.b) * cell]));
    const coords = rings[0]!;
    const { closed } = outline;
    const exact = isCurved(outline) ? drawRings(outline, scale, 0) : null;
    const path = exact ?? (closed ? joinPaths(rings.map(polygonPath)) : polylinePath(coords));
    const plain = (colour: Colour): string => plainColour(colour, this.swatches);
    const fill = closed && paint.fill !== null ? inkOf(paint.fill, scale, plain) : null;
    const marks: Mark[] = fill ? [{ kind: 'path', path, fill, rule: 'evenodd', line: null }] : [];
    if (paint.line)
      marks.push(...withLines(marks, [lineMark(paint.line, path, outline, { map: scale, cell, near: 0, seen: stage.seen }, plain(paint.line.colour))]));
    const holes = rings.slice(1);
    const visible: Visible = { node: owner, face: closed ? 'end' : null, polygon: coords, open: !closed, ...(holes.length > 0 && { holes }) };
    return { node: owner, name: node.name, marks, look: lookOf(paint), visible: [visible] };
  }
}

/** Things, or their surfaces, after which a picture made in pieces pauses. */
const PIECE = 64;

/** Steps of the exposure from 0 to 1 that tones of round surfaces are taken at: an eighth of a level of 255 apart with the usual ramp. */
const EXPOSURES = 1024;

/** What tells apart everything that is drawn, what copies show included. */
const keyOf = (within: string, id: string): string => (within === '' ? id : `${within} ${id}`);

interface Drawn {
  readonly body: Body;
  readonly half: number;
  readonly drawn: DrawnBody;
  /** Its surfaces as they were painted last, as long as node, cuts, artwork and light are the same. */
  readonly painted: KeptPaint[];
}

interface KeptPaint {
  readonly node: DrawnNode['node'];
  readonly on: readonly OnFace[];
  /** What was cut out of it. */
  readonly cuts: readonly Area[] | null;
  readonly painted: Painted;
  /** It could not be cut. */
  readonly failed: boolean;
}

/** Artwork on a surface. */
interface OnFace {
  readonly drawn: DrawnNode;
  readonly node: PlacementNode;
  readonly artwork: Artwork | undefined;
}

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

const sameOn = (p: readonly OnFace[], q: readonly OnFace[]): boolean =>
  p === q || (p.length === q.length && p.every((one, i) => one.node === q[i]!.node && one.artwork === q[i]!.artwork));

interface Gathered {
  readonly under: Painted[];
  readonly over: readonly Painted[];
  readonly space: readonly { readonly node: DrawnNode; readonly drawn: Drawn }[];
  /** Artwork on faces by the things that it lies on. */
  readonly onFaces: ReadonlyMap<string, readonly OnFace[]> | null;
  readonly artworks: ReadonlyMap<string, Artwork>;
}

function isOnSheet(node: ShapeNode | PlacementNode): boolean {
  const plane = node.kind === 'shape' ? node.plane : node.target.kind === 'plane' ? node.target.plane : null;
  return plane?.kind === 'sheet';
}

/** The paint of a surface: its own, or that of the whole thing. */
function paintOf(node: ShapeNode, surface: Surface | null): Paint {
  return (surface && node.surfaces?.[surface.from?.name ?? surface.name]) ?? node.paint;
}

/** The part of solids that are one which a surface came from; the first of them where it is gone. */
function partOf(document: CheminDocument, node: JoinedNode, id: string | undefined): ShapeNode | null {
  const part = id === undefined ? undefined : nodesById(document.nodes).get(id);
  return part?.kind === 'shape' ? part : (shapesIn(node.children)[0] ?? null);
}
