// Seeded runs that are short by default, at their full length: CHEMIN_RUNS times as many, 20 where it is not given.
// Names of tests or files may be given: `npm run test:long -- warm-cold`.
import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ensurePackages, root } from './prepare.mjs';

ensurePackages();
const seeded = ['core', 'app', 'server']
  .flatMap((folder) => readdirSync(join(root, folder), { recursive: true }).map((file) => join(folder, file)))
  .filter((file) => file.endsWith('.test.ts') && /\bruns\(/.test(readFileSync(join(root, file), 'utf8')));
const wanted = process.argv.slice(2);
const files = wanted.length > 0 ? wanted : seeded;
const env = { ...process.env, CHEMIN_RUNS: process.env.CHEMIN_RUNS ?? '20' };
const { status } = spawnSync('npx', ['--no-install', 'jest', '--testTimeout=7200000', ...files], { cwd: root, stdio: 'inherit', env });
process.exitCode = status ?? 1;
