import { exactCells } from '../math/exact';
import type { PlanePoint } from '../math/points';
import type { DepthWays } from '../geometry/depth-recipe';
import { ellipseOutline } from '../shape/forms';
import type { Outline, OutlinePoint } from '../shape/outline';
import { LEAST_TOP, type SolidKind } from './kinds';

/**
 * What solids are measured by. In cells: `width`, `length` and `height` of what they fill; `ridge`, how far the upper
 * edge of a wedge lies from its lower one; `wall` and `bar`, the thickness of tubes and frames; `pier` and `crown`, what
 * an arch leaves beside and over its opening; `rise` and `run` of a step. Plain numbers: `sides`, `count` of steps, and
 * `top`, the size of the upper end in parts of the lower.
 */
export type MeasureName = 'width' | 'length' | 'height' | 'ridge' | 'wall' | 'bar' | 'pier' | 'crown' | 'rise' | 'run' | 'sides' | 'count' | 'top';

/** The measures of a solid, as far as it has them. */
export type Measures = Readonly<Partial<Record<MeasureName, number>>>;

/** What a measure is called, and whether it is a length in cells, a whole number, or a ratio. */
export const MEASURES: Readonly<Record<MeasureName, { readonly label: string; readonly kind: 'length' | 'count' | 'ratio' }>> = {
  width: { label: 'Width', kind: 'length' },
  length: { label: 'Length', kind: 'length' },
  height: { label: 'Height', kind: 'length' },
  ridge: { label: 'Ridge from the low edge', kind: 'length' },
  wall: { label: 'Wall', kind: 'length' },
  bar: { label: 'Bar', kind: 'length' },
  pier: { label: 'Pier', kind: 'length' },
  crown: { label: 'Crown', kind: 'length' },
  rise: { label: 'Rise', kind: 'length' },
  run: { label: 'Run', kind: 'length' },
  sides: { label: 'Sides', kind: 'count' },
  count: { label: 'Steps', kind: 'count' },
  top: { label: 'Top, part of the base', kind: 'ratio' },
};

/** Most sides of a prism or pyramid, and most steps. */
export const MOST_SIDES = 120;
export const MOST_STEPS = 200;

/**
 * How a solid is drawn: its outline in directions of its own, and what depth is given to it. `lies`: where the outline
 * lies: `flat` in the plane that the solid stands on, with depth for its height; upright `along` its length, with depth
 * for its width; or upright `across` its width, with depth for its length.
 */
export interface SolidForm {
  readonly title: string;
  /** What it is measured by, in the order in which it is told. */
  readonly measures: readonly MeasureName[];
  /** Its base is as long as it is wide. */
  readonly even?: true;
  readonly lies: 'flat' | 'along' | 'across';
  /** Where its outline's own origin is: its first corner, with x along the first edge, or the middle, with x towards the first corner. */
  readonly from: 'corner' | 'middle';
  /** Turns the outline's x against the base's, in degrees. */
  readonly turnDeg?: (m: Measures) => number;
  readonly outline: (m: Measures) => Outline;
  readonly ways?: (m: Measures) => DepthWays;
  /** Its measures by its outline in directions of its own; depth and ways tell the others. Null for another outline. */
  readonly read: (local: Outline, ways: DepthWays) => Measures | null;
  /** What keeps measures from making a solid, or null. */
  readonly fault?: (m: Measures) => string | null;
  /** The measures with one changed that follows from others. */
  readonly change?: (m: Measures, name: MeasureName, value: number) => Measures;
}

const at = (id: number, u: number, v: number): OutlinePoint => ({ id, u, v });

function ring(...points: readonly (readonly [number, number])[]): Outline {
  return { points: points.map(([u, v], i) => at(i + 1, u, v)), closed: true };
}

/** The corners of a regular polygon around the origin, the first on the u axis. */
function regular(sides: number, radius: number): Outline {
  const points = Array.from({ length: sides }, (_, i) => {
    const turn = (2 * Math.PI * i) / sides;
    return at(i + 1, radius * Math.cos(turn), radius * Math.sin(turn));
  });
  return { points, closed: true };
}

const rectangle = (width: number, length: number): Outline => ring([0, 0], [width, 0], [width, length], [0, length]);
const ellipse = (width: number, length: number): Outline => ellipseOutline({ u: 0, v: 0 }, { u: width / 2, v: length / 2 });

/** An outline with a hole, whose ids go on. */
function holed(outline: Outline, hole: Outline): Outline {
  const n = outline.points.length;
  return { ...outline, holes: [hole.points.map((p) => ({ ...p, id: p.id + n }))] };
}

const shifted = (outline: Outline, by: number): Outline => ({ ...outline, points: outline.points.map((p) => ({ ...p, u: p.u + by, v: p.v + by })) });

const need = (m: Measures, name: MeasureName): number => m[name] ?? 0;
const xy = (m: Measures): readonly [number, number] => [need(m, 'width'), need(m, 'length')];

const readRectangle = ({ points, holes }: Outline): Measures | null => (points.length === 4 && !holes ? { width: points[2]!.u, length: points[2]!.v } : null);
const readEllipse = ({ points }: Outline): Measures | null =>
  points.length === 4 && points.every((p) => p.arc) ? { width: 2 * points[0]!.u, length: 2 * Math.abs(points[1]!.v) } : null;

/** Four sides fill the base; any other number stands in the circle that does. */
const polygon = (m: Measures): Outline => (need(m, 'sides') === 4 ? rectangleAround(...xy(m)) : regular(need(m, 'sides'), need(m, 'width') / 2));

/** A rectangle around the origin; its first corner, seen from the middle, is told by `cornerDeg`. */
function rectangleAround(width: number, length: number): Outline {
  const [x, y] = [width / 2, length / 2];
  return turned(ring([-x, -y], [x, -y], [x, y], [-x, y]), -cornerDeg(width, length));
}

const cornerDeg = (width: number, length: number): number => (Math.atan2(-length, -width) * 180) / Math.PI;

function turned(outline: Outline, deg: number): Outline {
  const [cos, sin] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
  return { ...outline, points: outline.points.map((p) => ({ ...p, u: p.u * cos - p.v * sin, v: p.u * sin + p.v * cos })) };
}

const polygonTurn = (m: Measures): number => (need(m, 'sides') === 4 ? cornerDeg(...xy(m)) : -90 - 180 / need(m, 'sides'));

function readPolygon({ points, holes }: Outline): Measures | null {
  const sides = points.length;
  if (sides < 3 || holes || points.some((p) => p.arc)) return null;
  const radius = points[0]!.u;
  if (sides !== 4) return { sides, width: 2 * radius, length: 2 * radius };
  // Seen from the middle with x towards the first corner.
  const [width, length] = [distance(points[0]!, points[1]!), distance(points[1]!, points[2]!)];
  return { sides, width, length };
}

const distance = (p: PlanePoint, q: PlanePoint): number => Math.hypot(q.u - p.u, q.v - p.v);

const countFault =
  (name: 'sides' | 'count', least: number, most: number) =>
  (m: Measures): string | null => {
    const value = need(m, name);
    return Number.isInteger(value) && value >= least && value <= most ? null : `${MEASURES[name].label} is a whole number from ${least} to ${most}.`;
  };

const sidesFault = countFault('sides', 3, MOST_SIDES);

const topFault = (m: Measures): string | null => {
  const top = need(m, 'top');
  return top === 0 || (top >= LEAST_TOP && top <= 100) ? null : `The top is 0 for a point, or from ${LEAST_TOP} to 100 of the base.`;
};

/** Whether what is taken from both sides of a measure leaves something. */
const leaves = (m: Measures, name: 'wall' | 'bar'): string | null => {
  const most = Math.min(...xy(m)) / 2;
  return need(m, name) < most ? null : `The ${name} is thinner than half the width and the length, ${exactCells(most)} cells.`;
};

/** The forms by their kinds. */
export const SOLID_FORMS: Readonly<Record<SolidKind, SolidForm>> = {
  box: { title: 'Box', measures: ['width', 'length', 'height'], lies: 'flat', from: 'corner', outline: (m) => rectangle(...xy(m)), read: readRectangle },
  cylinder: { title: 'Cylinder', measures: ['width', 'length', 'height'], lies: 'flat', from: 'middle', outline: (m) => ellipse(...xy(m)), read: readEllipse },
  prism: {
    title: 'Prism',
    measures: ['width', 'height', 'sides'],
    even: true,
    lies: 'flat',
    from: 'middle',
    turnDeg: polygonTurn,
    outline: polygon,
    read: readPolygon,
    fault: sidesFault,
    change: (m, name, value) => (name === 'width' ? { ...m, width: value, length: value } : { ...m, [name]: value }),
  },
  wedge: {
    title: 'Wedge',
    measures: ['width', 'length', 'height', 'ridge'],
    lies: 'along',
    from: 'corner',
    outline: (m) => ring([0, 0], [need(m, 'length'), 0], [need(m, 'ridge'), need(m, 'height')]),
    read: ({ points, holes }) => (points.length === 3 && !holes ? { length: points[1]!.u, ridge: points[2]!.u, height: points[2]!.v } : null),
  },
  pyramid: {
    title: 'Pyramid',
    measures: ['width', 'length', 'height', 'sides', 'top'],
    lies: 'flat',
    from: 'middle',
    turnDeg: polygonTurn,
    outline: polygon,
    ways: (m) => ({ taper: need(m, 'top') }),
    read: (local, { taper }) => {
      const read = taper === undefined ? null : readPolygon(local);
      return read && { ...read, top: taper! };
    },
    fault: (m) => sidesFault(m) ?? topFault(m),
  },
  cone: {
    title: 'Cone',
    measures: ['width', 'length', 'height', 'top'],
    lies: 'flat',
    from: 'middle',
    outline: (m) => ellipse(...xy(m)),
    ways: (m) => ({ taper: need(m, 'top') }),
    read: (local, { taper }) => {
      const read = taper === undefined ? null : readEllipse(local);
      return read && { ...read, top: taper! };
    },
    fault: topFault,
  },
  steps: {
    title: 'Steps',
    measures: ['width', 'length', 'height', 'count', 'rise', 'run'],
    lies: 'along',
    from: 'corner',
    outline: stepsOutline,
    read: readSteps,
    fault: countFault('count', 1, MOST_STEPS),
    change: (m, name, value) => {
      if (name === 'rise') return { ...m, rise: value, height: exactCells(value * need(m, 'count')) };
      if (name === 'run') return { ...m, run: value, length: exactCells(value * need(m, 'count')) };
      return { ...m, [name]: value };
    },
  },
  arch: {
    title: 'Arch',
    measures: ['width', 'length', 'height', 'pier', 'crown'],
    lies: 'across',
    from: 'corner',
    outline: archOutline,
    read: readArch,
    fault: (m) => {
      const opening = need(m, 'width') - 2 * need(m, 'pier');
      if (!(opening > 0)) return 'The piers leave no opening between them.';
      return springOf(m) < 0 ? `The arch is at least ${exactCells(opening / 2 + need(m, 'crown'))} cells high: half its opening, and the crown.` : null;
    },
  },
  tube: {
    title: 'Tube',
    measures: ['width', 'length', 'height', 'wall'],
    lies: 'flat',
    from: 'middle',
    outline: (m) => holed(ellipse(...xy(m)), ellipse(need(m, 'width') - 2 * need(m, 'wall'), need(m, 'length') - 2 * need(m, 'wall'))),
    read: (local) => {
      const [outer, inner] = [readEllipse(local), local.holes?.length === 1 ? readEllipse({ points: local.holes[0]!, closed: true }) : null];
      return outer && inner && { ...outer, wall: (outer.width! - inner.width!) / 2 };
    },
    fault: (m) => leaves(m, 'wall'),
  },
  frame: {
    title: 'Frame',
    measures: ['width', 'length', 'height', 'bar'],
    lies: 'flat',
    from: 'corner',
    outline: (m) =>
      holed(rectangle(...xy(m)), shifted(rectangle(need(m, 'width') - 2 * need(m, 'bar'), need(m, 'length') - 2 * need(m, 'bar')), need(m, 'bar'))),
    read: ({ points, holes }) => (points.length === 4 && holes?.length === 1 ? { width: points[2]!.u, length: points[2]!.v, bar: holes[0]![0]!.u } : null),
    fault: (m) => leaves(m, 'bar'),
  },
  ball: {
    title: 'Ball',
    measures: ['width'],
    even: true,
    lies: 'flat',
    from: 'middle',
    outline: (m) => ellipse(need(m, 'width'), need(m, 'width')),
    ways: () => ({ round: 'ball' }),
    read: (local, { round }) => (round === 'ball' ? readEllipse(local) : null),
    change: (m, _, value) => ({ ...m, width: value, length: value, height: value }),
  },
  dome: {
    title: 'Dome',
    measures: ['width', 'height'],
    even: true,
    lies: 'flat',
    from: 'middle',
    outline: (m) => ellipse(need(m, 'width'), need(m, 'width')),
    ways: () => ({ round: 'dome' }),
    read: (local, { round }) => (round === 'dome' ? readEllipse(local) : null),
    fault: (m) =>
      need(m, 'height') > need(m, 'width') / 2 ? `A dome is at most half as high as it is wide, ${exactCells(need(m, 'width') / 2)} cells.` : null,
    change: (m, name, value) => (name === 'width' ? { ...m, width: value, length: value } : { ...m, [name]: value }),
  },
};

/**
 * Steps that rise along u: the floor's edge, the back, then tread and riser from the top down. A tread is named after
 * its place from below, so that paint stays on it when steps are added above.
 */
function stepsOutline(m: Measures): Outline {
  const [length, height, count] = [need(m, 'length'), need(m, 'height'), need(m, 'count')];
  const points = [at(1, 0, 0), at(2, length, 0)];
  for (let i = count; i >= 1; i--) {
    points.push(at(2 * i + 3, (length * i) / count, (height * i) / count), at(2 * i + 2, (length * (i - 1)) / count, (height * i) / count));
  }
  return { points, closed: true };
}

function readSteps({ points, holes }: Outline): Measures | null {
  const count = points.length / 2 - 1;
  if (!Number.isInteger(count) || count < 1 || holes) return null;
  const [length, height] = [points[1]!.u, points[2]!.v];
  return { length, height, count, rise: height / count, run: length / count };
}

const springOf = (m: Measures): number => exactCells(need(m, 'height') - need(m, 'crown') - (need(m, 'width') - 2 * need(m, 'pier')) / 2);

/** An arch in its upright plane: round at the top of its opening, with straight piers below where it is high enough. */
function archOutline(m: Measures): Outline {
  const [width, height, pier] = [need(m, 'width'), need(m, 'height'), need(m, 'pier')];
  const [radius, spring] = [(width - 2 * pier) / 2, springOf(m)];
  const weight = Math.SQRT1_2;
  const top = spring + radius;
  const round: readonly OutlinePoint[] = [
    { ...at(3, pier, spring), arc: { u: pier, v: top, weight } },
    { ...at(4, width / 2, top), arc: { u: width - pier, v: top, weight } },
    at(5, width - pier, spring),
  ];
  const legs = spring > 0 ? [at(2, pier, 0), ...round, at(6, width - pier, 0)] : round;
  return { points: [at(1, 0, 0), ...legs, at(7, width, 0), at(8, width, height), at(9, 0, height)], closed: true };
}

function readArch({ points, holes }: Outline): Measures | null {
  const spring = points.length === 9 ? 1 : 0;
  if (points.length !== 7 + 2 * spring || holes) return null;
  const [crown, end] = [points[2 + spring]!, points[5 + 2 * spring]!];
  return { width: end.u, height: end.v, pier: points[1]!.u, crown: end.v - crown.v };
}
