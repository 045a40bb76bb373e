declare module 'fontkit' {
  /** Reads a font; throws where it is none. */
  export function create(bytes: Uint8Array): unknown;
}
