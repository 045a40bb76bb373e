import { expose } from 'comlink';

/**
 * Offers what a worker can do to the page that started it, and lets the page see that it lives: the worker holds a lock as
 * long as it runs, however busy it is, and the page is given that lock only when the worker has ended.
 */
export function offer(api: object): void {
  expose(api);
  const life: string = crypto.randomUUID();
  // Where a browser has no locks, the limit of time is left.
  if ('locks' in navigator) {
    void navigator.locks.request(life, () => {
      postMessage({ life });
      return new Promise<never>(() => undefined);
    });
  }
}
