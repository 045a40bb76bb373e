import { flatInk, type GroupMark, type Ink, type Mark, type PathMark } from '../artwork/marks';
import { containsPoint, signedArea } from '../math/polygon';
import { flattenPath, joinPaths, reversePath, splitPath, type Path } from '../shape/path';

/** How finely curves are followed to tell which way a ring turns and what it lies in, in mm. */
const COARSE = 0.05;

/**
 * What is laid under a thing in files so that nothing shines through where its faces meet: all of them as one path, in
 * the mean of their colours. It ends where they end. Null where there are not two faces that need it.
 */
export function undercoat({ node, marks }: GroupMark): PathMark | null {
  if (node === null) return null;
  const faces = hairy(marks);
  if (faces.length < 2) return null;
  const colours = faces.map(({ fill }) => colourOf(fill!));
  const mean = [0, 1, 2].map((i) => Math.round(colours.reduce((sum, rgb) => sum + rgb[i]!, 0) / colours.length));
  const colour = `#${mean.map((n) => n.toString(16).padStart(2, '0')).join('')}`;
  return { kind: 'path', path: joinPaths(faces.flatMap(({ path }) => turned(path))), fill: flatInk(colour), rule: 'nonzero', line: null };
}

function hairy(marks: readonly Mark[]): readonly PathMark[] {
  return marks.flatMap((mark) => {
    if (mark.kind === 'group') return mark.clip || mark.strength < 1 || mark.blend || mark.blur ? [] : hairy(mark.marks);
    return mark.kind === 'path' && mark.line?.hair && mark.fill && isFull(mark.fill) ? [mark] : [];
  });
}

const isFull = (ink: Ink): boolean => (ink.kind === 'flat' ? ink.strength === 1 : ink.stops.every(({ strength }) => strength === 1));

const channels = (colour: string): readonly number[] => [1, 3, 5].map((i) => parseInt(colour.slice(i, i + 2), 16));

function colourOf(ink: Ink): readonly number[] {
  if (ink.kind === 'flat') return channels(ink.colour);
  const all = ink.stops.map(({ colour }) => channels(colour));
  return [0, 1, 2].map((i) => all.reduce((sum, rgb) => sum + rgb[i]!, 0) / all.length);
}

/** The rings of a face turned so that one rule fills them together with those of others: outer ones one way, holes the other. */
function turned(path: Path): readonly Path[] {
  const rings = splitPath(path);
  const flat = rings.map((ring) => flattenPath(ring, COARSE)[0] ?? []);
  return rings.map((ring, i) => {
    const [x, y] = flat[i]!;
    const inside = flat.filter((other, k) => k !== i && x !== undefined && containsPoint(other, x, y!)).length;
    return signedArea(flat[i]!) >= 0 === (inside % 2 === 0) ? ring : reversePath(ring);
  });
}
