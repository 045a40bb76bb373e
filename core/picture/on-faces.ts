import type { CheminDocument } from '../document/types';
import { drawingOf, type DrawnNode, type DrawnOnFace } from './drawn-nodes';
import type { FlatArtworks } from './flat-artworks';
import { ownLook } from './own-looks';
import type { OnFace } from './paint-surface';
import type { Tones } from './tones';

/** Artwork on faces by the things that it lies on, each as `keyOf` names it. */
export type OnFaces = ReadonlyMap<string, readonly OnFace[]>;

/** What tells apart everything that is drawn, what copies show included. */
export const keyOf = (within: string, id: string): string => (within === '' ? id : `${within} ${id}`);

/** Sorts artwork on faces by what it lies on, again only where it, its light or what it shows is another. */
export class FaceKeeper {
  private placed: readonly DrawnOnFace[] = [];
  private artworks: FlatArtworks | null = null;
  private tones: Tones | null = null;
  private on = new Map<string, readonly OnFace[]>();

  update(document: CheminDocument, placed: readonly DrawnOnFace[], artworks: FlatArtworks, tones: Tones): OnFaces {
    const { looks } = drawingOf(document);
    const same = !looks && this.artworks === artworks && this.tones === tones;
    if (!same || !this.exchange(placed, artworks, tones)) {
      this.on = new Map();
      for (const drawn of placed) {
        const look = looks ? ownLook(document, drawn.owner, drawn.node.id) : null;
        const [key, one] = [hostOf(drawn), onFace(drawn, artworks.get(drawn.node.artwork), look ? tones.own(look) : tones)];
        this.on.set(key, [...(this.on.get(key) ?? []), one]);
      }
    }
    // Looks of their own depend on all of the document: what has some is sorted again.
    [this.placed, this.artworks, this.tones] = [placed, looks ? null : artworks, tones];
    return this.on;
  }

  /** Takes what is another in place of what was there, which is few while something is dragged; false where it lies on something else. */
  private exchange(placed: readonly DrawnOnFace[], artworks: FlatArtworks, tones: Tones): boolean {
    if (placed.length !== this.placed.length) return false;
    for (let i = 0; i < placed.length; i++) {
      const [was, now] = [this.placed[i]!, placed[i]!];
      if (was === now) continue;
      const key = hostOf(now);
      if (hostOf(was) !== key) return false;
      this.on.set(
        key,
        this.on.get(key)!.map((one) => (one.drawn === was ? onFace(now, artworks.get(now.node.artwork), tones) : one)),
      );
    }
    return true;
  }
}

const hostOf = ({ within, node }: DrawnOnFace): string => keyOf(within, node.target.node);

const made = new WeakMap<DrawnNode, OnFace>();

/** Artwork on a face: the same object for as long as it and its light are the same. */
function onFace(drawn: DrawnOnFace, artwork: OnFace['artwork'], tones: Tones): OnFace {
  const known = made.get(drawn);
  if (known && known.artwork === artwork && known.tones === tones) return known;
  const one: OnFace = { drawn, node: drawn.node, artwork, tones };
  made.set(drawn, one);
  return one;
}
