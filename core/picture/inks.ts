import { flatInk, type GradientStop, type Ink } from '../artwork/marks';
import { tangentOf } from '../artwork/project';
import { affineOf, apply33, composeAffine, type Affine, type Mat33 } from '../math/matrix';
import { blendColours, type Colour, type Fill, type PaintStop } from '../paint/paint';

/** Ratio of depths over a gradient from which its stops are placed along the perspective. */
const DEPTH_RATIO = 1.005;
/** Stops that take the place of one stretch between two in perspective. */
const BETWEEN = 8;

/**
 * What a fill of a plane is on the sheet. Parallel projections carry gradients exactly. In perspective a linear one is
 * exact along its handles' line, where its stops follow the cross-ratio; beside it the lines of one colour keep the
 * direction that they have in the middle. A radial one takes the map's tangent at its centre. One around a point does
 * too, and is exact by that: its lines of one colour are straight and meet in the centre.
 * @param map homography from the plane's cells to the sheet
 * @param colour what a colour of the paint looks like, swatches looked up and toned
 * @returns null where its handles lie behind the eye
 */
export function inkOf(fill: Fill, map: Mat33, colour: (c: Colour) => string): Ink | null {
  if (typeof fill === 'string') return flatInk(colour(fill));
  const stops = fill.stops.map((stop): GradientStop => ({ ...stop, colour: colour(stop.colour) })).sort((p, q) => p.at - q.at);
  const affine = affineOf(map);
  if (fill.kind === 'conic') {
    const { centre, edge, otherWay } = fill;
    const frame = affine ?? tangentOf(map, centre.u, centre.v);
    const [x, y] = edge.u === centre.u && edge.v === centre.v ? [1, 0] : [edge.u - centre.u, edge.v - centre.v];
    const way = otherWay ? -1 : 1;
    return frame && { kind: 'conic', stops, frame: composeAffine(frame, [x, y, -y * way, x * way, centre.u, centre.v]) };
  }
  if (fill.kind === 'radial') {
    const frame = affine ?? tangentOf(map, fill.centre.u, fill.centre.v);
    const radius = Math.hypot(fill.edge.u - fill.centre.u, fill.edge.v - fill.centre.v);
    const centre = [fill.centre.u, fill.centre.v] as const;
    return frame && { kind: 'radial', centre, focus: centre, radius, stops, frame };
  }
  const { from, to } = fill;
  if (affine) return { kind: 'linear', from: [from.u, from.v], to: [to.u, to.v], stops, frame: affine };
  return recedingInk(map, fill, stops);
}

function recedingInk(map: Mat33, { from, to }: { from: { u: number; v: number }; to: { u: number; v: number } }, stops: readonly GradientStop[]): Ink | null {
  const depth = (p: { u: number; v: number }): number => map[6] * p.u + map[7] * p.v + map[8];
  const [w0, w1] = [depth(from), depth(to)];
  const [p, q] = [apply33(map, from.u, from.v), apply33(map, to.u, to.v)];
  const tangent = tangentOf(map, (from.u + to.u) / 2, (from.v + to.v) / 2);
  if (!(w0 > 0) || !(w1 > 0) || !p || !q || !tangent) return null;
  // Square to the handles' line in the plane: the direction in which the colour stays the same.
  const [du, dv] = [-(to.v - from.v), to.u - from.u];
  const frame: Affine = [q.x - p.x, q.y - p.y, tangent[0] * du + tangent[2] * dv, tangent[1] * du + tangent[3] * dv, p.x, p.y];
  const placed = (t: number): number => (t * w1) / ((1 - t) * w0 + t * w1);
  const even = Math.max(w0, w1) < DEPTH_RATIO * Math.min(w0, w1);
  const dense = even ? stops : denser(stops);
  return { kind: 'linear', from: [0, 0], to: [1, 0], stops: dense.map((stop) => ({ ...stop, at: placed(stop.at) })), frame };
}

/** The same gradient with stops in between, so that other places for them bend it smoothly. */
function denser<S extends PaintStop>(stops: readonly S[]): readonly S[] {
  return stops.flatMap((stop, i) => {
    const next = stops[i + 1];
    if (!next || next.at === stop.at) return [stop];
    return Array.from({ length: BETWEEN }, (_, k): S => {
      const t = k / BETWEEN;
      const strength = stop.strength + (next.strength - stop.strength) * t;
      return { ...stop, at: stop.at + (next.at - stop.at) * t, strength, colour: blendColours(stop.colour, next.colour, t) };
    });
  });
}
