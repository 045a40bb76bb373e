import { addWorld, scaleWorld, unitWorld, type SheetPoint, type WorldPoint } from '../math/points';
import { sheetFromWorld, type Projection } from './projection';

/** Height of the standing figure's eyes and of its crown, in metres. */
export const FIGURE_EYES_M = 1.6;
/** Height in metres of the figure that stands for scale. */
export const FIGURE_HEIGHT_M = 1.71;

/**
 * Half the outline of a standing person, from between the feet up to the crown: to the side and up, in parts of the
 * body's height. Our own drawing, by the canon of seven and a half heads.
 */
const HALF: readonly (readonly [number, number])[] = [
  [0.012, 0.45], [0.02, 0.03], [0.012, 0], [0.085, 0], [0.078, 0.028], [0.062, 0.05], [0.072, 0.2], [0.068, 0.28], [0.09, 0.42], [0.086, 0.52],
  [0.08, 0.6], [0.098, 0.7], [0.118, 0.62], [0.128, 0.5], [0.13, 0.42], [0.146, 0.42], [0.152, 0.5], [0.146, 0.62], [0.138, 0.76], [0.12, 0.806],
  [0.06, 0.83], [0.032, 0.845], [0.03, 0.865], [0.044, 0.89], [0.05, 0.925], [0.046, 0.965], [0.03, 0.99], [0, 1],
]; // prettier-ignore

/**
 * The outline of a person who stands on the floor, as flat sheet coordinates: a flat figure that faces the viewer.
 * Null where a part of it is not drawn.
 * @param foot where it stands, in mm of the world
 * @param mmPerMetre mm of the world to a metre of the real thing, 1000 over the drawing scale
 */
export function standingFigure(projection: Projection, foot: WorldPoint, mmPerMetre: number): readonly number[] | null {
  const e = projection.eye;
  const toEye = { a: e[0] - e[3] * foot.a, b: e[1] - e[3] * foot.b, h: 0 };
  const side = unitWorld({ a: -toEye.b, b: toEye.a, h: 0 });
  if (!side) return null;
  const height = FIGURE_HEIGHT_M * mmPerMetre;
  const coords: number[] = [];
  const put = (across: number, up: number): boolean => {
    const p = sheetFromWorld(projection, addWorld(foot, addWorld(scaleWorld(side, across * height), { a: 0, b: 0, h: up * height })));
    if (p) coords.push(p.x, p.y);
    return p !== null;
  };
  const whole = HALF.every(([across, up]) => put(across, up)) && [...HALF].reverse().every(([across, up]) => put(-across, up));
  return whole ? coords : null;
}

/** Where the figure's eyes are drawn, or null where they are not. */
export function figureEyes(projection: Projection, foot: WorldPoint, mmPerMetre: number): SheetPoint | null {
  return sheetFromWorld(projection, { ...foot, h: foot.h + FIGURE_EYES_M * mmPerMetre });
}
