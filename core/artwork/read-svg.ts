import { SaxesParser } from 'saxes';
import type { Checked, Problem } from '../math/errors';
import { applyAffine, composeAffine, IDENTITY, invertAffine, matrixOf, type Affine } from '../math/matrix';
import { BLENDS } from '../paint/paint';
import { joinPaths, mapPath, pathBox, pathFromSvg, polygonPath, roughLength, type Path, type PathBox } from '../shape/path';
import { mapMarks } from './artwork';
import { flatInk, type GroupMark, type Ink, type LineStyle, type Mark } from './marks';
import { strokeArea } from './stroke-area';
import { boxMap, colourOr, gradientInk, isNear, MAX_PLACE, numberOr, penOf, shareOr, type Element, type Pen } from './svg-values';
import { parseTransform } from './transform';

/** Flat artwork, ready to be mapped: marks in its own units, x right, y down, from (0, 0) to (width, height). */
export interface FlatArtwork {
  readonly width: number;
  readonly height: number;
  readonly marks: readonly Mark[];
}

/** Largest nesting of groups in artwork. */
const MAX_DEPTH = 64;
/** Most paths in one artwork. */
const MAX_PATHS = 50_000;
/** Most coordinates in one artwork, those of clips counted each time that they are used. */
const MAX_COORDS = 2_000_000;
/**
 * Most coordinates of a line that is painted with a pattern, and of all such lines, each dash counted as one: their
 * areas, which may cross themselves everywhere, are worked out whenever the artwork is read.
 */
const MAX_TILED_LINE = 160;
const MAX_TILED_LINES = 1_600;
/** Parts of a line's width that the chords of its edges may stray from its curves, where a pattern is seen within them. */
const FINE_LINE = 200;
/** Largest size in units of the artwork. */
const MAX_SIZE = 1e6;

/**
 * Reads SVG that holds groups, paths, gradients and clips only, as an SVG resolver leaves it: styles, uses, shapes
 * and text already turned into paths. What cannot be kept (masks, filters, bitmaps that are not named) is left out, each with
 * a note. Markup is read as text and never handed to a page.
 *
 * Gradients with bounding-box units get the exact box of their path (SVG 2, 8.12).
 */
export function readResolvedSvg(text: string): Checked<FlatArtwork> {
  const parsed = parseXml(text);
  if ('problem' in parsed) return { ok: false, problems: [parsed.problem] };
  const { root } = parsed;
  if (root.name !== 'svg') return refuse('not-svg', root.line, `The outermost element is <${root.name}>, not <svg>.`);
  const size = sizeOf(root);
  if (!size) return refuse('no-size', root.line, 'The SVG has no width, height or viewBox with an area.');
  if (Math.max(size.width, size.height) > MAX_SIZE || !isNear(size.toOrigin)) {
    return refuse('too-large', root.line, `The SVG is larger than ${MAX_SIZE.toLocaleString('en')} units, or lies farther off than that.`);
  }
  const reader = new Reader(root);
  try {
    const marks = reader.children(root, size.toOrigin, 0);
    return { ok: true, value: { width: size.width, height: size.height, marks }, notes: reader.notes };
  } catch (error) {
    if (error instanceof Refusal) return refuse(error.code, error.line, error.message);
    throw error;
  }
}

class Refusal extends Error {
  constructor(
    readonly code: string,
    readonly line: number,
    message: string,
  ) {
    super(message);
  }
}

function refuse(code: string, line: number, message: string): Checked<never> {
  return { ok: false, problems: [{ code, path: `line ${line}`, message }] };
}

function parseXml(text: string): { root: Element } | { problem: Problem } {
  const parser = new SaxesParser();
  const stack: Element[] = [];
  let root: Element | undefined;
  let problem: Problem | undefined;
  parser.on('error', (error) => {
    problem ??= {
      code: 'not-xml',
      path: `line ${parser.line}, column ${parser.column}`,
      message: `The SVG is not well formed: ${error.message.replace(/^\d+:\d+: /, '')}`,
    };
  });
  parser.on('opentag', (tag) => {
    const element: Element = { name: tag.name, attributes: tag.attributes as Record<string, string>, children: [], line: parser.line };
    stack.at(-1)?.children.push(element);
    root ??= element;
    stack.push(element);
  });
  parser.on('closetag', () => stack.pop());
  parser.write(text).close();
  if (problem) return { problem };
  return root ? { root } : { problem: { code: 'not-xml', path: 'line 1', message: 'The file holds no SVG element.' } };
}

function sizeOf(root: Element): { width: number; height: number; toOrigin: Affine } | null {
  const box = (root.attributes['viewBox'] ?? '').split(/[\s,]+/).map(Number);
  const [x, y, w, h] = box;
  if (box.length === 4 && box.every(Number.isFinite) && w! > 0 && h! > 0) return { width: w!, height: h!, toOrigin: [1, 0, 0, 1, -x!, -y!] };
  const width = parseFloat(root.attributes['width'] ?? '');
  const height = parseFloat(root.attributes['height'] ?? '');
  return width > 0 && height > 0 ? { width, height, toOrigin: IDENTITY } : null;
}

/** Most repetitions of a pattern that fills a path. */
const MOST_TILES = 2_000;

const DROPPED: Readonly<Record<string, string>> = {
  text: 'text without outlines',
  script: 'scripts',
  foreignObject: 'foreign content',
  use: 'references that were not resolved',
};
const SILENT = new Set(['defs', 'title', 'desc', 'metadata', 'style', 'linearGradient', 'radialGradient', 'clipPath', 'mask', 'filter', 'pattern']);

class Reader {
  readonly notes: Problem[] = [];
  private readonly byId = new Map<string, Element>();
  private readonly clipPaths = new Map<Element, Path | string>();
  /** Patterns that are being read: one that fills itself is left out. */
  private readonly filling = new Set<Element>();
  private tiledLines = 0;
  private paths = 0;
  private coords = 0;

  constructor(root: Element) {
    const index = (element: Element): void => {
      const { id } = element.attributes;
      if (id) this.byId.set(id, element);
      element.children.forEach(index);
    };
    index(root);
  }

  children(parent: Element, map: Affine, depth: number): Mark[] {
    if (depth > MAX_DEPTH) throw new Refusal('too-deep', parent.line, `Groups are nested more than ${MAX_DEPTH} deep.`);
    return parent.children.flatMap((child) => this.mark(child, map, depth));
  }

  private mark(element: Element, outer: Affine, depth: number): Mark[] {
    if (SILENT.has(element.name)) return [];
    const own = composeAffine(outer, this.transformOf(element));
    if (!isNear(own)) throw new Refusal('too-far', element.line, 'A transform leads farther off than anything can be drawn.');
    if (element.name === 'g' || element.name === 'svg') return this.group(element, own, depth);
    if (element.name === 'path') return this.path(element, own);
    if (element.name === 'image') return this.image(element, own);
    this.leaveOut(element, DROPPED[element.name] ?? `<${element.name}> elements`);
    return [];
  }

  private group(element: Element, map: Affine, depth: number): Mark[] {
    const { attributes } = element;
    if (attributes['mask']) this.leaveOut(element, 'masks');
    if (attributes['filter']) this.leaveOut(element, 'filters');
    const marks = this.children(element, map, depth + 1);
    const strength = shareOr(attributes['opacity'], 1);
    const clip = attributes['clip-path'] ? this.clip(element, attributes['clip-path'], map, marks) : null;
    if (marks.length === 0) return [];
    const mixes = /mix-blend-mode:\s*([\w-]+)/.exec(attributes['style'] ?? '')?.[1];
    const blend = BLENDS.find((one) => one === mixes && one !== 'normal') as GroupMark['blend'];
    if (mixes !== undefined && mixes !== 'normal' && !blend) this.leaveOut(element, `the blend mode ${mixes}`);
    if (strength === 1 && !clip && !blend) return marks;
    return [{ kind: 'group', node: null, name: attributes['id'] ?? '', clip, strength, ...(blend && { blend }), marks }];
  }

  /** A bitmap that is named; what an SVG holds itself was named when it was brought in. */
  private image(element: Element, map: Affine): Mark[] {
    const { attributes } = element;
    const bitmap = /^bitmap:([\w-]+)$/.exec(attributes['href'] ?? '')?.[1];
    const [x, y, width, height] = ['x', 'y', 'width', 'height'].map((key) => numberOr(attributes[key], 0)) as [number, number, number, number];
    if (bitmap === undefined || width <= 0 || height <= 0) {
      if (bitmap === undefined) this.leaveOut(element, 'bitmaps');
      return [];
    }
    if (++this.paths > MAX_PATHS) throw new Refusal('too-many', element.line, `There are more than ${MAX_PATHS.toLocaleString('en')} paths.`);
    const lies = composeAffine(map, [width, 0, 0, height, x, y]);
    if (!isNear(lies)) throw new Refusal('too-far', element.line, `A bitmap lies farther off than ${MAX_PLACE.toLocaleString('en')} units.`);
    const place = { kind: 'flat', map: matrixOf(lies) } as const;
    return [{ kind: 'image', bitmap, path: mapPath(polygonPath([0, 0, 1, 0, 1, 1, 0, 1]), lies), place }];
  }

  private path(element: Element, map: Affine): Mark[] {
    if (++this.paths > MAX_PATHS) throw new Refusal('too-many', element.line, `There are more than ${MAX_PATHS.toLocaleString('en')} paths.`);
    const { attributes } = element;
    const read = pathFromSvg(attributes['d'] ?? '');
    if (typeof read === 'string') throw new Refusal('bad-path', element.line, `A path cannot be read: ${read}.`);
    const box = pathBox(read);
    if (!box) return [];
    const path = this.placed(element, read, map);
    const rule = attributes['fill-rule'] === 'evenodd' ? 'evenodd' : 'nonzero';
    const tiled = this.tiled(element, 'fill', box, box, { path, rule }, map);
    const tiledLine = this.tiledLine(element, read, box, map);
    const fill = tiled ? null : this.ink(element, attributes['fill'] ?? '#000000', shareOr(attributes['fill-opacity'], 1), box, map);
    const line = tiledLine ? null : this.line(element, box, map);
    const mark: Mark = { kind: 'path', path, fill, rule, line };
    const strength = shareOr(attributes['opacity'], 1);
    const marks = [...(tiled ? [tiled] : []), ...(fill || line ? [mark] : []), ...(tiledLine ? [tiledLine] : [])];
    if (marks.length === 0) return [];
    return strength === 1 ? marks : [{ kind: 'group', node: null, name: '', clip: null, strength, marks }];
  }

  /** The area of a line that is painted with a pattern, filled with it. Null where it is painted with something else. */
  private tiledLine(element: Element, path: Path, box: PathBox, map: Affine): GroupMark | null {
    if (!this.patternOf(element, 'stroke')) return null;
    const pen = this.pen(element);
    if (!pen) return null;
    const period = pen.dashes.reduce((sum, length) => sum + length, 0);
    const size = path.coords.length + (period > 0 ? (pen.dashes.length * roughLength(path)) / period : 0);
    if (size > MAX_TILED_LINE || this.tiledLines + size > MAX_TILED_LINES) {
      this.leaveOut(element, 'patterns on lines of too many parts');
      return null;
    }
    this.tiledLines += size;
    const area = strokeArea(path, { ...pen, ink: flatInk('#000000'), pen: IDENTITY }, pen.width / FINE_LINE);
    const reach = pathBox(area);
    return reach && this.tiled(element, 'stroke', box, reach, { path: this.placed(element, area, map), rule: 'nonzero' }, map);
  }

  private patternOf({ attributes }: Element, painted: 'fill' | 'stroke'): Element | null {
    const source = this.byId.get(/^url\(#(.+)\)/.exec(attributes[painted] ?? '')?.[1] ?? '');
    return source?.name === 'pattern' && !this.filling.has(source) ? source : null;
  }

  /**
   * A path filled with a pattern, or a line painted with one (SVG 2, 14.3): its tiles as vectors, clipped to it. Null
   * where it is painted with something else.
   * @param box of the path, which patterns are measured by; @param reach of what is painted, in the same units
   */
  private tiled(
    element: Element,
    painted: 'fill' | 'stroke',
    box: PathBox,
    reach: PathBox,
    clip: NonNullable<GroupMark['clip']>,
    map: Affine,
  ): GroupMark | null {
    const source = this.patternOf(element, painted);
    if (!source) return null;
    const { attributes } = source;
    const strength = shareOr(element.attributes[`${painted}-opacity`], 1);
    const number = (name: string): number => numberOr(attributes[name], 0);
    const toBox = boxMap(box);
    const own = attributes['patternUnits'] === 'userSpaceOnUse' ? IDENTITY : toBox;
    const [x, y, width, height] = [number('x') * own[0] + own[4], number('y') * own[3] + own[5], number('width') * own[0], number('height') * own[3]];
    const transform = attributes['patternTransform'] ? (parseTransform(attributes['patternTransform']) ?? IDENTITY) : IDENTITY;
    const frame = composeAffine(map, transform);
    const back = invertAffine(transform);
    if (!(width > 0 && height > 0) || !back) return null;
    const view = (attributes['viewBox'] ?? '').split(/[\s,]+/).map(Number);
    const [vx, vy, vw, vh] = view as [number, number, number, number];
    const content: Affine =
      view.length === 4 && vw > 0 && vh > 0
        ? [width / vw, 0, 0, height / vh, -(vx * width) / vw, -(vy * height) / vh]
        : attributes['patternContentUnits'] === 'objectBoundingBox'
          ? [toBox[0], 0, 0, toBox[3], 0, 0]
          : IDENTITY;
    const corners = [[reach.minX, reach.minY], [reach.maxX, reach.minY], [reach.maxX, reach.maxY], [reach.minX, reach.maxY]].map(([u, v]) => applyAffine(back, u!, v!)); // prettier-ignore
    const [xs, ys] = [corners.map((p) => p.x), corners.map((p) => p.y)];
    const [left, right] = [Math.floor((Math.min(...xs) - x) / width), Math.floor((Math.max(...xs) - x) / width - 1e-9)];
    const [top, low] = [Math.floor((Math.min(...ys) - y) / height), Math.floor((Math.max(...ys) - y) / height - 1e-9)];
    if ((right - left + 1) * (low - top + 1) > MOST_TILES) {
      this.leaveOut(element, `a pattern of more than ${MOST_TILES.toLocaleString('en')} tiles`);
      return { kind: 'group', node: null, name: '', clip: null, strength, marks: [] };
    }
    this.filling.add(source);
    const marks = this.children(source, composeAffine(frame, composeAffine([1, 0, 0, 1, x, y], content)), 0);
    this.filling.delete(source);
    const rim = mapPath(polygonPath([x, y, x + width, y, x + width, y + height, x, y + height]), frame);
    const tile: Mark[] = [{ kind: 'group', node: null, name: '', clip: { path: rim, rule: 'nonzero' }, strength: 1, marks }];
    const tiles: Mark[] = [];
    for (let j = top; j <= low; j++)
      for (let i = left; i <= right; i++)
        tiles.push(...mapMarks(tile, [1, 0, 0, 1, frame[0] * i * width + frame[2] * j * height, frame[1] * i * width + frame[3] * j * height]));
    this.coords += coordsOf(marks) * tiles.length;
    if (this.coords > MAX_COORDS) throw new Refusal('too-many', element.line, `There are more than ${MAX_COORDS.toLocaleString('en')} coordinates.`);
    return { kind: 'group', node: null, name: '', clip, strength, marks: tiles };
  }

  private line(element: Element, box: PathBox, map: Affine): LineStyle | null {
    const { attributes } = element;
    const ink = this.ink(element, attributes['stroke'] ?? 'none', shareOr(attributes['stroke-opacity'], 1), box, map);
    const pen = ink && this.pen(element);
    return pen && { ...pen, ink, pen: map };
  }

  private pen(element: Element): Pen | null {
    const pen = penOf(element);
    if (pen && pen.width > MAX_PLACE) throw new Refusal('too-far', element.line, 'A line is wider than anything can be drawn.');
    return pen;
  }

  /** A path where its map takes it, counted. */
  private placed(element: Element, path: Path, map: Affine): Path {
    this.coords += path.coords.length;
    if (this.coords > MAX_COORDS) throw new Refusal('too-many', element.line, `There are more than ${MAX_COORDS.toLocaleString('en')} coordinates.`);
    const placed = mapPath(path, map);
    if (!isNear(placed.coords)) throw new Refusal('too-far', element.line, `A path lies farther off than ${MAX_PLACE.toLocaleString('en')} units.`);
    return placed;
  }

  private ink(element: Element, value: string, strength: number, box: PathBox, map: Affine): Ink | null {
    if (value === 'none') return null;
    const reference = /^url\(#(.+)\)/.exec(value)?.[1];
    if (reference === undefined) return flatInk(colourOr(value), strength);
    const source = this.byId.get(reference);
    if (!source || !source.name.endsWith('Gradient')) {
      this.leaveOut(element, 'patterns');
      return null;
    }
    const ink = gradientInk(source, strength, box, map);
    // A gradient that nothing can be told of is its last colour (SVG 2, 14.2).
    return ink ?? flatInk(colourOr(source.children.filter((child) => child.name === 'stop').at(-1)?.attributes['stop-color']), strength);
  }

  private clip(element: Element, value: string, map: Affine, marks: readonly Mark[]): GroupMark['clip'] {
    const source = this.byId.get(/^url\(#(.+)\)/.exec(value)?.[1] ?? '');
    if (source?.name !== 'clipPath') return null;
    if (source.attributes['clip-path']) this.leaveOut(element, 'clips of clips');
    const units = source.attributes['clipPathUnits'] === 'objectBoundingBox' ? boxMap(boxOfMarks(marks)) : IDENTITY;
    const frame = composeAffine(composeAffine(map, units), this.transformOf(source));
    const paths: Path[] = [];
    let rule: 'nonzero' | 'evenodd' = 'nonzero';
    const gather = (parent: Element, outer: Affine): void => {
      for (const child of parent.children) {
        const own = composeAffine(outer, this.transformOf(child));
        if (child.name === 'g') gather(child, own);
        const path = child.name === 'path' ? this.clipPath(child) : '';
        if (typeof path !== 'string') paths.push(this.placed(child, path, own));
        if (child.attributes['clip-rule'] === 'evenodd') rule = 'evenodd';
      }
    };
    gather(source, frame);
    return { path: joinPaths(paths), rule };
  }

  /** A path of a clip, read once however often the clip is used. */
  private clipPath(element: Element): Path | string {
    let path = this.clipPaths.get(element);
    if (path === undefined) this.clipPaths.set(element, (path = pathFromSvg(element.attributes['d'] ?? '')));
    return path;
  }

  private transformOf(element: Element): Affine {
    const text = element.attributes['transform'];
    if (text === undefined) return IDENTITY;
    const map = parseTransform(text);
    if (!map) throw new Refusal('bad-transform', element.line, `The transform “${text.slice(0, 60)}” cannot be read.`);
    return map;
  }

  private leaveOut(element: Element, what: string): void {
    const message = `Left out: ${what}.`;
    if (!this.notes.some((note) => note.message === message)) this.notes.push({ code: 'left-out', path: `line ${element.line}`, message });
  }
}

/** Coordinates of marks, those of groups too. */
function coordsOf(marks: readonly Mark[]): number {
  return marks.reduce((sum, mark) => sum + (mark.kind === 'group' ? coordsOf(mark.marks) + 8 : mark.path.coords.length), 0);
}

function boxOfMarks(marks: readonly Mark[]): PathBox | null {
  const boxes = marks.map((mark) => (mark.kind === 'group' ? boxOfMarks(mark.marks) : pathBox(mark.path))).filter((box) => box !== null);
  if (boxes.length === 0) return null;
  return {
    minX: Math.min(...boxes.map((b) => b.minX)),
    minY: Math.min(...boxes.map((b) => b.minY)),
    maxX: Math.max(...boxes.map((b) => b.maxX)),
    maxY: Math.max(...boxes.map((b) => b.maxY)),
  };
}
