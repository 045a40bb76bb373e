import { placeInRing, PointInPolygonResult, ringArea, type Path64 } from './flat-areas';

/**
 * The rings of an area on whole numbers, each that bounds it from outside with the holes in it. Rings are told apart by
 * the way that they run (Clipper gives outer ones a positive area, holes a negative one), and a hole belongs to the
 * smallest ring that has it inside. Clipper's own tree of rings is not asked: of rings that touch it now and then makes
 * a hole a part of its own. Costs the product of rings and holes that may lie in them, told by boxes.
 */
export function nestRings(rings: readonly Path64[]): readonly (readonly Path64[])[] {
  const outer: { readonly rings: Path64[]; readonly area: number; readonly box: Box }[] = [];
  const holes: Path64[] = [];
  for (const ring of rings) {
    const area = ringArea(ring);
    if (area > 0) outer.push({ rings: [ring], area, box: boxOf(ring) });
    else if (area < 0) holes.push(ring);
  }
  const bySize = [...outer].sort((p, q) => p.area - q.area);
  for (const hole of holes) {
    const box = boxOf(hole);
    const own = bySize.filter((one) => holds(one.box, box));
    (own.find(({ rings: [ring] }) => isInside(hole, ring!)) ?? own[0])?.rings.push(hole);
  }
  return outer.map(({ rings: own }) => own);
}

type Box = readonly [minX: number, minY: number, maxX: number, maxY: number];

function boxOf(ring: Path64): Box {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { x, y } of ring) {
    minX = Math.min(minX, x);
    minY = Math.min(minY, y);
    maxX = Math.max(maxX, x);
    maxY = Math.max(maxY, y);
  }
  return [minX, minY, maxX, maxY];
}

const holds = (p: Box, q: Box): boolean => p[0] <= q[0] && p[1] <= q[1] && p[2] >= q[2] && p[3] >= q[3];

/** Whether a ring that does not cross another lies inside of it: told by the first corner that does not lie on it. */
function isInside(hole: Path64, ring: Path64): boolean {
  for (const corner of hole) {
    const where = placeInRing(corner, ring);
    if (where !== PointInPolygonResult.IsOn) return where === PointInPolygonResult.IsInside;
  }
  return true;
}
