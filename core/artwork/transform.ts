import { radians } from '../math/figures';
import { composeAffine, IDENTITY, type Affine } from '../math/matrix';

const STEP = /\s*(matrix|translate|scale|rotate|skewX|skewY)\s*\(([^)]*)\)[\s,]*/y;

/** The map of an SVG transform list (CSS Transforms 1, 8), or null where it cannot be read. */
export function parseTransform(text: string): Affine | null {
  let map: Affine = IDENTITY;
  STEP.lastIndex = 0;
  while (STEP.lastIndex < text.trimEnd().length) {
    const match = STEP.exec(text);
    if (!match) return null;
    const step = stepMap(
      match[1]!,
      match[2]!
        .trim()
        .split(/[\s,]+/)
        .map(Number),
    );
    if (!step || !step.every(Number.isFinite)) return null;
    map = composeAffine(map, step);
  }
  return map;
}

function stepMap(name: string, n: readonly number[]): Affine | null {
  const [x = NaN, y] = n;
  switch (name) {
    case 'matrix':
      return n.length === 6 ? (n as unknown as Affine) : null;
    case 'translate':
      return [1, 0, 0, 1, x, y ?? 0];
    case 'scale':
      return [x, 0, 0, y ?? x, 0, 0];
    case 'rotate': {
      const [c, s] = [Math.cos(radians(x)), Math.sin(radians(x))];
      const [px, py] = [n[1] ?? 0, n[2] ?? 0];
      return [c, s, -s, c, px - c * px + s * py, py - s * px - c * py];
    }
    case 'skewX':
      return [1, 0, Math.tan(radians(x)), 1, 0, 0];
    default:
      return [1, Math.tan(radians(x)), 0, 1, 0, 0];
  }
}
