import { emptyDocument, gridOf, type CheminDocument, type DocumentNode } from '@core';
import { posterArtwork, signArtwork } from './artworks';
import { floor, leftWall, NodeMaker, rightWall } from './build';

const STONE = '#bdb09a';
const CREAM = '#e4d6b8';
const TEAL = '#2c7f7a';
const RUST = '#b4553c';
const TIMBER = '#b98a55';
const IRON = '#3d4a57';

/** "Quay Nine: landing": the ticket kiosk of a made-up ferry landing, with bollards, crates, gangway and lamp. */
export function landing(): CheminDocument {
  const make = new NodeMaker();
  const empty = emptyDocument('demo-landing', 'Quay Nine: landing', { x: 146, y: 146 });
  return {
    ...empty,
    sheet: { ...empty.sheet, width: 297, height: 210, background: '#f7f3ea' },
    grid: gridOf(6),
    artworks: [signArtwork(), posterArtwork()],
    nodes: [...ground(make), gangway(make), ...bollards(make), crates(make), lamp(make), kiosk(make)],
  };
}

function ground(make: NodeMaker): DocumentNode[] {
  return [
    make.rectangle('water', floor(-2), [-7, -7], [20, 18], 0, '#8fbcc0'),
    make.rectangle('quay', floor(-2), [-2, -2], [18, 15], 2, STONE),
    make.rectangle('coping', floor(0), [-2, -2], [18, -1], 0.25, '#d3c7b0'),
  ];
}

function kiosk(make: NodeMaker): DocumentNode {
  const body = make.rectangle('kiosk', floor(), [5, 5], [12, 10], 7, CREAM);
  const hatch = make.rectangle('serving hatch', rightWall(5), [6, 2.5], [11, 4.5], -1.5, '#4a5a63');
  const counter = make.rectangle('counter', floor(2.25), [5.5, 4], [11.5, 5], 0.25, TIMBER);
  const roof = make.group('roof', [
    make.rectangle('deck', floor(7), [5, 5], [12, 10], 0.2, '#8d8577'),
    make.solid('rim', 'frame', floor(7), [[4.5, 4.5], [12.5, 10.5]], 0.5, RUST, { bar: 0.6 }), // prettier-ignore
  ]);
  const board = make.rectangle('sign board', rightWall(5), [5.5, 7.5], [11.5, 9.5], 0.3, '#f1e6cd');
  const stripes = Array.from({ length: 7 }, (_, i) =>
    make.outline(
      `awning stripe ${i + 1}`,
      leftWall(6 + i),
      [
        [5, 6.4],
        [3, 5.2],
        [3, 4.8],
        [5, 6],
      ],
      1,
      i % 2 === 0 ? TEAL : '#f3ead6',
    ),
  );
  // The body's outline starts at its near corner; the edge from point 4 back to point 1 carries the left side.
  return make.group('ticket kiosk', [
    make.cut('walls', [body, hatch]),
    counter,
    make.group('awning', stripes),
    roof,
    board,
    make.placed('sign artwork', 'artwork-sign', board, 'end', { x: 0, y: 0, width: 6, height: 2 }),
    make.placed('crossings poster', 'artwork-poster', body, 'side:4', { x: 1, y: 1.5, width: 3, height: 4.05 }),
  ]);
}

function bollards(make: NodeMaker): DocumentNode[] {
  return [1, 7, 13].map((a, i) =>
    make.group(`bollard ${i + 1}`, [make.circle('post', floor(), [a, 0.5], 0.5, 1.25, IRON), make.circle('cap', floor(1.25), [a, 0.5], 0.75, 0.5, IRON)]),
  );
}

function crates(make: NodeMaker): DocumentNode {
  const line = { colour: '#6b4a24', width: 0.25 };
  return make.group('crates', [
    make.rectangle('long crate', floor(), [14, 4], [16, 8], 2, TIMBER, line),
    make.rectangle('square crate', floor(), [14, 9], [16, 11], 2, '#c79a62', line),
    make.rectangle('top crate', floor(2), [14.25, 5], [15.75, 7], 1.5, '#a97a46', line),
    make.rectangle('small crate', floor(), [13.5, 2], [15, 3], 1, '#c79a62', line),
  ]);
}

function gangway(make: NodeMaker): DocumentNode {
  const slope = (a: number, up: number): [number, number] => [a, (a + 2) / 3 + up];
  const plank = (up: number, down: number): [number, number][] => [slope(-2, up), slope(-6.5, up), slope(-6.5, down), slope(-2, down)];
  // A tube whose ends are upright, as long as the deck and as steep.
  const handrail = (b: number): DocumentNode => {
    const [, high] = slope(-2, 1.35);
    const tube = make.solid('handrail', 'tube', leftWall(-2), [[b - 0.15, high - 0.15], [b + 0.15, high + 0.15]], 4.5, RUST, { wall: 0.05 }); // prettier-ignore
    return { ...tube, lean: { u: 0, v: -1.5 } };
  };
  const posts = (b: number): DocumentNode[] =>
    [-2.2, -4.2, -6.3].map((a, i) =>
      make.outline(`post ${i + 1}`, rightWall(b), [slope(a, 0), slope(a - 0.2, 0), slope(a - 0.2, 1.2), slope(a, 1.2)], 0.2, IRON),
    );
  const rail = (name: string, b: number): DocumentNode => make.group(name, [...posts(b), handrail(b + 0.1)]);
  return make.group('gangway', [make.outline('deck', rightWall(8), plank(0, -0.3), 2.5, '#a5855b'), rail('far rail', 8), rail('near rail', 5.7)]);
}

function lamp(make: NodeMaker): DocumentNode {
  return make.group('lamp', [
    make.circle('foot', floor(), [1, 11.5], 0.55, 0.5, IRON),
    make.rectangle('pole', floor(0.5), [0.9, 11.4], [1.1, 11.6], 7, IRON),
    make.rectangle('arm', floor(7.5), [0.9, 9.5], [1.1, 11.6], 0.2, IRON),
    make.rectangle('lantern', floor(6.7), [0.6, 9.4], [1.4, 10.2], 0.8, '#f2cf74'),
  ]);
}
