/** Ms after which storage that does not answer is taken not to be there for now. */
export const STORAGE_PATIENCE_MS = 3000;

/** What a promise gives, or something else where it takes longer than storage is waited for; what comes later is let go. */
export async function inTime<T, U>(answer: Promise<T>, otherwise: U, ms = STORAGE_PATIENCE_MS): Promise<T | U> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<U>((done) => (timer = setTimeout(() => done(otherwise), ms)));
  answer.catch(() => undefined);
  try {
    return await Promise.race([answer, late]);
  } finally {
    clearTimeout(timer);
  }
}
