/** A font by the SHA-256 of its bytes, as letterings name those of their own. */
const OWN_FONT = /^[0-9a-f]{64}$/;

/** Whether a lettering's font is one that a drawing keeps, named by the hash of its bytes. */
export const isOwnFont = (font: unknown): font is string => typeof font === 'string' && OWN_FONT.test(font);

/** The fonts that a document, of whatever format and unchecked, names in its drawing and on its artworks; each once. */
export function fontsOfDocument(document: unknown): readonly string[] {
  const { nodes, artworks } = (document ?? {}) as { readonly nodes?: unknown; readonly artworks?: unknown };
  const onArtworks = Array.isArray(artworks) ? artworks.flatMap((artwork) => fontsNamed((artwork as { readonly nodes?: unknown } | null)?.nodes)) : [];
  return [...new Set([...fontsNamed(nodes), ...onArtworks])];
}

/** The fonts that things, of whatever format and unchecked, name by the hash of their bytes; each once. */
export function fontsNamed(nodes: unknown): readonly string[] {
  const found = new Set<string>();
  let level: readonly unknown[] = Array.isArray(nodes) ? (nodes as readonly unknown[]) : [];
  while (level.length > 0) {
    level = level.flatMap((node): readonly unknown[] => {
      const { lettering, children } = (node ?? {}) as { readonly lettering?: { readonly font?: unknown }; readonly children?: unknown };
      if (isOwnFont(lettering?.font)) found.add(lettering.font);
      return Array.isArray(children) ? (children as readonly unknown[]) : [];
    });
  }
  return [...found];
}
