import type { PlaneFrame } from '../projection/planes';
import { keptByPair } from '../math/keep';
import { reverseSegment } from '../shape/split';
import { boundsOf, type Body, type Facet, type Form, type Rim, type Surface } from './body';
import { carryDirection, carryPoint, type RigidMap } from './rigid';

const moved = keptByPair((map: RigidMap, body: Body) => carried(body, map));

/** A body carried along, made once for each map and body. Names stay; mirrors turn every boundary the other way. */
export const movedBody = (body: Body, map: RigidMap): Body => moved(map, body);

function carried(body: Body, map: RigidMap): Body {
  const points = carriedPoints(body.points, map);
  return {
    ...body,
    surfaces: body.surfaces.map((surface) => carriedSurface(surface, map)),
    wires: body.wires.map((wire) => ({ ...wire, frame: carriedFrame(wire.frame, map), points: carriedPoints(wire.points, map) })),
    points,
    bounds: boundsOf(points),
  };
}

function carriedSurface(surface: Surface, map: RigidMap): Surface {
  const ring = (flat: readonly number[]): readonly number[] => (map.mirrors ? reversed(carriedPoints(flat, map)) : carriedPoints(flat, map));
  return {
    ...surface,
    form: carriedForm(surface.form, map),
    loops: surface.loops.map(ring),
    facets: surface.facets.map((facet): Facet => ({ ...facet, corners: ring(facet.corners), normal: carryDirection(map, facet.normal) })),
    ...(surface.cut && { cut: surface.cut.map((rims) => carriedRims(rims, map)) }),
  };
}

function carriedRims(rims: readonly Rim[], map: RigidMap): readonly Rim[] {
  const carried = rims.map((rim): Rim => ('points' in rim ? { points: carriedPoints(rim.points, map) } : { ...rim, frame: carriedFrame(rim.frame, map) }));
  if (!map.mirrors) return carried;
  return carried.reverse().map((rim): Rim => {
    if ('points' in rim) return { points: reversed(rim.points) };
    return { ...rim, segments: [...rim.segments].reverse().map((segment) => reverseSegment(segment)) };
  });
}

/** How a surface lies when it is carried along. */
export function carriedForm(form: Form, map: RigidMap): Form {
  if (form.kind === 'flat') return { kind: 'flat', frame: carriedFrame(form.frame, map) };
  if (form.kind === 'sphere') return { ...form, centre: carryPoint(map, form.centre), axis: carryDirection(map, form.axis) };
  return { ...form, rims: [carriedFrame(form.rims[0], map), carriedFrame(form.rims[1], map)], sense: map.mirrors ? (-form.sense as 1 | -1) : form.sense };
}

/** A frame carried along; its normal stays on the side on which it was. */
export function carriedFrame({ origin, u, v, normal }: PlaneFrame, map: RigidMap): PlaneFrame {
  return { origin: carryPoint(map, origin), u: carryDirection(map, u), v: carryDirection(map, v), normal: carryDirection(map, normal) };
}

function carriedPoints(flat: readonly number[], { columns: [p, q, r], by }: RigidMap): readonly number[] {
  const out = new Array<number>(flat.length);
  for (let i = 0; i < flat.length; i += 3) {
    const [a, b, h] = [flat[i]!, flat[i + 1]!, flat[i + 2]!];
    out[i] = p.a * a + q.a * b + r.a * h + by.a;
    out[i + 1] = p.b * a + q.b * b + r.b * h + by.b;
    out[i + 2] = p.h * a + q.h * b + r.h * h + by.h;
  }
  return out;
}

function reversed(flat: readonly number[]): readonly number[] {
  const out: number[] = [];
  for (let i = flat.length - 3; i >= 0; i -= 3) out.push(flat[i]!, flat[i + 1]!, flat[i + 2]!);
  return out;
}
