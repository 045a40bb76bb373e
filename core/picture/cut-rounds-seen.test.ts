import { emptyDocument, type CheminDocument, type GroupNode, type ShapeNode } from '../document/types';
import { bodyVolume, surfaceArea } from '../geometry/body-measures';
import { bodyOf } from '../geometry/book';
import { contactOf } from '../geometry/contact';
import { joinWith, type JoinKind } from '../geometry/joined-recipe';
import type { Surface } from '../geometry/body';
import { joinedBody } from '../joining/join';
import { addWorld, scaleWorld, type WorldPoint } from '../math/points';
import { CLEAR_OF_NEAR } from '../math/tolerances';
import { axesInCamera } from '../projection/camera';
import { projectionFrom } from '../projection/projection';
import type { ProjectionSetup } from '../projection/setup';
import { ellipseOutline } from '../shape/forms';
import { rectangleOutline } from '../shape/outline';
import { solidOn } from '../solids/solids';
import { kernelForTests } from '../testing/kernel';
import { coloursAt } from '../testing/painted-at';
import { randomFrom, runs } from '../testing/random';
import { leftOf, type Profile } from '../testing/sections';
import { box, CAMERA, drawnAtOnce, FAMILIES, joinedSolid, rayThrough, round, type Ray, type Solid, type Triple } from '../testing/solids';
import { pickAt } from './pick';
import { PictureMaker, type Picture } from './picture';
import { settled } from './settled';

beforeAll(async () => {
  const kernel = await kernelForTests();
  joinWith((parts, how) => Promise.resolve(joinedBody(kernel, parts, how)));
});

/** A part as a node of a document and as what a ray meets. */
interface Both {
  readonly node: Pick<ShapeNode, 'plane' | 'outline' | 'depth'> & Partial<ShapeNode>;
  readonly solid: Solid;
  readonly profile: Profile;
}

function boxes(min: Triple, max: Triple): Both {
  const outline = rectangleOutline({ u: min[0], v: min[1] }, { u: max[0], v: max[1] });
  const profile = { from: min[2], to: max[2], section: { kind: 'rectangle', min: [min[0], min[1]], max: [max[0], max[1]] } } as const;
  return { node: { plane: { kind: 'floor', offset: min[2] }, outline, depth: max[2] - min[2] }, solid: box(min, max), profile };
}

function rounds([a, b, h]: Triple, radius: number, top: number, height: number): Both {
  const outline = ellipseOutline({ u: a, v: b }, { u: radius, v: radius });
  const taper = top !== radius && { taper: top / radius };
  const wide = (at: number): number => radius + ((top - radius) * (at - h)) / height;
  const steep = Math.hypot(1, (top - radius) / height);
  const profile = { from: h, to: h + height, section: { kind: 'circle', a, b, radius: wide, slant: (at: number) => wide(at) * steep } } as const;
  return { node: { plane: { kind: 'floor', offset: h }, outline, depth: height, ...taper }, solid: round([a, b, h], radius, top, height), profile };
}

function balls(kind: 'ball' | 'dome', at: Triple, size: number): Both {
  const height = kind === 'ball' ? size : size / 2;
  const made = solidOn(kind, { plane: { kind: 'floor', offset: at[2] }, from: { u: at[0], v: at[1] }, to: { u: at[0] + size, v: at[1] + size }, height, turn: 0 }, { ridge: 1, wall: 1, bar: 1, pier: 1, crown: 1, sides: 4, count: 3, top: 0 }); // prettier-ignore
  if (!made.ok) throw new Error(made.reason);
  const [r, middle] = [size / 2, kind === 'ball' ? at[2] + size / 2 : at[2]];
  const wide = (h: number): number => Math.sqrt(Math.max(0, r * r - (h - middle) ** 2));
  const profile = { from: at[2], to: at[2] + height, section: { kind: 'circle', a: at[0] + r, b: at[1] + r, radius: wide, slant: () => r } } as const;
  return { node: made.value, solid: drawnAtOnce(kind, at, [size, size, height]), profile };
}

/** Hues that tell faces apart whatever light falls on them. */
const HUES = { side: '#e03030', end: '#30c030', base: '#3040e0', cut: '#d0c020', cutEnd: '#20c0c8' } as const;
type Hue = keyof typeof HUES;

interface Scene {
  readonly document: CheminDocument;
  readonly solid: Solid;
  readonly setup: ProjectionSetup;
  readonly what: string;
}

const BASES = ['cylinder', 'cone', 'ball', 'dome'] as const;
const CUTTERS = ['plane', 'box', 'cylinder', 'cone'] as const;

/** A round thing from which another was taken away, on half cells. */
function sceneOf(
  seed: number,
  setup: ProjectionSetup,
  near: boolean,
): { readonly document: CheminDocument; readonly parts: readonly Both[]; readonly what: string; readonly setup: ProjectionSetup } {
  const random = randomFrom(900 + seed);
  const half = (below: number): number => Math.floor(random() * 2 * below) / 2;
  const [kind, cutter] = [BASES[seed % 4]!, CUTTERS[(seed >> 2) % 4]!];
  const at: Triple = [6 + half(4), 6 + half(4), half(3)];
  const r = 3 + half(2);
  const t = 4 + half(3);
  const whole = kind === 'cylinder' ? rounds(at, r, r, t) : kind === 'cone' ? rounds(at, r, random() < 0.5 ? 0 : r / 2, t) : balls(kind, [at[0] - r, at[1] - r, at[2]], 2 * r); // prettier-ignore
  const [x, y, z] = [at[0] - r + half(2 * r), at[1] - r + half(2 * r), at[2] + half(t) - 0.25];
  const taken = cutter === 'plane' ? (random() < 0.5 ? boxes([x + 0.25, at[1] - 20, at[2] - 20], [x + 30, at[1] + 20, at[2] + 20]) : boxes([at[0] - 20, at[1] - 20, z + 1], [at[0] + 20, at[1] + 20, z + 20])) : cutter === 'box' ? boxes([x + 0.25, y + 0.25, z], [x + 2.75 + half(3), y + 2.75 + half(3), z + 2 + half(3)]) : cutter === 'cylinder' ? rounds([x, y, z], 1.25 + half(1), 1.25 + half(1), 2 + half(4)) : rounds([x, y, z], 1.75 + half(1), 0.25, 3 + half(3)); // prettier-ignore
  const base = { hidden: false, locked: false } as const;
  const nodeOf = ({ node }: Both, id: string, all: string, ends: readonly [string, string]): ShapeNode => ({
    ...base,
    ...node,
    kind: 'shape',
    id,
    name: id,
    paint: { fill: all, line: null },
    surfaces: { end: { fill: ends[0], line: null }, base: { fill: ends[1], line: null } },
  });
  const flatEnds = kind === 'cylinder' || kind === 'cone';
  const children = [nodeOf(whole, 'whole', HUES.side, flatEnds ? [HUES.end, HUES.base] : [HUES.side, HUES.base]), nodeOf(taken, 'taken', HUES.cut, [HUES.cutEnd, HUES.cutEnd])]; // prettier-ignore
  const group: GroupNode = { ...base, kind: 'group', id: 'g', name: 'g', children, joined: 'take away' satisfies JoinKind };
  const empty = emptyDocument('d', 'd');
  const light = { ...empty.light, ...(seed % 3 === 0 && { fill: 1 }), ...(seed % 5 === 1 && { fixed: { top: { lightness: 0.1, chroma: 1 }, left: { lightness: -0.1, chroma: 0.9 }, right: { lightness: -0.2, chroma: 0.9 } } }) }; // prettier-ignore
  const used = near ? nearSetup(setup, { a: at[0], b: at[1], h: at[2] + t / 2 }, r, random()) : setup;
  const document = { ...empty, grid: { ...empty.grid, cell: 1 }, projection: used, light, nodes: [group] };
  return { document, parts: [whole, taken], what: `${kind} without a ${cutter}`, setup: used };
}

/** A camera so close before a place that the near plane passes through what stands there. */
function nearSetup(setup: ProjectionSetup, middle: WorldPoint, reach: number, share: number): ProjectionSetup {
  if (setup.kind !== 'perspective') throw new Error('only perspectives have a near plane');
  const { a, b, h } = axesInCamera(setup);
  const { near } = projectionFrom(setup);
  const distance = near + reach * (0.2 + 0.6 * share);
  return { ...setup, eye: addWorld(middle, scaleWorld({ a: a.z, b: b.z, h: h.z }, -distance)) };
}

/** Which of the hues a colour is nearest to, by the angle of its hue. */
function hueOf(colour: string): Hue {
  const angle = (hex: string): number => {
    const [r, g, b] = [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16)) as [number, number, number];
    return Math.atan2(Math.sqrt(3) * (g - b), 2 * r - g - b);
  };
  const apart = (key: Hue): number => Math.abs(Math.atan2(Math.sin(angle(HUES[key]) - angle(colour)), Math.cos(angle(HUES[key]) - angle(colour))));
  return (Object.keys(HUES) as Hue[]).reduce((best, key) => (apart(key) < apart(best) ? key : best));
}

function hueOfSurface(document: CheminDocument, { from }: Surface): Hue {
  const node = (document.nodes[0] as GroupNode).children.find(({ id }) => id === from!.node) as ShapeNode;
  return hueOf((node.surfaces?.[from!.name]?.fill ?? node.paint.fill) as string);
}

interface Counts {
  compared: number;
  painted: string[];
  picked: string[];
}

/** Compares what is painted and picked at places with what a ray meets. */
function compare({ document, solid, setup }: Scene, picture: Picture, seed: number, wanted: number): Counts {
  const projection = projectionFrom(setup);
  const most = setup.kind === 'perspective' ? (-projection.near * CLEAR_OF_NEAR) / setup.focal : Infinity;
  const group = document.nodes[0] as GroupNode;
  const surfaces = bodyOf(group as never)!.surfaces;
  const marks = picture.marks.filter(({ node }) => node === 'g');
  const areas = picture.visible.flatMap(({ polygon }) => Array.from(polygon));
  if (areas.length === 0) return { compared: 0, painted: [], picked: [] };
  const range = (k: number): readonly [number, number] => {
    const values = areas.filter((_, i) => i % 2 === k).map((value) => Math.max(-600, Math.min(900, value)));
    return [Math.min(...values), Math.max(...values)];
  };
  const [[left, right], [upper, lower]] = [range(0), range(1)];
  const random = randomFrom(seed);
  const counts: Counts = { compared: 0, painted: [], picked: [] };
  for (let i = 0; i < wanted; i++) {
    const s = { x: left + random() * (right - left), y: upper + random() * (lower - upper) };
    // Nearer to an edge than that, roundings decide.
    const met = [[0, 0], [0.04, 0], [-0.04, 0], [0, 0.04], [0, -0.04]].map(([dx, dy]): { readonly ray: Ray; readonly t: number | null; readonly hue: Hue | null; readonly sure: boolean } => {
      const ray = { ...rayThrough(projection, { x: s.x + dx!, y: s.y + dy! }), most };
      const t = solid.meet(ray);
      // What begins or ends within a hundredth of the near plane's distance of it may be taken for either.
      if (t === null) return { ray, t, hue: null, sure: most === Infinity || solid.meet({ ...ray, most: 0.99 * most }) === null };
      const place = addWorld(ray.from, scaleWorld(ray.toEye, t));
      const off = surfaces.map((surface) => Math.abs(contactOf(surface.form, place)?.off ?? Infinity));
      const best = off.indexOf(Math.min(...off));
      // Where two faces meet either may be taken.
      const sure = off.every((one, k) => k === best || one > 0.03 || hueOfSurface(document, surfaces[k]!) === hueOfSurface(document, surfaces[best]!));
      return { ray, t, hue: hueOfSurface(document, surfaces[best]!), sure: sure && (most === Infinity || Math.abs(t - most) > 0.01 * Math.abs(most)) };
    }); // prettier-ignore
    const [at] = met;
    if (met.some(({ sure, hue, t }) => !sure || hue !== at!.hue || (t !== null && Math.abs(t - at!.t!) > 0.2 * Math.max(1, Math.abs(at!.t!) / 200)))) continue; // prettier-ignore
    counts.compared++;
    const [top] = coloursAt(marks, s.x, s.y);
    const seen = top === undefined ? null : hueOf(top);
    const place = `${s.x.toFixed(3)} ${s.y.toFixed(3)}`;
    if (seen !== at!.hue) counts.painted.push(`${place}: ${seen ?? 'nothing'} for ${at!.hue ?? 'nothing'}`);
    const hit = pickAt(picture, s, 0);
    const picked = hit?.face ? hueOfSurface(document, { from: hit.part ?? { node: 'whole', name: hit.face } } as Surface) : null;
    if (picked !== at!.hue) counts.picked.push(`${place}: ${picked ?? 'nothing'} for ${at!.hue ?? 'nothing'}`);
  }
  return counts;
}

const PERSPECTIVES = FAMILIES.filter(([, setup]) => setup.kind === 'perspective');

describe('round things from which something was taken away', () => {
  it('are painted and picked as a ray meets them, in every family, with the near plane through them too', async () => {
    const faults: string[] = [];
    let compared = 0;
    for (let seed = 0; seed < 30; seed++) {
      const views = [0, 1, 2].map((k) => ({ setup: FAMILIES[(3 * seed + k) % (FAMILIES.length - 1)]!, near: false })); // prettier-ignore
      for (const {
        setup: [name, setup],
        near,
      } of [...views, { setup: PERSPECTIVES[seed % PERSPECTIVES.length] ?? ['three-point', CAMERA], near: true }]) {
        const { document, parts, what, setup: used } = sceneOf(seed, setup, near);
        const unjoined = await settled(document);
        if (unjoined.length > 0) throw new Error(`seed ${seed}, ${what}: ${unjoined[0]!.reason}`);
        const body = bodyOf(document.nodes[0] as never);
        if (!body) continue;
        const solid = joinedSolid(body, 'take away', parts.map((part) => part.solid)); // prettier-ignore
        const made = new PictureMaker().make(document);
        const counts = compare({ document, solid, setup: used, what }, made, seed, runs(50));
        compared += counts.compared;
        for (const kind of ['painted', 'picked'] as const) if (counts[kind].length > 0) faults.push(`seed ${seed}, ${what}, ${near ? 'close to ' : ''}${name}: ${counts[kind].length} of ${counts.compared} ${kind} wrong, such as ${counts[kind][0]}`); // prettier-ignore
      }
    }
    console.log(`${compared} places compared`);
    expect(faults).toEqual([]);
    expect(compared).toBeGreaterThan(30 * runs(50));
  });

  it('have the volumes and the round sides that their level sections sum up to', async () => {
    const misses = { exact: 0, near: 0 };
    const faults: string[] = [];
    for (let seed = 0; seed < 30; seed++) {
      const { document, parts, what } = sceneOf(seed, FAMILIES[0]![1], false);
      await settled(document);
      const body = bodyOf(document.nodes[0] as never);
      if (!body) continue;
      const [whole, taken] = parts.map(({ profile }) => profile);
      const { volume, side } = leftOf(whole as Parameters<typeof leftOf>[0], taken!);
      const round = body.surfaces
        .filter(({ form, from }) => form.kind !== 'flat' && from!.node === 'whole')
        .reduce((sum, surface) => sum + surfaceArea(surface), 0);
      // Planes cut cylinders, cones and balls in conics; round things cut each other in curves of a higher degree.
      const kind = /plane|box/.test(what) ? 'exact' : 'near';
      const miss = Math.max(Math.abs(bodyVolume(body)! - volume) / volume, Math.abs(round - side) / side);
      misses[kind] = Math.max(misses[kind], miss);
      if (!(miss <= { exact: 1e-6, near: 1e-3 }[kind]))
        faults.push(`seed ${seed}, ${what}: volume ${bodyVolume(body)} for ${volume}, round side ${round} for ${side}`);
    }
    console.log(`volumes and sides off by at most ${misses.exact.toExponential(1)} where planes cut, ${misses.near.toExponential(1)} where round things do`);
    expect(faults).toEqual([]);
  });
});
