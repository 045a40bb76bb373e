import type { CheminDatabase } from './database';

/** Asked for with the page itself, whose first frame does not wait for it. */
const library = import('./database');

/** The browser's storage: one connection, made when it is first asked for. */
export function openStorage(): () => Promise<CheminDatabase> {
  let database: Promise<CheminDatabase> | null = null;
  return () => (database ??= library.then((module) => new module.CheminDatabase()));
}
