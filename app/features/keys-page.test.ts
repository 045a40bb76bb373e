import { readFileSync } from 'node:fs';
import { EVERY_COMMAND } from './every-word';
import { keysPage } from './keys-page';

describe('the page of keys', () => {
  it('is the one that the table makes; npm run keys writes it anew', () => {
    expect(readFileSync('docs/guide/keys.md', 'utf8')).toBe(keysPage());
  });

  it('names every command, and no key twice', () => {
    const page = keysPage();
    for (const { title } of EVERY_COMMAND) expect(page).toContain(title);
    const keys = EVERY_COMMAND.flatMap((command) => command.keys);
    expect(new Set(keys).size).toBe(keys.length);
  });
});
