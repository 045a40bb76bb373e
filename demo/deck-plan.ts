import { emptyDocument, gridOf, outlineThrough, parallelSetup, type CheminDocument, type DocumentNode } from '@core';
import { floor, NodeMaker, rightWall } from './build';

const DECK = '#d9bf93';
const HULL = '#2f5d62';
const CREAM = '#f0e6d0';
const TIMBER = '#a8743f';
const IRON = '#45505a';
const RUST = '#b4553c';

/** "Quay Nine: deck plan": the ferry's deck seen from above with benches, rails and wheelhouse, planometric, A4, 1 : 50. */
export function deckPlan(): CheminDocument {
  const make = new NodeMaker();
  const empty = emptyDocument('demo-deck-plan', 'Quay Nine: deck plan');
  return {
    ...empty,
    light: { ...empty.light, shadows: { on: true } },
    sheet: { ...empty.sheet, width: 297, height: 210, scale: 50, background: '#eef1ee' },
    projection: parallelSetup('planometric', { x: 196, y: 198 })!,
    grid: gridOf(6),
    nodes: [hull(make), ...benches(make), rails(make), wheelhouse(make), ...fittings(make)],
  };
}

function hull(make: NodeMaker): DocumentNode {
  const shape = outlineThrough([[0, 0], [9, 0], [9, 22], [8, 26], [4.5, 29], [1, 26], [0, 22]].map(([u, v]) => ({ u: u!, v: v! })), true); // prettier-ignore
  return make.group('hull', [
    { ...make.outline('sides', floor(-1.5), [], 1.5, HULL), outline: shape, taper: 1.04 },
    { ...make.outline('deck', floor(), [], 0.15, DECK), outline: shape },
  ]);
}

function benches(make: NodeMaker): DocumentNode[] {
  return [2, 5, 8].flatMap((b, i) =>
    [1, 5.5].map((a, side) =>
      make.group(`bench ${2 * i + side + 1}`, [
        make.solid('seat', 'box', floor(0.6), [[a, b], [a + 2.5, b + 1]], 0.2, TIMBER), // prettier-ignore
        make.solid('back', 'box', floor(0.8), [[a, b + 0.8], [a + 2.5, b + 1]], 0.8, TIMBER), // prettier-ignore
        make.solid('left foot', 'box', floor(0.15), [[a + 0.2, b], [a + 0.5, b + 1]], 0.45, IRON), // prettier-ignore
        make.solid('right foot', 'box', floor(0.15), [[a + 2, b], [a + 2.3, b + 1]], 0.45, IRON), // prettier-ignore
      ]),
    ),
  );
}

function rails(make: NodeMaker): DocumentNode {
  const posts = [0.5, 4.5, 8.5, 12.5, 16.5, 20.5].flatMap((b, i) =>
    [0.25, 8.75].map((a, side) => make.circle(`post ${2 * i + side + 1}`, floor(0.15), [a, b], 0.12, 1.35, IRON)),
  );
  const bars = [0.15, 8.65].map((a, i) => make.solid(`rail ${i + 1}`, 'box', floor(1.5), [[a, 0.4], [a + 0.2, 20.6]], 0.15, RUST)); // prettier-ignore
  return make.group('rails', [...posts, ...bars]);
}

function wheelhouse(make: NodeMaker): DocumentNode {
  return make.group('wheelhouse', [
    make.cut('walls', [
      make.solid('house', 'box', floor(0.15), [[2, 14], [7, 20]], 3, CREAM), // prettier-ignore
      make.rectangle('cabin', floor(0.15), [2.4, 14.4], [6.6, 19.6], 4, '#cdbf9f'),
      make.rectangle('front light', rightWall(14), [2.8, 1.6], [6.2, 2.7], -1, CREAM),
    ]),
    make.solid('wheel desk', 'box', floor(0.15), [[2.4, 17.8], [6.6, 19.6]], 1.2, TIMBER), // prettier-ignore
    make.solid('stool', 'cylinder', floor(0.15), [[4, 15.6], [5, 16.6]], 0.9, RUST), // prettier-ignore
    make.solid('frame of the roof', 'frame', floor(3.15), [[1.7, 13.7], [7.3, 20.3]], 0.3, HULL, { bar: 0.7 }), // prettier-ignore
  ]);
}

function fittings(make: NodeMaker): DocumentNode[] {
  return [
    make.solid('hatch', 'frame', floor(0.15), [[3.25, 22], [5.75, 24]], 0.4, TIMBER, { bar: 0.35 }), // prettier-ignore
    make.solid('life ring', 'tube', floor(0.15), [[1, 11.2], [2.4, 12.6]], 0.35, RUST, { wall: 0.4 }), // prettier-ignore
    make.solid('bitt', 'cylinder', floor(0.15), [[4, 26], [5, 27]], 0.8, IRON), // prettier-ignore
    make.solid('vent', 'dome', floor(0.15), [[6.4, 11.2], [7.8, 12.6]], 0.7, CREAM), // prettier-ignore
  ];
}
