import type { Artwork, DocumentNode } from './types';

/** Whether something of an artwork's sheet does not lie on it. */
export function flatFault(nodes: readonly DocumentNode[]): boolean {
  return nodes.some((node) => {
    if (node.kind === 'group') return flatFault(node.children);
    if (node.kind === 'placement') return node.target.kind !== 'plane' || node.target.plane.kind !== 'sheet';
    return node.kind !== 'copy' && node.plane.kind !== 'sheet';
  });
}

/** Whether an artwork is placed on itself, or on what is placed on it. */
export function holdsItself(artwork: Artwork, artworks: ReadonlyMap<string, Artwork>): boolean {
  const seen = new Set<string>();
  const reaches = (one: Artwork): boolean =>
    placedIn(one.nodes ?? []).some((id) => {
      if (id === artwork.id) return true;
      const next = seen.has(id) ? undefined : artworks.get(id);
      seen.add(id);
      return next !== undefined && reaches(next);
    });
  return reaches(artwork);
}

/** The artworks that are placed among nodes. */
export function placedIn(nodes: readonly DocumentNode[]): readonly string[] {
  return nodes.flatMap((node) => (node.kind === 'placement' ? [node.artwork] : node.kind === 'group' ? placedIn(node.children) : []));
}
