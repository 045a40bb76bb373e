import type { Sheet } from '../document/types';
import { flatInk, type GroupMark, type Mark, type PathMark } from '../artwork/marks';
import { Resvg } from '@resvg/resvg-js';
import { svgFromSheet } from '../output/paint-svg';
import { isometricSetup } from '../projection/setup';
import { acrossAll, isRuled, ruledCoordinates, type Ruled } from '../geometry/ruled';
import { anchorOnRuled, artworkOnRuled, worldOnRuled } from '../geometry/wrapping';
import { IDENTITY } from '../math/matrix';
import type { SheetPoint } from '../math/points';
import { containsPoint } from '../math/polygon';
import { facing, projectionFrom, sheetFromWorld } from '../projection/projection';
import { pxUnder } from '../imaging/place';
import { flattenPath, polygonPath, type Path } from '../shape/path';
import { FAMILIES, round } from '../testing/solids';
import { ruledNormal } from '../geometry/ruled';
import { ruledNear } from '../geometry/wrapping';
import { seenStretches } from '../visibility/stretches';
import { wrapMarks } from './wrap-marks';

const path = (verbs: string, coords: readonly number[], more: Partial<PathMark> = {}): PathMark => ({ kind: 'path', path: { verbs, coords }, fill: flatInk('#b4553c'), rule: 'nonzero', line: null, ...more }); // prettier-ignore
const sideOf = (radius: number, top: number, height: number): Ruled =>
  round([10, 9, 2], radius, top, height)
    .body.surfaces.map(({ form }) => form)
    .find(isRuled)!;
const pathsOf = (marks: readonly Mark[]): readonly Path[] => marks.flatMap((mark) => (mark.kind === 'group' ? pathsOf(mark.marks) : [mark.path]));
const IMAGE: Mark = { kind: 'image', bitmap: 'b', path: polygonPath([0, 0, 2, 0, 2, 1, 0, 1]), place: { kind: 'flat', map: [2, 0, 0, 0, 1, 0, 0, 0, 1] } };

/** A curved figure in a box of 2 by 1, and whether a place lies in it. */
const FIGURE = path('MCCZ', [0.1, 0.5, 0.1, -0.15, 1.9, -0.15, 1.9, 0.5, 1.9, 1.15, 0.1, 1.15, 0.1, 0.5]);
const RING = flattenPath(FIGURE.path, 1e-6)[0]!;

/** How near a place of the flat lies to the figure's edge. */
function edgeAt(x: number, y: number): number {
  let least = Infinity;
  for (let i = 0; i < RING.length; i += 2) least = Math.min(least, Math.hypot(x - RING[i]!, y - RING[i + 1]!));
  return least;
}

describe('marks on a round side', () => {
  const inside = (paths: readonly Path[], { x, y }: SheetPoint): boolean => paths.some((one) => flattenPath(one, 1e-4).filter((ring) => containsPoint(ring, x, y)).length % 2 === 1); // prettier-ignore

  it.each(FAMILIES)('are seen where the unrolled side has them: %s', (_, setup) => {
    const projection = projectionFrom(setup);
    for (const [radius, top, s] of [
      [2, 2, 1.6],
      [2, 1, 2.4],
      [1, 2, 2.9],
      [2, 2, 3.97],
    ] as const) {
      // prettier-ignore
      const ruled = sideOf(radius, top, 4);
      const anchor = anchorOnRuled(ruled, { s, k: 0.5 }, { width: 2, height: 1 });
      const wrapping = artworkOnRuled(anchor, ruled);
      const shown = seenStretches(projection, ruled).flatMap((stretch) => pathsOf(wrapMarks([FIGURE], IDENTITY, wrapping, ruled, stretch, projection)));
      for (let i = 0; i <= 20; i++) {
        for (let k = 0; k <= 10; k++) {
          const [x, y] = [i / 10, k / 10];
          const { origin, right, down } = wrapping;
          const world = worldOnRuled(ruled, { u: origin.u + right.u * x + down.u * y, v: origin.v + right.v * x + down.v * y });
          const turned = facing(projection, ruledNormal(ruled, ruledNear(ruled, world).s), world);
          const spot = sheetFromWorld(projection, world);
          if (!spot || Math.abs(turned) < 0.3 || edgeAt(x, y) < 0.01) continue;
          const truth = turned > 0 && containsPoint(RING, x, y);
          if (turned > 0) expect(inside(shown, spot)).toBe(truth);
        }
      }
    }
  });

  it('keep their widths round the side: a band meets itself all round', () => {
    const ruled = sideOf(2, 2, 4);
    const projection = projectionFrom(FAMILIES[0]![1]);
    const whole = 4 * Math.PI;
    const anchor = anchorOnRuled(ruled, { s: 2, k: 0.5 }, { width: whole, height: 4 });
    const [stretch] = seenStretches(projection, ruled);
    const band = path('MLLLZ', [0, 0, whole, 0, whole, 4, 0, 4]);
    const shown = pathsOf(wrapMarks([band], IDENTITY, artworkOnRuled(anchor, ruled), ruled, stretch!, projection));
    // All that is seen of the side is covered, in one piece or several that meet.
    for (let i = 1; i < 40; i++) {
      const s = stretch!.from + ((stretch!.to - stretch!.from) * i) / 40;
      const spot = sheetFromWorld(projection, worldOnRuled(ruled, ruledCoordinates(ruled, s % 4, 0.5)))!;
      expect(inside(shown, spot)).toBe(true);
    }
  });

  it('keep clips, strengths and gradients, and lines as the areas that they cover', () => {
    const ruled = sideOf(2, 2, 4);
    const projection = projectionFrom(FAMILIES[0]![1]);
    const wrapping = artworkOnRuled(anchorOnRuled(ruled, { s: 2.4, k: 0.5 }, { width: 2, height: 1 }), ruled);
    const [stretch] = seenStretches(projection, ruled);
    const stops = [{ at: 0, colour: '#102030', strength: 1 }, { at: 1, colour: '#f0e0d0', strength: 1 }]; // prettier-ignore
    const marks: readonly Mark[] = [
      {
        kind: 'group',
        node: null,
        name: 'g',
        clip: { path: FIGURE.path, rule: 'nonzero' },
        strength: 0.5,
        marks: [path('MLLLZ', [0, 0, 2, 0, 2, 1, 0, 1], { fill: { kind: 'linear', from: [0, 0], to: [2, 0], stops, frame: IDENTITY } })],
      },
      path('ML', [0.2, 0.5, 1.8, 0.5], {
        fill: null,
        line: { ink: flatInk('#000000'), width: 0.1, cap: 'butt', join: 'miter', miterLimit: 4, dashes: [0.2, 0.1], pen: IDENTITY },
      }),
    ];
    const [group, line] = wrapMarks(marks, IDENTITY, wrapping, ruled, stretch!, projection) as [GroupMark, PathMark];
    expect(group).toMatchObject({ kind: 'group', strength: 0.5 });
    expect(group.clip!.path.verbs).toContain('C');
    // A gradient that bends away is in fields.
    expect(pathsOf(group.marks).length).toBeGreaterThan(20);
    expect(line).toMatchObject({ kind: 'path', line: null });
    expect(pathsOf([line])[0]!.verbs.split('M').length - 1).toBe(6);
  });
});

describe('one colour over a flat cone, which is drawn in parts', () => {
  const projection = projectionFrom(isometricSetup({ x: 30, y: 40 }));
  const ruled = sideOf(6, 0, 1);

  /** The darkest and the lightest red of a px along where two parts meet, with artwork of a strength over it. */
  function along(strength: number, size: number): readonly [number, number] {
    const cover = path('MLLLZ', [0, 0, 4, 0, 4, 3, 0, 3], { fill: flatInk('#204080', strength) });
    const wrapping = artworkOnRuled(anchorOnRuled(ruled, { s: 4 / 3, k: 0.5 }, { width: 4, height: 3 }), ruled);
    const marks = seenStretches(projection, ruled).flatMap((stretch) => wrapMarks([cover], IDENTITY, wrapping, ruled, stretch, projection));
    expect(marks.length).toBeGreaterThan(1);
    const sheet = { width: 60, height: 60, background: '#ffffff' } as Sheet;
    const { pixels, width } = new Resvg(svgFromSheet({ sheet, marks: [{ kind: 'group', node: null, name: '', clip: null, strength: 1, marks }], background: true }, 'x'), { fitTo: { mode: 'width', value: size } }).render(); // prettier-ignore
    const reds: number[] = [];
    const { origin, right, down } = wrapping;
    for (let x = 0.5; x < 3.5; x += 0.01) {
      for (let y = 0.5; y < 2.5; y += 0.02) {
        const world = worldOnRuled(ruled, { u: origin.u + right.u * x + down.u * y, v: origin.v + right.v * x + down.v * y });
        const spot = sheetFromWorld(projection, world)!;
        reds.push(pixels[4 * (Math.floor((spot.y * size) / 60) * width + Math.floor((spot.x * size) / 60))]!);
      }
    }
    return [Math.min(...reds), Math.max(...reds)];
  }

  it('is that colour at any size', () => {
    for (const size of [600, 947, 1571]) expect([size, ...along(1, size)]).toEqual([size, 32, 32]);
  });

  it('lies twice nowhere where light gets through', () => {
    expect(along(0.5, 947)[0]).toBeGreaterThanOrEqual(143);
  });
});

describe('a bitmap on a round side', () => {
  it.each(FAMILIES)('has under each place of the sheet the px that lies there: %s', (_, setup) => {
    const projection = projectionFrom(setup);
    const size = { width: 400, height: 200 };
    let compared = 0;
    for (const [radius, top, height] of [
      [2, 2, 4],
      [2, 1, 4],
      [1, 2, 3],
      [3, 0, 0.5],
    ] as const) {
      // prettier-ignore
      const ruled = sideOf(radius, top, height);
      for (const s of [0.4, 1.6, 2.9]) {
        const wrapping = artworkOnRuled(anchorOnRuled(ruled, { s, k: 0.5 }, { width: 2, height: 1 }), ruled);
        const images = seenStretches(projection, ruled)
          .flatMap((stretch) => wrapMarks([IMAGE], IDENTITY, wrapping, ruled, stretch, projection))
          .flatMap((mark) => (mark.kind === 'image' ? [mark] : []));
        for (let i = 0; i < 40; i++) {
          const [x, y] = [(i % 8) / 4 + 0.1, Math.floor(i / 8) / 5 + 0.1];
          const { origin, right, down } = wrapping;
          const own = { u: origin.u + right.u * x + down.u * y, v: origin.v + right.v * x + down.v * y };
          // In the gap that a cone's sector leaves of the whole round there is nothing.
          const angle = Math.atan2(own.v, own.u);
          if (ruled.kind === 'cone' && (angle < 0 ? angle + 2 * Math.PI : angle) > acrossAll(ruled)) continue;
          const world = worldOnRuled(ruled, own);
          const on = ruledNear(ruled, world);
          const spot = sheetFromWorld(projection, world);
          if (!spot || facing(projection, ruledNormal(ruled, on.s), world) < 0.3 || on.k < 0.02 || on.k > 0.98) continue;
          const there = images.filter((image) => flattenPath(image.path, 1e-4).filter((ring) => containsPoint(ring, spot.x, spot.y)).length % 2 === 1);
          if (there.length === 0) continue;
          // Near the point of a flat cone artwork can lie over itself.
          const misses = there.map(({ place }) => {
            const out = new Float64Array(2);
            pxUnder(place, size)!(spot.x, spot.y, out, 0);
            return Math.hypot(out[0]! - x * 200, out[1]! - y * 200);
          });
          expect(Math.min(...misses)).toBeLessThan(1e-4);
          compared++;
        }
      }
    }
    expect(compared).toBeGreaterThan(40);
  });
});
