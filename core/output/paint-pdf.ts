import type { Blend } from '../paint/paint';
import type { PDFContext, PDFDict, PDFDocument, PDFRef } from 'pdf-lib';
import type { GradientStop, GroupMark, ImageMark, Ink, LineStyle, Mark, PathMark } from '../artwork/marks';
import { plainNumber } from '../math/figures';
import { affineOf, composeAffine, IDENTITY, invertAffine, type Affine } from '../math/matrix';
import { COORDS_OF, mapPath, pathBox, type Path, type PathBox } from '../shape/path';
import type { HandedSheet } from './handed';
import { imageKey, imagesIn, type HandedImages } from './images';
import { conicMesh, type ConicInk } from './conic-fan';
import { undercoat } from './undercoat';

/** What a PDF has besides the sheet: its name, and aids for printers. */
export interface PdfOptions {
  readonly title: string;
  /** A bar of 100 mm with its name, to check the print with a ruler. */
  readonly testBar: boolean;
  /** Corner marks outside the sheet, which the page then has room for. */
  readonly cutMarks: boolean;
}

const POINTS_PER_MM = 72 / 25.4;
/** Room for cut marks around the sheet in mm. */
const BLEED = 12;
/** Length of the test bar in mm. */
export const TEST_BAR_MM = 100;

/**
 * A sheet as a PDF page in true size: paths, gradients and strengths as PDF has them (ISO 32000-1: 8.5 paths, 8.7
 * shadings, 11.6 transparency groups and soft masks), bitmaps as images. Operators are written here; the
 * library keeps objects and the file.
 */
export async function pdfFromSheet({ sheet, background, marks, images }: HandedSheet, options: PdfOptions): Promise<Uint8Array> {
  // Loaded when it is first needed: whoever shows the drawing does not pay for it.
  const { PDFDocument, PDFName } = await import('pdf-lib');
  const file = await PDFDocument.create();
  file.setTitle(options.title);
  file.setProducer('Chemin');
  file.setCreator('Chemin');
  const room = options.cutMarks ? BLEED : 0;
  const [width, height] = [sheet.width + 2 * room, sheet.height + 2 * room];
  const page = file.addPage([width * POINTS_PER_MM, height * POINTS_PER_MM]);
  if (options.cutMarks) {
    page.setTrimBox(room * POINTS_PER_MM, room * POINTS_PER_MM, sheet.width * POINTS_PER_MM, sheet.height * POINTS_PER_MM);
  }
  const k = POINTS_PER_MM;
  const base: Affine = [k, 0, 0, -k, room * k, (height - room) * k];
  const canvas = new PdfCanvas(file.context, base, await embedded(file, marks, images));
  const sheetPath: Path = { verbs: 'MLLLZ', coords: [0, 0, sheet.width, 0, sheet.width, sheet.height, 0, sheet.height] };
  canvas.write('q', `${matrix(base)} cm`, 'q', pathOps(sheetPath), 'W n');
  if (background) canvas.write(`${rgb(sheet.background)} rg`, pathOps(sheetPath), 'f');
  for (const mark of marks) canvas.mark(mark);
  canvas.write('Q');
  if (options.cutMarks) canvas.write(...cutMarks(sheet.width, sheet.height));
  if (options.testBar) canvas.write(...testBar(options.cutMarks ? 0 : 6, sheet.height + (options.cutMarks ? BLEED - 3 : -6)));
  canvas.write('Q');
  page.node.set(PDFName.of('Contents'), file.context.register(file.context.flateStream(canvas.text())));
  page.node.set(PDFName.of('Resources'), canvas.resources());
  page.node.set(PDFName.of('Group'), file.context.obj({ Type: 'Group', S: 'Transparency', CS: 'DeviceRGB' }));
  return file.save();
}

/** The bitmaps that marks show as objects of the file, by their keys. */
async function embedded(file: PDFDocument, marks: readonly Mark[], images: HandedImages | undefined): Promise<ReadonlyMap<string, PDFRef>> {
  const refs = new Map<string, PDFRef>();
  for (const mark of imagesIn(marks)) {
    const key = imageKey(mark);
    const image = refs.has(key) ? undefined : images?.get(key);
    if (!image) continue;
    const object = image.type === 'image/jpeg' ? await file.embedJpg(image.bytes) : await file.embedPng(image.bytes);
    await object.embed();
    refs.set(key, object.ref);
  }
  return refs;
}

/** The names of blend modes in PDF (ISO 32000-1, 11.3.5). */
const PDF_BLENDS: Readonly<Record<Exclude<Blend, 'normal'>, string>> = {
  multiply: 'Multiply',
  screen: 'Screen',
  overlay: 'Overlay',
  darken: 'Darken',
  lighten: 'Lighten',
  'soft-light': 'SoftLight',
  'hard-light': 'HardLight',
  difference: 'Difference',
};

/** Lines of 5 mm beside each corner, 2 mm away from the sheet. */
function cutMarks(width: number, height: number): string[] {
  const lines = [0, width].flatMap((x) => [`${n(x)} -7 m ${n(x)} -2 l S`, `${n(x)} ${n(height + 2)} m ${n(x)} ${n(height + 7)} l S`]);
  const level = [0, height].flatMap((y) => [`-7 ${n(y)} m -2 ${n(y)} l S`, `${n(width + 2)} ${n(y)} m ${n(width + 7)} ${n(y)} l S`]);
  return ['0 G 0.1 w', ...lines, ...level];
}

/** The bar with its end ticks and the words "100 mm" as strokes, for they have to print everywhere. */
function testBar(x: number, y: number): string[] {
  const glyphs = ['M2.4 0V6', 'O', 'O', '', 'm', 'm'];
  const words = glyphs.flatMap((glyph, i) => {
    const left = x + TEST_BAR_MM + 2 + i * 2.2;
    if (glyph === 'O') return [`${n(left)} ${n(y - 1.5)} 1.5 2.4 re S`];
    if (glyph.startsWith('M')) return [`${n(left + 0.8)} ${n(y - 1.5)} m ${n(left + 0.8)} ${n(y + 0.9)} l S`];
    if (glyph === 'm') return [`${n(left)} ${n(y + 0.9)} m ${n(left)} ${n(y - 0.6)} l ${n(left + 1.7)} ${n(y - 0.6)} l ${n(left + 1.7)} ${n(y + 0.9)} l S`, `${n(left + 0.85)} ${n(y - 0.6)} m ${n(left + 0.85)} ${n(y + 0.9)} l S`]; // prettier-ignore
    return [];
  });
  const end = x + TEST_BAR_MM;
  const ends = [x, end].map((at) => `${n(at)} ${n(y - 1.5)} m ${n(at)} ${n(y + 1.5)} l S`);
  return ['0 G 0.2 w 0 J 0 j', `${n(x)} ${n(y)} m ${n(end)} ${n(y)} l S`, ...ends, ...words];
}

const n = (value: number): string => plainNumber(value, 5);
const matrix = (m: Affine): string => m.map((value) => plainNumber(value, 8)).join(' ');

function rgb(colour: string): string {
  return [1, 3, 5].map((at) => plainNumber(parseInt(colour.slice(at, at + 2), 16) / 255, 5)).join(' ');
}

function pathOps({ verbs, coords }: Path, digits = 5): string {
  const ops: Readonly<Record<string, string>> = { M: 'm', L: 'l', C: 'c', Z: 'h' };
  let at = 0;
  const parts: string[] = [];
  for (const verb of verbs) {
    const size = COORDS_OF[verb] ?? 0;
    for (let i = 0; i < size; i++) parts.push(plainNumber(coords[at++]!, digits));
    parts.push(ops[verb] ?? '');
  }
  return parts.join(' ');
}

/** A box with room around it. */
function grown(box: PathBox | null, by: number): PathBox | null {
  return box && { minX: box.minX - by, minY: box.minY - by, maxX: box.maxX + by, maxY: box.maxY + by };
}

/** A content stream and the resources it uses, in mm with y down. */
class PdfCanvas {
  private readonly body: string[] = [];
  private readonly states = new Map<string, PDFRef>();
  private readonly forms: PDFRef[] = [];
  private readonly patterns: PDFRef[] = [];
  private readonly shown = new Set<PDFRef>();

  /** @param toParent carries this stream's mm to the space that its patterns' matrices are relative to */
  constructor(
    private readonly context: PDFContext,
    private readonly toParent: Affine,
    private readonly images: ReadonlyMap<string, PDFRef>,
  ) {}

  write(...lines: string[]): void {
    this.body.push(...lines);
  }

  text(): string {
    return this.body.join('\n');
  }

  resources(): PDFDict {
    const named = (prefix: string, refs: readonly PDFRef[]): Record<string, PDFRef> => Object.fromEntries(refs.map((ref, i) => [`${prefix}${i}`, ref]));
    return this.context.obj({
      ExtGState: this.context.obj(named('S', [...this.states.values()])),
      XObject: this.context.obj({ ...named('F', this.forms), ...named('I', [...this.shown]) }),
      Pattern: this.context.obj(named('P', this.patterns)),
    });
  }

  mark(mark: Mark): void {
    if (mark.kind === 'group') this.group(mark);
    else if (mark.kind === 'image') this.image(mark);
    else this.path(mark);
  }

  private group(group: GroupMark): void {
    const { clip, strength, blend } = group;
    const under = undercoat(group);
    const marks = under ? [under, ...group.marks] : group.marks;
    this.write('q');
    if (clip) this.write(pathOps(clip.path), clip.rule === 'evenodd' ? 'W* n' : 'W n');
    if (strength < 1 || blend) {
      const inner = new PdfCanvas(this.context, IDENTITY, this.images);
      marks.forEach((mark) => inner.mark(mark));
      this.write(`/${this.state({ ca: strength, CA: strength, ...(blend && { BM: PDF_BLENDS[blend] }) })} gs`, `/${this.form(inner)} Do`);
    } else marks.forEach((mark) => this.mark(mark));
    this.write('Q');
  }

  /** A bitmap: PDF's images fill the unit square from below. */
  private image(mark: ImageMark): void {
    const ref = this.images.get(imageKey(mark));
    const map = mark.place.kind === 'flat' ? affineOf(mark.place.map) : null;
    if (!ref || !map) return;
    this.shown.add(ref);
    const name = `I${[...this.shown].indexOf(ref)}`;
    this.write('q', pathOps(mark.path), 'W n', `${matrix(composeAffine(map, [1, 0, 0, -1, 0, 1]))} cm`, `/${name} Do`, 'Q');
  }

  private path({ path, fill, rule, line }: PathMark): void {
    if (fill?.kind === 'conic' && fill.stops.some(({ strength }) => strength < 1)) {
      // Triangles of a mesh may lie on each other by a px: the mask is laid on all of them as one.
      const inner = new PdfCanvas(this.context, IDENTITY, this.images);
      inner.path({ kind: 'path', path, fill: { ...fill, stops: fill.stops.map((stop) => ({ ...stop, strength: 1 })) }, rule, line: null });
      this.write('q', `/${this.softMask(fill, pathBox(path))} gs`, `/${this.form(inner)} Do`, 'Q');
    } else if (fill) {
      this.write('q');
      this.ink(fill, 'fill', pathBox(path));
      this.write(pathOps(path), rule === 'evenodd' ? 'f*' : 'f', 'Q');
    }
    if (line && !line.hair) this.line(path, line);
  }

  private line(path: Path, line: LineStyle): void {
    const local = invertAffine(line.pen);
    if (!local) return;
    this.write('q');
    const room = line.width * Math.hypot(...line.pen.slice(0, 4)) * Math.max(1, line.miterLimit);
    this.ink(line.ink, 'stroke', grown(pathBox(path), room));
    this.write(`${matrix(line.pen)} cm`, `${n(line.width)} w`);
    this.write(`${line.cap === 'round' ? 1 : line.cap === 'square' ? 2 : 0} J`, `${line.join === 'round' ? 1 : line.join === 'bevel' ? 2 : 0} j`);
    this.write(`${n(line.miterLimit)} M`, `[${line.dashes.map(n).join(' ')}] 0 d`, pathOps(mapPath(path, local), 7), 'S', 'Q');
  }

  /** @param box what of the sheet is painted */
  private ink(ink: Ink, use: 'fill' | 'stroke', box: PathBox | null): void {
    if (ink.kind === 'flat') {
      if (ink.strength < 1) this.write(`/${this.state({ ca: ink.strength, CA: ink.strength })} gs`);
      this.write(`${rgb(ink.colour)} ${use === 'fill' ? 'rg' : 'RG'}`);
      return;
    }
    if (ink.stops.some((stop) => stop.strength < 1)) this.write(`/${this.softMask(ink, box)} gs`);
    const pattern = this.pattern(ink, composeAffine(this.toParent, ink.frame), 'DeviceRGB', (stop) => rgb(stop.colour).split(' ').map(Number), box);
    this.write(use === 'fill' ? `/Pattern cs /${pattern} scn` : `/Pattern CS /${pattern} SCN`);
  }

  private pattern(
    ink: Exclude<Ink, { kind: 'flat' }>,
    frame: Affine,
    space: 'DeviceRGB' | 'DeviceGray',
    value: (stop: GradientStop) => number[],
    box: PathBox | null,
  ): string {
    const shading = ink.kind === 'conic' ? this.mesh(ink, box, space) : this.along(ink, space, value);
    this.patterns.push(this.context.register(this.context.obj({ Type: 'Pattern', PatternType: 2, Matrix: [...frame], Shading: shading })));
    return `P${this.patterns.length - 1}`;
  }

  /** A shading of free triangles, a colour at each corner (ISO 32000-1, 8.7.4.5.5). */
  private mesh(ink: ConicInk, box: PathBox | null, space: 'DeviceRGB' | 'DeviceGray'): PDFRef {
    const corners = (box ? conicMesh(ink, box) : []).flat();
    const reach = corners.reduce((most, { x, y }) => Math.max(most, Math.abs(x), Math.abs(y)), 1e-6);
    const isGrey = space === 'DeviceGray';
    const size = 1 + 2 * 4 + 2 * (isGrey ? 1 : 3);
    const data = new DataView(new ArrayBuffer(corners.length * size));
    corners.forEach(({ x, y, rgba }, i) => {
      const at = i * size + 1;
      [x, y].forEach((value, k) => data.setUint32(at + 4 * k, Math.round(((value / reach + 1) / 2) * 0xffffffff)));
      (isGrey ? rgba.slice(3) : rgba.slice(0, 3)).forEach((value, k) => data.setUint16(at + 8 + 2 * k, Math.round((value / 255) * 0xffff)));
    });
    const decode = [-reach, reach, -reach, reach, ...(isGrey ? [0, 1] : [0, 1, 0, 1, 0, 1])];
    const kind = { ShadingType: 4, ColorSpace: space, BitsPerCoordinate: 32, BitsPerComponent: 16, BitsPerFlag: 8, Decode: decode };
    return this.context.register(this.context.flateStream(new Uint8Array(data.buffer), kind));
  }

  private along(ink: Extract<Ink, { kind: 'linear' | 'radial' }>, space: string, value: (stop: GradientStop) => number[]): PDFRef {
    const coords = ink.kind === 'linear' ? [...ink.from, ...ink.to] : [...ink.focus, 0, ...ink.centre, ink.radius];
    const shading = this.context.obj({
      ShadingType: ink.kind === 'linear' ? 2 : 3,
      ColorSpace: space,
      Coords: coords,
      Extend: [true, true],
      Function: this.stops(ink.stops, value),
    });
    return this.context.register(shading);
  }

  private stops(stops: readonly GradientStop[], value: (stop: GradientStop) => number[]): PDFRef {
    const functions: PDFRef[] = [];
    const bounds: number[] = [];
    let [at, from] = [0, value(stops[0]!)];
    // Pieces without length are left out: a function's bounds have to grow.
    const piece = (to: number, end: number[]): void => {
      const until = Math.max(at, Math.min(1, to));
      if (until > at) {
        if (at > 0) bounds.push(at);
        functions.push(this.context.register(this.context.obj({ FunctionType: 2, Domain: [0, 1], C0: from, C1: end, N: 1 })));
      }
      [at, from] = [until, end];
    };
    piece(stops[0]!.at, from);
    for (const stop of stops.slice(1)) piece(stop.at, value(stop));
    piece(1, from);
    const encode = functions.flatMap(() => [0, 1]);
    return this.context.register(this.context.obj({ FunctionType: 3, Domain: [0, 1], Functions: functions, Bounds: bounds, Encode: encode }));
  }

  /** A graphics state whose soft mask is the gradient's strengths as grey. */
  private softMask(ink: Exclude<Ink, { kind: 'flat' }>, box: PathBox | null): string {
    const mask = new PdfCanvas(this.context, IDENTITY, this.images);
    const pattern = mask.pattern(ink, ink.frame, 'DeviceGray', (stop) => [stop.strength], box);
    mask.write(
      `/Pattern cs /${pattern} scn`,
      `${box ? [box.minX - 1, box.minY - 1, box.maxX - box.minX + 2, box.maxY - box.minY + 2].map(n).join(' ') : '-100000 -100000 200000 200000'} re f`,
    );
    const form = this.formObject(mask, 'DeviceGray');
    return this.state({ SMask: this.context.obj({ Type: 'Mask', S: 'Luminosity', G: form }) }, `mask of ${form.toString()}`);
  }

  private state(entries: Record<string, number | string | PDFDict>, key = JSON.stringify(entries)): string {
    if (!this.states.has(key)) this.states.set(key, this.context.register(this.context.obj({ Type: 'ExtGState', ...entries })));
    return `S${[...this.states.keys()].indexOf(key)}`;
  }

  private form(inner: PdfCanvas): string {
    this.forms.push(this.formObject(inner, 'DeviceRGB'));
    return `F${this.forms.length - 1}`;
  }

  private formObject(inner: PdfCanvas, space: string): PDFRef {
    const group = this.context.obj({ Type: 'Group', S: 'Transparency', CS: space });
    const dict = { Type: 'XObject', Subtype: 'Form', BBox: [-100000, -100000, 100000, 100000], Group: group, Resources: inner.resources() };
    return this.context.register(this.context.flateStream(inner.text(), dict));
  }
}
