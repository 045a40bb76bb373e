import { randomFrom, runs } from '../testing/random';
import { cornersOfEdges, snappedEdge } from './edges';
import { grayOf } from './gray';
import { practicePlace, takePractice } from './practice';
import { PRACTICE_LATTICE, practiceSetup } from './practice-setups';

const { columns, rows, box } = PRACTICE_LATTICE;
/** The hatch goes on so far beyond the lattice. */
const ROOM = 1.4 * box;

describe('the edges of a panel', () => {
  it('are found from what is drawn some px beside them, and its corners to a fraction of a px', () => {
    for (let seed = 0; seed < runs(3); seed++) {
      const random = randomFrom(50 + seed);
      const made = practiceSetup({ thing: 'hatch', lattice: PRACTICE_LATTICE, width: 640, height: 480, arc: 1, noise: 2, blur: 0.8 }, random);
      const setup = { ...made, camera: { ...made.camera, bend: 0 }, bent: { ...made.bent, skew: 0 } };
      const gray = grayOf(takePractice(setup, random).bare);
      const truth = [[-ROOM, -ROOM], [columns * box + ROOM, -ROOM], [columns * box + ROOM, rows * box + ROOM], [-ROOM, rows * box + ROOM]].map(([u, v]) => practicePlace(setup, u!, v!)!.at); // prettier-ignore
      const drawn = truth.map(({ x, y }) => ({ x: x + 8 * (random() - 0.5), y: y + 8 * (random() - 0.5) }));
      const edges = drawn.map((from, i) => snappedEdge(gray, from, drawn[(i + 1) % 4]!, 8)!);
      const corners = cornersOfEdges(edges)!;
      corners.forEach(({ x, y }, i) => expect(Math.hypot(x - truth[i]!.x, y - truth[i]!.y)).toBeLessThan(0.5));
    }
  });

  it('are none on an even ground, and no corners where two are parallel', () => {
    const even = { width: 60, height: 60, data: new Float32Array(3600).fill(80) };
    expect(snappedEdge(even, { x: 5, y: 5 }, { x: 50, y: 8 }, 6)).toBeNull();
    const edge = (y: number): { from: { x: number; y: number }; to: { x: number; y: number }; miss: number } => ({
      from: { x: 0, y },
      to: { x: 9, y },
      miss: 0,
    });
    expect(cornersOfEdges([edge(0), edge(5), edge(9), edge(12)])).toBeNull();
  });
});
