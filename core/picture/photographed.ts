import { boxFromArtwork, mapMarks } from '../artwork/artwork';
import { carriedMarks } from '../artwork/carry-marks';
import { coverageOf } from '../artwork/coverage';
import { mappedPath, type FlatMap } from '../artwork/map-path';
import type { GroupMark, ImageLight, ImageMark, Mark } from '../artwork/marks';
import { tiledMarks } from '../artwork/pattern';
import type { FlatArtwork } from '../artwork/read-svg';
import { partOnSheet, photoToSheet, surfaceUnder, type SurfaceThere } from '../document/photo-edits';
import type { CheminDocument, PlacementNode } from '../document/types';
import type { KeptFit } from '../photo/kept-fit';
import type { Photo, PhotoPart } from '../photo/photo';
import { photoSide, type SheetPlace } from '../photo/photo-side';
import { affineOf, apply33, applyAffine, invert33, invertAffine, matrixOf, multiply33, type Affine } from '../math/matrix';
import type { SheetPoint } from '../math/points';
import { boxPath, flattenPath, mapPath, polygonPath, type Path } from '../shape/path';
import { thingOf, type DrawnNode } from './drawn-nodes';
import { placementMap, shownPart } from './paint-placement';
import { PLAIN, type Look, type Painted } from './painted';
import type { Stage } from './stage';

/** mm of the lattice's sheet by which tangents are measured. */
const STEP = 1e-3;

/** A place of the lattice's sheet as it is seen on the sheet of the drawing. */
export function photoMap(fit: KeptFit, after: Affine): FlatMap {
  const side = photoSide(fit);
  return (u, v) => {
    const at = side.shown(u, v);
    if (!at) return null;
    const p = applyAffine(after, at.x, at.y);
    return [p.x, p.y];
  };
}

/** The place of a photographed surface's sheet under a place of the drawing's, in mm; null beside it. */
export function photoPlace(there: SurfaceThere, { x, y }: SheetPoint): SheetPlace | null {
  const back = invertAffine(photoToSheet(there));
  if (!back || !there.surface.fit) return null;
  const px = applyAffine(back, x, y);
  return photoSide(there.surface.fit).under(px.x, px.y);
}

/** A photograph as it is painted, under everything. */
export function paintPhoto(photo: Photo): Painted {
  const { x, y, width, height } = photo;
  const mark = imageOf(photo.bitmap, { x, y, width, height });
  return { node: photo.id, name: photo.name, look: PLAIN, marks: [mark], visible: [] };
}

const images = new Map<string, ImageMark>();
const MOST_IMAGES = 200;

/** A bitmap in a box of the sheet: the same mark for as long as it lies there, so that painters keep what they made of it. */
function imageOf(
  bitmap: string,
  { x, y, width, height }: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
): ImageMark {
  const key = `${bitmap} ${x} ${y} ${width} ${height}`;
  let mark = images.get(key);
  if (mark) return mark;
  const path = boxPath({ minX: x, minY: y, maxX: x + width, maxY: y + height });
  mark = { kind: 'image', bitmap, path, place: { kind: 'flat', map: [width, 0, x, 0, height, y, 0, 0, 1] } };
  images.set(key, mark);
  if (images.size > MOST_IMAGES) images.delete(images.keys().next().value!);
  return mark;
}

interface Kept {
  readonly stage: Stage;
  readonly artwork: FlatArtwork;
  readonly there: SurfaceThere;
  readonly painted: Painted;
}

/** By placements as they are drawn: what copies show of one lies elsewhere, and is theirs. */
const kept = new WeakMap<DrawnNode, Kept>();

/** What artwork on a photographed surface is painted with, its light on it; null where it lies elsewhere. */
export function paintPhotographed(
  stage: Stage,
  document: CheminDocument,
  node: PlacementNode,
  drawn: DrawnNode,
  artwork: FlatArtwork | null | undefined,
): Painted | null {
  const { owner } = drawn;
  if (node.target.kind !== 'plane' || node.target.photographed === undefined) return null;
  const there = surfaceUnder(document, node);
  if (!artwork || !there?.surface.fit) return { node: owner, name: node.name, look: PLAIN, marks: [], visible: [] };
  const known = kept.get(drawn);
  if (known && known.stage === stage && known.artwork === artwork && sameThere(known.there, there)) return known.painted;
  const painted = laid(stage, node, drawn, artwork, there, there.surface.fit);
  kept.set(drawn, { stage, artwork, there, painted });
  return painted;
}

const sameThere = (p: SurfaceThere, q: SurfaceThere): boolean =>
  p.surface === q.surface && p.photo.x === q.photo.x && p.photo.y === q.photo.y && p.photo.width === q.photo.width && p.photo.height === q.photo.height;

function laid(stage: Stage, node: PlacementNode, drawn: DrawnNode, artwork: FlatArtwork, there: SurfaceThere, fit: KeptFit): Painted {
  const { owner } = drawn;
  const { name, strength, blend, pattern } = node;
  const flat = shownPart(artwork, node.part);
  const frame = placementMap(stage, node, null, drawn.map);
  const own = frame && affineOf(multiply33(frame, matrixOf(boxFromArtwork(flat, { x: 0, y: 0, width: node.anchor.width, height: node.anchor.height }))));
  if (!frame || !own) return { node: owner, name, look: PLAIN, marks: [], visible: [] };
  const after = photoToSheet(there);
  const map = photoMap(fit, after);
  const room = pattern && patternBox(fit, frame);
  const source = room ? tiledMarks(flat, pattern, node.anchor, room) : flat.marks;
  const carry = (path: Path): Path => mappedPath(path, map);
  const carried = (some: readonly Mark[]): readonly Mark[] =>
    carriedMarks(mapMarks(some, own), {
      map,
      carry,
      seen: (path) => path,
      step: STEP,
      place: ({ place }) => (place.kind === 'flat' ? { kind: 'photographed', map: place.map, fit, after } : null),
    });
  const outline = there.surface.outline;
  const clip = outline ? { path: mapPath(polygonPath(outline), after), rule: 'nonzero' as const } : null;
  const look: Look = strength === undefined && blend === undefined ? PLAIN : { strength: strength ?? 1, ...(blend && { blend }) };
  const covered = (some: readonly Mark[]): Path => carry(mapPath(coverageOf(some), own));
  // What is multiplied with the photograph has its light already.
  const { lights, grain, blur } = blend ? NO_LIGHT : lightsOf(there);
  const everyLight = grain ? [...lights, grain] : lights;
  // Grain is not blurred with the rest, except on bitmaps, whose own px it lies on.
  const lit = everyLight.length === 0 ? carried(source) : litMarks(source, carried, covered, { runs: blur > 0 ? lights : everyLight, bitmaps: everyLight });
  const grained = grain && blur > 0 ? overCover(covered(source), [grain], strength ?? 1) : [];
  const dressed: GroupMark = { kind: 'group', node: null, name, clip: null, ...look, ...(blur > 0 && { blur }), marks: lit };
  const all: readonly Mark[] = [...(look === PLAIN && blur === 0 ? lit : [dressed]), ...grained];
  const { width, height } = node.anchor;
  const box = room ?? { minX: 0, minY: 0, maxX: width, maxY: height };
  const edge = carry(mapPath(boxPath(box), affineOf(frame) ?? own));
  const polygon = flattenPath(edge, 0.05)[0] ?? [];
  const inside = clip && flattenPath(clip.path, 0.05).map((ring) => ({ polygon: ring }));
  return {
    node: owner,
    name,
    look: PLAIN,
    marks: clip ? [{ kind: 'group', node: null, name: '', clip, strength: 1, marks: all }] : all,
    visible: polygon.length < 6 ? [] : [{ node: owner, face: null, drawn: thingOf(drawn), polygon, open: false, ...(inside && { inside }) }],
  };
}

/** All of a surface that is seen, in cells of a placement's own frame. */
function patternBox(fit: KeptFit, frame: readonly number[]): { minX: number; minY: number; maxX: number; maxY: number } | undefined {
  const back = invert33(frame as Parameters<typeof invert33>[0]);
  if (!back) return undefined;
  const { minV, maxV, limits } = photoSide(fit);
  const rims = Array.from({ length: 9 }, (_, i) => minV + ((maxV - minV) * i) / 8).flatMap((v) => limits(v).flatMap((u) => apply33(back, u, v) ?? []));
  const [xs, ys] = [rims.map(({ x }) => x), rims.map(({ y }) => y)];
  return { minX: Math.min(...xs), minY: Math.min(...ys), maxX: Math.max(...xs), maxY: Math.max(...ys) };
}

interface Lights {
  readonly lights: readonly ImageLight[];
  readonly grain: ImageLight | null;
  /** In mm of the sheet. */
  readonly blur: number;
}

const NO_LIGHT: Lights = { lights: [], grain: null, blur: 0 };
/** Standard deviation in px that a px itself has, as wide as it is. */
const OF_A_PX = 1 / Math.sqrt(12);

/** What light artwork on a surface takes up: shade, highlights and grain, and how soft it is. */
function lightsOf(there: SurfaceThere): Lights {
  const { light } = there.surface;
  if (!light) return NO_LIGHT;
  const of = (part: PhotoPart, share: number, blend: ImageLight['blend']): readonly ImageLight[] => {
    const { x, y, width, height } = partOnSheet(there, part);
    return share <= 0 ? [] : [{ bitmap: part.bitmap, map: [width, 0, 0, height, x, y], share, blend }];
  };
  const lights = [...of(light.shade, light.shadeStrength, 'multiply'), ...of(light.gloss, light.glossStrength, 'screen')];
  const own = Math.sqrt(Math.max(0, (light.blur ?? 0) ** 2 - OF_A_PX ** 2));
  return { lights, grain: (light.grain && of(light.grain, 1, 'overlay')[0]) ?? null, blur: (own * there.photo.width) / there.width };
}

/**
 * Marks with light on them: bitmaps on their own px, all others within what they cover together, so that light lies in the
 * order of the marks and nothing behind them is lit.
 */
function litMarks(
  source: readonly Mark[],
  carried: (marks: readonly Mark[]) => readonly Mark[],
  covered: (marks: readonly Mark[]) => Path,
  lights: { readonly runs: readonly ImageLight[]; readonly bitmaps: readonly ImageLight[] },
): readonly Mark[] {
  return partsOf(source).flatMap((part): readonly Mark[] => {
    if (part.kind === 'run') return [...carried(part.marks), ...overCover(covered(part.marks), lights.runs, 1)];
    if (part.mark.kind === 'image') return carried([part.mark]).map((mark) => (mark.kind === 'image' ? { ...mark, lights: lights.bitmaps } : mark));
    const inside = litMarks(part.mark.marks, carried, covered, lights);
    const [outer] = carried([part.mark]);
    return outer?.kind === 'group' ? [{ ...outer, marks: inside }] : [];
  });
}

type Part = { readonly kind: 'run'; readonly marks: readonly Mark[] } | { readonly kind: 'one'; readonly mark: ImageMark | GroupMark };

const parts = new WeakMap<readonly Mark[], readonly Part[]>();

/** Marks in runs without bitmaps, and one by one where there are any; the same parts for the same marks. */
function partsOf(marks: readonly Mark[]): readonly Part[] {
  let found = parts.get(marks);
  if (found) return found;
  const made: Part[] = [];
  let run: Mark[] = [];
  const close = (): void => {
    if (run.length > 0) made.push({ kind: 'run', marks: run });
    run = [];
  };
  for (const mark of marks) {
    if (mark.kind === 'path' || (mark.kind === 'group' && !hasBitmap(mark.marks))) run.push(mark);
    else {
      close();
      made.push({ kind: 'one', mark });
    }
  }
  close();
  found = run.length === 0 && made.length === 1 && made[0]!.kind === 'run' ? [{ kind: 'run', marks }] : made;
  parts.set(marks, found);
  return found;
}

const hasBitmap = (marks: readonly Mark[]): boolean => marks.some((mark) => mark.kind === 'image' || (mark.kind === 'group' && hasBitmap(mark.marks)));

const LIGHT_NAMES: Readonly<Record<ImageLight['blend'], string>> = { multiply: 'shade', screen: 'highlights', overlay: 'grain' };

/** Light over what is covered. */
function overCover(cover: Path, lights: readonly ImageLight[], strength: number): readonly Mark[] {
  if (cover.verbs === '') return [];
  return lights.map(({ bitmap, map: [width, , , height, x, y], share, blend }): GroupMark => {
    const clip = { path: cover, rule: 'nonzero' } as const;
    return { kind: 'group', node: null, name: LIGHT_NAMES[blend], clip, strength: share * strength, blend, marks: [imageOf(bitmap, { x, y, width, height })] };
  });
}

/** What stands in front of artwork on photographs, over all of it. */
export function paintMasks(document: CheminDocument): readonly Painted[] {
  return (document.photos ?? []).flatMap((photo) =>
    photo.surfaces.flatMap((surface) => {
      const there = surface.masks && surfaceThere(document, photo);
      if (!there || !surface.masks) return [];
      return surface.masks.map(({ id, part }): Painted => ({ node: id, name: 'in front', look: PLAIN, marks: [imageOf(part.bitmap, partOnSheet(there, part))], visible: [] })); // prettier-ignore
    }),
  );
}

function surfaceThere(document: CheminDocument, photo: Photo): Pick<SurfaceThere, 'photo' | 'width' | 'height'> | null {
  const size = document.bitmaps.find(({ id }) => id === photo.bitmap);
  return size ? { photo, width: size.width, height: size.height } : null;
}
