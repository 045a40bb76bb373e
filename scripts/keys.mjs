// Writes the guide's page of keys from the table of commands.
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { bundle, ensurePackages, root } from './prepare.mjs';

ensurePackages();
bundle('app/features/keys-page.ts', 'dist/keys/keys-page.mjs');
const { keysPage } = await import(pathToFileURL(join(root, 'dist/keys/keys-page.mjs')).href);
writeFileSync(join(root, 'docs/guide/keys.md'), keysPage());
