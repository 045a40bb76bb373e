import { readFileSync } from 'node:fs';
import { fontEnding, fontFileFault } from './font-file';
import { SHIPPED_FONTS } from './lettering';
import { familyOf, unpackedWoff } from './unpack-woff';

const fontBytes = (file: string): Uint8Array => new Uint8Array(readFileSync(`node_modules/@fontsource/${file}`));

describe('a packed font', () => {
  it.each(SHIPPED_FONTS.map(({ title, file }) => [title, file] as const))('unpacks to one that has all its tables and its name: %s', (title, file) => {
    const folder = /^(.*)-latin/.exec(file)![1]!;
    const plain = unpackedWoff(fontBytes(`${folder}/files/${file}`));
    expect(fontEnding(plain)).toMatch(/ttf|otf/);
    expect(fontFileFault(plain)).toBeNull();
    expect(familyOf(plain)).toContain(title.split(' ')[0]);
  });

  it('has no name where it is cut short or none', () => {
    const plain = unpackedWoff(fontBytes('nunito/files/nunito-latin-700-normal.woff'));
    expect(familyOf(plain.subarray(0, 40))).toBeNull();
    expect(familyOf(new Uint8Array(4))).toBeNull();
  });
});
