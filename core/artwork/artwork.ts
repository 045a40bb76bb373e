import type { Affine } from '../math/matrix';
import { composeAffine, matrixOf, multiply33 } from '../math/matrix';
import { boxPath, mapPath, pathBox, type Path } from '../shape/path';
import { paintableDashes, type ImageMark, type Ink, type LineStyle, type Mark } from './marks';

/** Marks of flat artwork under an affine map: paths, pens, gradients and clips all follow exactly. */
export function mapMarks(marks: readonly Mark[], map: Affine): readonly Mark[] {
  return marks.map((mark): Mark => {
    if (mark.kind === 'group') {
      return { ...mark, clip: mark.clip && { ...mark.clip, path: mapPath(mark.clip.path, map) }, marks: mapMarks(mark.marks, map) };
    }
    if (mark.kind === 'image') return mapImage(mark, map);
    const path = mapPath(mark.path, map);
    return { ...mark, path, fill: mark.fill && mapInk(mark.fill, map), line: mark.line && mapLine(mark.line, map, path) };
  });
}

function mapImage(mark: ImageMark, map: Affine): ImageMark {
  const { place, path } = mark;
  const placed = place.kind === 'flat' ? { ...place, map: multiply33(matrixOf(map), place.map) } : { ...place, after: composeAffine(map, place.after) };
  const within = mark.within && pathBox(mapPath(boxPath(mark.within), map));
  return { ...mark, path: mapPath(path, map), place: placed, ...(within && { within }) };
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
