import { drawnCircle, type Ellipse } from '../math/conics';
import { degrees, figure, measure } from '../math/figures';
import { affineOf, type Mat33 } from '../math/matrix';
import type { Axis, SheetPoint } from '../math/points';
import { drawnAxes, type DrawnAxis } from './axes';
import { viewAngleDeg } from './camera';
import { nameProjection, type Naming } from './classify';
import { orthographicRatios, type ByAxis, type Foreshortenings } from './gauss';
import { planeFrame, planeName, sheetFromFrame } from './planes';
import { drawnAt, projectionFrom, type Projection } from './projection';
import { artMap, normalised, recipeOf, recipeWords, svgTransform, cssMatrix, cssMatrix3d, type ArtMap, type Recipe, type WorldPlaneKind } from './recipes';
import type { ProjectionSetup } from './setup';
import { horizonOf, vanishingPoints, type VanishingPoint } from './vanishing';

/** What a projection does to one of its planes. */
export interface PlaneFacts {
  readonly kind: WorldPlaneKind;
  readonly name: string;
  /** The ellipse of a circle of one cell's width: in perspective, of the one inscribed in the cell at the origin; null where there is none. */
  readonly circle: Ellipse | null;
  /** Art to sheet, in mm; null where the plane is seen edge-on. */
  readonly map: Mat33 | null;
  /** Parallel projections only. */
  readonly recipe: { readonly map: ArtMap; readonly steps: Recipe } | null;
}

/** What the interface says about a projection. */
export interface ProjectionFacts extends Naming {
  /** How the axes are drawn; in perspective, at the origin, where it is in front of the eye. */
  readonly axes: ByAxis<DrawnAxis> | null;
  readonly planes: readonly PlaneFacts[];
  /** Perspectives only. */
  readonly perspective: {
    readonly points: ByAxis<VanishingPoint>;
    readonly horizon: SheetPoint | null;
    readonly focal: number;
    readonly viewDeg: number;
    readonly eyeHeight: number;
  } | null;
  /** For axonometries of free angles: what being seen square on would give, or why it cannot be. */
  readonly squareOn: Foreshortenings | null;
}

/** CSS px to the mm. */
const CSS_PX_PER_MM = 96 / 25.4;

/**
 * The facts of a set-up.
 * @param cell edge of a cell in mm, for circles in perspective
 * @param width of the sheet in mm, for the angle of view
 */
export function projectionFacts(setup: ProjectionSetup, cell: number, width: number): ProjectionFacts {
  const projection = projectionFrom(setup);
  const planes = (['floor', 'left', 'right'] as const).map((kind) => planeFacts(projection, kind, cell));
  const naming = nameProjection(setup);
  if (setup.kind !== 'perspective') {
    const axes = drawnAxes(setup);
    const squareOn = setup.kind === 'axonometric' ? orthographicRatios(setup.aDeg, 180 - setup.bDeg, 90) : null;
    return { ...naming, axes, planes, perspective: null, squareOn };
  }
  const { focal } = setup;
  const perspective = {
    points: vanishingPoints(setup),
    horizon: horizonOf(setup)?.at ?? null,
    focal,
    viewDeg: viewAngleDeg(focal, width),
    eyeHeight: setup.eye.h,
  };
  return { ...naming, axes: axesAtOrigin(projection), planes, perspective, squareOn: null };
}

function axesAtOrigin(projection: Projection): ByAxis<DrawnAxis> | null {
  const drawn = (axis: Axis): DrawnAxis | null => {
    const v = drawnAt(projection, { a: 0, b: 0, h: 0 }, axis);
    return v && { angleDeg: degrees(Math.atan2(-v.y, v.x)), ratio: Math.hypot(v.x, v.y) };
  };
  const [a, b, h] = [drawn('a'), drawn('b'), drawn('h')];
  return a && b && h ? { a, b, h } : null;
}

function planeFacts(projection: Projection, kind: WorldPlaneKind, cell: number): PlaneFacts {
  const frame = planeFrame({ kind, offset: 0 }, cell);
  const circle = frame && drawnCircle(sheetFromFrame(projection, frame), 0.5, 0.5, 0.5);
  const map = artMap(projection, kind);
  const affine = map && affineOf(map);
  const linear = affine && ([affine[0], affine[1], affine[2], affine[3]] as const);
  const recipe = linear && projection.eye[3] === 0 ? { map: linear, steps: recipeOf(linear) } : null;
  return { kind, name: planeName(kind, projection.setup), circle, map, recipe };
}

/** Minor over major axis of an ellipse. */
export const ellipseRatio = ({ major, minor }: Ellipse): number => minor / major;

/** A worked example of what a length along an axis becomes: `a 100 mm edge along a is drawn 81.6 mm`. */
export function lengthExample(axes: ByAxis<DrawnAxis>, axis: Axis, unit = 'mm'): string {
  return `a ${measure(100, unit)} edge along ${axis} is drawn ${measure(100 * axes[axis].ratio, unit, 1)}`;
}

/** How far apart the drawn lines of a plane's grid are, square to them, in mm: those across u, then those across v; parallel projections only. */
export function linesApart(setup: ProjectionSetup, kind: WorldPlaneKind, cell: number): readonly [number, number] | null {
  const projection = projectionFrom(setup);
  const frame = planeFrame({ kind, offset: 0 }, cell);
  const affine = frame && affineOf(sheetFromFrame(projection, frame));
  if (!affine) return null;
  const [a, b, c, d] = affine;
  const area = Math.abs(a * d - b * c);
  return [area / Math.hypot(c, d), area / Math.hypot(a, b)];
}

/** A plane's map in the forms in which other software takes it. */
export function mapForms({ map, recipe }: PlaneFacts): { readonly text: string; readonly svg: string | null; readonly css: string } | null {
  if (recipe) return { text: recipeWords(recipe.steps), svg: svgTransform(recipe.map), css: cssMatrix(recipe.map) };
  if (!map) return null;
  const even = normalised(map);
  const rows = [0, 3, 6].map((r) => even.slice(r, r + 3).map((n) => n.toPrecision(9)).join(' ')).join(' / '); // prettier-ignore
  return { text: `homography in mm, by rows: ${rows}`, svg: null, css: cssMatrix3d(map, CSS_PX_PER_MM) };
}

/** All facts as plain text, for the clipboard. */
export function factsText(facts: ProjectionFacts): string {
  const lines = [`${facts.name}: ${facts.reason}`];
  if (facts.axes) {
    for (const axis of ['a', 'b', 'h'] as const) {
      const { angleDeg, ratio } = facts.axes[axis];
      lines.push(`axis ${axis}: ${figure(angleDeg, 3)}°, foreshortening ${figure(ratio, 4)}`);
    }
  }
  const { perspective } = facts;
  if (perspective) {
    for (const axis of ['a', 'b', 'h'] as const) lines.push(`vanishing point ${axis}: ${pointWords(perspective.points[axis])}`);
    lines.push(
      `focal length ${measure(perspective.focal, 'mm')}, angle of view ${figure(perspective.viewDeg, 1)}°, eye height ${measure(perspective.eyeHeight, 'mm')}`,
    );
  }
  for (const plane of facts.planes) {
    const forms = mapForms(plane);
    if (plane.circle) {
      const { circle } = plane;
      lines.push(`${plane.name}: circle drawn 1 to ${figure(ellipseRatio(circle), 4)}, major axis at ${figure(majorAxisDeg(circle), 2)}°`);
    }
    if (forms) lines.push(`${plane.name}: ${forms.text}`, ...(forms.svg ? [`  SVG ${forms.svg}`] : []), `  CSS ${forms.css}`);
    else lines.push(`${plane.name}: seen edge-on`);
  }
  return lines.join('\n') + '\n';
}

/** The direction of the major axis in degrees anticlockwise on screen, from -90 (excluded) to 90. */
export function majorAxisDeg({ turnRad }: Ellipse): number {
  const deg = -degrees(turnRad);
  return deg > 90 ? deg - 180 : deg <= -90 ? deg + 180 : deg;
}

/** A vanishing point in figures, or its direction where it lies at infinity. */
export function pointWords({ x, y, w }: VanishingPoint): string {
  return w === 1 ? `x ${measure(x, 'mm', 1)}, y ${measure(y, 'mm', 1)}` : `at infinity, along ${figure(degrees(Math.atan2(-y, x)), 1)}°`;
}
