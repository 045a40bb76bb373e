import { practicePair, SEEN_AT } from '../testing/practice';
import { runs } from '../testing/random';
import { practicePlace } from './practice';
import { PRACTICE_LATTICE } from './practice-setups';
import { shadeAt, shadeMap } from './shade';

const { columns, rows, box } = PRACTICE_LATTICE;
const area = { minU: 0, minV: 0, maxU: columns * box, maxV: rows * box };

describe('the light of a bare thing', () => {
  it('is told from its colours and its gloss, so that another colour in it is off by less than three levels', () => {
    let worst = 0;
    for (let seed = 0; seed < runs(8); seed++) {
      const { setup, pair } = practicePair(seed, 480);
      const shown = (u: number, v: number): { x: number; y: number } | null => {
        const place = practicePlace(setup, u, v);
        return place && place.angle > 0.1 ? place.at : null;
      };
      const map = shadeMap(pair.bare, area, shown, setup.colour)!;
      let [sum, count] = [0, 0];
      for (let u = 1; u < area.maxU; u += 2.3)
        for (let v = 1; v < area.maxV; v += 2.3) {
          const place = practicePlace(setup, u, v);
          if (!place || place.angle < SEEN_AT) continue;
          const truth = pair.shade[Math.floor(place.at.y) * pair.bare.width + Math.floor(place.at.x)]!;
          if (Number.isNaN(truth)) continue;
          for (const share of setup.colour) sum += 255 * share * Math.abs(shadeAt(map, u, v).shade - truth);
          count += 3;
        }
      worst = Math.max(worst, sum / count);
    }
    console.log(`relit: off by ${worst.toFixed(2)} levels in the mean at most`);
    expect(worst).toBeLessThan(3);
  });

  it('is brightest where the colour is not known, and the painted stripe is not taken for a shadow', () => {
    const { setup, pair } = practicePair(2, 480);
    const map = shadeMap(pair.bare, area, (u, v) => practicePlace(setup, u, v)?.at ?? null)!;
    const [above, stripe] = [shadeAt(map, 54, 0.5 * area.maxV).shade, shadeAt(map, 54, 0.73 * area.maxV).shade];
    expect(Math.abs(stripe / above - 1)).toBeLessThan(0.12);
    expect(Math.max(...map.shade)).toBeGreaterThan(0.97);
    expect(Math.max(...map.shade)).toBeLessThan(1.1);
  });

  it('is not there where nothing is seen', () => {
    const { pair } = practicePair(2, 320);
    expect(shadeMap(pair.bare, area, () => null)).toBeNull();
  });
});
