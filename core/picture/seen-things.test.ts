import { readFileSync } from 'node:fs';
import * as fontkit from 'fontkit';
import { letterFrame, letteringGroup } from '../document/lettering-group';
import { roundStart } from '../document/round-line';
import { emptyDocument, type CheminDocument, type CopyNode, type DocumentNode, type GroupNode, type ShapeNode } from '../document/types';
import { surfaceNamed } from '../geometry/body';
import { bodyOf } from '../geometry/book';
import type { Ruled } from '../geometry/ruled';
import { carryPoint, type RigidMap } from '../geometry/rigid';
import { gridOf } from '../grid/settings';
import { layCells } from '../lettering/cell-letters';
import { layText, type TextFont } from '../lettering/lay-text';
import type { Lettering } from '../lettering/lettering';
import { dotWorld, subtractWorld, type WorldPoint } from '../math/points';
import { projectionFrom } from '../projection/projection';
import { planeFrame, type Plane } from '../projection/planes';
import { ellipseOutline } from '../shape/forms';
import { rectangleOutline, ringsOf } from '../shape/outline';
import { flattenOutline } from '../shape/segments';
import { randomFrom, runs } from '../testing/random';
import { FAMILIES, rayThrough, type Ray, type Span } from '../testing/solids';
import { drawnNodes } from './drawn-nodes';
import { pickAt } from './pick';
import { PictureMaker } from './picture';

const font = fontkit.create(readFileSync('node_modules/@fontsource/zilla-slab/files/zilla-slab-latin-700-normal.woff')) as TextFont;
const PAINT = { fill: '#c98a4b', line: null };
const head = (id: string): { id: string; name: string; hidden: false; locked: false } => ({ id, name: id, hidden: false, locked: false });
const POINTS = runs(120);

/** A drawing at random: letters with depth on planes and around a drum, boxes, drums, and linked copies of all of them. A cell is a mm. */
function drawing(seed: number): CheminDocument {
  const random = randomFrom(seed);
  const half = (below: number): number => Math.floor(random() * 2 * below) / 2;
  const plane = (): Plane => ({ kind: (['floor', 'left', 'right'] as const)[Math.floor(random() * 3)]!, offset: half(12) });
  const shape = (id: string, part: Partial<ShapeNode>): ShapeNode => ({ kind: 'shape', ...head(id), plane: plane(), outline: rectangleOutline({ u: half(10), v: half(10) }, { u: 12 + half(3), v: 12 + half(3) }), depth: 1 + half(4), paint: PAINT, ...part }); // prettier-ignore
  const drum = shape('drum', { plane: { kind: 'floor', offset: 0 }, outline: ellipseOutline({ u: 8, v: 8 }, { u: 5, v: 5 }), depth: 7 });
  const side = surfaceNamed(bodyOf(drum), 'side:1')!.form as Ruled;
  const around = roundStart(side, random() * 4, 0.3);
  const written = (id: string, lettering: Lettering): GroupNode => {
    const laid = lettering.kind === 'font' ? layText(font, lettering) : layCells(lettering);
    return letteringGroup(head(id), lettering, laid, letterFrame(plane(), { u: half(12), v: half(12) }), { depth: 0.5 + half(2), paint: PAINT });
  };
  const shared = { letter: 0.1, line: 4, align: 'left' } as const;
  const nodes: DocumentNode[] = [
    drum,
    shape('box', {}),
    shape('post', { outline: ellipseOutline({ u: half(16), v: half(16) }, { u: 1, v: 1 }) }),
    written('cells', { kind: 'cells', text: 'QR8', stem: 0.5, width: 2.5, height: 3, corner: (['square', 'cut', 'round'] as const)[seed % 3]!, ...shared }),
    written('font', { kind: 'font', text: 'Quay', font: 'x', cap: 3, word: 0, ...shared }),
    ...(around?.kind === 'round' ? [written('round', { kind: 'font', text: 'NINE', font: 'x', cap: 2, word: 0, ...shared, around: around.round })] : []),
  ];
  const copy = (id: string, of: string, more: Partial<CopyNode>): CopyNode => ({ kind: 'copy', ...head(id), of, by: { a: half(14), b: half(14), h: half(10) }, ...more }); // prettier-ignore
  nodes.push(copy('c1', 'cells', {}), copy('c2', 'font', { axes: ['b', '-a', 'h'] }), copy('c3', 'font', { axes: ['a', '-b', 'h'] }), copy('c4', 'box', { turn: { axis: 'h', deg: 30 } })); // prettier-ignore
  return { ...emptyDocument('d', 'd'), grid: gridOf(1), nodes };
}

/** A ray as it meets what is carried: taken back by the move. */
function taken({ from, toEye, most }: Ray, map: RigidMap | null): Ray {
  if (!map) return { from, toEye, most };
  const back = (p: WorldPoint): WorldPoint => ({ a: dotWorld(p, map.columns[0]), b: dotWorld(p, map.columns[1]), h: dotWorld(p, map.columns[2]) });
  return { from: back(subtractWorld(from, carryPoint(map, { a: 0, b: 0, h: 0 }))), toEye: back(toEye), most };
}

const rings = new WeakMap<ShapeNode, readonly (readonly { u: number; v: number }[])[]>();

/** Where a ray is inside of a shape with depth: between its ends, and within its outline followed to a hundred-thousandth of a cell. */
function spansOf(shape: ShapeNode, ray: Ray): readonly Span[] {
  const { origin, u, v, normal } = planeFrame(shape.plane, 1)!;
  const from = subtractWorld(ray.from, origin);
  const [x, y, z] = [dotWorld(from, u), dotWorld(from, v), dotWorld(from, normal)];
  const [dx, dy, dz] = [dotWorld(ray.toEye, u), dotWorld(ray.toEye, v), dotWorld(ray.toEye, normal)];
  const low = shape.start ?? 0;
  const ends = [(low - z) / dz, (low + shape.depth - z) / dz].sort((p, q) => p - q) as [number, number];
  let flat = rings.get(shape);
  if (!flat) rings.set(shape, (flat = ringsOf(shape.outline).map((ring) => flattenOutline(ring, 1e-5))));
  const crossings: number[] = [];
  for (const ring of flat) {
    ring.forEach((p, i) => {
      const q = ring[(i + 1) % ring.length]!;
      // The ray's shadow on the plane crosses the edge where both ends lie on different sides of it.
      const side = (r: { u: number; v: number }): number => (r.u - x) * dy - (r.v - y) * dx;
      const [s, t] = [side(p), side(q)];
      if (s > 0 === t > 0) return;
      const k = s / (s - t);
      const at = { u: p.u + (q.u - p.u) * k, v: p.v + (q.v - p.v) * k };
      crossings.push(Math.abs(dx) > Math.abs(dy) ? (at.u - x) / dx : (at.v - y) / dy);
    });
  }
  crossings.sort((p, q) => p - q);
  return Array.from({ length: crossings.length / 2 }, (_, i): Span => [Math.max(crossings[2 * i]!, ends[0]), Math.min(crossings[2 * i + 1]!, ends[1])]).filter(([p, q]) => p < q); // prettier-ignore
}

/** The thing that a ray meets first; null for none, undefined where two are met at nearly one place, or the eye is inside of one. */
function truthAt(document: CheminDocument, ray: Ray): string | null | undefined {
  let [best, second, found]: [number, number, string | null] = [-Infinity, -Infinity, null];
  for (const { node, owner, map } of drawnNodes(document)) {
    if (node.kind !== 'shape') continue;
    for (const [low, t] of spansOf(node, taken(ray, map))) {
      if (low < ray.most && t >= ray.most) return undefined;
      if (t >= ray.most) continue;
      if (t > best) [second, best, found] = [owner === found ? second : best, t, owner];
      else if (t > second && owner !== found) second = t;
    }
  }
  return found && best - second < 1e-3 * (ray.most < 0 ? Math.abs(best) : 1) ? undefined : found;
}

describe('letters, and copies of them, cutting through each other and others', () => {
  it.each(FAMILIES)('are picked and painted where a ray meets them first: %s', (_, setup) => {
    const projection = projectionFrom(setup);
    let compared = 0;
    for (const seed of [1, 2]) {
      const document = { ...drawing(seed), projection: setup };
      const picture = new PictureMaker().make(document);
      const places = picture.visible.flatMap(({ polygon }) => Array.from({ length: polygon.length / 2 }, (__, i) => [polygon[2 * i]!, polygon[2 * i + 1]!] as const)); // prettier-ignore
      const random = randomFrom(seed + 90);
      const wrong: unknown[] = [];
      for (let tries = 0; tries < POINTS; tries++) {
        const [x, y] = places[Math.floor(random() * places.length)]!;
        const s = { x: x + (random() - 0.5) * 4, y: y + (random() - 0.5) * 4 };
        const truth = truthAt(document, rayThrough(projection, s));
        if (!truth) continue;
        const clear = [[0.02, 0], [-0.02, 0], [0, 0.02], [0, -0.02]].every(([dx, dy]) => truthAt(document, rayThrough(projection, { x: s.x + dx!, y: s.y + dy! })) === truth); // prettier-ignore
        if (!clear) continue;
        compared++;
        const picked = [[0, 0], [0.01, 0], [-0.01, 0], [0, 0.01], [0, -0.01]].map(([dx, dy]) => pickAt(picture, { x: s.x + dx!, y: s.y + dy! }, 0)?.node); // prettier-ignore
        if (!picked.includes(truth)) wrong.push([seed, s, truth, picked[0]]);
      }
      expect(wrong).toEqual([]);
    }
    expect(compared).toBeGreaterThan(POINTS / 3);
  });
});
