/** What browsers, workers and Node have alike. */
const { crypto, atob, btoa, TextEncoder } = globalThis as unknown as {
  readonly crypto: { readonly subtle: { digest(algorithm: string, bytes: Uint8Array): Promise<ArrayBuffer> } };
  readonly atob: (base64: string) => string;
  readonly btoa: (text: string) => string;
  readonly TextEncoder: new () => { encode(text: string): Uint8Array };
};

/** A text as UTF-8. */
export function bytesOfText(text: string): Uint8Array {
  return new TextEncoder().encode(text);
}

/** The SHA-256 of bytes in hexadecimal digits: what an asset is named by. */
export async function digestOf(bytes: Uint8Array): Promise<string> {
  const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
  return Array.from(hash, (byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** The bytes that base64 stands for. @throws DOMException where it is none */
export function bytesOf(base64: string): Uint8Array<ArrayBuffer> {
  const text = atob(base64);
  const bytes = new Uint8Array(text.length);
  for (let i = 0; i < text.length; i++) bytes[i] = text.charCodeAt(i);
  return bytes;
}

/** Bytes as base64. Inverse of `bytesOf`. */
export function base64Of(bytes: Uint8Array): string {
  const parts: string[] = [];
  // Three bytes make four letters: pieces of whole threes can be joined.
  for (let at = 0; at < bytes.length; at += 24_576) parts.push(btoa(String.fromCharCode(...bytes.subarray(at, at + 24_576))));
  return parts.join('');
}
