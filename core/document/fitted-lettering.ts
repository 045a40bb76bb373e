import { exactCells } from '../math/exact';
import type { PlanePoint } from '../math/points';
import type { LaidText } from '../lettering/laid-text';
import type { Lettering } from '../lettering/lettering';
import type { PlaneBox } from '../shape/outline';
import { outlineBox } from '../shape/transform';
import type { LetterFrame } from './lettering-group';

/** The part of a face that text on it takes at most, each way. */
const MOST = 0.9;

/** A face as its text is read: from where the text begins, in cells, v up. */
function faceAsRead({ minU, minV, maxU, maxV }: PlaneBox, { origin, x, y }: LetterFrame): PlaneBox {
  const corners = [[minU, minV], [maxU, minV], [maxU, maxV], [minU, maxV]].map(([u, v]): PlanePoint => {
    const [du, dv] = [u! - origin.u, v! - origin.v];
    return { u: du * x.u + dv * x.v, v: du * y.u + dv * y.v };
  }); // prettier-ignore
  const [us, vs] = [corners.map(({ u }) => u), corners.map(({ v }) => v)];
  return { minU: Math.min(...us), minV: Math.min(...vs), maxU: Math.max(...us), maxV: Math.max(...vs) };
}

/** The box of laid text, in cells from where it begins; null where nothing is drawn. */
export function laidBox({ letters }: LaidText): PlaneBox | null {
  const boxes = letters.flatMap(({ outlines }) => outlines.flatMap((outline) => outlineBox(outline) ?? []));
  if (boxes.length === 0) return null;
  return {
    minU: Math.min(...boxes.map((box) => box.minU)),
    minV: Math.min(...boxes.map((box) => box.minV)),
    maxU: Math.max(...boxes.map((box) => box.maxU)),
    maxV: Math.max(...boxes.map((box) => box.maxV)),
  };
}

/** How much smaller text has to be to fit a face: 1 where it fits. */
export function shareThatFits(laid: LaidText, face: PlaneBox, frame: LetterFrame): number {
  const [box, room] = [laidBox(laid), faceAsRead(face, frame)];
  if (!box) return 1;
  return Math.min(1, (MOST * (room.maxU - room.minU)) / (box.maxU - box.minU), (MOST * (room.maxV - room.minV)) / (box.maxV - box.minV));
}

/** Letters in another size, their proportions and spacing kept. */
export function scaledLettering(lettering: Lettering, k: number): Lettering {
  const by = (n: number): number => exactCells(n * k);
  const spaced = { letter: by(lettering.letter), line: by(lettering.line) };
  if (lettering.kind === 'font') return { ...lettering, ...spaced, cap: by(lettering.cap), word: by(lettering.word) };
  return { ...lettering, ...spaced, stem: by(lettering.stem), width: by(lettering.width), height: by(lettering.height) };
}

/** The frame of text that begins so that all of it lies on its face, as near as can be to where it was pressed. */
export function frameWithin(laid: LaidText, face: PlaneBox, frame: LetterFrame): LetterFrame {
  const [box, room] = [laidBox(laid), faceAsRead(face, frame)];
  if (!box) return frame;
  const into = (low: number, high: number, from: number, to: number): number => (low < from ? from - low : high > to ? Math.max(from - low, to - high) : 0);
  const [u, v] = [into(box.minU, box.maxU, room.minU, room.maxU), into(box.minV, box.maxV, room.minV, room.maxV)];
  const { origin, x, y } = frame;
  return { ...frame, origin: { u: exactCells(origin.u + x.u * u + y.u * v), v: exactCells(origin.v + x.v * u + y.v * v) } };
}
