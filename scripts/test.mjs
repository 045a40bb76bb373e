// The whole check of a fresh clone: packages, browser, lint, types, unit tests, build, browser tests. The last line
// counts every single test, and each of the other checks as one.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureBrowser, ensureBuild, ensurePackages, root } from './prepare.mjs';

ensurePackages();
ensureBrowser();
const reports = mkdtempSync(join(tmpdir(), 'chemin-test-'));
/** A port that is free now. */
const freePort = () =>
  new Promise((resolve, reject) => {
    const server = createServer().once('error', reject);
    server.listen(0, () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });

let passed = 0;
let failed = 0;
let skipped = 0;

function check(name, command, args, options = {}) {
  console.log(`\n— ${name}`);
  const result = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  return result.status === 0;
}

function count(ok) {
  if (ok) passed++;
  else failed++;
}

count(check('lint', 'npm', ['run', '--silent', 'lint']));
count(check('types', 'npm', ['run', '--silent', 'types']));

const unit = join(reports, 'unit.json');
const unitOk = check('unit tests', 'npx', ['--no-install', 'jest', '--json', `--outputFile=${unit}`, '--silent']);
try {
  const { numPassedTests, numFailedTests, numPendingTests, numTodoTests, numRuntimeErrorTestSuites } = JSON.parse(readFileSync(unit, 'utf8'));
  skipped += numPendingTests + numTodoTests;
  passed += numPassedTests;
  failed += numFailedTests + numRuntimeErrorTestSuites;
  if (!unitOk && numFailedTests + numRuntimeErrorTestSuites === 0) failed++;
} catch {
  failed++;
}

console.log('\n— build');
await ensureBuild();
count(true);

const browser = join(reports, 'browser.json');
const browserOk = check('browser tests', 'npx', ['--no-install', 'playwright', 'test', '--reporter=list,json'], {
  env: { ...process.env, PLAYWRIGHT_JSON_OUTPUT_NAME: browser, E2E_PORT: String(await freePort()) },
});
try {
  const { stats } = JSON.parse(readFileSync(browser, 'utf8'));
  passed += stats.expected;
  // What passes only at a second try has failed.
  failed += stats.unexpected + stats.flaky;
  skipped += stats.skipped;
  if (!browserOk && stats.unexpected + stats.flaky === 0) failed++;
} catch {
  failed++;
}

if (skipped > 0) console.log(`\n${skipped} skipped`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
