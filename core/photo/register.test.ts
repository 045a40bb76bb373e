import { practiceOf } from '../testing/practice';
import { runs } from '../testing/random';
import { grayOf, halvedGray } from './gray';
import { takePractice } from './practice';
import { registeredPlace, registerPhotos, SAME_THING, unregisteredPlace } from './register';

describe('a pair of photographs', () => {
  it('lies on each other to a tenth of a px, whatever was put on the thing, and two of different things do not', () => {
    let [before, worst, most, least] = [null as ReturnType<typeof grayOf> | null, 0, 0, 1];
    for (let seed = 0; seed < runs(3); seed++) {
      const { setup: still, random } = practiceOf(seed, 640);
      const chance = (range: number): number => range * (2 * random() - 1);
      const moved = { dx: chance(28), dy: chance(28), turn: chance((2 * Math.PI) / 180), scale: 1 + chance(0.02) };
      const pair = takePractice({ ...still, moved }, random);
      const [bare, latticed] = [grayOf(pair.bare), grayOf(pair.latticed)];
      const found = registerPhotos(bare, latticed)!;
      least = Math.min(least, found.agrees);
      // In the middle half of the picture, where the thing is.
      for (const [x, y] of [
        [0.25, 0.25],
        [0.75, 0.25],
        [0.5, 0.5],
        [0.25, 0.75],
        [0.75, 0.75],
      ] as const) {
        const place = { x: x * bare.width, y: y * bare.height }; // prettier-ignore
        const [own, true_] = [registeredPlace(found, bare, place), registeredPlace(moved, bare, place)];
        worst = Math.max(worst, Math.hypot(own.x - true_.x, own.y - true_.y));
      }
      if (before) most = Math.max(most, registerPhotos(before, latticed)!.agrees);
      before = bare;
    }
    console.log(`pairs: at most ${worst.toFixed(3)} px apart, agreeing by at least ${least.toFixed(2)}; of different things by at most ${most.toFixed(2)}`);
    expect(worst).toBeLessThan(0.15);
    expect(least).toBeGreaterThan(SAME_THING);
    expect(most).toBeLessThan(SAME_THING);
  });

  it('has each place in the other, there and back', () => {
    const [moved, size] = [
      { dx: 12, dy: -7, turn: 0.03, scale: 1.01 },
      { width: 640, height: 480 },
    ];
    const place = { x: 123.4, y: 400.5 };
    const back = unregisteredPlace(moved, size, registeredPlace(moved, size, place));
    expect(Math.hypot(back.x - place.x, back.y - place.y)).toBeLessThan(1e-9);
  });

  it('of different sizes is none', () => {
    const { setup, random } = practiceOf(2, 320);
    const pair = takePractice(setup, random);
    expect(registerPhotos(grayOf(pair.bare), halvedGray(grayOf(pair.latticed)))).toBeNull();
  });
});
