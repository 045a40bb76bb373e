import type { DocumentNode, ShapeNode } from '../document/types';
import { rectangleOutline } from '../shape/outline';

/** What thumbnails show while nothing is drawn: a small landing stage with a shelter and two crates. */
export function sampleNodes(): readonly DocumentNode[] {
  const box = (id: string, offset: number, from: readonly [number, number], to: readonly [number, number], depth: number, fill: string): ShapeNode => ({
    kind: 'shape',
    id,
    name: id,
    hidden: false,
    locked: false,
    plane: { kind: 'floor', offset },
    outline: rectangleOutline({ u: from[0], v: from[1] }, { u: to[0], v: to[1] }),
    depth,
    paint: { fill, line: null },
  });
  return [
    box('stage', 0, [0, 0], [9, 8], 0.6, '#c4b59a'),
    box('shelter', 0.6, [2, 2], [7, 6], 3.4, '#e4d6b8'),
    box('roof', 4, [1.5, 1.5], [7.5, 6.5], 0.5, '#b4553c'),
    box('crate', 0.6, [7.5, 1], [8.7, 2.2], 1.2, '#b98a55'),
    box('bollard', 0.6, [0.6, 6.4], [1.2, 7], 1.2, '#3d4a57'),
  ];
}
