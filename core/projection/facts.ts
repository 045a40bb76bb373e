import { figure } from '../math/figures';
import type { Axis } from '../math/points';
import { FAMILIES, type DrawnAxis, type ProjectionSetup } from './families';

/** What the interface says about a projection. */
export interface ProjectionFacts {
  readonly name: string;
  readonly reason: string;
  readonly axes: Readonly<Record<Axis, DrawnAxis>>;
  /** A worked example of what a length becomes, such as `100 mm along an axis are drawn 81.65 mm`. */
  readonly example: string;
}

/** The facts of a set-up, for panels and read-outs. */
export function projectionFacts(setup: ProjectionSetup, unit = 'mm'): ProjectionFacts {
  const family = FAMILIES[setup.family];
  const axes = family.axes(setup);
  return {
    name: family.name,
    reason: family.reason,
    axes,
    example: `100\u2009${unit} along an axis are drawn ${figure(100 * axes.a.ratio)}\u2009${unit}`,
  };
}
