import { computed, inject, Injectable } from '@angular/core';
import {
  addPoint,
  automaticName,
  findNode,
  isPart,
  boxOfRectangle,
  divideEdge,
  dividedBoxes,
  divideSpan,
  bodyOf,
  surfaceNamed,
  surfaceOnPlane,
  surfaceWord,
  figure,
  findShape,
  followSwatch,
  joinLines,
  mapColours,
  movePoints,
  nearestPlace,
  outlineEdges,
  parseSizes,
  removePoints,
  ringsOf,
  samePlane,
  setClosed,
  setCorners,
  setEdgeLength,
  sharpenPoints,
  shiftLightness,
  smoothPoints,
  splitAt,
  swatchOf,
  type Colour,
  type Combining,
  type Edit,
  type JoinKind,
  type MovingEnd,
  type Outline,
  type PlanePoint,
  type ShapeNode,
  type SingleEdit,
} from '@core';
import { AreasService } from '../platform/areas.service';
import { newId } from '../platform/ids';
import { ArrangingService } from './arranging.service';
import { DocumentStore } from './document.store';
import { MessageStore } from '../platform/messages.store';
import { ViewStore } from './view.store';

const LINE = { colour: '#2a2333', width: 0.4 } as const;

/** What the ways of combining are called. */
const COMBINED: Readonly<Record<Combining, string>> = {
  union: 'join',
  subtract: 'take away from',
  intersect: 'keep the overlap of',
  exclude: 'drop the overlap of',
};

/** How solids are joined by the ways in which flat shapes are combined. */
const JOINS: Readonly<Record<Combining, JoinKind | null>> = { union: 'join', subtract: 'take away', intersect: 'overlap', exclude: null };

/** What joined solids are called. */
const JOIN_NAMES: Readonly<Record<JoinKind, string>> = { join: 'joined solid', 'take away': 'cut solid', overlap: 'overlap' };

/** Changes the boundaries of what is selected: its points, edges, ends, and areas combined. Each is one step. */
@Injectable({ providedIn: 'root' })
export class ShapingService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);
  private readonly messages = inject(MessageStore);
  private readonly arranging = inject(ArrangingService);
  private readonly areas = inject(AreasService);

  /** Chosen points by shape; all points of the selected shapes where none is chosen. */
  private readonly chosen = computed(() => {
    const byShape = new Map<string, Set<number>>();
    for (const key of this.view.points()) {
      const [node = '', point] = key.split(' ');
      byShape.set(node, (byShape.get(node) ?? new Set<number>()).add(Number(point)));
    }
    return byShape;
  });
  /** How many points are chosen. */
  readonly pointCount = computed(() => this.view.points().length);
  /** The edge whose figures are shown. */
  readonly edge = computed(() => {
    const chosen = this.view.edge();
    const shape = chosen && findShape(this.documents.shown(), chosen.node);
    if (!chosen || !shape) return null;
    for (const ring of ringsOf(shape.outline)) {
      const found = outlineEdges(ring).find(([p]) => p.id === chosen.point);
      if (found) return { shape, id: chosen.point, from: found[0], to: found[1], straight: !found[0].arc && !found[0].out && !found[1].into };
    }
    return null;
  });
  readonly lines = computed(() => this.arranging.shapes().filter((shape) => !shape.outline.closed));

  /** Computed away from the page; where a shape was changed meanwhile, nothing is done. */
  async combine(operation: Combining): Promise<void> {
    if (this.joinSolids(operation)) return;
    const shapes = this.arranging.shapes().filter((shape) => shape.outline.closed && shape.depth === 0);
    const [first, ...rest] = this.inOrder(shapes);
    if (!first || rest.length === 0) return void this.messages.say('info', 'Choose two or more closed flat shapes of one plane');
    if (rest.some((shape) => !samePlane(shape.plane, first.plane)))
      return void this.messages.say('info', 'The shapes lie on different planes', ['Lay them on one plane first.']);
    let outlines;
    try {
      outlines = await this.areas.combine(operation, first.outline, rest.map((shape) => shape.outline)); // prettier-ignore
    } catch (error) {
      return void this.messages.say('bad', 'The shapes were not combined', [error instanceof Error ? error.message : String(error), 'They are as they were.']);
    }
    const kept = this.documents.kept();
    if (shapes.some((shape) => findShape(kept, shape.id) !== shape))
      return void this.messages.say('info', 'The shapes were changed meanwhile', ['Combine them again.']);
    if (outlines.length === 0) return void this.messages.say('info', 'Nothing would be left', ['The shapes are as they were.']);
    const ids = [...rest.map((shape) => shape.id), first.id];
    const nodes = outlines.map((outline, i): ShapeNode => ({ ...first, id: i === 0 ? first.id : newId(), outline }));
    this.documents.commit({ kind: 'replace', ids, nodes }, `${COMBINED[operation]} ${shapes.length} shapes`);
    this.view.select(nodes.map((node) => node.id));
  }

  /** Solids are joined as a group that keeps them, so that each can still be changed. @returns whether solids are chosen */
  private joinSolids(operation: Combining): boolean {
    const kept = this.documents.kept();
    const chosen = this.view.selection().flatMap((id) => findNode(kept, id) ?? []);
    const solids = chosen.filter(isPart);
    if (solids.length === 0) return false;
    const joined = JOINS[operation];
    if (!joined) return this.refuseSolids('Solids can be joined, taken away from each other, or kept where they overlap');
    if (solids.length < 2) return this.refuseSolids('Choose two or more solids');
    if (solids.length < chosen.length) return this.refuseSolids('Some of what is chosen is no solid', 'Choose solids alone, or flat shapes alone.');
    const id = newId();
    const name = automaticName(kept, JOIN_NAMES[joined], '');
    this.documents.commit({ kind: 'group', ids: solids.map((solid) => solid.id), id, name, joined }, `${COMBINED[operation]} ${solids.length} solids`);
    this.view.select([id]);
    return true;
  }

  private refuseSolids(what: string, ...more: readonly string[]): true {
    this.messages.say('info', what, more);
    return true;
  }

  /** Shapes as they lie in the document: the lowest comes first, what is subtracted lies over it. */
  private inOrder(shapes: readonly ShapeNode[]): readonly ShapeNode[] {
    const place = new Map(this.documents.entries().map(({ node }, i) => [node.id, i]));
    return [...shapes].sort((p, q) => (place.get(p.id) ?? 0) - (place.get(q.id) ?? 0));
  }

  setCorners(kind: 'round' | 'bevel', size: number): void {
    const what = size === 0 ? 'sharpen corners' : kind === 'round' ? 'round corners' : 'bevel corners';
    this.eachShape(what, (outline, ids) => setCorners(outline, ids, kind, size));
  }

  smooth(): void {
    this.eachShape('smooth points', smoothPoints);
  }

  sharpen(): void {
    this.eachShape('sharpen points', sharpenPoints);
  }

  /** Takes the chosen points away; a shape that has too few left goes. */
  deletePoints(): boolean {
    const byShape = this.chosen();
    if (byShape.size === 0) return false;
    const kept: { id: string; plane: ShapeNode['plane']; outline: Outline }[] = [];
    const gone: string[] = [];
    for (const [id, ids] of byShape) {
      const shape = findShape(this.documents.kept(), id);
      const outline = shape && removePoints(shape.outline, ids);
      if (shape && outline) kept.push({ id, plane: shape.plane, outline });
      else if (shape) gone.push(id);
    }
    const edits: SingleEdit[] = [];
    if (kept.length > 0) edits.push({ kind: 'lay', items: kept });
    if (gone.length > 0) edits.push({ kind: 'delete', ids: gone });
    if (edits.length > 0) this.documents.commit({ kind: 'all', edits }, `delete ${this.pointCount()} points`);
    this.view.patch({ points: [] });
    return true;
  }

  /** The edit that moves the chosen points of all selected shapes, for dragging one of them. */
  moveChosen(du: number, dv: number): Edit | null {
    const items = [...this.chosen()].flatMap(([id, ids]) => {
      const shape = findShape(this.documents.kept(), id);
      return shape ? [{ id, plane: shape.plane, outline: movePoints(shape.outline, ids, du, dv) }] : [];
    });
    return items.length > 0 ? { kind: 'lay', items } : null;
  }

  /** One more point where a selected shape's boundary is nearest to a place of its plane; it is then chosen. */
  addPointAt(id: string, at: PlanePoint, within = Infinity): boolean {
    const shape = findShape(this.documents.kept(), id);
    const place = shape && nearestPlace(shape.outline, at);
    const added = place && place.off <= within ? addPoint(shape.outline, place) : null;
    if (!shape || !added) return false;
    this.lay('add point to', shape, added.outline);
    this.view.patch({ points: [`${id} ${added.id}`] });
    return true;
  }

  /** One more point in the middle of the chosen edge. */
  addMiddle(): void {
    const edge = this.edge();
    const added = edge && addPoint(edge.shape.outline, { edge: edge.id, t: 0.5, at: { u: (edge.from.u + edge.to.u) / 2, v: (edge.from.v + edge.to.v) / 2 } });
    if (!edge || !added) return;
    this.lay('add point to', edge.shape, added.outline);
    this.view.patch({ points: [`${edge.shape.id} ${added.id}`] });
  }

  setEdge(length: number, moving: MovingEnd): void {
    const edge = this.edge();
    const outline = edge && setEdgeLength(edge.shape.outline, edge.id, length, moving);
    if (edge && outline) this.lay(`set length ${figure(length)} of`, edge.shape, outline);
  }

  /** Divides the chosen edge; comes back with what is wrong with the text. */
  divideEdge(text: string): string | null {
    const edge = this.edge();
    const { sheet, grid } = this.documents.kept();
    const sizes = parseSizes(text, sheet, grid.cell);
    if (!sizes.ok) return sizes.message;
    if (!edge?.straight) return 'Choose a straight edge: press the small bar in its middle.';
    const outline = divideEdge(edge.shape.outline, edge.id, sizes.sizes);
    if (!outline) return 'The sizes are longer than the edge.';
    this.lay('divide an edge of', edge.shape, outline);
    return null;
  }

  /** The rectangle that can be divided: the selected flat shape, or the face of a solid that was pressed last. */
  readonly divisible = computed(() => {
    const [shape, ...more] = this.arranging.shapes();
    if (!shape || more.length > 0) return null;
    const pressed = this.view.face();
    const face = shape.depth === 0 ? { plane: shape.plane, outline: shape.outline } : pressed && surfaceOnPlane(shape, pressed);
    const box = face && boxOfRectangle(face.outline);
    if (!box) return null;
    const word = pressed && shape.depth !== 0 ? surfaceWord(surfaceNamed(bodyOf(shape), pressed)!) : null;
    return { shape, plane: face.plane, box, word };
  });

  /**
   * Puts shapes into a rectangle in columns and rows with gaps and a margin; comes back with what is wrong. The rectangle
   * stays, the pieces lie over it and are selected.
   */
  divideShape(columns: string, rows: string, gap: number, margin: number): string | null {
    const divided = this.divisible();
    if (!divided) return 'Choose one rectangle along the directions of its plane, or press a rectangular face.';
    const { shape, plane, box } = divided;
    const { sheet, grid } = this.documents.kept();
    const [across, up] = [columns, rows].map((text) => parseSizes(text, sheet, grid.cell));
    if (!across?.ok) return across?.message ?? '';
    if (!up?.ok) return up?.message ?? '';
    const [u, v] = [divideSpan(box.minU, box.maxU, across.sizes, gap, margin), divideSpan(box.minV, box.maxV, up.sizes, gap, margin)];
    if (!u.ok) return u.message;
    if (!v.ok) return v.message;
    // Told apart from what they lie on: lighter by a step.
    const paint = mapColours(shape.paint, (colour) => lighter(colour, 8));
    const nodes = dividedBoxes(u.spans, v.spans).map((outline, i): ShapeNode => {
      return {
        ...shape,
        id: newId(),
        name: `${shape.name.replace(/,.*/, '')}, part ${i + 1}`,
        plane,
        outline,
        depth: 0,
        paint,
      };
    });
    this.documents.commit({ kind: 'add', nodes, artworks: [] }, `divide ${shape.name} in ${nodes.length}`);
    this.view.select(nodes.map((node) => node.id));
    return null;
  }

  close(): void {
    this.each('close', (shape) => setClosed(shape.outline, true));
  }

  open(): void {
    this.each('open', (shape) => setClosed(shape.outline, false, [...(this.chosen().get(shape.id) ?? [])][0]));
  }

  /** Parts a line, or opens an outline, at the chosen point. */
  split(): void {
    const [entry] = this.chosen();
    const shape = entry && findShape(this.documents.kept(), entry[0]);
    const parts = shape && splitAt(shape.outline, [...entry[1]][0]!);
    if (!shape || !parts) return void this.messages.say('info', 'Choose a point inside a line, or a point of an outline');
    const nodes = parts.map((outline, i): ShapeNode => ({ ...shape, id: i === 0 ? shape.id : newId(), outline, paint: asLine(shape) }));
    this.documents.commit({ kind: 'replace', ids: [shape.id], nodes }, `split ${shape.name}`);
    this.view.select(nodes.map((node) => node.id));
  }

  /** Joins the selected lines of one plane at their nearest ends. */
  join(): void {
    const lines = this.inOrder(this.lines());
    const [first, ...rest] = lines;
    if (!first || rest.length === 0 || rest.some((line) => !samePlane(line.plane, first.plane))) {
      return void this.messages.say('info', 'Choose two or more lines of one plane');
    }
    const joined = rest.reduce<Outline | null>((outline, line) => outline && joinLines(outline, line.outline), first.outline);
    if (!joined) return;
    const paint = joined.closed ? { ...first.paint, fill: first.paint.fill ?? this.view.paint().fill } : first.paint;
    const node: ShapeNode = { ...first, outline: joined, paint };
    this.documents.commit({ kind: 'replace', ids: [...rest.map((line) => line.id), first.id], nodes: [node] }, `join ${lines.length} lines`);
    this.view.select([node.id]);
  }

  private eachShape(label: string, change: (outline: Outline, ids: ReadonlySet<number>) => Outline): void {
    const chosen = this.chosen();
    const shapes = this.arranging.shapes().filter((shape) => !shape.locked && (chosen.size === 0 || chosen.has(shape.id)));
    const items = shapes.map((shape) => {
      const all = new Set(ringsOf(shape.outline).flatMap((ring) => ring.points.map((p) => p.id)));
      return { id: shape.id, plane: shape.plane, outline: change(shape.outline, chosen.get(shape.id) ?? all) };
    });
    if (items.length > 0) this.documents.commit({ kind: 'lay', items }, `${label} of ${shapes.length === 1 ? shapes[0]!.name : `${shapes.length} shapes`}`);
    this.arranging.saySkipped(this.arranging.shapes().flatMap((shape) => (shape.locked ? [`“${shape.name}” is locked.`] : [])));
  }

  private each(label: string, change: (shape: ShapeNode) => Outline | null): void {
    const nodes = this.arranging.shapes().flatMap((shape): ShapeNode[] => {
      const outline = shape.locked || shape.depth !== 0 ? null : change(shape);
      if (!outline) return [];
      const paint = outline.closed ? { ...shape.paint, fill: shape.paint.fill ?? this.view.paint().fill } : asLine(shape);
      return [{ ...shape, outline, paint }];
    });
    if (nodes.length > 0) this.documents.commit({ kind: 'change', nodes }, `${label} ${nodes.length === 1 ? nodes[0]!.name : `${nodes.length} shapes`}`);
    const changed = new Set(nodes.map(({ id }) => id));
    const why = (shape: ShapeNode): string =>
      shape.locked ? 'is locked' : shape.depth !== 0 ? 'has depth: its outline is closed' : shape.outline.closed ? 'is closed' : 'is open';
    this.arranging.saySkipped(this.arranging.shapes().flatMap((shape) => (changed.has(shape.id) ? [] : [`“${shape.name}” ${why(shape)}.`])));
  }

  private lay(label: string, shape: ShapeNode, outline: Outline): void {
    this.documents.commit({ kind: 'outline', id: shape.id, outline }, `${label} ${shape.name}`);
  }
}

/** A colour some steps lighter; one that follows a swatch goes on following it. */
function lighter(colour: Colour, steps: number): Colour {
  const swatch = swatchOf(colour);
  return swatch ? followSwatch(swatch.id, swatch.shift + steps) : shiftLightness(colour, steps);
}

/** The paint of a shape that has no area any more. */
const asLine = ({ paint }: ShapeNode): ShapeNode['paint'] => ({ ...paint, fill: null, line: paint.line ?? LINE });
