import { practiceSetup, PRACTICE_LATTICE } from './practice-setups';
import { takePractice } from './practice';
import { randomFrom } from '../testing/random';
import { grainOf } from './grain';
import { grayOf } from './gray';

describe('grain and blur', () => {
  it('are those that the camera had, to a fifth of a level and a third of a px', () => {
    for (const [noise, blur] of [
      [0.5, 0.7],
      [2, 1.2],
      [4, 1.8],
    ] as const) {
      const random = randomFrom(11); // prettier-ignore
      const setup = practiceSetup({ thing: 'hatch', lattice: PRACTICE_LATTICE, width: 480, height: 360, arc: 1, noise, blur }, random);
      const found = grainOf(grayOf(takePractice(setup, random).bare));
      // Brightness has the noise of three channels together, of which green counts most; whole levels add a little.
      const gray = noise * Math.hypot(0.2126, 0.7152, 0.0722);
      expect(Math.abs(found.noise - gray)).toBeLessThan(0.25);
      expect(Math.abs(found.blur - blur)).toBeLessThan(0.35);
    }
  });

  it('of one even colour are none', () => {
    const even = { width: 64, height: 48, data: new Float32Array(64 * 48).fill(90) };
    expect(grainOf(even)).toEqual({ noise: 0, blur: 0 });
  });
});
