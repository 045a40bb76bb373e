import { BASE, END, meanColour, outlineSegments, ringsOf, sideName, type Paint, type ShapeNode, type SurfaceName, type Swatch } from '@core';

/** The parts of letters with volume that are painted by themselves. */
export type LetterPart = 'front' | 'sides' | 'counters';

/** The face of a letter that looks out: where its depth goes, or where it was written when it is pressed in behind that. */
const frontOf = ({ depth }: ShapeNode): SurfaceName => (depth < 0 ? BASE : END);

/** The names of the walls within a letter's counters; none where it has none. */
function countersOf({ outline }: ShapeNode): readonly SurfaceName[] {
  return ringsOf(outline)
    .slice(1)
    .flatMap((ring) => outlineSegments(ring).map(({ id }) => sideName(id)));
}

/** The colours of the parts of some letters: those of the first that has such a part. Counters are the sides' where no letter has any. */
export function letterColours(letters: readonly ShapeNode[], swatches: readonly Swatch[]): Readonly<Record<LetterPart, string>> {
  const colour = (paint: Paint | undefined): string => (paint?.fill ? meanColour(paint.fill, swatches) : '#ffffff');
  const [first] = letters;
  const open = letters.find((letter) => countersOf(letter).length > 0);
  return {
    front: colour(first?.surfaces?.[frontOf(first)] ?? first?.paint),
    sides: colour(first?.paint),
    counters: colour((open?.surfaces?.[countersOf(open)[0]!] ?? open?.paint) || first?.paint),
  };
}

/** A letter with one of its parts in a colour, the others as they were. */
export function withLetterColour(letter: ShapeNode, part: LetterPart, fill: string): ShapeNode {
  const front = frontOf(letter);
  const paint = { ...letter.paint, fill };
  if (part === 'sides') return { ...letter, paint, surfaces: { ...letter.surfaces, [front]: letter.surfaces?.[front] ?? letter.paint } };
  const names = part === 'front' ? [front] : countersOf(letter);
  return { ...letter, surfaces: { ...letter.surfaces, ...Object.fromEntries(names.map((name) => [name, paint])) } };
}
