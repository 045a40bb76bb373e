import { boundsAll, boundsOf, type Body } from '../geometry/body';
import { movedBody } from '../geometry/moved-body';
import { rigidMap, type RigidMove } from '../geometry/rigid';
import { layCells } from '../lettering/cell-letters';
import type { LaidLetter } from '../lettering/laid-text';
import { depthBody } from '../geometry/depth-recipe';
import { dotWorld, subtractWorld, type SheetPoint, type WorldPoint } from '../math/points';
import { axesInCamera } from '../projection/camera';
import { parallelSetup } from '../projection/families';
import type { Projection } from '../projection/projection';
import { isometricSetup, type ProjectionSetup } from '../projection/setup';
import { ellipseOutline } from '../shape/forms';
import { moveOutline, outlineThrough, rectangleOutline, ringsOf } from '../shape/outline';
import { flattenOutline } from '../shape/segments';
import type { SolidKind } from '../solids/kinds';
import { solidOn } from '../solids/solids';
import { randomFrom } from './random';

/** A line of sight `from + t toEye`, larger t nearer to the viewer. */
export interface Ray {
  readonly from: WorldPoint;
  readonly toEye: WorldPoint;
  /** Nothing at or beyond this t is in front of the eye. */
  readonly most: number;
}

/** A solid that can be drawn, and met by a ray without any of what draws it: the largest t before the eye, or null. */
export interface Solid {
  readonly body: Body;
  /** The stretches of a ray inside of it, in any order; they may overlap. */
  readonly spans: (ray: Ray) => readonly Span[];
  readonly meet: (ray: Ray) => number | null;
}

export type Span = readonly [number, number];

/** A solid by its body and where rays are inside of it. */
function solid(body: Body, spans: Solid['spans']): Solid {
  return { body, spans, meet: (ray) => nearest(spans(ray), ray.most) };
}

export type Triple = readonly [number, number, number];

/** What a ray meets of the solid that lies between pairs of t: the nearest place of its surface before the eye. */
function nearest(spans: readonly (readonly [number, number])[], most: number): number | null {
  const whole: [number, number][] = [];
  for (const [low, high] of [...spans].sort((p, q) => p[0] - q[0])) {
    const last = whole.at(-1);
    if (last && low <= last[1]) last[1] = Math.max(last[1], high);
    else whole.push([low, high]);
  }
  // With the eye inside a solid its surface is met from behind, which is not drawn.
  return whole.filter(([, high]) => high < most).at(-1)?.[1] ?? null;
}

function boxSpan({ from, toEye }: Ray, min: Triple, max: Triple): readonly [number, number] | null {
  let [low, high] = [-Infinity, Infinity];
  (['a', 'b', 'h'] as const).forEach((axis, i) => {
    const [p, q] = [(min[i]! - from[axis]) / toEye[axis], (max[i]! - from[axis]) / toEye[axis]];
    low = Math.max(low, Math.min(p, q));
    high = Math.min(high, Math.max(p, q));
  });
  return low < high ? [low, high] : null;
}

export function box(min: Triple, max: Triple): Solid {
  const outline = rectangleOutline({ u: min[0], v: min[1] }, { u: max[0], v: max[1] });
  const body = depthBody({ plane: { kind: 'floor', offset: min[2] }, outline, depth: max[2] - min[2] })!;
  return solid(body, (ray) => listed(boxSpan(ray, min, max)));
}

/** An angle of two boxes, drawn as one outline. */
export function angle([a, b, h]: Triple, width: number, length: number, thick: number, height: number): Solid {
  const corners = [[a, b], [a + length, b], [a + length, b + thick], [a + thick, b + thick], [a + thick, b + width], [a, b + width]]; // prettier-ignore
  const outline = outlineThrough(corners.map(([u, v]) => ({ u: u!, v: v! })), true); // prettier-ignore
  const body = depthBody({ plane: { kind: 'floor', offset: h }, outline, depth: height })!;
  const parts = [[[a, b, h], [a + length, b + thick, h + height]], [[a, b, h], [a + thick, b + width, h + height]]] as const; // prettier-ignore
  return solid(body, (ray) => listed(...parts.map(([min, max]) => boxSpan(ray, min, max))));
}

/** A solid of circles about an upright axis, the radius changing evenly from the floor to the top. */
export function round([a, b, h]: Triple, radius: number, top: number, height: number): Solid {
  const spans = (ray: Ray): readonly Span[] => {
    const { from, toEye } = ray;
    // x^2 + y^2 = (r + k z)^2 along the ray, between the two ends.
    const [x, y, z, k] = [from.a - a, from.b - b, from.h - h, (top - radius) / height];
    const r = radius + k * z;
    const p = toEye.a ** 2 + toEye.b ** 2 - (k * toEye.h) ** 2;
    const q = x * toEye.a + y * toEye.b - k * toEye.h * r;
    const s = x * x + y * y - r * r;
    const disc = q * q - p * s;
    const ends = [(0 - z) / toEye.h, (height - z) / toEye.h].sort((m, n) => m - n) as [number, number];
    // Along the axis a ray of a cylinder is inside all the way or not at all.
    if (p === 0 && q === 0) return s < 0 ? [ends] : [];
    if (disc <= 0) return [];
    const roots = [(-q - Math.sqrt(disc)) / p, (-q + Math.sqrt(disc)) / p].sort((m, n) => m - n) as [number, number];
    // Inside the (double) cone between the roots, or outside of them where the ray is steeper than its side.
    const inside: readonly (readonly [number, number])[] = p > 0 ? [roots] : [[-Infinity, roots[0]], [roots[1], Infinity]]; // prettier-ignore
    return inside.flatMap(([low, high]) => {
      const [l, m] = [Math.max(low, ends[0]), Math.min(high, ends[1])];
      return l < m ? [[l, m] as const] : [];
    });
  };
  const outline = ellipseOutline({ u: a, v: b }, { u: radius, v: radius });
  const plane = { kind: 'floor', offset: h } as const;
  return solid(depthBody({ plane, outline, depth: height, ...(top !== radius && { taper: top / radius }) })!, spans);
}

/** Where a ray is within a sphere. */
function sphereSpan({ from, toEye }: Ray, [a, b, h]: Triple, radius: number): Span | null {
  const [x, y, z] = [from.a - a, from.b - b, from.h - h];
  const p = toEye.a ** 2 + toEye.b ** 2 + toEye.h ** 2;
  const q = x * toEye.a + y * toEye.b + z * toEye.h;
  const disc = q * q - p * (x * x + y * y + z * z - radius * radius);
  return disc > 0 ? [(-q - Math.sqrt(disc)) / p, (-q + Math.sqrt(disc)) / p] : null;
}

/** Where a ray is within an endless round rod along an axis, by the two other coordinates of its middle. */
function rodSpan({ from, toEye }: Ray, [p, q]: readonly ['a' | 'b', 'b' | 'h'], [x, y]: readonly [number, number], radius: number): Span | null {
  const [dx, dy] = [from[p] - x, from[q] - y];
  const k = toEye[p] ** 2 + toEye[q] ** 2;
  const m = dx * toEye[p] + dy * toEye[q];
  const disc = m * m - k * (dx * dx + dy * dy - radius * radius);
  // Along the rod a ray is inside all the way or not at all.
  if (k === 0) return dx * dx + dy * dy < radius * radius ? [-Infinity, Infinity] : null;
  return disc > 0 ? [(-m - Math.sqrt(disc)) / k, (-m + Math.sqrt(disc)) / k] : null;
}

/** Where a ray is on the inner side of all planes, each as `n . p <= d`. */
function planesSpan({ from, toEye }: Ray, planes: readonly (readonly [Triple, number])[]): Span | null {
  let [low, high] = [-Infinity, Infinity];
  for (const [[a, b, h], d] of planes) {
    const [speed, room] = [a * toEye.a + b * toEye.b + h * toEye.h, d - (a * from.a + b * from.b + h * from.h)];
    if (speed > 0) high = Math.min(high, room / speed);
    else if (speed < 0) low = Math.max(low, room / speed);
    else if (room < 0) return null;
  }
  return low < high ? [low, high] : null;
}

const both = (s: Span | null, t: Span | null): Span | null => (s && t && Math.max(s[0], t[0]) < Math.min(s[1], t[1]) ? [Math.max(s[0], t[0]), Math.min(s[1], t[1])] : null); // prettier-ignore
const listed = (...spans: readonly (Span | null)[]): readonly Span[] => spans.filter((span) => span !== null);

/** What of a span is left without others. */
function without(span: Span | null, holes: readonly Span[]): readonly Span[] {
  return [...holes]
    .sort((s, t) => s[0] - t[0])
    .reduce<Span[]>((left, [low, high]) => left.flatMap(([from, to]) => listed(from < low ? [from, Math.min(to, low)] : null, to > high ? [Math.max(from, high), to] : null).filter(([p, q]) => p < q)), listed(span) as Span[]); // prettier-ignore
}

/** A solid that is drawn at once on the floor's height `h`, met by what its measures say. */
export function drawnAtOnce(kind: SolidKind, [a, b, h]: Triple, [w, l, t]: Triple): Solid {
  const others = { ridge: l / 4, wall: w / 8, bar: Math.min(w, l) / 8, pier: w / 8, crown: w / 16, sides: 4, count: 3, top: 0.5 };
  const height = kind === 'dome' ? Math.min(t, w / 2) : t;
  const result = solidOn(kind, { plane: { kind: 'floor', offset: h }, from: { u: a, v: b }, to: { u: a + w, v: b + l }, height, turn: 0 }, others);
  if (!result.ok) throw new Error(result.reason);
  const [x, y, r] = [a + w / 2, b + l / 2, w / 2];
  const whole = (ray: Ray, top = height): Span | null => boxSpan(ray, [a, b, h], [a + w, b + l, h + top]);
  const upright = (ray: Ray, radius: number): Span | null => rodSpan(ray, ['a', 'b'], [x, y], radius);
  const level = (ray: Ray): Span | null => planesSpan(ray, [[[0, 0, -1], -h], [[0, 0, 1], h + height]]); // prettier-ignore
  const spans = (ray: Ray): readonly Span[] => {
    if (kind === 'ball') return listed(sphereSpan(ray, [x, y, h + r], r));
    if (kind === 'dome') {
      const size = (r * r + height * height) / (2 * height);
      return listed(both(sphereSpan(ray, [x, y, h + height - size], size), planesSpan(ray, [[[0, 0, -1], -h]])));
    }
    if (kind === 'wedge') {
      const ridge = l / 4;
      return listed(both(whole(ray), planesSpan(ray, [[[0, -height, ridge], ridge * h - height * b], [[0, height, l - ridge], (l - ridge) * h + height * (b + l)]]))); // prettier-ignore
    }
    if (kind === 'pyramid') {
      // Each side leans in by a quarter of its width over the height.
      const [p, q] = [w / 4, l / 4];
      return listed(planesSpan(ray, [[[-height, 0, p], p * h - height * a], [[height, 0, p], p * h + height * (a + w)], [[0, -height, q], q * h - height * b], [[0, height, q], q * h + height * (b + l)], [[0, 0, -1], -h], [[0, 0, 1], h + height]])); // prettier-ignore
    }
    if (kind === 'steps') return listed(...[1, 2, 3].map((i) => boxSpan(ray, [a, b + (l * (i - 1)) / 3, h], [a + w, b + l, h + (height * i) / 3])));
    if (kind === 'tube') return without(both(upright(ray, r), level(ray)), listed(upright(ray, r - w / 8)));
    if (kind === 'frame') {
      const bar = Math.min(w, l) / 8;
      return without(whole(ray), listed(boxSpan(ray, [a + bar, b + bar, h - 1], [a + w - bar, b + l - bar, h + height + 1])));
    }
    const [opening, crown] = [w - w / 4, w / 16];
    const spring = height - crown - opening / 2;
    return without(whole(ray), listed(boxSpan(ray, [a + w / 8, b - 1, h - 1], [a + w - w / 8, b + l + 1, h + spring]), both(rodSpan(ray, ['a', 'h'], [x, h + spring], opening / 2), planesSpan(ray, [[[0, 0, -1], -h - spring + 1e-12]])))); // prettier-ignore
  };
  return solid(depthBody(result.value)!, spans);
}

/** A letter of ours that stands upright along a with its foot at a place, met by its boundary and depth. */
export function letter(sign: string, [a, b, h]: Triple, height: number, depth: number): Solid {
  const stem = height / 5;
  const [{ outlines }] = layCells({ kind: 'cells', text: sign, stem, width: 4 * stem, height, corner: 'square', line: 0, letter: 0, align: 'left' }).letters as [LaidLetter]; // prettier-ignore
  const outline = moveOutline(outlines[0]!, a, h);
  // Upright planes along a are counted towards the viewer.
  const body = depthBody({ plane: { kind: 'right', offset: b }, outline, depth })!;
  const rings = ringsOf(outline).map((ring) => flattenOutline(ring, 1));
  const { min, max } = boundsOf(body.points);
  const spans = ({ from, toEye }: Ray): readonly Span[] => {
    const crossings = rings.flatMap((ring) =>
      ring.flatMap((p, i): readonly number[] => {
        const q = ring[(i + 1) % ring.length]!;
        const [x, y, dx, dy] = [from.a - p.u, from.h - p.v, q.u - p.u, q.v - p.v];
        const across = toEye.a * dy - toEye.h * dx;
        const t = (y * dx - x * dy) / across;
        const along = (toEye.a * y - toEye.h * x) / across;
        return along >= 0 && along < 1 ? [t] : [];
      }),
    ).sort((s, t) => s - t); // prettier-ignore
    const slab = planesSpan({ from, toEye, most: 0 }, [[[0, -1, 0], -min.b], [[0, 1, 0], max.b]]); // prettier-ignore
    return crossings.flatMap((t, i) => (i % 2 === 0 ? listed(both([t, crossings[i + 1]!], slab)) : []));
  };
  return solid(body, spans);
}

/** Another appearance of a solid: a ray meets it where the ray carried back meets the original. */
export function copied({ body, spans }: Solid, move: RigidMove): Solid {
  const map = rigidMap(move);
  const back = (d: WorldPoint): WorldPoint => ({ a: dotWorld(map.columns[0], d), b: dotWorld(map.columns[1], d), h: dotWorld(map.columns[2], d) });
  return solid(movedBody(body, map), ({ from, toEye, most }) => spans({ from: back(subtractWorld(from, map.by)), toEye: back(toEye), most }));
}

/** Several solids as one: their body, and what its recipe says of a ray. */
export function joinedSolid(body: Body, how: 'join' | 'take away' | 'overlap', parts: readonly Solid[]): Solid {
  const [first, ...others] = parts;
  return solid(body, (ray) => {
    if (how === 'join') return parts.flatMap((part) => part.spans(ray));
    if (how === 'overlap') return others.reduce((left, part) => left.flatMap((span) => part.spans(ray).flatMap((other) => listed(both(span, other)))), first!.spans(ray)); // prettier-ignore
    return others.reduce((left, part) => left.flatMap((span) => without(span, part.spans(ray))), first!.spans(ray));
  });
}

export function rayThrough({ matrix: m, setup, eye }: Projection, s: SheetPoint): Ray {
  if (setup.kind === 'perspective') {
    const { a, b, h } = axesInCamera(setup);
    const ray = { x: s.x - setup.principal.x, y: s.y - setup.principal.y, z: setup.focal };
    const along = (axis: typeof a): number => -(axis.x * ray.x + axis.y * ray.y + axis.z * ray.z);
    return { from: setup.eye, toEye: { a: along(a), b: along(b), h: along(h) }, most: -1e-3 };
  }
  const [x, y, det] = [s.x - m[3], s.y - m[7], m[0] * m[5] - m[1] * m[4]];
  return { from: { a: (x * m[5] - y * m[1]) / det, b: (m[0] * y - m[4] * x) / det, h: 0 }, toEye: { a: eye[0], b: eye[1], h: eye[2] }, most: Infinity };
}

/** The solid that a ray meets first; null for none, and undefined where two are met at nearly one place. */
export function truthAt(solids: readonly Solid[], ray: Ray): Solid | null | undefined {
  let [best, second, found]: [number, number, Solid | null] = [-Infinity, -Infinity, null];
  for (const solid of solids) {
    const t = solid.meet(ray);
    if (t === null) continue;
    if (t > best) [second, best, found] = [best, t, solid];
    else if (t > second) second = t;
  }
  return found && best - second < 1e-3 * (ray.most < 0 ? Math.abs(best) : 1) ? undefined : found;
}

export const CAMERA: ProjectionSetup = { kind: 'perspective', chosen: 'three-point', focal: 160, principal: { x: 150, y: 70 }, turnDeg: 40, tiltDeg: 22, rollDeg: 0, eye: { a: -22, b: -18, h: 34 } }; // prettier-ignore
export const FAMILIES: readonly (readonly [string, ProjectionSetup])[] = [
  ['isometric', isometricSetup({ x: 150, y: 150 })],
  ...(['dimetric', 'trimetric', 'cabinet', 'cavalier', 'planometric'] as const).flatMap((key) => {
    const setup = parallelSetup(key, { x: 150, y: 150 });
    return setup ? [[key, setup] as const] : [];
  }),
  ['seen from below', { ...isometricSetup({ x: 150, y: 60 }), aDeg: -30, bDeg: -30 }],
  ['three-point', CAMERA],
  ['two-point', { ...CAMERA, tiltDeg: 0, eye: { a: -14, b: -16, h: 12 } }],
  ['one-point', { ...CAMERA, tiltDeg: 0, turnDeg: 0, eye: { a: 12, b: -14, h: 14 } }],
  ['with the eye inside the scene', { ...CAMERA, tiltDeg: 4, eye: { a: 10.4, b: 9.3, h: 9.7 } }],
];

const EVEN: readonly string[] = ['ball', 'dome', 'tube'];

const SIGNS = ['Q', 'A', '9', 'R', 'K', 'O'];
const TURNS = [['b', '-a', 'h'], ['-a', 'b', 'h'], ['-b', '-a', 'h'], ['a', 'h', '-b'], ['h', 'a', 'b']] as const; // prettier-ignore

/** Solids at random on half cells; copies are of what is there. @param through whether they may cut through each other */
export function scene(seed: number, count: number, kinds: readonly ('angle' | 'letter' | 'copy' | SolidKind)[], through: boolean): readonly Solid[] {
  const random = randomFrom(seed);
  const half = (below: number): number => Math.floor(random() * 2 * below) / 2;
  const solids: Solid[] = [];
  const bounds: { min: Triple; max: Triple }[] = [];
  for (let tries = 0; solids.length < count && tries < 50 * count; tries++) {
    const at: Triple = [half(18), half(18), half(12)];
    const size: [number, number, number] = [1 + half(5), 1 + half(5), 1 + half(4)];
    const kind = kinds[Math.floor(random() * kinds.length)]!;
    if (EVEN.includes(kind)) size[1] = size[0];
    if (kind === 'ball') size[2] = size[0];
    if (kind === 'arch') size[2] += size[0] / 2;
    if (kind === 'copy') {
      const original = solids[Math.floor(random() * solids.length)];
      if (!original) continue;
      const axes = TURNS[Math.floor(random() * TURNS.length)]!;
      const turned = copied(original, { axes, by: { a: 0, b: 0, h: 0 } }).body.bounds.min;
      const copy = copied(original, { axes, by: { a: at[0] - turned.a, b: at[1] - turned.b, h: at[2] - turned.h } });
      const { min, max } = boundsAll([copy.body])!;
      const [least, most]: readonly [Triple, Triple] = [[min.a, min.b, min.h], [max.a, max.b, max.h]]; // prettier-ignore
      if (!through && bounds.some((o) => [0, 1, 2].every((i) => most[i]! > o.min[i]! && least[i]! < o.max[i]!))) continue;
      bounds.push({ min: least, max: most });
      solids.push(copy);
      continue;
    }
    if (kind === 'letter') [size[0], size[2]] = [4, 5];
    const min: Triple = kind === 'cylinder' || kind === 'cone' ? [at[0] - size[0], at[1] - size[0], at[2]] : at;
    const max: Triple = kind === 'cylinder' || kind === 'cone' ? [at[0] + size[0], at[1] + size[0], at[2] + size[2]] : [at[0] + size[0], at[1] + size[1], at[2] + size[2]]; // prettier-ignore
    if (!through && bounds.some((o) => [0, 1, 2].every((i) => max[i]! > o.min[i]! && min[i]! < o.max[i]!))) continue;
    bounds.push({ min, max });
    if (kind === 'box') solids.push(box(min, max));
    else if (kind === 'angle') solids.push(angle(at, size[1], size[0], Math.min(size[0], size[1]) / 2, size[2]));
    else if (kind === 'cylinder') solids.push(round(at, size[0], size[0], size[2]));
    else if (kind === 'cone') solids.push(round(at, size[0], random() < 0.4 ? 0 : size[0] / 2, size[2]));
    else if (kind === 'letter') solids.push(letter(SIGNS[Math.floor(random() * SIGNS.length)]!, [at[0], at[1] + size[1], at[2]], 5, size[1]));
    else solids.push(drawnAtOnce(kind, at, size));
  }
  return solids;
}

/** Beams that lie over one another in a ring, several times, with other things among them. */
export function rings(seed: number): readonly Solid[] {
  const random = randomFrom(seed);
  return Array.from({ length: 3 }, (_, i) => {
    const o = [i * 8, Math.floor(random() * 4), Math.floor(random() * 3)] as const;
    const beam = (min: Triple, max: Triple): Solid => box([min[0] + o[0], min[1] + o[1], min[2] + o[2]], [max[0] + o[0], max[1] + o[1], max[2] + o[2]]);
    return [beam([0, 0, 0], [6, 1, 1]), beam([3, -3, 2], [4, 5, 3]), beam([1, 1, -3], [2, 2, 7]), beam([5, 3, 0], [6, 5, 2])];
  }).flat();
}
