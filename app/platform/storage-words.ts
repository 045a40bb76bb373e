/** The names of an error and of what it comes from: storage wraps what the browser throws. */
function namesOf(error: unknown): readonly string[] {
  if (typeof error !== 'object' || error === null) return [];
  const { name, inner } = error as { readonly name?: unknown; readonly inner?: unknown };
  return [...(typeof name === 'string' ? [name] : []), ...(inner === error ? [] : namesOf(inner))];
}

/** Whether storage refused for want of room. */
export const isFull = (error: unknown): boolean => namesOf(error).includes('QuotaExceededError');

/** Why storage refused, in words for people. */
export function storageWords(error: unknown): string {
  const names = namesOf(error);
  if (isFull(error)) return 'The space that the browser gives this page is full. Delete drawings that are no longer needed, or make room on the disk.';
  if (names.includes('VersionError')) return 'The browser’s storage was written by a later Chemin. Reload the page.';
  if (names.some((name) => ['DatabaseClosedError', 'InvalidStateError', 'OpenFailedError', 'UnknownError', 'AbortError', 'NotFoundError'].includes(name)))
    return 'The browser’s storage was closed, deleted or cannot be read.';
  return error instanceof Error && error.message !== '' ? error.message : 'The browser’s storage refused, and does not say why.';
}
