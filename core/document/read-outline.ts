import { exactCells, isCells } from '../math/exact';
import { allPoints, type Outline, type OutlinePoint } from '../shape/outline';

type Data = Readonly<Record<string, unknown>>;

const isData = (value: unknown): value is Data => typeof value === 'object' && value !== null && !Array.isArray(value);
const isPlace = (value: unknown): value is number => typeof value === 'number' && isCells(value);
const within = (value: unknown, least: number, most: number): value is number => typeof value === 'number' && value >= least && value <= most;

/** How many keys data has, for telling that there are none but those that were read. */
const countOf = (data: Data): number => Object.keys(data).length;

function placeOf(value: unknown): { u: number; v: number } | null {
  return isData(value) && isPlace(value['u']) && isPlace(value['v']) && countOf(value) === 2 ? { u: exactCells(value['u']), v: exactCells(value['v']) } : null;
}

function pointOf(value: unknown): OutlinePoint | null {
  if (!isData(value)) return null;
  const { id, u, v, into, out, arc, corner, press } = value;
  if (!Number.isSafeInteger(id) || (id as number) < 1 || !isPlace(u) || !isPlace(v)) return null;
  const point: { -readonly [K in keyof OutlinePoint]: OutlinePoint[K] } = { id: id as number, u: exactCells(u), v: exactCells(v) };
  let keys = 3;
  if ('into' in value) {
    const at = placeOf(into);
    if (!at) return null;
    point.into = at;
    keys++;
  }
  if ('out' in value) {
    const at = placeOf(out);
    if (!at) return null;
    point.out = at;
    keys++;
  }
  if ('arc' in value) {
    if (!isData(arc) || !isPlace(arc['u']) || !isPlace(arc['v']) || !within(arc['weight'], 1e-4, 1e4) || countOf(arc) !== 3) return null;
    point.arc = { u: exactCells(arc['u']), v: exactCells(arc['v']), weight: arc['weight'] };
    keys++;
  }
  if ('corner' in value) {
    if (!isData(corner) || (corner['kind'] !== 'round' && corner['kind'] !== 'bevel') || !isPlace(corner['size']) || countOf(corner) !== 2) return null;
    const size = exactCells(corner['size']);
    if (size <= 0) return null;
    point.corner = { kind: corner['kind'], size };
    keys++;
  }
  if ('press' in value) {
    if (!within(press, 0, 1)) return null;
    point.press = press;
    keys++;
  }
  return countOf(value) === keys ? point : null;
}

function pointsOf(value: unknown, least: number, most: number): OutlinePoint[] | null {
  if (!Array.isArray(value) || value.length < least || value.length > most) return null;
  const points: OutlinePoint[] = [];
  for (const item of value as readonly unknown[]) {
    const point = pointOf(item);
    if (!point) return null;
    points.push(point);
  }
  return points;
}

/** Most points of a ring, and most holes. */
export const MOST_RING = 100_000;
export const MOST_HOLES = 10_000;

/** Whether two points of an outline have one id. */
export function pointIdsRepeat(outline: Outline): boolean {
  const points = allPoints(outline);
  return new Set(points.map((p) => p.id)).size < points.length;
}

/**
 * An outline as it is kept, read from data that is not yet trusted: what the schema says of outlines, for thousands of
 * points at once. Null where anything is not right; the schema then tells what and where.
 */
export function readOutline(value: unknown): Outline | null {
  if (!isData(value) || typeof value['closed'] !== 'boolean') return null;
  const points = pointsOf(value['points'], 0, MOST_RING);
  if (!points) return null;
  const { closed } = value;
  if (!('holes' in value)) {
    const outline = { points, closed };
    return countOf(value) === 2 && !pointIdsRepeat(outline) ? outline : null;
  }
  const given = value['holes'];
  if (!closed || !Array.isArray(given) || given.length < 1 || given.length > MOST_HOLES || countOf(value) !== 3) return null;
  const holes: OutlinePoint[][] = [];
  for (const hole of given as readonly unknown[]) {
    const ring = pointsOf(hole, 2, MOST_RING);
    if (!ring) return null;
    holes.push(ring);
  }
  const outline = { points, closed, holes };
  return pointIdsRepeat(outline) ? null : outline;
}
