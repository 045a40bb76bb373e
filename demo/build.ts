import {
  END,
  type CellLettering,
  type SolidKind,
  anchorIn,
  bodyOf,
  ellipseOutline,
  exactCells,
  outlineThrough,
  readingFrameOf,
  rectangleOutline,
  surfaceNamed,
  type DocumentNode,
  type Paint,
  type Plane,
  type ShapeNode,
} from '@core';
import { layCells } from '@later';
import { letterFrame, letteringGroup, solidOn, type Measures } from '@later';

/** Makes the nodes of demo drawings with ids that are the same every time. */
export class NodeMaker {
  private count = 0;

  private nextId(): string {
    return `demo-${++this.count}`;
  }

  /** A closed outline on a plane, with depth in cells where it is a solid. */
  outline(name: string, plane: Plane, points: readonly (readonly [number, number])[], depth: number, fill: string, line: Paint['line'] = null): ShapeNode {
    const corners = points.map(([u, v]) => ({ u, v }));
    return {
      kind: 'shape',
      id: this.nextId(),
      name,
      hidden: false,
      locked: false,
      plane,
      outline: outlineThrough(corners, true),
      depth: exactCells(depth),
      paint: { fill, line },
    };
  }

  rectangle(
    name: string,
    plane: Plane,
    from: readonly [number, number],
    to: readonly [number, number],
    depth: number,
    fill: string,
    line: Paint['line'] = null,
  ): ShapeNode {
    const corners = rectangleOutline({ u: from[0], v: from[1] }, { u: to[0], v: to[1] }).points;
    return this.outline(
      name,
      plane,
      corners.map(({ u, v }) => [u, v] as const),
      depth,
      fill,
      line,
    );
  }

  /** A true circle on a plane, with depth a cylinder. */
  circle(name: string, plane: Plane, centre: readonly [number, number], radius: number, depth: number, fill: string): ShapeNode {
    return { ...this.outline(name, plane, [], depth, fill), outline: ellipseOutline({ u: centre[0], v: centre[1] }, { u: radius, v: radius }) };
  }

  group(name: string, children: readonly DocumentNode[]): DocumentNode {
    return { kind: 'group', id: this.nextId(), name, hidden: false, locked: false, children };
  }

  /** A solid that is drawn at once, on a base from one corner to the opposite one. */
  solid(
    name: string,
    kind: SolidKind,
    plane: Plane,
    [from, to]: readonly [readonly [number, number], readonly [number, number]],
    height: number,
    fill: string,
    others: Measures & { readonly turn?: number } = {},
  ): ShapeNode {
    const { turn = 0, ...measures } = others;
    const made = solidOn(kind, { plane, from: { u: from[0], v: from[1] }, to: { u: to[0], v: to[1] }, height, turn }, measures);
    if (!made.ok) throw new Error(`${name}: ${made.reason}`);
    return { kind: 'shape', id: this.nextId(), name, hidden: false, locked: false, ...made.value, paint: { fill, line: null } };
  }

  /** Solids as one: the first without the others. */
  cut(name: string, children: readonly DocumentNode[]): DocumentNode {
    return { kind: 'group', id: this.nextId(), name, hidden: false, locked: false, children, joined: 'take away' };
  }

  /** Letters on the cells of a plane, with depth, their fronts in a colour of their own. */
  letters(plane: Plane, at: readonly [number, number], lettering: CellLettering, depth: number, sides: string, front: string): DocumentNode {
    const paint = { fill: sides, line: null };
    const look = { depth, paint, surfaces: { [END]: { fill: front, line: null } } };
    const head = { id: this.nextId(), name: `“${lettering.text}”`, hidden: false, locked: false };
    return letteringGroup(head, lettering, layCells(lettering), letterFrame(plane, { u: at[0], v: at[1] }), look);
  }

  /** Artwork on the outer end of a solid, or on a named face, at a place from the upper left of the face's box. */
  placed(
    name: string,
    artwork: string,
    host: ShapeNode,
    face: 'end' | `side:${number}`,
    box: { x: number; y: number; width: number; height: number },
  ): DocumentNode {
    const anchor = anchorIn(readingFrameOf(surfaceNamed(bodyOf(host), face)!)!, box);
    return { kind: 'placement', id: this.nextId(), name, hidden: false, locked: false, artwork, target: { kind: 'face', node: host.id, face }, anchor };
  }
}

export const floor = (offset = 0): Plane => ({ kind: 'floor', offset: exactCells(offset) });
export const leftWall = (offset: number): Plane => ({ kind: 'left', offset: exactCells(offset) });
export const rightWall = (offset: number): Plane => ({ kind: 'right', offset: exactCells(offset) });
