export { unpackedWoff as unpacked } from '../lettering/unpack-woff';
