import { invert33, type Mat33 } from './matrix';
import type { SheetPoint } from './points';
import { NO_DETERMINANT } from './tolerances';

/** A conic of the sheet as its symmetric matrix in rows: points x with x^T C x = 0. */
export type Conic = Mat33;

/** An ellipse of the sheet. */
export interface Ellipse {
  readonly centre: SheetPoint;
  /** Half lengths, the longer first. */
  readonly major: number;
  readonly minor: number;
  /** Direction of the major axis in radians from x towards y (clockwise on screen). */
  readonly turnRad: number;
}

/** The conic of a circle of a plane, by centre and radius in the plane's coordinates. */
export function circleConic(u: number, v: number, radius: number): Conic {
  return [1, 0, -u, 0, 1, -v, -u, -v, u * u + v * v - radius * radius];
}

/** A conic of a plane as a homography draws it: H^-T C H^-1 (Hartley & Zisserman, 2.13); null where H is singular. */
export function mapConic(conic: Conic, homography: Mat33): Conic | null {
  const g = invert33(homography);
  if (!g) return null;
  const out: number[] = [];
  for (let i = 0; i < 3; i++) {
    for (let j = 0; j < 3; j++) {
      let sum = 0;
      for (let k = 0; k < 3; k++) for (let l = 0; l < 3; l++) sum += g[k * 3 + i]! * conic[k * 3 + l]! * g[l * 3 + j]!;
      out.push(sum);
    }
  }
  return out as unknown as Conic;
}

/** The ellipse that a conic is, or null for any other: a parabola or hyperbola (what crosses the eye's plane), lines, nothing. */
export function ellipseOf(conic: Conic): Ellipse | null {
  const [a, b, d, , c, e, , , f] = conic;
  const det = a * c - b * b;
  const scale = Math.max(Math.abs(a), Math.abs(b), Math.abs(c));
  if (!(det > NO_DETERMINANT * scale * scale)) return null;
  const centre = { x: (b * e - c * d) / det, y: (b * d - a * e) / det };
  // The value at the centre; with the quadratic part it gives the half axes.
  const value = d * centre.x + e * centre.y + f;
  const mean = (a + c) / 2;
  const spread = Math.hypot((a - c) / 2, b);
  const [small, large] = mean > 0 ? [mean - spread, mean + spread] : [mean + spread, mean - spread];
  const [majorSquare, minorSquare] = [-value / small, -value / large];
  if (!(majorSquare > 0) || !(minorSquare > 0)) return null;
  // The major axis runs along the eigenvector of the smaller eigenvalue (in absolute value).
  const turnRad = spread === 0 ? 0 : 0.5 * Math.atan2(-2 * b * Math.sign(mean), -(a - c) * Math.sign(mean));
  return { centre, major: Math.sqrt(majorSquare), minor: Math.sqrt(minorSquare), turnRad };
}

/** The ellipse as which a circle of a plane is drawn, or null where it is none; see `ellipseOf`. */
export function drawnCircle(homography: Mat33, u: number, v: number, radius: number): Ellipse | null {
  // The circle must lie wholly in front of the eye: the vanishing line must miss it.
  const [p, q, r] = [homography[6], homography[7], homography[8]];
  if (!(p * u + q * v + r > radius * Math.hypot(p, q))) return null;
  const conic = mapConic(circleConic(u, v, radius), homography);
  return conic && ellipseOf(conic);
}
