import { boundsOf, type Body, type Surface } from '../geometry/body';
import { depthBody, flatSurface } from '../geometry/depth-recipe';
import { ruledFacets } from '../geometry/facets';
import type { Ruled } from '../geometry/ruled';
import type { SheetPoint, WorldPoint } from '../math/points';
import { axesInCamera } from '../projection/camera';
import { parallelSetup } from '../projection/families';
import { planeFrame } from '../projection/planes';
import type { Projection } from '../projection/projection';
import { isometricSetup, type ProjectionSetup } from '../projection/setup';
import { ellipseOutline } from '../shape/forms';
import { outlineThrough, rectangleOutline } from '../shape/outline';
import { outlineSegments } from '../shape/segments';
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
  readonly meet: (ray: Ray) => number | null;
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
  return {
    body,
    meet: (ray) =>
      nearest(
        [boxSpan(ray, min, max)].filter((span) => span !== null),
        ray.most,
      ),
  };
}

/** An angle of two boxes, drawn as one outline. */
export function angle([a, b, h]: Triple, width: number, length: number, thick: number, height: number): Solid {
  const corners = [[a, b], [a + length, b], [a + length, b + thick], [a + thick, b + thick], [a + thick, b + width], [a, b + width]]; // prettier-ignore
  const outline = outlineThrough(corners.map(([u, v]) => ({ u: u!, v: v! })), true); // prettier-ignore
  const body = depthBody({ plane: { kind: 'floor', offset: h }, outline, depth: height })!;
  const parts = [[[a, b, h], [a + length, b + thick, h + height]], [[a, b, h], [a + thick, b + width, h + height]]] as const; // prettier-ignore
  return {
    body,
    meet: (ray) =>
      nearest(
        parts.map(([min, max]) => boxSpan(ray, min, max)).filter((span) => span !== null),
        ray.most,
      ),
  };
}

/** A solid of circles about an upright axis, the radius changing evenly from the floor to the top. */
export function round([a, b, h]: Triple, radius: number, top: number, height: number): Solid {
  const meet = (ray: Ray): number | null => {
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
    if (p === 0 && q === 0) return s < 0 ? nearest([ends], ray.most) : null;
    if (disc <= 0) return null;
    const roots = [(-q - Math.sqrt(disc)) / p, (-q + Math.sqrt(disc)) / p].sort((m, n) => m - n) as [number, number];
    // Inside the (double) cone between the roots, or outside of them where the ray is steeper than its side.
    const inside: readonly (readonly [number, number])[] = p > 0 ? [roots] : [[-Infinity, roots[0]], [roots[1], Infinity]]; // prettier-ignore
    const spans = inside.flatMap(([low, high]) => {
      const [l, m] = [Math.max(low, ends[0]), Math.min(high, ends[1])];
      return l < m ? [[l, m] as const] : [];
    });
    return nearest(spans, ray.most);
  };
  if (top === radius) return { body: depthBody({ plane: { kind: 'floor', offset: h }, outline: ellipseOutline({ u: a, v: b }, { u: radius, v: radius }), depth: height })!, meet }; // prettier-ignore
  return { body: coneBody([a, b, h], radius, top, height), meet };
}

function coneBody([a, b, h]: Triple, radius: number, top: number, height: number): Body {
  const outline = ellipseOutline({ u: a, v: b }, { u: radius, v: radius });
  const frame = planeFrame({ kind: 'floor', offset: h }, 1)!;
  const share = top / radius;
  const upper = {
    origin: { a: a * (1 - share), b: b * (1 - share), h: h + height },
    u: { a: share, b: 0, h: 0 },
    v: { a: 0, b: share, h: 0 },
    normal: frame.normal,
  };
  const form: Ruled = { kind: 'cone', directrix: outlineSegments(outline), closed: true, rims: [frame, upper], sense: 1 };
  const side: Surface = { name: 'side:1', also: [], form, rings: [], loops: [], facets: ruledFacets(form), straight: false, bothSides: false };
  const base = flatSurface('base', outline, { ...frame, normal: { a: 0, b: 0, h: -1 } }, false);
  const end = top > 0 ? [flatSurface('end', outline, upper, false)] : [];
  const points = side.facets.flatMap(({ corners }) => [...corners]);
  return { surfaces: [base, ...end, side], wires: [], points, bounds: boundsOf(points), closed: true, convex: true };
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

/** Solids at random on half cells. @param through whether they may cut through each other */
export function scene(seed: number, count: number, kinds: readonly ('box' | 'angle' | 'cylinder' | 'cone')[], through: boolean): readonly Solid[] {
  const random = randomFrom(seed);
  const half = (below: number): number => Math.floor(random() * 2 * below) / 2;
  const solids: Solid[] = [];
  const bounds: { min: Triple; max: Triple }[] = [];
  for (let tries = 0; solids.length < count && tries < 50 * count; tries++) {
    const at: Triple = [half(18), half(18), half(12)];
    const size: Triple = [1 + half(5), 1 + half(5), 1 + half(4)];
    const kind = kinds[Math.floor(random() * kinds.length)]!;
    const min: Triple = kind === 'cylinder' || kind === 'cone' ? [at[0] - size[0], at[1] - size[0], at[2]] : at;
    const max: Triple = kind === 'cylinder' || kind === 'cone' ? [at[0] + size[0], at[1] + size[0], at[2] + size[2]] : [at[0] + size[0], at[1] + size[1], at[2] + size[2]]; // prettier-ignore
    if (!through && bounds.some((o) => [0, 1, 2].every((i) => max[i]! > o.min[i]! && min[i]! < o.max[i]!))) continue;
    bounds.push({ min, max });
    if (kind === 'box') solids.push(box(min, max));
    else if (kind === 'angle') solids.push(angle(at, size[1], size[0], Math.min(size[0], size[1]) / 2, size[2]));
    else if (kind === 'cylinder') solids.push(round(at, size[0], size[0], size[2]));
    else solids.push(round(at, size[0], random() < 0.4 ? 0 : size[0] / 2, size[2]));
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
