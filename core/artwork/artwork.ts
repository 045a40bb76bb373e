import type { Affine } from '../math/matrix';
import { composeAffine } from '../math/matrix';
import { mapPath } from '../shape/path';
import type { Ink, LineStyle, Mark } from './marks';

/** Marks of flat artwork under an affine map: paths, pens, gradients and clips all follow exactly. */
export function mapMarks(marks: readonly Mark[], map: Affine): readonly Mark[] {
  return marks.map((mark): Mark => {
    if (mark.kind === 'group') {
      return { ...mark, clip: mark.clip && { ...mark.clip, path: mapPath(mark.clip.path, map) }, marks: mapMarks(mark.marks, map) };
    }
    return { ...mark, path: mapPath(mark.path, map), fill: mark.fill && mapInk(mark.fill, map), line: mark.line && mapLine(mark.line, map) };
  });
}

function mapInk(ink: Ink, map: Affine): Ink {
  return ink.kind === 'flat' ? ink : { ...ink, frame: composeAffine(map, ink.frame) };
}

function mapLine(line: LineStyle, map: Affine): LineStyle {
  return { ...line, ink: mapInk(line.ink, map), pen: composeAffine(map, line.pen) };
}

/** The map that fits artwork of this size to a box of the reading frame, given in cells. */
export function boxFromArtwork(
  artwork: { readonly width: number; readonly height: number },
  box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
): Affine {
  return [box.width / artwork.width, 0, 0, box.height / artwork.height, box.x, box.y];
}
