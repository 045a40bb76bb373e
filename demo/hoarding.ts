import { emptyDocument, frameFamily, gridOf, type Artwork, type CheminDocument, type DocumentNode } from '@core';
import { posterArtwork, signArtwork } from './artworks';
import { floor, NodeMaker } from './build';
import { EVENING, EVENING_HASH } from './evening';

const BOARD = '#31525a';
const POST = '#4a3d34';
const IRON = '#39434e';
const LAMP = '#f2c94c';
const STONE = '#d3c7b0';

const PICTURE = 'evening';

/** The photograph as artwork. */
const eveningArtwork = (): Artwork => ({ id: 'artwork-evening', name: 'Evening crossing', svg: '', bitmap: PICTURE, ...EVENING, unitMm: 25.4 / 300 });

/** The timetable: a flat sheet that was drawn here, in cells of 5 mm. */
function timetable(make: NodeMaker): Artwork {
  const sheet = { kind: 'sheet', offset: 0 } as const;
  const rows: DocumentNode[] = [];
  for (let row = 0; row < 6; row++) {
    rows.push(make.rectangle(`row ${row + 1}`, sheet, [1, 4.5 + row * 1.8], [23, 5.9 + row * 1.8], 0, row % 2 === 0 ? '#e4ebe6' : '#d6e0da'));
    for (let call = 0; call < 5; call++) {
      const left = 7 + call * 3.2;
      rows.push(
        make.rectangle(`call ${row + 1}.${call + 1}`, sheet, [left, 4.9 + row * 1.8], [left + 1.1 + ((row + call) % 3) * 0.5, 5.5 + row * 1.8], 0, '#1d4b52'),
      );
    }
    rows.push(make.circle(`boat ${row + 1}`, sheet, [3, 5.2 + row * 1.8], 0.5, 0, row % 2 === 0 ? '#c2533b' : '#d9a441'));
  }
  const title = make.rectangle('heading', sheet, [1, 1], [23, 3.5], 0, '#c2533b');
  return { id: 'artwork-timetable', name: 'Timetable', svg: '', width: 120, height: 80, unitMm: 1, background: '#fbf9f4', nodes: [title, ...rows] };
}

/** "Quay Nine: timetable hoarding": posters, a photograph and the timetable on a long receding board, lamps in equal steps. */
export function hoarding(): CheminDocument {
  const make = new NodeMaker();
  const empty = emptyDocument('demo-hoarding', 'Quay Nine: timetable hoarding');
  const grid = gridOf(5);
  const { cell } = grid;
  const subject = { min: { a: -1 * cell, b: -3 * cell, h: 0 }, max: { a: 47 * cell, b: 3 * cell, h: 13 * cell } };
  const board = make.rectangle('hoarding', floor(1), [0, 0], [46, 0.8], 9, BOARD);
  const front = 'side:1';
  const on = (name: string, artwork: string, x: number, width: number, height: number, y = (9 - height) / 2): DocumentNode =>
    make.placed(name, artwork, board, front, { x, y, width, height });
  const lamps = Array.from({ length: 6 }, (_, i) =>
    make.group(`lamp ${i + 1}`, [
      make.rectangle('foot', floor(), [2 + 8 * i, 2.5], [3 + 8 * i, 3.5], 0.5, IRON),
      make.rectangle('pole', floor(0.5), [2.3 + 8 * i, 2.8], [2.7 + 8 * i, 3.2], 12, IRON),
      make.rectangle('lantern', floor(12.5), [1.9 + 8 * i, 2.4], [3.1 + 8 * i, 3.6], 1.4, LAMP),
    ]),
  );
  return {
    ...empty,
    light: { ...empty.light, sun: { azimuthDeg: 250, elevationDeg: 44 }, shadows: { on: true, floor: 0, soft: 0.6 } },
    sheet: { ...empty.sheet, width: 297, height: 190, background: '#eef0ea' },
    grid,
    projection: frameFamily('two-point', subject, { middle: { x: 148, y: 98 }, width: 285, height: 165 }),
    bitmaps: [{ id: PICTURE, type: 'image/png', width: EVENING.width, height: EVENING.height, asset: EVENING_HASH }],
    artworks: [signArtwork(), posterArtwork(), eveningArtwork(), timetable(make)],
    nodes: [
      make.rectangle('quay', floor(), [-0.8, -2.6], [46.8, 4], 0, STONE),
      make.group(
        'posts',
        [0.6, 15, 30, 44.6].map((a, i) => make.rectangle(`post ${i + 1}`, floor(), [a, 0.2], [a + 0.8, 0.6], 1, POST)),
      ),
      board,
      make.rectangle('coping', floor(10), [-0.3, -0.2], [46.3, 1], 0.4, POST),
      on('sign', 'artwork-sign', 1.5, 9, 3, 1),
      ...Array.from({ length: 3 }, (_, i) => on(`crossings poster ${i + 1}`, 'artwork-poster', 12 + 5.5 * i, 5, 6.75)),
      on('photograph', 'artwork-evening', 28.5, 8.8, 5.5, 1.2),
      on('timetable', 'artwork-timetable', 38.2, 7, 4.667, 1.6),
      make.group('lamps', lamps),
    ],
  };
}
