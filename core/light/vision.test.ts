import { COLOUR_VISION } from './vision';

describe('the colours of other eyes', () => {
  it.each(Object.entries(COLOUR_VISION))('leave greys as they are: %s', (_, rows) => {
    for (const row of rows) expect(row.reduce((sum, n) => sum + n, 0)).toBeCloseTo(1, 5);
  });

  it('bring red and green close together where their cones are missing', () => {
    const seen = (kind: keyof typeof COLOUR_VISION, rgb: readonly number[]): readonly number[] => COLOUR_VISION[kind].map((row) => row.reduce((sum, n, i) => sum + n * rgb[i]!, 0)); // prettier-ignore
    const apart = (kind: keyof typeof COLOUR_VISION): number => Math.hypot(...seen(kind, [0.4, 0.12, 0.1]).map((n, i) => n - seen(kind, [0.1, 0.25, 0.1])[i]!));
    expect(apart('protan')).toBeLessThan(0.2);
    expect(apart('deutan')).toBeLessThan(0.2);
    expect(apart('tritan')).toBeGreaterThan(0.3);
  });
});
