import type { GroupMark, ImageMark, Ink, Mark, PathMark } from '../artwork/marks';
import { strokeArea } from '../artwork/stroke-area';
import type { Sheet } from '../document/types';
import type { Affine } from '../math/matrix';
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
  getTransform(): { readonly a: number; readonly b: number; readonly c: number; readonly d: number };
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
  drawImage(image: unknown, x: number, y: number): void;
  createLinearGradient(x0: number, y0: number, x1: number, y1: number): CanvasGradientLike;
  createConicGradient(start: number, x: number, y: number): CanvasGradientLike;
  createRadialGradient(x0: number, y0: number, r0: number, x1: number, y1: number, r1: number): CanvasGradientLike;
  globalAlpha: number;
  imageSmoothingEnabled: boolean;
  fillStyle: unknown;
  strokeStyle: unknown;
  lineWidth: number;
  lineCap: 'butt' | 'round' | 'square';
  lineJoin: 'miter' | 'round' | 'bevel';
  miterLimit: number;
}

/** What is painted for a bitmap: something that a canvas can draw, and where each of its px lies on the sheet. */
export interface CanvasImage {
  readonly image: unknown;
  readonly map: Affine;
  /** Its px lie on those of the canvas: nothing is to be smoothed. */
  readonly sharp?: true;
}

/** Where bitmaps are found; null for those that are not there yet. */
export type CanvasImages = (mark: ImageMark) => CanvasImage | null;

/** A canvas to gather a thinned group on, and how it is laid back over the one beneath. */
export interface CanvasLayers {
  /** A context of the same size and transform, empty. */
  open(): CanvasLike;
  /** Lays what was gathered over `beneath` with a strength from 0 to 1, a blend mode, and blurred by a standard deviation in px. */
  close(layer: CanvasLike, beneath: CanvasLike, strength: number, blend: Blend, blur: number): void;
  /** The bitmaps; without, their place is shown. */
  readonly images?: CanvasImages;
}

/** Paints the sheet's background in sheet units; the context's transform carries them to px. */
export function paintSheet(canvas: CanvasLike, { width, height, background }: Sheet): void {
  canvas.save();
  canvas.fillStyle = background;
  tracePath(canvas, { verbs: 'MLLLZ', coords: [0, 0, width, 0, width, height, 0, height] });
  canvas.fill('nonzero');
  canvas.restore();
}

/** Px that a line which closes hair lines is wide at most: enough to cover what two edges in one px leave open. */
const HAIR_PX = 0.7;

/** Paints marks in sheet units over what the canvas holds, and leaves the canvas as it was found. */
export function paintMarks(canvas: CanvasLike, marks: readonly Mark[], layers: CanvasLayers): void {
  canvas.save();
  const brush = new Brush(canvas);
  for (const mark of marks) paintMark(brush, mark, layers);
  canvas.restore();
}

/**
 * What a canvas was last set to: thousands of faces share few colours and lines, and setting them anew, with the state
 * saved and restored for each, takes longer than painting them.
 */
class Brush {
  readonly alpha: number;
  private faded = false;
  private fill: unknown = null;
  private line: PathMark['line'] = null;

  /** Most sheet units that a line which closes hair lines is wide. */
  private readonly hair: number;

  constructor(readonly canvas: CanvasLike) {
    this.alpha = canvas.globalAlpha;
    this.hair = HAIR_PX / scaleOf(canvas);
  }

  widthOf({ width, hair }: NonNullable<PathMark['line']>): number {
    return hair ? Math.min(width, this.hair) : width;
  }

  /** After the canvas was restored, or set by someone else, nothing is known. */
  forget(): void {
    [this.fill, this.line, this.faded] = [null, null, true];
  }

  private strength(strength: number): void {
    if (strength === 1 && !this.faded) return;
    this.canvas.globalAlpha = this.alpha * strength;
    this.faded = strength !== 1;
  }

  fillFlat(colour: string, strength: number): void {
    this.strength(strength);
    if (this.fill !== colour) this.canvas.fillStyle = this.fill = colour;
  }

  /** @param line whose pen is upright and whose ink is flat */
  strokeFlat(line: NonNullable<PathMark['line']>, colour: string, strength: number): void {
    const { canvas, line: last } = this;
    this.strength(strength);
    if (line === last) return;
    if (!last || last.width !== line.width || last.hair !== line.hair) canvas.lineWidth = this.widthOf(line);
    if (!last || last.cap !== line.cap) canvas.lineCap = line.cap;
    if (!last || last.join !== line.join) canvas.lineJoin = line.join;
    if (!last || last.miterLimit !== line.miterLimit) canvas.miterLimit = line.miterLimit;
    if (!last || last.dashes.length > 0 || line.dashes.length > 0) canvas.setLineDash([...line.dashes]);
    canvas.strokeStyle = colour;
    this.line = line;
  }
}

function paintMark(brush: Brush, mark: Mark, layers: CanvasLayers): void {
  if (mark.kind === 'group') paintGroup(brush, mark, layers);
  else if (mark.kind === 'image') paintImage(brush, mark, layers);
  else paintPath(brush, mark);
}

function paintGroup(brush: Brush, group: GroupMark, layers: CanvasLayers): void {
  const { canvas } = brush;
  const target = group.strength < 1 || group.blend || group.blur ? layers.open() : canvas;
  if (target === canvas && !group.clip && !group.map) {
    for (const mark of group.marks) paintMark(brush, mark, layers);
    return;
  }
  target.save();
  if (group.map) target.transform(...group.map);
  if (group.clip) {
    tracePath(target, group.clip.path);
    target.clip(group.clip.rule);
  }
  const own = target === canvas ? brush : new Brush(target);
  for (const mark of group.marks) paintMark(own, mark, layers);
  target.restore();
  brush.forget();
  if (target !== canvas) layers.close(target, canvas, group.strength, group.blend ?? 'normal', (group.blur ?? 0) * scaleOf(canvas));
}

/** Px of a canvas to a sheet unit. */
function scaleOf(canvas: CanvasLike): number {
  const { a, b, c, d } = canvas.getTransform();
  return Math.sqrt(Math.abs(a * d - b * c) || 1);
}

/** What stands for a bitmap that is not there yet. */
const AWAITED = '#cfc7b8';

function paintImage(brush: Brush, mark: ImageMark, layers: CanvasLayers): void {
  const { canvas } = brush;
  const found = layers.images?.(mark) ?? null;
  canvas.save();
  tracePath(canvas, mark.path);
  canvas.globalAlpha = brush.alpha;
  if (found) {
    canvas.clip('nonzero');
    canvas.transform(...found.map);
    canvas.imageSmoothingEnabled = !found.sharp;
    canvas.drawImage(found.image, 0, 0);
  } else {
    canvas.globalAlpha = brush.alpha / 2;
    canvas.fillStyle = AWAITED;
    canvas.fill('nonzero');
  }
  canvas.restore();
  brush.forget();
}

function paintPath(brush: Brush, { path, fill, rule, line }: PathMark): void {
  const { canvas } = brush;
  if (fill?.kind === 'flat' || (line && line.ink.kind === 'flat' && isUpright(line))) tracePath(canvas, path);
  if (fill?.kind === 'flat') {
    brush.fillFlat(fill.colour, fill.strength);
    canvas.fill(rule);
  } else if (fill) {
    canvas.save();
    tracePath(canvas, path);
    canvas.transform(...fill.frame);
    canvas.fillStyle = styleOf(canvas, fill);
    canvas.globalAlpha = brush.alpha;
    canvas.fill(rule);
    canvas.restore();
  }
  if (!line) return;
  if (line.ink.kind === 'flat' && isUpright(line)) {
    brush.strokeFlat(line, line.ink.colour, line.ink.strength);
    canvas.stroke();
    return;
  }
  if (line.ink.kind !== 'flat' && !sameAffine(line.ink.frame, line.pen)) {
    // A canvas knows one transform, for the pen and for the gradient: the line is filled as the area that it covers.
    const width = brush.widthOf(line);
    const area = strokeArea(path, { ...line, width }, width / EDGES_TO_WIDTH);
    return paintPath(brush, { kind: 'path', path: area, fill: line.ink, rule: 'nonzero', line: null });
  }
  canvas.save();
  tracePath(canvas, path);
  canvas.transform(...line.pen);
  canvas.globalAlpha = brush.alpha * (line.ink.kind === 'flat' ? line.ink.strength : 1);
  canvas.lineWidth = brush.widthOf(line);
  canvas.lineCap = line.cap;
  canvas.lineJoin = line.join;
  canvas.miterLimit = line.miterLimit;
  canvas.setLineDash([...line.dashes]);
  canvas.strokeStyle = styleOf(canvas, line.ink);
  canvas.stroke();
  canvas.restore();
}

/** How many times finer than a line is wide its edges follow its curves where it is filled as an area. */
const EDGES_TO_WIDTH = 8;

const sameAffine = (p: Affine, q: Affine): boolean => p.every((value, i) => value === q[i]);

/** Whether a line's pen is a round one: the canvas needs no other transform for it. */
function isUpright({ pen }: NonNullable<PathMark['line']>): boolean {
  return pen[0] === 1 && pen[1] === 0 && pen[2] === 0 && pen[3] === 1 && pen[4] === 0 && pen[5] === 0;
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
  const gradient = gradientOf(canvas, ink);
  for (const stop of ink.stops) gradient.addColorStop(Math.max(0, Math.min(1, stop.at)), withStrength(stop.colour, stop.strength));
  return gradient;
}

function gradientOf(canvas: CanvasLike, ink: Exclude<Ink, { readonly kind: 'flat' }>): CanvasGradientLike {
  if (ink.kind === 'conic') return canvas.createConicGradient(0, 0, 0);
  if (ink.kind === 'linear') return canvas.createLinearGradient(...ink.from, ...ink.to);
  return canvas.createRadialGradient(...ink.focus, 0, ...ink.centre, ink.radius);
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
