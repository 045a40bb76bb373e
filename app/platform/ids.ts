/** A fresh id for a node or an artwork: 12 letters and digits, enough never to meet its like in one document. */
export function newId(): string {
  const signs = 'abcdefghijklmnopqrstuvwxyz0123456789';
  return Array.from(crypto.getRandomValues(new Uint8Array(12)), (byte) => signs[byte % signs.length]).join('');
}
