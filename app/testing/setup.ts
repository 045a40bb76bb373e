import 'fake-indexeddb/auto';
import { webcrypto } from 'node:crypto';
import { setupZonelessTestEnv } from 'jest-preset-angular/setup-env/zoneless';

setupZonelessTestEnv();

// jsdom has none of these; the stand-ins are as small as what is used of them.
globalThis.structuredClone ??= cloned as never;
Object.defineProperty(globalThis, 'crypto', { configurable: true, value: webcrypto });
Blob.prototype.arrayBuffer ??= function (this: Blob): Promise<ArrayBuffer> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as ArrayBuffer);
    reader.onerror = () => reject(new Error('a blob could not be read'));
    reader.readAsArrayBuffer(this);
  });
};

/** Data as storage gives it back: the same, but none of it the same objects. */
function cloned(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  if (ArrayBuffer.isView(value)) return (value as Uint8Array).slice();
  if (Array.isArray(value)) return value.map(cloned);
  return Object.fromEntries(Object.entries(value).flatMap(([key, part]) => (part === undefined ? [] : [[key, cloned(part)]])));
}
