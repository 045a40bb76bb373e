import { applyEdit, type Edit } from '../document/edits';
import { emptyDocument, type CheminDocument, type PlacementNode, type ShapeNode } from '../document/types';
import { artworkCorners, artworkOnSurface } from '../geometry/anchor';
import { surfaceNamed } from '../geometry/body';
import { bodyOf } from '../geometry/book';
import { isRuled, type Ruled } from '../geometry/ruled';
import { anchorOnRuled, artworkOnRuled, worldOnRuled } from '../geometry/wrapping';
import { exactCells } from '../math/exact';
import type { WorldPoint } from '../math/points';
import { ellipseOutline } from '../shape/forms';
import { mapOutline, outlineThrough, rectangleOutline } from '../shape/outline';
import { turnOutline } from '../shape/transform';
import { randomFrom, runs } from '../testing/random';

const svg = '<svg viewBox="0 0 4 2"><path d="M0 0L4 0L4 2Z"/></svg>';
const host: ShapeNode = {
  kind: 'shape',
  id: 'host',
  name: 'host',
  hidden: false,
  locked: false,
  plane: { kind: 'floor', offset: 0 },
  outline: outlineThrough([[0, 0], [8, 0], [8, 6], [0, 6]].map(([u, v]) => ({ u: u!, v: v! })), true), // prettier-ignore
  depth: 4,
  paint: { fill: '#c98a4b', line: null },
};
const sign = (face: string, at: WorldPoint, turn = 0): PlacementNode => ({
  kind: 'placement',
  id: `on ${face}`,
  name: 'sign',
  hidden: false,
  locked: false,
  artwork: 'art',
  target: { kind: 'face', node: 'host', face },
  anchor: { at, width: 2, height: 1, ...(turn !== 0 && { turn }) },
});
const start: CheminDocument = {
  ...emptyDocument('d', 'd'),
  artworks: [{ id: 'art', name: 'art', svg, width: 4, height: 2 }],
  nodes: [host, sign('end', { a: 2, b: 4, h: 4 }), sign('side:1', { a: 3, b: 0, h: 3 }, 20), sign('side:4', { a: 0, b: 5, h: 2 })],
};

function cornersOf(document: CheminDocument, id: string): readonly WorldPoint[] | null {
  const node = document.nodes.find((n) => n.id === id) as PlacementNode;
  const on = document.nodes.find((n) => n.id === 'host') as ShapeNode;
  const surface = node.target.kind === 'face' ? surfaceNamed(bodyOf(on), node.target.face) : null;
  const frame = surface && artworkOnSurface(node.anchor, surface);
  return frame && artworkCorners(frame, node.anchor);
}

const farthest = (p: readonly WorldPoint[], q: readonly WorldPoint[], by: WorldPoint = { a: 0, b: 0, h: 0 }): number =>
  Math.max(...p.map((c, i) => Math.max(Math.abs(q[i]!.a - c.a - by.a), Math.abs(q[i]!.b - c.b - by.b), Math.abs(q[i]!.h - c.h - by.h))));

describe('artwork on a face', () => {
  it('stays where it is on its plane through cuts and depth changes of its host, and goes along when that is moved', () => {
    const random = randomFrom(19);
    const step = (): number => exactCells(Math.round((random() - 0.5) * 60) / 20);
    const ids = start.nodes.slice(1).map(({ id }) => id);
    for (let i = 0; i < runs(1000); i++) {
      let document = start;
      for (let k = 0; k < 3; k++) {
        const shape = document.nodes[0] as ShapeNode;
        const kind = Math.floor(random() * 3);
        const before = ids.map((id) => cornersOf(document, id)!);
        if (kind === 0) {
          // A side moves square to itself, or a new corner comes into the far side.
          const [edge, by] = [2 + Math.floor(random() * 2), step()];
          const along = edge === 2 ? 'u' : 'v';
          const outline = mapOutline(shape.outline, (p) => (p.id === edge || p.id === edge + 1 ? { ...p, [along]: exactCells(p[along] + by) } : p));
          document = applyEdit(document, { kind: 'outline', id: 'host', outline } as Edit);
          ids.forEach((id, n) => expect(farthest(before[n]!, cornersOf(document, id)!)).toBeLessThan(1e-9));
        } else if (kind === 1) {
          const depth = exactCells(2 + random() * 6);
          document = applyEdit(document, { kind: 'depth', id: 'host', depth });
          // What lies on the far end goes with it; nothing else moves.
          ids.forEach((id, n) => expect(farthest(before[n]!, cornersOf(document, id)!, id === 'on end' ? { a: 0, b: 0, h: depth - shape.depth } : undefined)).toBeLessThan(1e-9)); // prettier-ignore
        } else {
          const by = { a: step(), b: step(), h: step() };
          document = applyEdit(document, { kind: 'move', ids: ['host'], by });
          ids.forEach((id, n) => expect(farthest(before[n]!, cornersOf(document, id)!, by)).toBeLessThan(1e-9));
        }
      }
    }
  });

  it('turns with its host, also about an edge of it', () => {
    for (const deg of [90, -90, 30]) {
      const outline = turnOutline(host.outline, { u: 8, v: 0 }, deg);
      const turned = applyEdit(start, { kind: 'lay', items: [{ id: 'host', plane: host.plane, outline }] });
      const [cos, sin] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
      for (const { id } of start.nodes.slice(1)) {
        const wanted = cornersOf(start, id)!.map(({ a, b, h }) => ({ a: 8 + (a - 8) * cos - b * sin, b: (a - 8) * sin + b * cos, h }));
        expect(farthest(wanted, cornersOf(turned, id)!)).toBeLessThan(2e-4);
      }
    }
  });

  it('waits while its face is gone, and is back with it', () => {
    const cut = { ...host.outline, points: host.outline.points.filter(({ id }) => id !== 4) };
    const without = applyEdit(start, { kind: 'outline', id: 'host', outline: cut } as Edit);
    expect(cornersOf(without, 'on side:4')).toBeNull();
    const back = applyEdit(without, { kind: 'outline', id: 'host', outline: host.outline } as Edit);
    expect(cornersOf(back, 'on side:4')).toEqual(cornersOf(start, 'on side:4'));
  });
});

describe('artwork on a round side', () => {
  const drum: ShapeNode = { ...host, outline: ellipseOutline({ u: 5, v: 5 }, { u: 3, v: 3 }), depth: 6 };
  const sideOf = (document: CheminDocument): Ruled | null => {
    const on = document.nodes.find(({ id }) => id === 'host') as ShapeNode;
    const form = surfaceNamed(bodyOf(on), 'side:1')?.form;
    return form && isRuled(form) ? form : null;
  };
  const band = (id: string, s: number, k: number, turn: number, width: number): PlacementNode => ({
    ...sign('side:1', { a: 0, b: 0, h: 0 }),
    id,
    anchor: anchorOnRuled(sideOf({ ...start, nodes: [drum] })!, { s, k }, { width, height: 1.2 }, turn === 0 ? {} : { turn }),
  });
  const bands = [band('upright', 0.6, 0.5, 0, 2), band('turned', 0.4, 0.4, 35, 1.5), band('over the seam', 3.9, 0.6, 0, 3)];
  const round: CheminDocument = { ...start, nodes: [drum, ...bands] };
  /** Places of a band in the world, corners and between. */
  const placesOf = (document: CheminDocument, id: string): readonly WorldPoint[] => {
    const side = sideOf(document)!;
    const { anchor } = document.nodes.find((node) => node.id === id) as PlacementNode;
    const { origin, right, down } = artworkOnRuled(anchor, side);
    return [0, 0.3, 1].flatMap((x) =>
      [0, 0.5, 1].map((y) => {
        const [across, along] = [x * anchor.width, y * anchor.height];
        return worldOnRuled(side, { u: origin.u + right.u * across + down.u * along, v: origin.v + right.v * across + down.v * along });
      }),
    );
  };
  const outlineOf = (outline: ShapeNode['outline']): Edit => ({ kind: 'outline', id: 'host', outline }) as Edit;

  it('stays where it is when its host is made deeper, or cut', () => {
    const random = randomFrom(23);
    for (let i = 0; i < runs(40); i++) {
      const depth = exactCells(4 + random() * 8);
      const deep = applyEdit(round, { kind: 'depth', id: 'host', depth });
      for (const { id } of bands) expect(farthest(placesOf(round, id), placesOf(deep, id))).toBeLessThan(1e-9);
    }
    // Half of it is cut off, straight: what lies on the other half does not move.
    const half = applyEdit(round, outlineOf({ ...drum.outline, points: drum.outline.points.filter(({ id }) => id !== 4) }));
    expect(sideOf(half)!.directrix.length).toBeLessThan(sideOf(round)!.directrix.length);
    for (const id of ['upright', 'turned']) expect(farthest(placesOf(round, id), placesOf(half, id))).toBeLessThan(1e-9);
  });

  it('goes along when it is moved, turned and mirrored', () => {
    const by = { a: 2.5, b: -1, h: 3 };
    const moved = applyEdit(round, { kind: 'move', ids: ['host'], by });
    for (const { id } of bands) expect(farthest(placesOf(round, id), placesOf(moved, id), by)).toBeLessThan(1e-9);
    const turned = applyEdit(round, { kind: 'lay', items: [{ id: 'host', plane: drum.plane, outline: turnOutline(drum.outline, { u: 8, v: 1 }, 90) }] });
    const mirrored = applyEdit(round, { kind: 'lay', items: [{ id: 'host', plane: drum.plane, outline: mapOutline(drum.outline, (p) => ({ ...p, u: 16 - p.u, ...(p.arc && { arc: { ...p.arc, u: 16 - p.arc.u } }) })) }] }); // prettier-ignore
    for (const { id } of bands) {
      const was = placesOf(round, id);
      expect(farthest(was.map(({ a, b, h }) => ({ a: 8 - (b - 1), b: 1 + (a - 8), h })), placesOf(turned, id))).toBeLessThan(3e-5); // prettier-ignore
      expect(farthest(was.map(({ a, b, h }) => ({ a: 16 - a, b, h })), placesOf(mirrored, id))).toBeLessThan(3e-5); // prettier-ignore
    }
  });

  it('waits while its side is gone, and is back with it', () => {
    const square = applyEdit(round, outlineOf(mapOutline(rectangleOutline({ u: 2, v: 2 }, { u: 8, v: 8 }), (p) => ({ ...p, id: p.id + 10 }))));
    expect(sideOf(square)).toBeNull();
    expect(square.nodes.slice(1)).toEqual(bands);
    const back = applyEdit(square, outlineOf(drum.outline));
    for (const { id } of bands) expect(placesOf(back, id)).toEqual(placesOf(round, id));
  });
});
