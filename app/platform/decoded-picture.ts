/** A picture as it is meant to be seen, decoded; null where it is none, is damaged, or is too large for the browser. */
export async function decodedPicture(blob: Blob | null): Promise<ImageBitmap | null> {
  if (!blob) return null;
  try {
    return await createImageBitmap(blob, { imageOrientation: 'from-image' });
  } catch {
    return null;
  }
}
