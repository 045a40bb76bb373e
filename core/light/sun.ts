import { keptBy } from '../math/keep';
import type { ProjectionSetup } from '../projection/setup';
import { projectionFrom } from '../projection/projection';
import type { Sun } from './tones';

/** The compass direction in degrees in which the viewer of a drawing stands, anticlockwise from the a axis; 0 for one right overhead. */
export const viewerDeg = keptBy((setup: ProjectionSetup): number => {
  const { eye, matrix: m } = projectionFrom(setup);
  const [a, b] = eye[3] === 0 ? [eye[0], eye[1]] : [-m[8], -m[9]];
  const level = Math.hypot(a, b);
  return level < 1e-9 ? 0 : (Math.atan2(b, a) * 180) / Math.PI;
});

/** A sun, what it is kept to, and the view. */
interface SunInView {
  readonly light: { readonly sun: Sun; readonly keep?: 'picture' };
  readonly projection: ProjectionSetup;
}

/** Where the sun of a document stands in the world: one that is kept to the picture turns with the viewer. */
export function sunOf({ light, projection }: SunInView): Sun {
  const { sun, keep } = light;
  return keep === 'picture' ? { ...sun, azimuthDeg: Math.round(((((sun.azimuthDeg + viewerDeg(projection)) % 360) + 360) % 360) * 1000) / 1000 } : sun;
}
