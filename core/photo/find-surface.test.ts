import { croppedPx, practiceOf, practicePair, SEEN_AT } from '../testing/practice';
import { runs } from '../testing/random';
import { findCrossings, type Crossing } from './find-crossings';
import { findSurface } from './find-surface';
import { compareSurfaces, fitSurface, shownBy, uncertaintyAt, type SurfaceKind } from './fit-surface';
import { fitPatch, patchShown } from './fit-patch';
import { grayOf, halvedGray } from './gray';
import { practicePlace, type PracticeSetup } from './practice';
import { PRACTICE_LATTICE } from './practice-setups';

const { columns, rows, box } = PRACTICE_LATTICE;
const sorted = (values: readonly number[]): number[] => [...values].sort((p, q) => p - q);
const part = (values: readonly number[], share: number): number => sorted(values)[Math.min(values.length - 1, Math.floor(values.length * share))]!;

/** Places of the sheet in the middle of its boxes whose surface is seen well, with where they are shown. */
function middles(setup: PracticeSetup): readonly { readonly u: number; readonly v: number; readonly x: number; readonly y: number }[] {
  return Array.from({ length: columns * rows }, (_, k) => [((k % columns) + 0.5) * box, (Math.floor(k / columns) + 0.5) * box] as const).flatMap(([u, v]) => {
    const place = practicePlace(setup, u, v);
    return place && place.angle > SEEN_AT ? [{ u, v, ...place.at }] : [];
  });
}

/** Crossings as they might be found: where they are shown, off by chance. */
function crossingsOf(setup: PracticeSetup, error: number, random: () => number): Crossing[] {
  const chance = (): number => error * Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  return Array.from({ length: (columns + 1) * (rows + 1) }, (_, k) => ({ column: k % (columns + 1), row: Math.floor(k / (columns + 1)) })).flatMap(
    ({ column, row }): readonly Crossing[] => {
      const place = practicePlace(setup, column * box, row * box);
      if (!place || place.angle < SEEN_AT) return [];
      return [{ column, row, at: { x: place.at.x + chance(), y: place.at.y + chance() }, error, sure: 1 }];
    },
  );
}

describe('a lattice in a photograph', () => {
  it('is found with its numbers, and what it lies on is known between its crossings', () => {
    let [seen, got, wrong] = [0, 0, 0];
    const errors: number[] = [];
    const off: Record<'bent' | 'patch', number[]> = { bent: [], patch: [] };
    const held = { bent: 0, patch: 0 };
    for (let seed = 0; seed < runs(4); seed++) {
      const { setup, pair } = practicePair(seed);
      const found = findSurface(grayOf(pair.latticed), PRACTICE_LATTICE);
      if (typeof found === 'string') throw new Error(`seed ${seed}: ${found}`);
      const at = new Map(found.crossings.map((crossing) => [`${crossing.column} ${crossing.row}`, crossing.at]));
      for (let i = 0; i <= columns; i++)
        for (let j = 0; j <= rows; j++) {
          const place = practicePlace(setup, i * box, j * box);
          if (!place || place.angle < SEEN_AT) continue;
          seen++;
          const own = at.get(`${i} ${j}`);
          if (!own) continue;
          got++;
          const error = Math.hypot(own.x - place.at.x, own.y - place.at.y);
          errors.push(error);
          if (error > 4) wrong++;
        }
      const { fit } = found.surfaces[0]!;
      const kind = setup.thing === 'pennant' ? 'patch' : 'bent';
      expect(fit.kind === 'patch').toBe(kind === 'patch');
      const shown = shownBy(fit);
      for (const { u, v, x, y } of middles(setup)) {
        const place = shown(u, v)!;
        const far = Math.hypot(place.x - x, place.y - y);
        off[kind].push(far);
        if (far < uncertaintyAt(fit, u, v)) held[kind]++;
      }
    }
    console.log(
      `crossings: ${got} of ${seen} found, ${wrong} wrong, off by ${part(errors, 0.5).toFixed(3)} px, 95 % under ${part(errors, 0.95).toFixed(3)}; ` +
        `between them bent ones ${part(off.bent, 0.5).toFixed(3)}, 95 % under ${part(off.bent, 0.95).toFixed(3)}, held ${((100 * held.bent) / off.bent.length).toFixed(1)} %; ` +
        `free ones ${part(off.patch, 0.5).toFixed(3)}, 95 % under ${part(off.patch, 0.95).toFixed(3)}, held ${((100 * held.patch) / off.patch.length).toFixed(1)} %`,
    );
    expect(got / seen).toBeGreaterThan(0.97);
    expect(wrong).toBe(0);
    expect(part(errors, 0.5)).toBeLessThan(0.1);
    expect(part(off.bent, 0.5)).toBeLessThan(0.2);
    expect(part(off.bent, 0.95)).toBeLessThan(0.5);
    expect((held.bent + held.patch) / (off.bent.length + off.patch.length)).toBeGreaterThan(0.9);
  });

  it('is found in part where the rest lies beyond the picture, with the same numbers', () => {
    const { setup, pair } = practicePair(2);
    const [left, top] = [260, 150];
    const found = findSurface(grayOf(croppedPx(pair.latticed, left, top, 540, 450)), PRACTICE_LATTICE);
    if (typeof found === 'string') throw new Error(found);
    expect(found.crossings.length).toBeGreaterThan(12);
    for (const { column, row, at } of found.crossings) {
      const place = practicePlace(setup, column * box, row * box)!.at;
      expect(Math.hypot(at.x + left - place.x, at.y + top - place.y)).toBeLessThan(1);
    }
  });

  it('is not found where there is none, where it is shown in a mirror, or too small, and it is said why', () => {
    const { pair } = practicePair(2);
    const { width, height } = pair.bare;
    expect(findCrossings(grayOf(pair.bare), PRACTICE_LATTICE)).toBe('no-lattice');
    expect(findCrossings(grayOf(croppedPx(pair.latticed, 0, 0, width, height, true)), PRACTICE_LATTICE)).toBe('mirrored');
    const small = halvedGray(halvedGray(halvedGray(grayOf(pair.latticed))));
    expect(['too-small', 'no-lattice']).toContain(findCrossings(small, PRACTICE_LATTICE));
    expect(findCrossings(grayOf(pair.latticed), { columns: 3, rows: 3, box: 12 })).toBe('other-lattice');
  });
});

describe('a surface fitted to crossings', () => {
  it('names each of up to five wrong ones, and is as good as without them', () => {
    for (let seed = 0; seed < runs(12); seed++) {
      const { setup, random } = practiceOf(seed);
      if (setup.thing === 'pennant') continue;
      const kind: SurfaceKind = setup.thing === 'hatch' ? 'panel' : setup.thing === 'funnel' ? 'cylinder' : 'cone';
      const clean = crossingsOf(setup, 0.08, random);
      const bad = new Set<number>();
      while (bad.size < 1 + (seed % 5)) bad.add(Math.floor(random() * clean.length));
      const spoilt = clean.map((crossing, i): Crossing => {
        const [far, way] = [2 + 30 * random(), 2 * Math.PI * random()];
        return bad.has(i) ? { ...crossing, at: { x: crossing.at.x + far * Math.cos(way), y: crossing.at.y + far * Math.sin(way) } } : crossing;
      });
      const [good, robust] = [clean, spoilt].map((crossings) => fitSurface(kind, crossings, PRACTICE_LATTICE, setup.camera)!) as [
        NonNullable<ReturnType<typeof fitSurface>>,
        NonNullable<ReturnType<typeof fitSurface>>,
      ];
      expect(new Set(robust.misses.flatMap(({ wrong }, i) => (wrong ? [i] : [])))).toEqual(bad);
      const error = (fit: typeof good): number => Math.sqrt(middles(setup).reduce((sum, { u, v, x, y }) => sum + (shownBy(fit)(u, v)!.x - x) ** 2 + (shownBy(fit)(u, v)!.y - y) ** 2, 0) / middles(setup).length); // prettier-ignore
      // What little the clean one is off by chance counts as a hundredth of a px.
      expect(error(robust)).toBeLessThan(1.3 * error(good) + 0.01);
    }
  });

  it('tells the angle of view and the radius with their uncertainty', () => {
    const { setup, random } = practiceOf(4);
    const fit = fitSurface('cylinder', crossingsOf(setup, 0.08, random), PRACTICE_LATTICE, setup.camera)!;
    if (fit.shape.kind === 'patch') throw new Error('no camera');
    const { camera, bent, covariance } = fit.shape;
    const spread = Math.sqrt(covariance![0]!);
    expect(Math.abs(Math.log(camera.focal / setup.camera.focal))).toBeLessThan(4 * spread);
    expect(spread).toBeLessThan(0.1);
    expect(bent.curvature / setup.bent.curvature).toBeCloseTo(1, 1);
  });

  it('is the simplest kind that explains what was seen', () => {
    for (const [seed, kind] of [
      [2, 'panel'],
      [8, 'cylinder'],
      [3, 'patch'],
    ] as const) {
      const { setup, random } = practiceOf(seed); // prettier-ignore
      const all = compareSurfaces(crossingsOf(setup, 0.08, random), PRACTICE_LATTICE, setup.camera);
      expect(all[0]!.kind).toBe(kind);
      expect(all).toHaveLength(4);
    }
  });

  it('of joined patches follows a wrap that one patch is too stiff for', () => {
    const off = (degrees: number, patches: number): number => {
      const { setup } = practiceOf(0);
      const bent = { ...setup.bent, curvature: (degrees * Math.PI) / 180 / (columns * box) };
      const wrapped: PracticeSetup = { ...setup, bent, pose: { ...setup.pose, turn: [0, 0, 0] }, camera: { ...setup.camera, bend: 0 } };
      const half = { u: (columns * box) / 2, v: (rows * box) / 2 };
      const seen = crossingsOf(wrapped, 0, () => 0.5).map(({ column, row, at }) => ({ u: column * box - half.u, v: row * box - half.v, at, error: 0.05 }));
      const shown = patchShown(fitPatch(seen, seen.map(() => 20), patches, 1, half)!); // prettier-ignore
      const within = middles(wrapped).filter(({ u }) => u > box && u < (columns - 1) * box);
      return Math.max(...within.map(({ u, v, x, y }) => Math.hypot(shown(u - half.u, v - half.v).x - x, shown(u - half.u, v - half.v).y - y)));
    };
    const table = [60, 100, 140].map((degrees) => [degrees, off(degrees, 1), off(degrees, 5)] as const);
    console.log(table.map(([degrees, one, five]) => `${degrees} degrees of arc: one patch ${one.toFixed(3)} px, five ${five.toFixed(3)} px`).join('; '));
    for (const [, one, five] of table) expect(five).toBeLessThan(one / 3);
    expect(table[0]![2]).toBeLessThan(0.04);
    expect(table[2]![2]).toBeLessThan(0.3);
  });
});
