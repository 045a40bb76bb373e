import { readFileSync } from 'node:fs';
import { COMMANDS } from './keys';
import { keysPage } from './keys-page';

describe('the page of keys', () => {
  it('is the one that the table makes; npm run keys writes it anew', () => {
    expect(readFileSync('docs/guide/keys.md', 'utf8')).toBe(keysPage());
  });

  it('names every command, and no key twice', () => {
    const page = keysPage();
    for (const { title } of Object.values(COMMANDS)) expect(page).toContain(title);
    const keys = Object.values(COMMANDS).flatMap((command) => command.keys as readonly string[]);
    expect(new Set(keys).size).toBe(keys.length);
  });
});
