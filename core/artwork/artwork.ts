import type { Affine } from '../math/matrix';
import { composeAffine, matrixOf, multiply33 } from '../math/matrix';
import { boxPath, mapPath, pathBox, type Path, type PathBox } from '../shape/path';
import { paintableDashes, type GroupMark, type ImageMark, type Ink, type LineStyle, type Mark, type PathMark } from './marks';

/**
 * Marks of flat artwork under an affine map: paths, pens, gradients and clips all follow exactly. Artwork of many paths
 * is carried in every frame of a drag, so what is made of each is written out.
 */
export function mapMarks(marks: readonly Mark[], map: Affine): readonly Mark[] {
  const carried: Mark[] = [];
  for (const mark of marks) carried.push(mark.kind === 'path' ? mapPathMark(mark, map) : mark.kind === 'image' ? mapImage(mark, map) : mapGroup(mark, map));
  return carried;
}

function mapPathMark({ kind, path, fill, rule, line }: PathMark, map: Affine): PathMark {
  const there = mapPath(path, map);
  return { kind, path: there, fill: fill && mapInk(fill, map), rule, line: line && mapLine(line, map, there) };
}

function mapGroup(group: GroupMark, map: Affine): GroupMark {
  const blur = group.blur === undefined ? null : group.blur * Math.sqrt(Math.abs(map[0] * map[3] - map[1] * map[2]));
  const clip = group.clip && { ...group.clip, path: mapPath(group.clip.path, map) };
  return { ...group, clip, ...(blur !== null && { blur }), marks: mapMarks(group.marks, map) };
}

function mapImage(mark: ImageMark, map: Affine): ImageMark {
  const { place, path } = mark;
  const placed = place.kind === 'flat' ? { ...place, map: multiply33(matrixOf(map), place.map) } : { ...place, after: composeAffine(map, place.after) };
  const within = mark.within && pathBox(mapPath(boxPath(mark.within), map));
  const lights = mark.lights?.map((light) => ({ ...light, map: composeAffine(map, light.map) }));
  return { ...mark, path: mapPath(path, map), place: placed, ...(lights && { lights }), ...(within && { within }) };
}

/** The box of all that marks paint, lines as wide as they may come to be; null where there are none. */
export function marksBox(marks: readonly Mark[]): PathBox | null {
  const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  for (const mark of marks) {
    const own = mark.kind === 'group' ? marksBox(mark.marks) : pathBox(mark.path);
    if (!own) continue;
    const room = mark.kind === 'path' && mark.line ? mark.line.width * Math.hypot(...mark.line.pen.slice(0, 4)) : 0;
    box.minX = Math.min(box.minX, own.minX - room);
    box.minY = Math.min(box.minY, own.minY - room);
    box.maxX = Math.max(box.maxX, own.maxX + room);
    box.maxY = Math.max(box.maxY, own.maxY + room);
  }
  return box.minX <= box.maxX ? box : null;
}

/** An ink under an affine map. */
export function mapInk(ink: Ink, map: Affine): Ink {
  return ink.kind === 'flat' ? ink : { ...ink, frame: composeAffine(map, ink.frame) };
}

/** A pen under an affine map, its dashes bounded for the path that it draws. */
export function mapLine(line: LineStyle, map: Affine, path: Path): LineStyle {
  const pen = composeAffine(map, line.pen);
  const dashes = line.dashes.length === 0 ? line.dashes : paintableDashes(line.dashes, path, Math.sqrt(Math.abs(pen[0] * pen[3] - pen[1] * pen[2])));
  return { ...line, ink: mapInk(line.ink, map), pen, dashes };
}

/** The map that fits artwork of this size to a box of the reading frame, given in cells. */
export function boxFromArtwork(
  artwork: { readonly width: number; readonly height: number },
  box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
): Affine {
  return [box.width / artwork.width, 0, 0, box.height / artwork.height, box.x, box.y];
}
