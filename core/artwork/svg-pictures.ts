import { base64Of, bytesOf } from '../math/digest';
import { composeAffine, IDENTITY, invertAffine, type Affine } from '../math/matrix';
import { parseTransform } from './transform';

/** A bitmap that lay within an SVG, under the name that the SVG calls it by. */
export interface EmbeddedPicture {
  readonly key: string;
  readonly bytes: Uint8Array;
}

/** Draws a whole resolved SVG as a PNG with alpha, so many px to its unit. */
export type SvgPainter = (svg: string, scale: number) => Uint8Array;

/** Most parts of an SVG that become pictures, the longest side of these in px, and the px of all of them together. */
const MOST_PARTS = 24;
const LONGEST = 3000;
const MOST_PX = 27_000_000;

/** A resolved SVG whose parts that no paths can be have become pictures, how many they are, and px along their longer side. */
export interface PicturedSvg {
  readonly svg: string;
  readonly parts: number;
  readonly px: number;
}

/** What is drawn as a picture: what a filter or a mask is laid over. */
const BEYOND_PATHS = /\s(?:filter|mask)="url\(#/;
const EVERY_BEYOND = new RegExp(BEYOND_PATHS, 'g');

/**
 * A resolved SVG with each group under a filter or mask as a picture of it, in its place: its opacity, blend and clip
 * stay with it. Markup is only copied within the text, and drawn by `paint`.
 */
export function withPictures(svg: string, paint: SvgPainter): PicturedSvg {
  const root = /<svg\b[^>]*>/.exec(svg);
  const box = /viewBox="([^"]*)"/
    .exec(root?.[0] ?? '')?.[1]
    ?.split(/[\s,]+/)
    .map(Number);
  if (!root || box?.length !== 4 || !BEYOND_PATHS.test(svg)) return { svg, parts: 0, px: 0 };
  const [x, y, width, height] = box as [number, number, number, number];
  const pictured = Math.min(MOST_PARTS, svg.match(EVERY_BEYOND)!.length);
  const scale = Math.min(LONGEST / Math.max(width, height), Math.sqrt(MOST_PX / (pictured * width * height)));
  const defs = /<defs>[\s\S]*?<\/defs>/.exec(svg)?.[0] ?? '';
  const open: { readonly tag: string; readonly map: Affine }[] = [];
  let out = '';
  let from = 0;
  let parts = 0;
  const tags = /<(\/?)(g|defs)\b([^>]*?)(\/?)>/g;
  tags.lastIndex = root.index + root[0].length;
  let inDefs = 0;
  for (let match = tags.exec(svg); match; match = tags.exec(svg)) {
    const [whole, closes, name, attributes, empty] = match as unknown as [string, string, string, string, string];
    if (name === 'defs') inDefs += closes ? -1 : empty ? 0 : 1;
    if (name === 'defs' || inDefs > 0) continue;
    if (closes) {
      open.pop();
      continue;
    }
    const own = parseTransform(/\btransform="([^"]*)"/.exec(attributes)?.[1] ?? '') ?? IDENTITY;
    const outer = open.at(-1)?.map ?? IDENTITY;
    if (!BEYOND_PATHS.test(attributes) || empty || parts >= MOST_PARTS) {
      if (!empty) open.push({ tag: whole, map: composeAffine(outer, own) });
      continue;
    }
    const end = endOfGroup(svg, tags.lastIndex);
    const back = invertAffine(outer);
    // What lies on the group besides is kept on what takes its place.
    const kept = attributes.replace(/\s(?:transform|filter|mask)="[^"]*"/g, '');
    const inner = svg.slice(match.index, end).replace(/^<g\b[^>]*>/, `<g${attributes.replace(/\s(?:opacity|style|clip-path)="[^"]*"/g, '')}>`);
    const alone = `${root[0]}${defs}<g transform="${matrixText(outer)}">${inner}</g></svg>`;
    const png = paint(alone, scale);
    out += svg.slice(from, match.index);
    if (back) out += `<g${kept} transform="${matrixText(back)}"><image x="${x}" y="${y}" width="${width}" height="${height}" preserveAspectRatio="none" xlink:href="data:image/png;base64,${base64Of(png)}"/></g>`; // prettier-ignore
    from = end;
    tags.lastIndex = end;
    parts++;
  }
  return { svg: out + svg.slice(from), parts, px: Math.round(scale * Math.max(width, height)) };
}

const matrixText = (m: Affine): string => `matrix(${m.join(' ')})`;

function endOfGroup(svg: string, from: number): number {
  const tags = /<(\/?)g\b([^>]*?)(\/?)>/g;
  tags.lastIndex = from;
  let depth = 1;
  for (let match = tags.exec(svg); match; match = tags.exec(svg)) {
    depth += match[1] ? -1 : match[3] ? 0 : 1;
    if (depth === 0) return tags.lastIndex;
  }
  return svg.length;
}

/** The size in px of a picture by its bytes, or null where they are none. */
export type PictureSize = (bytes: Uint8Array) => { readonly width: number; readonly height: number } | null;

/** A resolved SVG whose bitmaps are named instead of held, and these. Pictures that keep their proportions get the box that they fill. */
export function withoutBytes(svg: string, sizeOf: PictureSize): { readonly svg: string; readonly pictures: readonly EmbeddedPicture[] } {
  const pictures: EmbeddedPicture[] = [];
  const named = svg.replace(/<image\b([^>]*?)\/?>/g, (_, attributes: string) => {
    const data = /href="data:image\/(?:png|jpe?g|webp);base64,\s*([^"]*)"/.exec(attributes)?.[1];
    const size = (name: string): number => Number(new RegExp(`\\s${name}="([^"]*)"`).exec(attributes)?.[1] ?? 0);
    // What cannot be a picture is left to the reader, which says so.
    if (data === undefined) return '<image/>';
    let bytes: Uint8Array;
    try {
      bytes = bytesOf(data.replace(/\s+/g, ''));
    } catch {
      return '';
    }
    const key = `embedded-${pictures.length + 1}`;
    pictures.push({ key, bytes });
    let [x, y, width, height] = [size('x'), size('y'), size('width'), size('height')];
    const px = /preserveAspectRatio="none"/.test(attributes) ? null : sizeOf(bytes);
    if (px) {
      const k = Math.min(width / px.width, height / px.height);
      [x, y] = [x + (width - px.width * k) / 2, y + (height - px.height * k) / 2];
      [width, height] = [px.width * k, px.height * k];
    }
    return `<image x="${x}" y="${y}" width="${width}" height="${height}" href="bitmap:${key}"/>`;
  });
  return { svg: named, pictures };
}

/** A cleaned SVG with the bitmaps that it names called otherwise; those that are not told are left out. */
export function withBitmapIds(svg: string, ids: ReadonlyMap<string, string>): string {
  return svg.replace(/<image\b[^>]*"bitmap:([\w-]+)"[^>]*\/>/g, (whole, key: string) => {
    const id = ids.get(key);
    return id === undefined ? '' : whole.replace(`"bitmap:${key}"`, `"bitmap:${id}"`);
  });
}
