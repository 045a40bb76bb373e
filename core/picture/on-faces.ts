import type { CheminDocument } from '../document/types';
import { keptBy } from '../math/keep';
import { drawingOf, type DrawnOnFace } from './drawn-nodes';
import type { FlatArtworks } from './flat-artworks';
import { ownLook } from './own-looks';
import type { OnFace } from './paint-surface';
import type { Tones } from './tones';

/** Artwork on faces by the things that it lies on, each as `keyOf` names it. */
export type OnFaces = ReadonlyMap<string, readonly OnFace[]>;

/** What tells apart everything that is drawn, what copies show included. */
export const keyOf = (within: string, id: string): string => (within === '' ? id : `${within} ${id}`);

/** Artwork on a face: the same object for as long as it and its light are the same. */
const onFace = keptBy((drawn: DrawnOnFace, artwork: OnFace['artwork'], tones: Tones): OnFace => ({ drawn, node: drawn.node, artwork, tones }));

/** Sorts artwork on faces by what it lies on. */
export function sortedOnFaces(document: CheminDocument, placed: readonly DrawnOnFace[], artworks: FlatArtworks, tones: Tones): OnFaces {
  const { looks } = drawingOf(document);
  const on = new Map<string, OnFace[]>();
  for (const drawn of placed) {
    const look = looks ? ownLook(document, drawn.owner, drawn.node.id) : null;
    const one = onFace(drawn, artworks.get(drawn.node.artwork), look ? tones.own(look) : tones);
    const key = keyOf(drawn.within, drawn.node.target.node);
    const there = on.get(key);
    if (there) there.push(one);
    else on.set(key, [one]);
  }
  return on;
}
