import type { GroupMark, Ink, Mark, PathMark } from '../artwork/marks';
import type { Sheet } from '../document/types';
import type { Blend } from '../paint/paint';
import type { Path } from '../shape/path';

/** A gradient of a 2D canvas, as far as painting needs it. */
export interface CanvasGradientLike {
  addColorStop(at: number, colour: string): void;
}

/** The part of a 2D canvas context that painting needs; kept here so that core compiles without the DOM. */
export interface CanvasLike {
  save(): void;
  restore(): void;
  transform(a: number, b: number, c: number, d: number, e: number, f: number): void;
  beginPath(): void;
  moveTo(x: number, y: number): void;
  lineTo(x: number, y: number): void;
  bezierCurveTo(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void;
  closePath(): void;
  fill(rule: 'nonzero' | 'evenodd'): void;
  stroke(): void;
  clip(rule: 'nonzero' | 'evenodd'): void;
  setLineDash(dashes: number[]): void;
  createLinearGradient(x0: number, y0: number, x1: number, y1: number): CanvasGradientLike;
  createRadialGradient(x0: number, y0: number, r0: number, x1: number, y1: number, r1: number): CanvasGradientLike;
  globalAlpha: number;
  fillStyle: unknown;
  strokeStyle: unknown;
  lineWidth: number;
  lineCap: 'butt' | 'round' | 'square';
  lineJoin: 'miter' | 'round' | 'bevel';
  miterLimit: number;
}

/** A canvas to gather a thinned group on, and how it is laid back over the one beneath. */
export interface CanvasLayers {
  /** A context of the same size and transform, empty. */
  open(): CanvasLike;
  /** Lays what was gathered over `beneath` with a strength from 0 to 1 and a blend mode. */
  close(layer: CanvasLike, beneath: CanvasLike, strength: number, blend: Blend): void;
}

/** Paints the sheet's background in sheet units; the context's transform carries them to px. */
export function paintSheet(canvas: CanvasLike, { width, height, background }: Sheet): void {
  canvas.save();
  canvas.fillStyle = background;
  tracePath(canvas, { verbs: 'MLLLZ', coords: [0, 0, width, 0, width, height, 0, height] });
  canvas.fill('nonzero');
  canvas.restore();
}

/** Paints marks in sheet units over what the canvas holds. */
export function paintMarks(canvas: CanvasLike, marks: readonly Mark[], layers: CanvasLayers): void {
  for (const mark of marks) paintMark(canvas, mark, layers);
}

function paintMark(canvas: CanvasLike, mark: Mark, layers: CanvasLayers): void {
  if (mark.kind === 'group') paintGroup(canvas, mark, layers);
  else paintPath(canvas, mark);
}

function paintGroup(canvas: CanvasLike, group: GroupMark, layers: CanvasLayers): void {
  const target = group.strength < 1 || group.blend ? layers.open() : canvas;
  target.save();
  if (group.clip) {
    tracePath(target, group.clip.path);
    target.clip(group.clip.rule);
  }
  for (const mark of group.marks) paintMark(target, mark, layers);
  target.restore();
  if (target !== canvas) layers.close(target, canvas, group.strength, group.blend ?? 'normal');
}

function paintPath(canvas: CanvasLike, { path, fill, rule, line }: PathMark): void {
  if (fill) {
    canvas.save();
    tracePath(canvas, path);
    if (fill.kind !== 'flat') canvas.transform(...fill.frame);
    canvas.fillStyle = styleOf(canvas, fill);
    if (fill.kind === 'flat') canvas.globalAlpha *= fill.strength;
    canvas.fill(rule);
    canvas.restore();
  }
  if (line) {
    canvas.save();
    tracePath(canvas, path);
    canvas.transform(...line.pen);
    if (line.ink.kind === 'flat') canvas.globalAlpha *= line.ink.strength;
    canvas.lineWidth = line.width;
    canvas.lineCap = line.cap;
    canvas.lineJoin = line.join;
    canvas.miterLimit = line.miterLimit;
    canvas.setLineDash([...line.dashes]);
    canvas.strokeStyle = styleOf(canvas, line.ink);
    canvas.stroke();
    canvas.restore();
  }
}

/** Traces a path in the context's present transform, ready to fill, stroke or clip. */
export function tracePath(canvas: CanvasLike, { verbs, coords }: Path): void {
  canvas.beginPath();
  let at = 0;
  for (const verb of verbs) {
    if (verb === 'M') canvas.moveTo(coords[at++]!, coords[at++]!);
    else if (verb === 'L') canvas.lineTo(coords[at++]!, coords[at++]!);
    else if (verb === 'C') canvas.bezierCurveTo(coords[at++]!, coords[at++]!, coords[at++]!, coords[at++]!, coords[at++]!, coords[at++]!);
    else canvas.closePath();
  }
}

function styleOf(canvas: CanvasLike, ink: Ink): unknown {
  if (ink.kind === 'flat') return ink.colour;
  const gradient =
    ink.kind === 'linear' ? canvas.createLinearGradient(...ink.from, ...ink.to) : canvas.createRadialGradient(...ink.focus, 0, ...ink.centre, ink.radius);
  for (const stop of ink.stops) gradient.addColorStop(Math.max(0, Math.min(1, stop.at)), withStrength(stop.colour, stop.strength));
  return gradient;
}

/** `#rrggbb` with a strength, as CSS `#rrggbbaa`. */
export function withStrength(colour: string, strength: number): string {
  return (
    colour +
    Math.round(Math.max(0, Math.min(1, strength)) * 255)
      .toString(16)
      .padStart(2, '0')
  );
}
