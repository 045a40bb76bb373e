import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import {
  anchorOfBox,
  axesOf,
  boxAround,
  canHaveDepth,
  ellipseOf4,
  ellipseOutline,
  exactCells,
  figure,
  findArtwork,
  findNode,
  findShape,
  flattenOutline,
  idsWithin,
  isCurved,
  moveOutline,
  artworkRoom,
  placementGround,
  planeName,
  readBox,
  SHEET_PLANE,
  stretchOutline,
  type PlacementNode,
  type Plane,
  type PlaneBox,
  type ReadBox,
  type ShapeNode,
  type Surface,
} from '@core';
import { measuresOf, SOLID_FORMS } from '@later';
import { MeasureFieldComponent } from '../controls/measure-field.component';
import { PaintColourComponent } from '../controls/paint-colour.component';
import { ArrangingService } from '../state/arranging.service';
import { resizedBox } from '../state/laid-things';
import { CommandsService } from '../state/commands.service';
import { DocumentStore } from '../state/document.store';
import { ViewStore } from '../state/view.store';
import { BodyFiguresComponent } from './body-figures.component';
import { SolidFiguresComponent } from './solid-figures.component';
import { TextFieldDirective } from '../controls/text-field.directive';

/** The box around a shape's boundary in cells; for straight ones from the corners alone, so exactly. */
function extentOf(shape: ShapeNode | null): PlaneBox | null {
  if (!shape) return null;
  const exact = !isCurved(shape.outline) || ellipseOf4(shape.outline) || shape.outline.points.every((p) => !p.arc && !p.out && !p.into);
  return boxAround(exact ? shape.outline.points : flattenOutline(shape.outline, 0.001));
}

/** The selection and its figures: each handle's value by name, typed as well as dragged. */
@Component({
  selector: 'chemin-selection',
  imports: [BodyFiguresComponent, TextFieldDirective, MeasureFieldComponent, PaintColourComponent, SolidFiguresComponent],
  templateUrl: './selection.component.html',
  styleUrl: './selection.component.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SelectionComponent {
  protected readonly store = inject(DocumentStore);
  protected readonly view = inject(ViewStore);
  protected readonly commands = inject(CommandsService);
  private readonly arranging = inject(ArrangingService);

  protected readonly nodes = computed(() =>
    this.view
      .selection()
      .map((id) => findNode(this.store.shown(), id))
      .filter((node) => node !== null),
  );
  protected readonly one = computed(() => (this.nodes().length === 1 ? this.nodes()[0]! : null));
  protected readonly shape = computed(() => {
    const node = this.one();
    return node?.kind === 'shape' ? node : null;
  });
  protected readonly placement = computed(() => {
    const node = this.one();
    return node?.kind === 'placement' ? node : null;
  });
  protected readonly cell = computed(() => this.store.shown().grid.cell);
  protected readonly sheet = computed(() => this.store.shown().sheet);
  /** The extent of a shape, curves included. */
  protected readonly box = computed(() => extentOf(this.shape()));
  protected readonly ellipse = computed(() => {
    const shape = this.shape();
    return shape ? ellipseOf4(shape.outline) : null;
  });
  /** What the selection is, in a line. */
  protected readonly words = computed(() => {
    const node = this.one();
    if (!node) return '';
    if (node.kind === 'group') return `group of ${idsWithin(node).length - 1}`;
    if (node.kind === 'placement') return `artwork “${findArtwork(this.store.shown(), node.artwork)?.name ?? ''}”`;
    if (node.kind === 'copy') return `linked copy of “${findNode(this.store.shown(), node.of)?.name ?? ''}”`;
    if (node.kind === 'dimension') return `dimension, ${planeName(node.plane.kind, this.store.shown().projection)}`;
    const round = node.depth === 0 ? ellipseOf4(node.outline) : null;
    if (round) return `${round.radii.u === round.radii.v ? 'circle' : 'ellipse'}, ${planeName(node.plane.kind, this.store.shown().projection)}`;
    const measured = measuresOf(node);
    if (measured) return `${SOLID_FORMS[measured.kind].title.toLowerCase()}, ${planeName(node.plane.kind, this.store.shown().projection)}`;
    const what = node.depth !== 0 ? 'solid' : node.outline.closed ? 'shape' : 'line';
    return `${what} of ${node.outline.points.length} points, ${planeName(node.plane.kind, this.store.shown().projection)}`;
  });

  protected directions({ plane }: ShapeNode): readonly [string, string, string] {
    const axes = axesOf(plane);
    if (axes) return [axes.u, axes.v, axes.across];
    return plane.kind === 'free' ? ['u', 'v', 'its normal'] : ['x', 'y', ''];
  }

  protected readonly canHaveDepth = canHaveDepth;
  /** It still has the form that it was drawn as, and is told by the measures of that. */
  protected readonly isMeasured = computed(() => {
    const shape = this.shape();
    return shape !== null && measuresOf(shape) !== null;
  });
  /** The face that a circle is inscribed in, in words. */
  protected readonly inscribed = computed(() => {
    const inscribed = this.shape()?.inscribed;
    const host = inscribed && findShape(this.store.shown(), inscribed.node);
    return host ? `a face of “${host.name}”` : null;
  });

  protected letGo({ inscribed: _, ...shape }: ShapeNode): void {
    this.store.commit({ kind: 'change', nodes: [shape] }, `let go of the face: ${shape.name}`);
  }

  protected figure = (value: number): string => figure(value);

  protected name(text: string): void {
    const node = this.one();
    const name = text.trim().slice(0, 200);
    if (node && name && name !== node.name) this.store.commit({ kind: 'name', id: node.id, name }, `rename ${node.name}`);
  }

  protected moveTo(shape: ShapeNode, u: number | null, v: number | null): void {
    const box = extentOf(shape);
    if (!box) return;
    const outline = moveOutline(shape.outline, u === null ? 0 : u - box.minU, v === null ? 0 : v - box.minV);
    this.store.commit({ kind: 'lay', items: [{ id: shape.id, plane: shape.plane, outline }] }, `move ${shape.name}`);
  }

  /** Gives the outline a new width or height: about its middle where it is centred on something, else from its lower corner. */
  protected resize(shape: ShapeNode, side: 'u' | 'v', length: number): void {
    const box = extentOf(shape);
    if (!box) return;
    const stretched = stretchOutline(shape.outline, side, box, length);
    const by = this.arranging.centredOn()[side] === null ? 0 : (side === 'u' ? box.maxU - box.minU - length : box.maxV - box.minV - length) / 2;
    const outline = moveOutline(stretched, side === 'u' ? by : 0, side === 'v' ? by : 0);
    this.store.commit({ kind: 'outline', id: shape.id, outline }, `set size of ${shape.name}`);
  }

  /** What the shape is centred on and stays so when its size is typed, in words; empty for none. */
  protected readonly centred = computed(() => {
    const { u, v } = this.arranging.centredOn();
    const [side] = this.shape() ? [this.directions(this.shape()!)] : [];
    if (!side || (u === null && v === null)) return '';
    if (u === v) return `Centred on “${u}”, and stays so when its size is typed.`;
    return [u && `along ${side[0]} on “${u}”`, v && `along ${side[1]} on “${v}”`].filter(Boolean).join(', ').replace(/^/, 'Centred ') + ', and stays so.';
  });

  /** Gives an ellipse other radii about its centre. */
  protected setRadii(shape: ShapeNode, u: number, v: number): void {
    const now = ellipseOf4(shape.outline);
    if (!now) return;
    const { points } = ellipseOutline(now.centre, { u, v });
    const outline = { ...shape.outline, points: points.map((p, i) => ({ ...p, id: shape.outline.points[i]?.id ?? p.id })) };
    this.store.commit({ kind: 'outline', id: shape.id, outline }, `set radius of ${shape.name}`);
  }

  protected setOffset(shape: ShapeNode, offset: number): void {
    const plane: Plane = { ...shape.plane, offset: exactCells(offset) };
    this.store.commit({ kind: 'plane', id: shape.id, plane }, `set offset of ${shape.name}`);
  }

  protected setDepth(shape: ShapeNode, depth: number): void {
    this.store.commit({ kind: 'depth', id: shape.id, depth: exactCells(depth) }, `set depth of ${shape.name}`);
  }

  /** Where a placement lies as it is read: from the upper left of its face's box, or from its plane's origin. */
  protected boxOf(node: PlacementNode): ReadBox {
    return readBox(this.groundOf(node), node.anchor);
  }

  private groundOf(node: PlacementNode): Surface | Plane {
    return placementGround(this.store.shown(), node) ?? SHEET_PLANE;
  }

  protected setBox(node: PlacementNode, part: Partial<ReadBox>): void {
    const now = this.boxOf(node);
    const ground = this.groundOf(node);
    const ratio = now.height / now.width;
    const { width = part.height === undefined ? now.width : exactCells(part.height / ratio) } = part;
    const { height = part.width === undefined ? now.height : exactCells(part.width * ratio) } = part;
    const room = 'kind' in ground ? null : artworkRoom(ground);
    const box = { ...resizedBox(now, { width, height }, room), ...(part.x !== undefined && { x: part.x }), ...(part.y !== undefined && { y: part.y }) };
    const anchor = anchorOfBox(ground, box, node.anchor);
    this.store.commit(
      { kind: 'place', id: node.id, target: node.target, anchor, ...(node.overhangs && { overhangs: node.overhangs }) },
      `set size of ${node.name}`,
    );
  }

  /** Whether a shape is filled with one colour, which can be changed here in every stage. */
  protected colourOf({ paint }: ShapeNode): boolean {
    return typeof paint.fill === 'string';
  }
}
