import { printedPractice } from '../testing/practice';
import { runs } from '../testing/random';
import { coveredBy } from './covered';
import { grayOf, sampleGray, type Gray } from './gray';
import { lightParts, type MadePart } from './light-parts';
import { practicePlace, takePractice, WHITE, type PracticeSetup } from './practice';
import { PRACTICE_LATTICE } from './practice-setups';
import { registeredPlace } from './register';
import { solvePhoto, type SolvedPhoto } from './solve-photo';

const { columns, rows, box } = PRACTICE_LATTICE;
const PX = 640;
/** Grey of the label that is laid on, and the sine of the angle at which it has to be seen. */
const [GRAY, SEEN] = [0.5, Math.sin((15 * Math.PI) / 180)];

/** The thing as it would be photographed were it painted like a grey label, without noise. */
function painted(setup: PracticeSetup): Gray {
  const share = GRAY * WHITE;
  return grayOf(takePractice({ ...setup, noise: 0, blur: 0, shine: 0, print: [], colour: [share, share, share] }, () => 0.5).bare);
}

/** Parts by which the light of a label is off, place by place, the least first. Where it is dark one level, by which a photograph may be off, counts as 3 %. */
function lightOff(setup: PracticeSetup, shade: MadePart, truth: Gray): readonly number[] {
  const light = grayOf(shade.px);
  const off: number[] = [];
  for (let u = 1.3; u < columns * box; u += 2.1)
    for (let v = 1.3; v < rows * box; v += 2.1) {
      const place = practicePlace(setup, u, v);
      if (!place || Math.sin(place.angle) < SEEN) continue;
      const { x, y } = place.at;
      const own = GRAY * sampleGray(light, ((x - shade.x) / shade.width) * light.width, ((y - shade.y) / shade.height) * light.height);
      const level = sampleGray(truth, x, y);
      off.push(Math.abs(own - level) / Math.max(level, 1 / 0.03));
    }
  return off.sort((p, q) => p - q);
}

/** How far a pair that was solved lies off the truth at most, in px at five places. */
function placeOff({ registration }: SolvedPhoto, { moved, camera }: PracticeSetup): number {
  const places = [[0.25, 0.25], [0.75, 0.25], [0.5, 0.5], [0.25, 0.75], [0.75, 0.75]] as const; // prettier-ignore
  return Math.max(
    ...places.map(([x, y]) => {
      const p = { x: x * camera.width, y: y * camera.height };
      const [own, truth] = [registeredPlace(registration!, camera, p), registeredPlace(moved!, camera, p)];
      return Math.hypot(own.x - truth.x, own.y - truth.y);
    }),
  );
}

describe('things with a print of their own, on plain and busy grounds, in dim and bright light', () => {
  it('are laid on each other, or it is asked; a grey label on them has their light, by a pair and by the lattice alone', () => {
    let [farthest, mean, most, asked, refused] = [0, 0, 0, 0, 0];
    const count = runs(2);
    for (let seed = 0; seed < count; seed++) {
      // Few of them show each thing, both grounds, and both lights.
      const { setup, random } = printedPractice((seed * 11) % 40, PX);
      const truth = painted(setup);
      const pair = takePractice(setup, random);
      const { latticed } = takePractice({ ...setup, moved: { dx: 0, dy: 0, turn: 0, scale: 1 } }, random);
      for (const [bare, second] of [[pair.bare, pair.latticed], [latticed, null]] as const) {
        const solved = solvePhoto(bare, second, PRACTICE_LATTICE, [], () => undefined);
        if (typeof solved === 'string') {
          if (solved === 'place-unsure') asked++;
          else refused++;
          continue;
        }
        if (second) farthest = Math.max(farthest, placeOff(solved, setup));
        const off = lightOff(setup, lightParts(bare, solved.kinds[0]!.fit, { photo: second ?? bare, registration: solved.registration })!.shade, truth);
        mean = Math.max(mean, off.reduce((sum, value) => sum + value, 0) / off.length);
        most = Math.max(most, off[Math.floor(0.95 * off.length)]!);
      } // prettier-ignore
    }
    console.log(
      `${count} printed things: at most ${farthest.toFixed(2)} px apart, ${asked} asked, ${refused} refused; a grey label off by ${(100 * mean).toFixed(2)} % in the mean of any, ${(100 * most).toFixed(2)} % in 19 of 20 places`,
    );
    expect(refused).toBe(0);
    expect(asked).toBeLessThanOrEqual(0.06 * count + 1);
    expect(farthest).toBeLessThan(0.2);
    expect(mean).toBeLessThan(0.03);
    expect(most).toBeLessThan(0.03);
  });
});

it('a pair that looks the same when it is shifted is asked about, and taken as it is where nothing moved', () => {
  const { setup, random } = printedPractice(25, PX);
  const pair = takePractice({ ...setup, moved: { dx: 0, dy: 0, turn: 0, scale: 1 } }, random);
  expect(solvePhoto(pair.bare, pair.latticed, PRACTICE_LATTICE, [], () => undefined)).toBe('place-unsure');
  const solved = solvePhoto(pair.bare, pair.latticed, PRACTICE_LATTICE, [], () => undefined, true) as SolvedPhoto;
  expect(solved.registration).toMatchObject({ dx: 0, dy: 0, turn: 0, scale: 1 });
  expect(solved.kinds.length).toBeGreaterThan(0);
});

it('a photograph that was exposed otherwise tells the light of the other', () => {
  // The same ground behind it twice, by the same chance.
  const taken = (exposure: number) => takePractice({ ...printedPractice(6, PX).setup, exposure }, printedPractice(6, PX).random);
  const { setup } = printedPractice(6, PX);
  const [bare, brighter] = [taken(0.6).bare, taken(0.9).latticed];
  const solved = solvePhoto(bare, brighter, PRACTICE_LATTICE, [], () => undefined) as SolvedPhoto;
  const light = lightParts(bare, solved.kinds[0]!.fit, { photo: brighter, registration: solved.registration })!;
  const off = lightOff({ ...setup, exposure: 0.6 }, light.shade, painted({ ...setup, exposure: 0.6 }));
  expect(off[Math.floor(0.95 * off.length)]!).toBeLessThan(0.04);
});

it('paper covers its px and no others', () => {
  const covered = coveredBy({ columns: 2, rows: 1, box: 10 }, (u, v) => ({ x: 30 + u, y: 20 + v }), { width: 80, height: 50 });
  const at = (x: number, y: number): number => covered[y * 80 + x]!;
  // A box of paper lies round the lattice.
  expect([at(20, 10), at(59, 39), at(45, 25)]).toEqual([1, 1, 1]);
  expect([at(18, 25), at(62, 25), at(45, 8), at(45, 42)]).toEqual([0, 0, 0, 0]);
  expect(covered.reduce((sum, one) => sum + one, 0)).toBeLessThan(43 * 33);
});
