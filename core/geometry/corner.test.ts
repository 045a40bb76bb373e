import { dotWorld, subtractWorld, type WorldPoint } from '../math/points';
import { rectangleOutline } from '../shape/outline';
import { polygonOutline } from '../shape/forms';
import { artworkOnSurface, type ArtworkAnchor } from './anchor';
import { surfaceNamed, type Body } from './body';
import { anchorRound, cornersOf } from './corner';
import { depthBody } from './depth-recipe';

const box = depthBody({ plane: { kind: 'floor', offset: 1 }, outline: rectangleOutline({ u: 2, v: 3 }, { u: 6, v: 8 }), depth: 4 })!;
const prism = depthBody({ plane: { kind: 'floor', offset: 0 }, outline: polygonOutline({ u: 5, v: 5 }, { u: 8, v: 6 }, 5), depth: 3 })!;

/** The spot of artwork at a place of a surface's plane. */
function spot(body: Body, name: string, anchor: ArtworkAnchor, p: WorldPoint): readonly [number, number] {
  const { origin, u, v } = artworkOnSurface(anchor, surfaceNamed(body, name)!)!;
  const off = subtractWorld(p, origin);
  return [dotWorld(off, u), dotWorld(off, v)];
}

describe('artwork that goes on round a corner', () => {
  it('finds the neighbours of a face: four of a box, and those of a prism', () => {
    for (const surface of box.surfaces) expect(cornersOf(box, surface).map(({ to }) => to.name)).toHaveLength(4);
    const side = prism.surfaces.find(({ name }) => name.startsWith('side'))!;
    expect(cornersOf(prism, side)).toHaveLength(4);
  });

  it.each([
    ['a box', box],
    ['a prism of five sides', prism],
  ])('shows the same spot on both sides of every edge, and keeps its size, upright or turned: %s', (_, body) => {
    for (const surface of body.surfaces) {
      for (const change of [{}, { turn: 25 }, { mirrored: true as const }]) {
        const { a, b, h } = { a: surface.loops[0]![0]!, b: surface.loops[0]![1]!, h: surface.loops[0]![2]! };
        const anchor: ArtworkAnchor = { at: { a, b, h }, width: 2, height: 1.5, ...change };
        for (const corner of cornersOf(body, surface)) {
          const over = anchorRound(anchor, surface, corner)!;
          expect([over.width, over.height]).toEqual([2, 1.5]);
          for (const t of [0, 0.3, 1]) {
            const p = {
              a: corner.from.a + (corner.until.a - corner.from.a) * t,
              b: corner.from.b + (corner.until.b - corner.from.b) * t,
              h: corner.from.h + (corner.until.h - corner.from.h) * t,
            };
            const [here, there] = [spot(body, surface.name, anchor, p), spot(body, corner.to.name, over, p)];
            // To a tick of a cell, to which anchors are exact.
            expect(Math.hypot(here[0] - there[0], here[1] - there[1])).toBeLessThan(3e-5);
          }
        }
      }
    }
  });
});
