import { keptBy } from '../math/keep';
import { bytesOfText, digestOf } from '../math/digest';
import type { Artwork } from './types';

/** Bytes by their SHA-256. */
export type Assets = ReadonlyMap<string, Uint8Array>;

/** Characters from which the SVG of an artwork is an asset of its own rather than a part of the drawing's text. */
const LARGE_SVG = 4096;
const NAMED = /^asset:([0-9a-f]{64})$/;

/** The SHA-256 of an artwork's SVG; computed once for each. */
export const artworkHash = keptBy((artwork: Artwork): Promise<string> => digestOf(bytesOfText(artwork.svg)));

/** Artworks that name their SVG where it is large, with these SVGs as bytes. */
export async function namedArtworks(artworks: readonly Artwork[]): Promise<{ readonly artworks: readonly Artwork[]; readonly assets: Assets }> {
  const assets = new Map<string, Uint8Array>();
  const named = await Promise.all(
    artworks.map(async (artwork): Promise<Artwork> => {
      if (artwork.svg.length < LARGE_SVG) return artwork;
      const hash = await artworkHash(artwork);
      assets.set(hash, bytesOfText(artwork.svg));
      return { ...artwork, svg: `asset:${hash}` };
    }),
  );
  return { artworks: named, assets };
}

/** The hash that stands for an artwork's SVG, or null where the SVG itself is there. */
export function namedSvg(svg: unknown): string | null {
  return typeof svg === 'string' ? (NAMED.exec(svg)?.[1] ?? null) : null;
}
