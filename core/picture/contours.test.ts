import { depthBody } from '../geometry/depth-recipe';
import { projectionFrom } from '../projection/projection';
import { sightFrom } from '../projection/sight';
import { outlineThrough, rectangleOutline } from '../shape/outline';
import { flattenPath, roughLength, splitPath, type Path } from '../shape/path';
import { randomFrom, runs } from '../testing/random';
import { box, FAMILIES, rayThrough, round, scene, truthAt, type Solid } from '../testing/solids';
import { drawBody, rangeDirections, type View } from '../visibility/drawn-body';
import { SunShades } from '../shadow/shade';
import { ContourKeeper, type EdgeLight, type ThingLines } from './contours';

const viewOf = (setup: (typeof FAMILIES)[number][1]): View => {
  const sight = sightFrom(projectionFrom(setup));
  return { sight, directions: rangeDirections(sight) };
};

const linesOf = (solids: readonly Solid[], view: View, keys: (i: number) => string | null = String): readonly ThingLines[] => new ContourKeeper().update(solids.map(({ body }, i) => ({ drawn: drawBody(view, body), key: keys(i) })), true); // prettier-ignore

/** Where some lines cross a level line of the sheet. */
function crossings(paths: readonly Path[], y: number): readonly number[] {
  const at: number[] = [];
  for (const path of paths) {
    const closed = (path.verbs.match(/M[LC]*Z?/g) ?? []).map((piece) => piece.endsWith('Z'));
    flattenPath(path, 1e-3).forEach((line, k) => {
      const all = closed[k] ? [...line, line[0]!, line[1]!] : line;
      for (let i = 0; i + 3 < all.length; i += 2) {
        const [x0, y0, x1, y1] = [all[i]!, all[i + 1]!, all[i + 2]!, all[i + 3]!];
        if (y0 > y !== y1 > y) at.push(x0 + ((x1 - x0) * (y - y0)) / (y1 - y0));
      }
    });
  }
  return at.sort((p, q) => p - q);
}

const STEP = 0.03;
const LEVELS = runs(5);

describe('contours', () => {
  it.each(FAMILIES.slice(0, 9))('lie where one thing ends against another, and nowhere else: %s', (_, setup) => {
    const projection = projectionFrom(setup);
    const view = viewOf(setup);
    let compared = 0;
    for (const [seed, kinds] of [
      [21, ['box', 'angle', 'wedge', 'steps']],
      [22, ['cylinder', 'cone', 'ball', 'box', 'tube']],
    ] as const) {
      // prettier-ignore
      const solids = scene(seed, 14, kinds, false);
      const lines = linesOf(solids, view).map(({ contour }) => contour);
      const ys = lines.flatMap(({ coords }) => coords.filter((__, i) => i % 2 === 1)).sort((p, q) => p - q);
      const [low, high] = [Math.max(0, ys[Math.floor(ys.length * 0.1)]!), Math.min(200, ys[Math.floor(ys.length * 0.9)]!)];
      const random = randomFrom(seed);
      for (let level = 0; level < LEVELS; level++) {
        // Not along an edge, and not through the end of one: lines stop a hundredth of a mm before what hides them.
        let y = low + random() * (high - low);
        while (ys.some((at) => Math.abs(at - y) < 0.03)) y = low + random() * (high - low);
        const labels = Array.from({ length: Math.round(300 / STEP) }, (__, i) => truthAt(solids, rayThrough(projection, { x: i * STEP, y })));
        const drawn = crossings(lines, y);
        const near = (x: number, list: readonly number[]): boolean => list.some((at) => Math.abs(at - x) < 3 * STEP);
        const changes: number[] = [];
        labels.forEach((label, i) => i > 0 && label !== labels[i - 1] && changes.push((i - 0.5) * STEP));
        // Where two things are met at nearly one place it is not known which is seen.
        const unknown = labels.flatMap((label, i) => (label === undefined ? [i * STEP] : []));
        const missing = changes.filter((x) => !near(x, drawn) && !near(x, unknown));
        const extra = drawn.filter((x) => x > 1 && x < 299 && !near(x, changes) && !near(x, unknown));
        compared += changes.length;
        expect([seed, y, missing, extra]).toEqual([seed, y, [], []]);
      }
    }
    expect(compared).toBeGreaterThan(20);
  });

  it('go round groups, and round everything together, as round one thing', () => {
    const view = viewOf(FAMILIES[0]![1]);
    const solids = [box([0, 0, 0], [2, 2, 2]), box([2, 0, 0], [4, 2, 2]), box([9, 0, 0], [11, 2, 2])];
    const total = (lines: readonly ThingLines[]): number => lines.reduce((sum, { contour }) => sum + flattenPath(contour, 1e-3).reduce((length, line) => length + roughLength({ verbs: '', coords: line }), 0), 0); // prettier-ignore
    const whole = linesOf(solids, view, (i) => (i < 2 ? 'both' : 'other'));
    expect(whole.map(({ key }) => key)).toEqual(['both', 'other']);
    expect(linesOf(solids, view, () => 'all')).toHaveLength(1);
    // Between two boxes that stand flush there is no contour when they are one.
    expect(total(linesOf(solids, view))).toBeGreaterThan(total(whole) + 1);
    expect(linesOf(solids, view, (i) => (i === 0 ? null : 'x'))).toHaveLength(1);
  });

  it('close at their corners', () => {
    const [lines] = linesOf([box([0, 0, 0], [3, 4, 5])], viewOf(FAMILIES[0]![1]));
    expect(lines!.contour.verbs).toBe('MLLLLLZ');
    expect(lines!.creases.verbs.match(/L/g)).toHaveLength(3);
    expect(lines!.smooth.verbs).toBe('');
  });
});

/** How many lit edges an angle of two boxes shows whose inner corner is turned to the eye and the light. */
function linesInRoom(): number {
  const outline = outlineThrough([{ u: 0, v: 0 }, { u: 1, v: 0 }, { u: 1, v: 3 }, { u: 4, v: 3 }, { u: 4, v: 4 }, { u: 0, v: 4 }], true); // prettier-ignore
  const body = depthBody({ plane: { kind: 'floor', offset: 0 }, outline, depth: 2 })!;
  const [lines] = new ContourKeeper().update([{ drawn: drawBody(viewOf(FAMILIES[0]![1]), body), key: 'x' }], true, {
    towards: { a: 0.3, b: -0.6, h: 0.7 },
    shades: new Map(),
  });
  return (lines!.lit.verbs.match(/L/g) ?? []).length;
}

describe('inner edges', () => {
  const view = viewOf(FAMILIES[0]![1]);

  it('are left out where two faces lie in one plane', () => {
    // Two faces of one box that were made of an outline with a point in the middle of an edge.
    const outline = outlineThrough([{ u: 0, v: 0 }, { u: 2, v: 0 }, { u: 4, v: 0 }, { u: 4, v: 3 }, { u: 0, v: 3 }], true); // prettier-ignore
    const split = { body: depthBody({ plane: { kind: 'floor', offset: 0 }, outline, depth: 2 })!, spans: () => [], meet: () => null };
    const plain = { ...split, body: depthBody({ plane: { kind: 'floor', offset: 0 }, outline: rectangleOutline({ u: 0, v: 0 }, { u: 4, v: 3 }), depth: 2 })! };
    const length = (solid: Solid): number => roughLength({ verbs: '', coords: linesOf([solid], view)[0]!.creases.coords });
    expect(split.body.surfaces).toHaveLength(7);
    expect(length(split)).toBeCloseTo(length(plain), 1);
  });

  it('of round things are their rims, which are no silhouettes', () => {
    const [lines] = linesOf([round([0, 0, 0], 2, 2, 3)], view);
    expect(splitPath(lines!.creases)).toHaveLength(1);
    expect(lines!.creases.verbs).toContain('C');
  });

  it('that stand out with both faces to the light are told', () => {
    // Seen and lit from one side: the edges between the three faces of a box; of two boxes in an angle not the one between them.
    const keeper = new ContourKeeper();
    const cube = [{ drawn: drawBody(view, box([0, 0, 0], [3, 4, 5]).body), key: 'cube' }];
    const count = (towards: { a: number; b: number; h: number }): number =>
      (keeper.update(cube, true, { towards, shades: new Map() })[0]!.lit.verbs.match(/L/g) ?? []).length;
    expect(count({ a: -0.5, b: -0.5, h: 0.7 })).toBe(3);
    expect(count({ a: 0.5, b: -0.5, h: 0.7 })).toBe(1);
    expect(count({ a: 0.5, b: 0.5, h: 0.7 })).toBe(0);
    // What the shadow of something takes is no longer lit: half of the front edge at the top.
    const slab = box([-3, -2, 7], [0.5, 4, 8]).body;
    const [body] = [box([0, 0, 0], [3, 4, 5]).body];
    const shades = new SunShades({ a: -0.5, b: -0.5, h: 0.7 }).update([body, slab].map((some) => ({ body: some, casts: true, receives: true, half: 0 })));
    const length = (light: EdgeLight): number =>
      roughLength({ verbs: '', coords: new ContourKeeper().update([{ drawn: drawBody(view, body), key: 'c' }], true, light)[0]!.lit.coords });
    const towards = { a: -0.5, b: -0.5, h: 0.7 };
    expect(length({ towards, shades })).toBeLessThan(0.9 * length({ towards, shades: new Map() }));
    const room = linesInRoom();
    expect(room).toBeLessThan(5);
  });

  it('keep what did not change', () => {
    const keeper = new ContourKeeper();
    const bodies = [box([0, 0, 0], [2, 2, 2]), box([8, 8, 0], [10, 10, 2])].map(({ body }, i) => ({ drawn: drawBody(view, body), key: String(i) }));
    const before = keeper.update(bodies, true);
    const moved = { drawn: drawBody(view, box([8, 8, 1], [10, 10, 2]).body), key: '1' };
    const after = keeper.update([bodies[0]!, moved], true);
    expect(after[0]).toBe(before[0]);
    expect(after[1]).not.toBe(before[1]);
  });
});
