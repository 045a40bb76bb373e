import { emptyDocument, frameFamily, gridOf, type CheminDocument, type DocumentNode } from '@core';
import { floor, NodeMaker, rightWall } from './build';

const ROCK = '#8d8577';
const CREAM = '#f1e7d0';
const RED = '#b4443a';
const IRON = '#39434e';
const GLASS = '#e9cf7a';

/** "Quay Nine: lighthouse from the water": a tapered round tower with gallery and lamp room, in three-point perspective. */
export function lighthouse(): CheminDocument {
  const make = new NodeMaker();
  const empty = emptyDocument('demo-lighthouse', 'Quay Nine: lighthouse from the water');
  const grid = gridOf(5);
  const { cell } = grid;
  const subject = { min: { a: -4 * cell, b: -4 * cell, h: 0 }, max: { a: 8 * cell, b: 8 * cell, h: 28 * cell } };
  return {
    ...empty,
    light: { ...empty.light, shadows: { on: true } },
    sheet: { ...empty.sheet, width: 210, height: 297, background: '#dfe7e6' },
    grid,
    projection: frameFamily('three-point', subject, { middle: { x: 105, y: 142 }, width: 150, height: 235 }),
    nodes: [
      make.circle('water', floor(-1), [2, 2], 12, 0, '#7fa9ad'),
      make.solid('rock', 'pyramid', floor(-1), [[-8, -8], [12, 12]], 3, ROCK, { sides: 9, top: 0.78 }), // prettier-ignore
      tower(make),
      gallery(make),
      lampRoom(make),
      keepersStore(make),
    ],
  };
}

/** A square base of a round thing about the tower's axis. */
const around = (radius: number): readonly [readonly [number, number], readonly [number, number]] => [[2 - radius, 2 - radius], [2 + radius, 2 + radius]]; // prettier-ignore

function tower(make: NodeMaker): DocumentNode {
  // Each ring is as wide below as the one under it is above: 5 cells at the foot, 3 at the gallery.
  const rings = [5, 4.5, 4, 3.5, 3];
  return make.group('tower', [
    make.solid('foot', 'cylinder', floor(2), around(5.5), 1, ROCK),
    ...rings.slice(0, -1).map((radius, i) => make.solid(`ring ${i + 1}`, 'cone', floor(3 + 4 * i), around(radius), 4, i % 2 === 0 ? CREAM : RED, { top: rings[i + 1]! / radius })), // prettier-ignore
  ]);
}

function gallery(make: NodeMaker): DocumentNode {
  const posts = Array.from({ length: 12 }, (_, i) => {
    const turn = (Math.PI * i) / 6;
    const [a, b] = [2 + 3.85 * Math.cos(turn), 2 + 3.85 * Math.sin(turn)];
    return make.circle(`post ${i + 1}`, floor(19.75), [a, b], 0.12, 1.4, IRON);
  });
  return make.group('gallery', [
    make.solid('bracket', 'cone', floor(18.5), around(3), 0.75, IRON, { top: 1.4 }),
    make.solid('walk', 'cylinder', floor(19.25), around(4.2), 0.5, IRON),
    ...posts,
    make.solid('rail', 'tube', floor(21.15), around(4), 0.2, RED, { wall: 0.3 }),
  ]);
}

function lampRoom(make: NodeMaker): DocumentNode {
  return make.group('lamp room', [
    make.solid('sill', 'cylinder', floor(19.75), around(2.4), 0.75, RED),
    make.solid('glass', 'prism', floor(20.5), around(2.2), 3, GLASS, { sides: 12 }),
    make.solid('eave', 'cylinder', floor(23.5), around(2.6), 0.4, IRON),
    make.solid('roof', 'dome', floor(23.9), around(2.4), 1.8, RED),
    make.solid('ball', 'ball', floor(25.7), around(0.5), 1, IRON),
    make.circle('rod', floor(26.7), [2, 2], 0.08, 2, IRON),
  ]);
}

/** A small store at the foot, with a doorway. */
function keepersStore(make: NodeMaker): DocumentNode {
  return make.group('store', [
    make.cut('walls', [
      make.solid('store', 'box', floor(2), [[-5.5, -3], [-1.5, 1]], 3, CREAM), // prettier-ignore
      make.rectangle('doorway', rightWall(-3), [-4.5, 2], [-3, 4.25], -1, '#7d735f'),
    ]),
    make.solid('roof', 'wedge', floor(5), [[-5.75, -3.25], [-1.25, 1.25]], 1.75, RED, { ridge: 2.25 }), // prettier-ignore
    make.solid('steps', 'steps', floor(2), [[-4.5, -4.5], [-3, -3]], 0.5, ROCK, { count: 2 }), // prettier-ignore
  ]);
}
