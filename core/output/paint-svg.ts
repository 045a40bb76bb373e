import type { GroupMark, ImageMark, Ink, LineStyle, Mark, PathMark } from '../artwork/marks';
import { plainNumber } from '../math/figures';
import { base64Of } from '../math/digest';
import { affineOf, composeAffine, IDENTITY, invertAffine, type Affine } from '../math/matrix';
import { mmPer } from '../math/units';
import { marksIn, type HandedSheet } from './handed';
import { imageKey, type HandedImages } from './images';
import { strokeArea } from '../artwork/stroke-area';
import { conicFan, greyOf, isThin, type ConicInk, type Wedge } from './conic-fan';
import { undercoat } from './undercoat';
import { COORDS_OF, mapPath, type Path } from '../shape/path';

/**
 * A sheet as SVG 2: in its real size, one named group for each thing and each face, real paths and
 * gradients, bitmaps within. Names stand in `id` (made unique and safe) and in full in `<title>`.
 */
export function svgFromSheet({ sheet, background, marks, images }: HandedSheet, title: string): string {
  const writer = new SvgWriter(images);
  const n = (value: number): string => plainNumber(value);
  // User units are mm; on sheets in px they are px, as screen work expects.
  const inPx = sheet.unit === 'px';
  const k = inPx ? 1 / mmPer('px', sheet.resolution) : 1;
  const shown = (mm: number): string => `${n(mm / mmPer(sheet.unit, sheet.resolution))}${sheet.unit}`;
  if (background) writer.line(`<rect id="sheet" width="${n(sheet.width * k)}" height="${n(sheet.height * k)}" fill="${sheet.background}"/>`);
  for (const mark of inPx ? marksIn(marks, 'px', sheet.resolution) : marks) writer.mark(mark);
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg"${images?.size ? ' xmlns:xlink="http://www.w3.org/1999/xlink"' : ''} width="${shown(sheet.width)}" height="${shown(sheet.height)}" viewBox="0 0 ${n(sheet.width * k)} ${n(sheet.height * k)}">`,
    `<title>${escapeXml(title)}</title>`,
    ...(writer.defs.length ? ['<defs>', ...writer.defs, '</defs>'] : []),
    ...writer.body,
    '</svg>',
    '',
  ].join('\n');
}

/** Distance in mm within which the chords of a line's edges follow its curves. */
const LINE_EDGES = 0.002;

class SvgWriter {
  readonly defs: string[] = [];
  readonly body: string[] = [];
  private readonly ids = new Set<string>(['sheet']);
  private readonly pictures = new Map<string, string>();
  private readonly blurs = new Map<number, string>();
  private depth = 0;

  constructor(private readonly images: HandedImages = new Map()) {}

  line(text: string): void {
    this.body.push(' '.repeat(this.depth) + text);
  }

  mark(mark: Mark): void {
    if (mark.kind === 'group') this.group(mark);
    else if (mark.kind === 'image') this.image(mark);
    else this.path(mark);
  }

  private group(group: GroupMark): void {
    const { name, clip, strength, blend, blur, marks } = group;
    const id = name ? ` id="${this.unique(name)}"` : '';
    const faint = strength < 1 ? ` opacity="${plainNumber(strength)}"` : '';
    const cut = clip ? ` clip-path="url(#${this.clipId(clip)})"` : '';
    const mixed = blend ? ` style="mix-blend-mode:${blend}"` : '';
    const soft = blur ? ` filter="url(#${this.blurId(blur)})"` : '';
    this.line(`<g${id}${faint}${mixed}${soft}${cut}>`);
    this.depth++;
    if (name) this.line(`<title>${escapeXml(name)}</title>`);
    const under = undercoat(group);
    if (under) this.mark(under);
    marks.forEach((mark) => this.mark(mark));
    this.depth--;
    this.line('</g>');
  }

  /** A bitmap with the matrix by which it lies, its bytes once however often it is seen. */
  private image(mark: ImageMark): void {
    const key = imageKey(mark);
    const image = this.images.get(key);
    const map = mark.place.kind === 'flat' ? affineOf(mark.place.map) : null;
    if (!image || !map) return;
    let id = this.pictures.get(key);
    if (id === undefined) {
      this.pictures.set(key, (id = this.unique('bitmap')));
      const { type, bytes, width, height } = image;
      this.defs.push(` <image id="${id}" width="${width}" height="${height}" preserveAspectRatio="none" xlink:href="data:${type};base64,${base64Of(bytes)}"/>`);
    }
    const lies = composeAffine(map, [1 / image.width, 0, 0, 1 / image.height, 0, 0]);
    this.line(`<g clip-path="url(#${this.clipId({ path: mark.path, rule: 'nonzero' })})"><use xlink:href="#${id}" transform="${matrix(lies)}"/></g>`);
  }

  private path({ path, fill, rule, line: drawn }: PathMark): void {
    const line = drawn?.hair ? null : drawn;
    const even = rule === 'evenodd' && (path.verbs.match(/M/g)?.length ?? 0) > 1 ? ' fill-rule="evenodd"' : '';
    if (fill?.kind === 'conic' || line?.ink.kind === 'conic') {
      if (fill?.kind === 'conic') this.fan(path, rule, fill);
      else if (fill) this.path({ kind: 'path', path, fill, rule, line: null });
      if (line?.ink.kind === 'conic') this.fan(strokeArea(path, line, LINE_EDGES), 'nonzero', line.ink);
      else if (line) this.path({ kind: 'path', path, fill: null, rule, line });
      return;
    }
    const local = line && !isIdentity(line.pen) ? invertAffine(line.pen) : null;
    const paint = fill ? this.ink('fill', fill) + even : ' fill="none"';
    if (line && local) {
      if (fill) this.line(`<path d="${pathData(path)}"${paint}/>`);
      const pen = line.pen;
      this.line(`<path d="${pathData(mapPath(path, local), 6)}" fill="none"${this.stroke(line, local)} transform="${matrix(pen)}"/>`);
    } else {
      this.line(`<path d="${pathData(path)}"${paint}${line ? this.stroke(line, IDENTITY) : ''}/>`);
    }
  }

  /** A path filled around a point: wedges clipped to it, and masked by their strengths where it lets through. */
  private fan(path: Path, rule: PathMark['rule'], ink: ConicInk): void {
    const wedges = conicFan(ink, path);
    const faint = isThin(ink) ? ` mask="url(#${this.maskId(wedges)})"` : '';
    this.line(`<g clip-path="url(#${this.clipId({ path, rule })})"><g${faint}>`);
    this.depth++;
    for (const wedge of this.fanned(wedges, ({ colour }) => colour)) this.line(wedge);
    this.depth--;
    this.line('</g></g>');
  }

  /**
   * Wedges as paths. Those that are thinner than a px would shift its colour if their edges were softened: only the ray at
   * which the gradient begins is soft, where the first wedge lies on the last once more.
   */
  private fanned(wedges: readonly Wedge[], colour: (wedge: Wedge) => string): readonly string[] {
    const [under, first, ...others] = wedges;
    const write = (wedge: Wedge, crisp = true): string =>
      `<path d="${pathData(wedge.path)}" fill="${colour(wedge)}"${crisp ? ' shape-rendering="crispEdges"' : ''}/>`;
    return under && first ? [write(first), ...others.map((wedge) => write(wedge)), write(under), write(first, false)] : [];
  }

  private maskId(wedges: readonly Wedge[]): string {
    const id = this.unique('strengths');
    const greys = this.fanned(wedges, ({ strength }) => greyOf(strength)).join('');
    this.defs.push(` <mask id="${id}" maskUnits="userSpaceOnUse" x="-100000" y="-100000" width="200000" height="200000">${greys}</mask>`);
    return id;
  }

  private stroke(line: LineStyle, local: Affine): string {
    const parts = [this.ink('stroke', line.ink as Exclude<Ink, ConicInk>, local), ` stroke-width="${plainNumber(line.width)}"`];
    if (line.cap !== 'butt') parts.push(` stroke-linecap="${line.cap}"`);
    if (line.join !== 'miter') parts.push(` stroke-linejoin="${line.join}"`);
    else parts.push(` stroke-miterlimit="${plainNumber(line.miterLimit)}"`);
    if (line.dashes.length) parts.push(` stroke-dasharray="${line.dashes.map((d) => plainNumber(d)).join(' ')}"`);
    return parts.join('');
  }

  private ink(property: 'fill' | 'stroke', ink: Exclude<Ink, ConicInk>, local: Affine = IDENTITY): string {
    if (ink.kind === 'flat') {
      return ` ${property}="${ink.colour}"` + (ink.strength < 1 ? ` ${property}-opacity="${plainNumber(ink.strength)}"` : '');
    }
    const id = this.unique('gradient');
    const frame = composeAffine(local, ink.frame);
    const common = `id="${id}" gradientUnits="userSpaceOnUse" gradientTransform="${matrix(frame)}"`;
    const n = (value: number): string => plainNumber(value, 6);
    const stops = ink.stops
      .map((s) => `<stop offset="${n(s.at)}" stop-color="${s.colour}"${s.strength < 1 ? ` stop-opacity="${n(s.strength)}"` : ''}/>`)
      .join('');
    this.defs.push(
      ink.kind === 'linear'
        ? ` <linearGradient ${common} x1="${n(ink.from[0])}" y1="${n(ink.from[1])}" x2="${n(ink.to[0])}" y2="${n(ink.to[1])}">${stops}</linearGradient>`
        : ` <radialGradient ${common} cx="${n(ink.centre[0])}" cy="${n(ink.centre[1])}" fx="${n(ink.focus[0])}" fy="${n(ink.focus[1])}" r="${n(ink.radius)}">${stops}</radialGradient>`,
    );
    return ` ${property}="url(#${id})"`;
  }

  private clipId(clip: NonNullable<GroupMark['clip']>): string {
    const id = this.unique('clip');
    const rule = clip.rule === 'evenodd' ? ' clip-rule="evenodd"' : '';
    this.defs.push(` <clipPath id="${id}"><path d="${pathData(clip.path)}"${rule}/></clipPath>`);
    return id;
  }

  /** A filter of a blur, shared by all groups that are as soft. */
  private blurId(blur: number): string {
    let id = this.blurs.get(blur);
    if (id === undefined) {
      this.blurs.set(blur, (id = this.unique('soft')));
      this.defs.push(` <filter id="${id}" color-interpolation-filters="sRGB"><feGaussianBlur stdDeviation="${plainNumber(blur)}"/></filter>`);
    }
    return id;
  }

  /** A name as an XML id that no other element has. */
  private unique(name: string): string {
    const safe = name
      .normalize('NFKD')
      .replace(/[^A-Za-z0-9_-]+/g, '-')
      .replace(/^-+|-+$/g, '');
    const stem = /^[A-Za-z_]/.test(safe) ? safe : `part-${safe}`;
    let id = stem;
    for (let count = 2; this.ids.has(id); count++) id = `${stem}-${count}`;
    this.ids.add(id);
    return id;
  }
}

function isIdentity(m: Affine): boolean {
  return m.every((value, i) => value === IDENTITY[i]);
}

function matrix(m: Affine): string {
  return `matrix(${m.map((value) => plainNumber(value, 8)).join(' ')})`;
}

/** SVG path data with at most `digits` decimals. */
export function pathData({ verbs, coords }: Path, digits = 4): string {
  let at = 0;
  let text = '';
  for (const verb of verbs) {
    const size = COORDS_OF[verb] ?? 0;
    const numbers: string[] = [];
    for (let i = 0; i < size; i++) numbers.push(plainNumber(coords[at++]!, digits));
    text += verb + numbers.join(' ');
  }
  return text;
}

/** Text safe inside XML content and attributes; control signs that XML forbids are dropped. */
export function escapeXml(text: string): string {
  const escapes: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };
  return Array.from(text)
    .filter((sign) => sign >= ' ' || sign === '\n' || sign === '\t')
    .map((sign) => escapes[sign] ?? sign)
    .join('');
}
