import type { Ink, Mark } from './marks';

/** The same marks with every colour of theirs made another. @param changed `#rrggbb` to `#rrggbb` */
export function recolouredMarks(marks: readonly Mark[], changed: (colour: string) => string): readonly Mark[] {
  return marks.map((mark): Mark => {
    if (mark.kind === 'group') return { ...mark, marks: recolouredMarks(mark.marks, changed) };
    const { fill, line } = mark;
    return { ...mark, fill: fill && recolouredInk(fill, changed), line: line && { ...line, ink: recolouredInk(line.ink, changed) } };
  });
}

function recolouredInk(ink: Ink, changed: (colour: string) => string): Ink {
  if (ink.kind === 'flat') return { ...ink, colour: changed(ink.colour) };
  return { ...ink, stops: ink.stops.map((stop) => ({ ...stop, colour: changed(stop.colour) })) };
}
