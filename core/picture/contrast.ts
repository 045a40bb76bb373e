import { converter, modeOklch, modeRgb, parse, useMode, wcagContrast } from 'culori/fn';
import type { SheetPoint } from '../math/points';
import type { Visible } from './painted';
import { isInside } from './pick';
import type { Picture } from './picture';

useMode(modeRgb);
useMode(modeOklch);
const toOklch = converter('oklch');

/** Two faces that meet on the sheet, and how well they are told apart. */
export interface FaceContrast {
  readonly faces: readonly [Visible, Visible];
  readonly colours: readonly [string, string];
  /** The ratio of their luminances from 1 to 21 (WCAG 2.2), and how far apart their lightness is in OKLCH, from 0 to 1. */
  readonly ratio: number;
  readonly lightness: number;
  /** How long the edge is at which they meet, in mm of the sheet. */
  readonly length: number;
  /** A place of it. */
  readonly at: SheetPoint;
}

/** Mm to each side of an edge at which it is looked what lies there, and between places that are looked at. */
const BESIDE = 0.3;
const APART = 1.5;
/** Mm of an edge from which on two faces count as neighbours. */
const LEAST = 2;

/**
 * How well faces that meet on the sheet are told apart, the weakest first: what is looked at are places along the edges
 * of what is seen, to both sides. Faces in exactly one colour that lie in one plane are left out by whoever wants that.
 * @param limit most pairs that are told
 */
export function faceContrasts({ visible }: Pick<Picture, 'visible'>, limit: number): readonly FaceContrast[] {
  const found = new Map<string, { readonly faces: readonly [Visible, Visible]; count: number; readonly at: SheetPoint }>();
  const faces = visible.filter(({ open, face, colour }) => !open && face !== null && colour !== undefined);
  const top = topOf(faces);
  const names = new Map(faces.map((face, i) => [face, i]));
  for (const { polygon } of faces) {
    for (let i = 0; i < polygon.length; i += 2) {
      const [x0, y0, x1, y1] = [polygon[i]!, polygon[i + 1]!, polygon[(i + 2) % polygon.length]!, polygon[(i + 3) % polygon.length]!];
      const length = Math.hypot(x1 - x0, y1 - y0);
      const [nx, ny] = [(-(y1 - y0) / length) * BESIDE, ((x1 - x0) / length) * BESIDE];
      for (let k = 0; k < Math.floor(length / APART); k++) {
        const t = (k + 0.5) / Math.floor(length / APART);
        const at = { x: x0 + (x1 - x0) * t, y: y0 + (y1 - y0) * t };
        const [one, other] = [top(at.x + nx, at.y + ny), top(at.x - nx, at.y - ny)];
        if (!one || !other || one === other || (one.node === other.node && one.face === other.face)) continue;
        const key = [names.get(one)!, names.get(other)!].sort((p, q) => p - q).join(' ');
        const known = found.get(key);
        if (known) known.count++;
        else found.set(key, { faces: [one, other], count: 1, at });
      }
    }
  }
  const pairs = [...found.values()].flatMap(({ faces: [one, other], count, at }): readonly FaceContrast[] => {
    // Both faces have the edge, so that each place of it is looked at twice.
    const length = (count * APART) / 2;
    if (length < LEAST) return [];
    const colours = [one.colour!, other.colour!] as const;
    const [p, q] = colours.map((colour) => toOklch(parse(colour))?.l ?? 0);
    return [{ faces: [one, other], colours, ratio: wcagContrast(...colours), lightness: Math.abs(p! - q!), length, at }];
  });
  return pairs.sort((p, q) => p.ratio - q.ratio || q.length - p.length).slice(0, limit);
}

/** What is in front at places, found by boxes first. */
function topOf(faces: readonly Visible[]): (x: number, y: number) => Visible | null {
  const boxes = faces.map(({ polygon }) => {
    let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = 0; i < polygon.length; i += 2) {
      minX = Math.min(minX, polygon[i]!);
      maxX = Math.max(maxX, polygon[i]!);
      minY = Math.min(minY, polygon[i + 1]!);
      maxY = Math.max(maxY, polygon[i + 1]!);
    }
    return [minX, minY, maxX, maxY] as const;
  });
  return (x, y) => {
    for (let i = faces.length - 1; i >= 0; i--) {
      const [minX, minY, maxX, maxY] = boxes[i]!;
      if (x >= minX && x <= maxX && y >= minY && y <= maxY && isInside(faces[i]!, { x, y })) return faces[i]!;
    }
    return null;
  };
}
