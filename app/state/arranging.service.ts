import { computed, inject, Injectable } from '@angular/core';
import {
  copyNodes,
  exactCells,
  findNode,
  moved,
  mirrorOutline,
  outlineBox,
  planeName,
  scaleOutline,
  shapesById,
  toPlane,
  turnOutline,
  type CellMove,
  type Edit,
  type DocumentNode,
  type Laid,
  type PlaneBox,
  type PlaneKind,
  type PlanePoint,
  type ShapeNode,
} from '@core';
import { newId } from '../platform/ids';
import { DocumentStore } from './document.store';
import { ViewStore } from './view.store';

/** Changes the selection as a whole: turned, mirrored, scaled, laid on other planes, repeated. Each is one step. */
@Injectable({ providedIn: 'root' })
export class ArrangingService {
  private readonly documents = inject(DocumentStore);
  private readonly view = inject(ViewStore);

  /** The selected things, without those that a selected group holds. */
  readonly nodes = computed((): readonly DocumentNode[] => {
    const document = this.documents.kept();
    const chosen = this.view.selection();
    const held = new Set(this.documents.entries().filter((e) => e.parent !== null && chosen.includes(e.parent)).map((e) => e.node.id)); // prettier-ignore
    return chosen.filter((id) => !held.has(id)).flatMap((id) => findNode(document, id) ?? []);
  });
  /** Every selected shape, what groups hold included. */
  readonly shapes = computed((): readonly ShapeNode[] => [...shapesById(this.nodes()).values()]);

  turn(deg: number): void {
    this.each(`turn ${deg}°`, ({ outline, plane }, about) => ({
      plane,
      outline: turnOutline(outline, about, plane.kind === 'left' || plane.kind === 'sheet' ? -deg : deg),
    }));
  }

  mirror(across: 'u' | 'v'): void {
    this.each('mirror', ({ outline, plane }, about) => ({ plane, outline: mirrorOutline(outline, across, about[across]) }));
  }

  scale(ratio: number): void {
    if (ratio > 0 && ratio !== 1) this.each(`scale by ${ratio}`, ({ outline, plane }, about) => ({ plane, outline: scaleOutline(outline, about, ratio) }));
  }

  toPlane(kind: PlaneKind): void {
    this.each(`to the ${planeName(kind, this.documents.kept().projection)}`, (laid, _about, box) => toPlane(laid, kind, 'corner', box));
    const first = this.shapes()[0];
    if (first) this.view.putPlane(first.plane);
  }

  /** Copies of the selection in equal true steps; the copies are selected. */
  repeat(count: number, step: CellMove, label = 'repeat'): void {
    const nodes = this.nodes();
    if (nodes.length === 0 || count < 1) return;
    const by = (k: number): CellMove => ({ a: exactCells(step.a * k), b: exactCells(step.b * k), h: exactCells(step.h * k) });
    const copies = Array.from({ length: count }, (_, i) => copyNodes(nodes, newId).map((node) => moved(node, by(i + 1)))).flat();
    this.documents.commit({ kind: 'add', nodes: copies, artworks: [] } as Edit, `${label} ${nodes.length === 1 ? nodes[0]!.name : `${nodes.length} things`}`);
    this.view.select(copies.map((node) => node.id));
  }

  /** One copy, a cell aside along the plane of the first selected shape. */
  duplicate(): void {
    const plane = this.shapes()[0]?.plane.kind ?? 'floor';
    this.repeat(1, { a: plane === 'left' ? 0 : 1, b: plane === 'left' ? 1 : 0, h: 0 }, 'duplicate');
  }

  /** Changes every selected shape; those of one plane as a whole, about the middle of the box around them all. */
  private each(label: string, change: (laid: Laid, about: PlanePoint, box: PlaneBox) => Laid): void {
    const shapes = this.shapes().filter((shape) => !shape.locked);
    const boxes = new Map<string, PlaneBox>();
    const keyOf = ({ plane }: ShapeNode): string => `${plane.kind} ${plane.offset}`;
    for (const shape of shapes) {
      const [box, known] = [outlineBox(shape.outline), boxes.get(keyOf(shape))];
      if (box) boxes.set(keyOf(shape), known ? around(known, box) : box);
    }
    const items = shapes.flatMap((shape) => {
      const box = boxes.get(keyOf(shape));
      if (!box) return [];
      const about = { u: (box.minU + box.maxU) / 2, v: (box.minV + box.maxV) / 2 };
      return [{ id: shape.id, ...change({ outline: shape.outline, plane: shape.plane }, about, box) }];
    });
    if (items.length === 0) return;
    const name = items.length === 1 ? shapes[0]!.name : `${items.length} shapes`;
    this.documents.commit({ kind: 'lay', items } as Edit, `${label}: ${name}`);
  }
}

/** The box around two boxes. */
function around(p: PlaneBox, q: PlaneBox): PlaneBox {
  return { minU: Math.min(p.minU, q.minU), minV: Math.min(p.minV, q.minV), maxU: Math.max(p.maxU, q.maxU), maxV: Math.max(p.maxV, q.maxV) };
}
