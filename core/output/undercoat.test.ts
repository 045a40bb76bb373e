import { flatInk, type GroupMark, type Mark } from '../artwork/marks';
import { IDENTITY } from '../math/matrix';
import { signedArea } from '../math/polygon';
import { flattenPath } from '../shape/path';
import { undercoat } from './undercoat';

describe('an undercoat', () => {
  const square = (x: number, y: number, size: number, back = false): readonly number[] => (back ? [x, y, x, y + size, x + size, y + size, x + size, y] : [x, y, x + size, y, x + size, y + size, x, y + size]); // prettier-ignore
  const face = (coords: readonly number[], colour: string): Mark => {
    const ink = flatInk(colour);
    const verbs = 'MLLLZ'.repeat(coords.length / 8);
    return { kind: 'path', path: { verbs, coords }, fill: ink, rule: 'evenodd', line: { ink, width: 0.12, cap: 'round', join: 'round', miterLimit: 4, dashes: [], pen: IDENTITY, hair: true } }; // prettier-ignore
  };
  const group = (...marks: Mark[]): GroupMark => ({ kind: 'group', node: 'n', name: 'n', clip: null, strength: 1, marks });

  it('lies under the faces of a thing as one path, ends where they end, and leaves holes open', () => {
    const under = undercoat(group(face(square(0, 0, 4), '#204060'), face([...square(4, 0, 4, true), ...square(5, 1, 2, true)], '#406080')))!;
    expect([under.fill, under.line, under.rule]).toEqual([flatInk('#305070'), null, 'nonzero']);
    // Outer rings turn one way, holes the other.
    expect(flattenPath(under.path, 1).map((ring) => Math.sign(signedArea(ring)))).toEqual([1, 1, -1]);
    expect(
      flattenPath(under.path, 1)
        .flat()
        .reduce((most, n) => Math.max(most, n), 0),
    ).toBe(8);
  });

  it('is not needed under one face, nor under what is seen through', () => {
    expect(undercoat(group(face(square(0, 0, 4), '#204060')))).toBeNull();
    expect(undercoat({ ...group(face(square(0, 0, 4), '#204060'), face(square(4, 0, 4), '#204060')), node: null })).toBeNull();
    const thin = (mark: Mark): Mark => ({ ...mark, fill: flatInk('#204060', 0.5) }) as Mark;
    expect(undercoat(group(thin(face(square(0, 0, 4), '#204060')), thin(face(square(4, 0, 4), '#204060'))))).toBeNull();
  });
});
