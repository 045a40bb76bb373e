import type { ManifoldToplevel } from 'manifold-3d';
import { bodyVolume, surfaceArea } from '../geometry/body-measures';
import type { Body } from '../geometry/body';
import { depthBody } from '../geometry/depth-recipe';
import { exactCells } from '../math/exact';
import { kernelForTests } from '../testing/kernel';
import { randomFrom, runs } from '../testing/random';
import { solidOn } from '../solids/solids';
import type { SolidKind } from '../solids/kinds';
import { joinedBody } from './join';
import type { JoinKind } from '../geometry/joined-recipe';

let kernel: ManifoldToplevel;
beforeAll(async () => {
  kernel = await kernelForTests();
});

function solid(kind: SolidKind, [a, b, h]: readonly number[], [w, l, t]: readonly number[], turn = 0, top = 0.5): Body {
  const made = solidOn(kind, { plane: { kind: 'floor', offset: h! }, from: { u: a!, v: b! }, to: { u: a! + w!, v: b! + l! }, height: t!, turn }, { ridge: l! / 2, wall: w! / 8, bar: Math.min(w!, l!) / 4, pier: w! / 4, crown: t! / 8, sides: 4, count: 3, top }); // prettier-ignore
  if (!made.ok) throw new Error(made.reason);
  return depthBody(made.value)!;
}

const join = (how: JoinKind, ...bodies: Body[]): Body | null => joinedBody(kernel, bodies.map((body, i) => ({ id: `p${i}`, body })), how); // prettier-ignore
const volume = (body: Body | null): number => (body ? bodyVolume(body)! : 0);

describe('joining solids', () => {
  it('keeps the identities of volumes for pairs on the grid, and their corners on it', () => {
    const random = randomFrom(12);
    const kinds: readonly SolidKind[] = ['box', 'box', 'wedge', 'steps', 'frame'];
    const whole = (below: number): number => Math.floor(random() * below);
    for (let i = 0; i < runs(120); i++) {
      const [p, q] = [0, 1].map(() => solid(kinds[whole(kinds.length)]!, [whole(5), whole(5), whole(4)], [2 * (1 + whole(3)), 2 * (1 + whole(3)), 3 * (1 + whole(2))], whole(4))) as [Body, Body]; // prettier-ignore
      const [both, common, left] = [join('join', p, q), join('overlap', p, q), join('take away', p, q)];
      const scale = volume(p) + volume(q);
      expect(Math.abs(volume(both) + volume(common) - volume(p) - volume(q))).toBeLessThan(1e-6 * scale);
      expect(Math.abs(volume(left) + volume(common) - volume(p))).toBeLessThan(1e-6 * scale);
      for (const body of [both, common, left]) {
        for (const surface of body?.surfaces ?? []) {
          expect(surface.from?.node).toMatch(/^p[01]$/);
          const source = [p, q][Number(surface.from!.node[1])]!.surfaces.find(({ name }) => name === surface.from!.name)!;
          expect(surfaceArea(surface)).toBeLessThanOrEqual(surfaceArea(source) * (1 + 1e-9));
        }
      }
    }
  });

  it('joins what was joined before, round sides that were cut among it', () => {
    const random = randomFrom(77);
    const whole = (below: number): number => Math.floor(random() * below);
    const ways: readonly JoinKind[] = ['join', 'take away', 'overlap'];
    for (let i = 0; i < runs(15); i++) {
      const round = (['cylinder', 'cone', 'ball', 'dome', 'tube'] as const)[i % 5]!;
      const size = round === 'dome' ? [4, 4, 2] : round === 'ball' ? [4, 4, 4] : [4, 4, 5];
      const p = solid('box', [whole(3), whole(3), whole(2)], [3 + whole(3), 3 + whole(3), 2 + whole(3)]);
      const once = join(ways[i % 3]!, ...(i % 2 === 0 ? [p, solid(round, [whole(3), whole(3), whole(3)], size)] : [solid(round, [whole(3), whole(3), whole(3)], size), p])); // prettier-ignore
      if (!once) continue;
      const other = i % 4 === 0 ? solid('cylinder', [whole(4), whole(4), 0], [2, 2, 6]) : solid('box', [whole(4), whole(4), whole(3)], [2 + whole(3), 3, 3]);
      const [left, common] = [join('take away', once, other), join('overlap', once, other)];
      expect(Math.abs(volume(left) + volume(common) - volume(once))).toBeLessThan(2e-3 * volume(once));
    }
  });

  it('puts corners of the grid exactly on it', () => {
    const body = join('take away', solid('box', [0, 0, 0], [6, 4, 3]), solid('box', [1, -1, 1], [2, 3, 4]))!;
    for (const n of body.surfaces.flatMap(({ loops }) => loops.flat())) expect(Number.isInteger(n)).toBe(true);
    expect(body.surfaces.map(({ name }) => name).sort()).toEqual(
      ['part:p0/base', 'part:p0/end', 'part:p0/side:1', 'part:p0/side:2', 'part:p0/side:3', 'part:p0/side:4', 'part:p1/base', 'part:p1/side:2', 'part:p1/side:3', 'part:p1/side:4'].sort(), // prettier-ignore
    );
    expect(volume(body)).toBe(72 - 2 * 2 * 2);
    const third = join('take away', solid('box', [0, 0, 0], [6, 4, 3]), solid('box', [1 / 3, -1, 1], [2, 3, 4]))!;
    for (const n of third.surfaces.flatMap(({ loops }) => loops.flat())) expect(n).toBe(exactCells(n));
  });

  it('makes flat pieces one again, with holes', () => {
    const body = join('take away', solid('box', [0, 0, 0], [6, 6, 2]), solid('box', [2, 2, -1], [2, 2, 4]))!;
    expect(body.surfaces).toHaveLength(10);
    const top = body.surfaces.find(({ name }) => name === 'part:p0/end')!;
    expect(top.rings.map((ring) => ring.length)).toEqual([4, 4]);
    expect(surfaceArea(top)).toBe(32);
  });

  it('bounds what round sides cut out of planes by exact conics', () => {
    const drilled = join('take away', solid('box', [0, 0, 0], [6, 6, 2]), solid('cylinder', [1, 1, -1], [4, 4, 4]))!;
    expect(volume(drilled)).toBeCloseTo(72 - Math.PI * 4 * 2, 9);
    const hole = drilled.surfaces.find(({ name }) => name === 'part:p0/end')!.rings[1]!;
    expect(hole.every(({ kind }) => kind === 'conic')).toBe(true);
    // A slanting cut through a cylinder is an ellipse.
    const slanted = join('take away', solid('cylinder', [0, 0, 0], [4, 4, 6]), solid('wedge', [-1, -1, 4], [6, 6, 8], 1))!;
    expect(slanted.surfaces.length).toBeGreaterThan(2);
    const cone = join('take away', solid('cone', [0, 0, 0], [4, 4, 4]), solid('box', [-1, -1, 1], [6, 6, 6]))!;
    expect(volume(cone)).toBeCloseTo((Math.PI / 3) * 1 * (4 + 1.75 ** 2 + 2 * 1.75), 6);
    const bowl = join('take away', solid('box', [-3, -3, 0], [6, 6, 3]), solid('ball', [-2, -2, 1], [4, 4, 4]))!;
    expect(bowl.surfaces.find(({ name }) => name === 'part:p0/end')!.rings[1]!.every(({ kind }) => kind === 'conic')).toBe(true);
  });

  it('keeps the identities with round parts, exactly where planes cut them', () => {
    const random = randomFrom(5);
    const whole = (below: number): number => Math.floor(random() * below);
    const some = (kinds: readonly SolidKind[]): Body => {
      const kind = kinds[whole(kinds.length)]!;
      const w = 2 * (1 + whole(3));
      const height = kind === 'dome' ? w / 2 : 3 * (1 + whole(2));
      return solid(kind, [whole(5), whole(5), whole(4)], [w, kind === 'cylinder' ? 2 * (1 + whole(3)) : w, height]);
    };
    for (let i = 0; i < runs(12); i++) {
      const [p, q] = [some(['cylinder', 'cone', 'ball', 'dome', 'tube', 'arch']), some(['box', 'wedge', 'frame'])];
      const scale = bodyVolume(p)! + bodyVolume(q)!;
      const [both, common, left] = [join('join', p, q), join('overlap', p, q), join('take away', p, q)];
      expect(Math.abs(volume(both) + volume(common) - scale)).toBeLessThan(1e-6 * scale);
      expect(Math.abs(volume(left) + volume(common) - bodyVolume(p)!)).toBeLessThan(1e-6 * scale);
    }
    for (let i = 0; i < runs(12); i++) {
      const round: readonly SolidKind[] = ['cylinder', 'cone', 'ball', 'dome'];
      const [p, q] = [some(round), some(round)];
      const scale = bodyVolume(p)! + bodyVolume(q)!;
      const [both, common, left] = [join('join', p, q), join('overlap', p, q), join('take away', p, q)];
      expect(Math.abs(volume(both) + volume(common) - scale)).toBeLessThan(1e-3 * scale);
      expect(Math.abs(volume(left) + volume(common) - bodyVolume(p)!)).toBeLessThan(1e-3 * scale);
    }
  });

  it('knows the volumes of what keeps the point of a cone, and of what is cut through it', () => {
    const cone = solid('cone', [0, 0, 0], [4, 4, 3], 0, 0);
    const whole = (Math.PI * 4 * 3) / 3;
    const half = join('take away', cone, solid('box', [2, -1, -1], [4, 6, 6]))!;
    expect(volume(half)).toBeCloseTo(whole / 2, 9);
    const quarter = join('take away', half, solid('box', [-1, 2, -1], [6, 4, 6]))!;
    expect(volume(quarter)).toBeCloseTo(whole / 4, 9);
    const notched = join('take away', cone, solid('box', [2, -1, -1], [4, 6, 2]))!;
    // Below the cut, half of the frustum is gone.
    const frustum = (Math.PI / 3) * (4 + 2 * (4 / 3) + 16 / 9);
    expect(volume(notched)).toBeCloseTo(whole - frustum / 2, 9);
    const standing = join('join', solid('box', [-1, -1, -2], [6, 6, 2]), cone)!;
    expect(volume(standing)).toBeCloseTo(72 + whole, 9);
    const slant = join('take away', cone, solid('wedge', [-1, -1, 1], [6, 6, 4]))!;
    const rest = join('overlap', cone, solid('wedge', [-1, -1, 1], [6, 6, 4]))!;
    expect(volume(slant) + volume(rest)).toBeCloseTo(whole, 6);
  });

  it('has nothing in common where solids only touch', () => {
    expect(join('overlap', solid('box', [0, 0, 0], [2, 2, 2]), solid('box', [2, 0, 0], [2, 2, 2]))).toBeNull();
    expect(join('overlap', solid('box', [0, 0, 0], [4, 4, 2]), solid('cylinder', [0, 0, 2], [4, 4, 2]))).toBeNull();
    expect(join('overlap', solid('box', [0, 0, 0], [2, 2, 2]), solid('box', [2, 2, 0], [2, 2, 2]))).toBeNull();
  });

  it('joins two hundred parts in one act', () => {
    const parts = Array.from({ length: 200 }, (_, i) => solid('box', [(i % 20) * 2, Math.floor(i / 20) * 2, -1], [1, 1, 3]));
    const plate = join('take away', solid('box', [-1, -1, 0], [42, 22, 1]), ...parts)!;
    expect(bodyVolume(plate)).toBeCloseTo(42 * 22 - 200, 6);
    expect(plate.surfaces.find(({ name }) => name === 'part:p0/end')!.rings).toHaveLength(201);
  });

  it('joins what crosses itself as the lobes that it bounds', () => {
    const bow = { points: [[0, 0], [4, 4], [4, 0], [0, 4]].map(([u, v], i) => ({ id: i + 1, u: u!, v: v! })), closed: true }; // prettier-ignore
    // Two triangles of 4 square cells that meet in (2, 2), half of each over the box.
    const crossed = depthBody({ plane: { kind: 'floor', offset: 0 }, outline: bow, depth: 2 })!;
    const box = solid('box', [0, 0, 0], [4, 2, 2]);
    expect(volume(crossed)).toBeCloseTo(16, 9);
    expect(volume(join('join', box, crossed)) + volume(join('overlap', box, crossed))).toBeCloseTo(32, 6);
    expect(volume(join('overlap', box, crossed))).toBeCloseTo(8, 6);
  });

  it('leaves nothing of what is wholly taken away', () => {
    expect(join('take away', solid('box', [1, 1, 1], [1, 1, 1]), solid('box', [0, 0, 0], [4, 4, 4]))).toBeNull();
    expect(join('overlap', solid('box', [0, 0, 0], [1, 1, 1]), solid('box', [5, 0, 0], [4, 4, 4]))).toBeNull();
  });
});
