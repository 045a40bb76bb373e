import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import {
  boxAround,
  exactCells,
  figure,
  findArtwork,
  findNode,
  idsWithin,
  moveOutline,
  PLANE_AXES,
  planeName,
  type Edit,
  type PlacementNode,
  type Plane,
  type ShapeNode,
} from '@core';
import { ColourFieldComponent } from '../controls/colour-field.component';
import { MeasureFieldComponent } from '../controls/measure-field.component';
import { DocumentStore } from '../state/document.store';
import { ViewStore } from '../state/view.store';

/** The selection and its figures: each handle's value by name, typed as well as dragged. */
@Component({
  selector: 'chemin-selection',
  imports: [ColourFieldComponent, MeasureFieldComponent],
  templateUrl: './selection.component.html',
  styleUrl: './selection.component.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SelectionComponent {
  protected readonly store = inject(DocumentStore);
  private readonly view = inject(ViewStore);

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
  protected readonly box = computed(() => boxAround(this.shape()?.outline.points ?? []));

  /** What the selection is, in a line. */
  protected readonly words = computed(() => {
    const node = this.one();
    if (!node) return '';
    if (node.kind === 'group') return `group of ${idsWithin(node).length - 1}`;
    if (node.kind === 'placement') return `artwork “${findArtwork(this.store.shown(), node.artwork)?.name ?? ''}”`;
    const what = node.depth !== 0 ? 'solid' : node.outline.closed ? 'shape' : 'line';
    return `${what} of ${node.outline.points.length} points, ${planeName(node.plane.kind, this.store.shown().projection)}`;
  });

  protected directions({ plane }: ShapeNode): readonly [string, string, string] {
    if (plane.kind === 'sheet') return ['x', 'y', ''];
    const { u, v, across } = PLANE_AXES[plane.kind];
    return [u, v, across];
  }

  protected figure = (value: number): string => figure(value);

  protected name(text: string): void {
    const node = this.one();
    const name = text.trim().slice(0, 200);
    if (node && name && name !== node.name) this.store.commit({ kind: 'name', id: node.id, name }, `rename ${node.name}`);
  }

  protected moveTo(shape: ShapeNode, u: number | null, v: number | null): void {
    const box = boxAround(shape.outline.points);
    if (!box) return;
    const outline = moveOutline(shape.outline, u === null ? 0 : u - box.minU, v === null ? 0 : v - box.minV);
    this.store.commit({ kind: 'outline', id: shape.id, outline: { ...outline, points: [...outline.points] } }, `move ${shape.name}`);
  }

  /** Gives the outline a new width or height, from its lower corner. */
  protected resize(shape: ShapeNode, side: 'u' | 'v', length: number): void {
    const box = boxAround(shape.outline.points);
    if (!box) return;
    const [min, old] = side === 'u' ? [box.minU, box.maxU - box.minU] : [box.minV, box.maxV - box.minV];
    if (old === 0) return;
    const points = shape.outline.points.map((p) => ({ ...p, [side]: exactCells(min + ((p[side] - min) / old) * length) }));
    this.store.commit({ kind: 'outline', id: shape.id, outline: { ...shape.outline, points } }, `set size of ${shape.name}`);
  }

  protected setOffset(shape: ShapeNode, offset: number): void {
    const plane: Plane = { ...shape.plane, offset: exactCells(offset) };
    this.store.commit({ kind: 'plane', id: shape.id, plane }, `set offset of ${shape.name}`);
  }

  protected setDepth(shape: ShapeNode, depth: number): void {
    this.store.commit({ kind: 'depth', id: shape.id, depth: exactCells(depth) }, `set depth of ${shape.name}`);
  }

  protected setBox(node: PlacementNode, part: Partial<PlacementNode['box']>): void {
    const ratio = node.box.height / node.box.width;
    const box = { ...node.box, ...part };
    if (part.width !== undefined) box.height = exactCells(part.width * ratio);
    if (part.height !== undefined) box.width = exactCells(part.height / ratio);
    this.store.commit({ kind: 'place', id: node.id, target: node.target, box } as Edit, `set size of ${node.name}`);
  }

  protected fill(shape: ShapeNode, fill: string, keep: boolean): void {
    const edit: Edit = { kind: 'paint', ids: [shape.id], paint: { ...shape.paint, fill } };
    if (keep) this.store.commit(edit, `paint ${shape.name}`);
    else this.store.show(edit);
  }
}
