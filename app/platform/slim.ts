import { fontsNamed, fontsOfDocument, namedArtworks, namedBitmap, svgsNamed, toPresentVersion, type Assets, type CheminDocument, type Step } from '@core';

/**
 * Drawings and steps as storage keeps them: large artworks by the names of their SVGs, so that saving a drawing writes
 * no picture again. Bitmaps are named in the drawing itself.
 */

/** A document with its large SVGs named, and these as assets. */
export async function slimDocument(document: CheminDocument): Promise<{ readonly document: CheminDocument; readonly assets: Assets }> {
  const { artworks, assets } = await namedArtworks(document.artworks);
  return { document: assets.size === 0 ? document : { ...document, artworks }, assets };
}

/** A step with the large SVGs that it brings named, and these as assets. */
export async function slimStep(step: Step): Promise<{ readonly step: Step; readonly assets: Assets }> {
  const { edit } = step;
  if (edit.kind !== 'add' || edit.artworks.length === 0) return { step, assets: new Map() };
  const { artworks, assets } = await namedArtworks(edit.artworks);
  return { step: assets.size === 0 ? step : { ...step, edit: { ...edit, artworks } }, assets };
}

/** A stored document in the present format, unchecked, for lists and thumbnails. */
export function currentFormat(document: CheminDocument): CheminDocument {
  if (typeof document !== 'object' || document === null) return document;
  return toPresentVersion(document as unknown as Record<string, unknown>) as unknown as CheminDocument;
}

/** Everything that a stored document, of whatever format, and stored steps name among the assets. */
export function assetsNamed(document: CheminDocument | null, steps: readonly Step[]): readonly string[] {
  const ofBitmap = (bitmap: unknown): readonly string[] => {
    const asset = (namedBitmap(bitmap) as { readonly asset?: unknown } | null)?.asset;
    return typeof asset === 'string' ? [asset] : [];
  };
  const ofSteps = steps.flatMap(({ edit: whole }): readonly string[] => {
    const edit = whole?.kind === 'flat' ? whole.edit : whole;
    const edits = edit?.kind === 'all' ? edit.edits : [edit];
    return edits.flatMap((single) => [
      ...(single && 'nodes' in single ? fontsNamed(single.nodes) : []),
      ...(single?.kind === 'add-reference'
        ? ofBitmap(single.bitmap)
        : single?.kind === 'add'
          ? [...svgsNamed(single), ...fontsOfDocument({ artworks: single.artworks }), ...(single.bitmaps ?? []).flatMap(ofBitmap)]
          : []),
    ]);
  });
  return [...(document?.bitmaps ?? []).flatMap(ofBitmap), ...fontsOfDocument(document), ...svgsNamed(document), ...ofSteps];
}
