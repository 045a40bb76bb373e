// What every command needs first, in plain Node: packages, a build, and for tests a browser. Each is skipped when
// nothing changed since the last time.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';

export const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
export const CHROMIUM = '/usr/bin/chromium';

/** Runs a command in the project's folder; stops this process with its exit code where it fails. */
export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  if (result.status !== 0) {
    console.error(`\n${command} ${args.join(' ')} failed${result.error ? `: ${result.error.message}` : ''}.`);
    process.exit(result.status ?? 1);
  }
}

const hashOf = (text) => createHash('sha256').update(text).digest('hex');

export function ensurePackages() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) {
    console.error(`Chemin needs Node 20.19 or newer; this is ${process.version}.`);
    process.exit(1);
  }
  const stamp = join(root, 'node_modules', '.chemin-stamp');
  const wanted = hashOf(readFileSync(join(root, 'package-lock.json')));
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  console.log('Installing packages …');
  run('npm', ['ci', '--no-audit', '--no-fund']);
  writeFileSync(stamp, wanted);
}

/** Everything that the built application is made from. */
const SOURCES = [
  'app',
  'core',
  'demo',
  'workers',
  'server',
  'docs/guide',
  'scripts/guide.mjs',
  'scripts/prepare.mjs',
  'angular.json',
  'ngsw-config.json',
  'tsconfig.json',
  'tsconfig.app.json',
  'package-lock.json',
];

function sourceHash() {
  const hash = createHash('sha256');
  const visit = (path) => {
    const full = join(root, path);
    if (statSync(full).isDirectory()) for (const name of readdirSync(full).sort()) visit(join(path, name));
    else if (!/\.test\.ts$/.test(path)) hash.update(path).update(readFileSync(full));
  };
  SOURCES.forEach(visit);
  return hash.digest('hex');
}

export async function ensureBuild() {
  const stamp = join(root, 'dist', '.build-stamp');
  const wanted = sourceHash();
  if (existsSync(join(root, 'dist/app/index.html')) && existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  console.log('Building …');
  await build();
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, wanted);
}

/** The guide's pages, which the application brings along. */
export async function guide() {
  const { writeGuide } = await import('./guide.mjs');
  writeGuide(root, join(root, 'dist/guide'));
}

export async function build() {
  await guide();
  // Chunks are joined where they are always wanted together: half as many files, a twentieth fewer bytes.
  run('npx', ['--no-install', 'ng', 'build'], { env: { ...process.env, NG_CLI_ANALYTICS: 'false', NG_BUILD_OPTIMIZE_CHUNKS: '1' } });
  answerWhileFetching(join(root, 'dist/app/ngsw-worker.js'));
  compressAll(join(root, 'dist/app'));
  bundle('server/main.ts', 'dist/server/main.mjs');
}

/** On which hosts Angular's worker answers nothing on a first visit before it has fetched everything ahead. */
const HELD_UP = 'if (isLocalhost(this.scope.registration.scope))';

/**
 * Has the service worker fetch ahead on this machine as it does everywhere else: when the page asks for nothing. As it
 * comes, it keeps a stage that is opened in the first seconds waiting for all files.
 */
function answerWhileFetching(worker) {
  const text = readFileSync(worker, 'utf8');
  if (text.split(HELD_UP).length !== 2) throw new Error(`${worker} does not tell this machine from others as it did: see what it does on a first visit.`);
  writeFileSync(worker, text.replace(HELD_UP, 'if (false)'));
}

/** Files that are worth compressing, and the fewest bytes. */
const COMPRESSED = /\.(js|css|html|json|svg|txt|wasm|webmanifest)$/;
const LEAST_BYTES = 1024;

/** Lays each file of a folder once more beside itself, compressed: so that no visit has to wait for it. */
function compressAll(folder) {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) compressAll(path);
    else if (COMPRESSED.test(name) && statSync(path).size >= LEAST_BYTES) writeFileSync(`${path}.gz`, gzipSync(readFileSync(path), { level: 9 }));
  }
}

/** Bundles one of our own TypeScript files for Node, packages left outside. */
export function bundle(from, to) {
  run('npx', [
    '--no-install',
    'esbuild',
    from,
    '--bundle',
    '--platform=node',
    '--format=esm',
    '--packages=external',
    '--target=node20',
    '--log-level=warning',
    `--outfile=${to}`,
  ]);
}

/** Programs from Debian's packages that tests need: the browser, and what draws PDF pages. */
export function ensureBrowser() {
  const missing = [
    [CHROMIUM, 'chromium'],
    ['/usr/bin/pdftoppm', 'poppler-utils'],
  ].flatMap(([path, name]) => (existsSync(path) ? [] : [name]));
  if (missing.length === 0) return;
  console.log(`Getting ${missing.join(' and ')} from Debian’s packages …`);
  const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
  const apt = (...args) => {
    const [command, ...rest] = [...sudo, 'apt-get', ...args];
    run(command, rest, { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
  };
  apt('update');
  apt('install', '-y', '--no-install-recommends', ...missing);
}
