import { emptyDocument, gridOf, parallelSetup, type CheminDocument } from '@core';
import { floor, leftWall, NodeMaker } from './build';

const STONE = '#cbbfa9';
const DARK = '#8f8471';
const TEAL = '#1f6d69';
const CREAM = '#f4ead2';
const RUST = '#b4553c';

/** "Quay Nine: QUAY 9": the landing's name in letters with volume on a plinth, trimetric. */
export function quayNine(): CheminDocument {
  const make = new NodeMaker();
  const empty = emptyDocument('demo-quay-9', 'Quay Nine: QUAY 9');
  const letters = { kind: 'cells', text: 'QUAY 9', stem: 1, width: 4, height: 6, corner: 'cut', letter: 0, line: 8, align: 'left' } as const;
  return {
    ...empty,
    light: { ...empty.light, shadows: { on: true, floor: 0, soft: 1 } },
    sheet: { ...empty.sheet, width: 297, height: 210, background: '#f4efe4' },
    projection: parallelSetup('trimetric', { x: 236, y: 176 })!,
    grid: gridOf(6),
    nodes: [
      make.rectangle('quay', floor(), [-5, -5], [11, 35], 0, '#ded4c0'),
      make.group('plinth', [
        make.solid('lower step', 'box', floor(), [[-2, -2], [8, 32]], 1, DARK), // prettier-ignore
        make.solid('upper step', 'box', floor(1), [[-1, -1], [7, 31]], 1, STONE), // prettier-ignore
        make.solid('band', 'box', floor(2), [[0, 0], [6, 30]], 0.5, RUST), // prettier-ignore
      ]),
      make.letters(leftWall(4), [29.5, 2.5], letters, 3, TEAL, CREAM),
      make.group(
        'bollards',
        [-4, 33].flatMap((b, i) => [
          make.solid(`post ${i + 1}`, 'cylinder', floor(), [[-4, b], [-2, b + 2]], 2.5, '#3d4a57'), // prettier-ignore
          make.solid(`cap ${i + 1}`, 'dome', floor(2.5), [[-4.25, b - 0.25], [-1.75, b + 2.25]], 1, '#3d4a57'), // prettier-ignore
        ]),
      ),
    ],
  };
}
