import { mkdtempSync, mkdirSync, symlinkSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import type { Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { createApp } from './app';

let server: Server;
let base: string;
const others: Server[] = [];

beforeAll(async () => {
  const folder = mkdtempSync(join(tmpdir(), 'chemin-server-'));
  writeFileSync(join(folder, 'index.html'), '<!doctype html><title>page</title>');
  writeFileSync(join(folder, 'main-ABCDEF12.js'), `console.log(${JSON.stringify('x'.repeat(5000))})`);
  writeFileSync(join(folder, 'chunk-ABCDEF12.js'), 'as it is');
  writeFileSync(join(folder, 'chunk-ABCDEF12.js.gz'), gzipSync('as the build compressed it'));
  mkdirSync(join(folder, 'wasm'));
  writeFileSync(join(folder, 'wasm', 'kernel.wasm'), Buffer.from([0, 97, 115, 109]));
  await new Promise<void>((ready) => (server = createApp(folder).listen(0, () => ready())));
  base = `http://localhost:${(server.address() as AddressInfo).port}`;
});

afterAll(() => Promise.all([server, ...others].map((open) => new Promise<void>((done) => open.close(() => done())))));

describe('the server', () => {
  it('gives the page for every view, under the strict content policy', async () => {
    for (const path of ['/', '/drawing/7']) {
      const response = await fetch(base + path);
      expect(response.status).toBe(200);
      expect(await response.text()).toContain('<title>page');
      const policy = response.headers.get('content-security-policy')!;
      expect(policy).toContain("default-src 'self'");
      expect(policy).toContain("script-src 'self' 'wasm-unsafe-eval'");
      expect(policy).toContain("frame-ancestors 'none'");
      expect(policy).not.toContain('https:');
      expect(response.headers.get('strict-transport-security')).toBeNull();
      expect(response.headers.get('x-powered-by')).toBeNull();
      expect(response.headers.get('cache-control')).toBe('no-cache');
    }
  });

  it('lets hashed files be kept for ever, and compresses them', async () => {
    const response = await fetch(`${base}/main-ABCDEF12.js`);
    expect(response.headers.get('cache-control')).toBe('public, max-age=31536000, immutable');
    expect(response.headers.get('content-encoding')).toBe('gzip');
    expect((await fetch(`${base}/wasm/kernel.wasm`)).headers.get('content-type')).toBe('application/wasm');
  });

  it('sends what the build has compressed as it is to whoever takes it', async () => {
    const response = await fetch(`${base}/chunk-ABCDEF12.js`);
    expect(await response.text()).toBe('as the build compressed it');
    expect(response.headers.get('content-type')).toMatch(/^text\/javascript|^application\/javascript/);
    expect(response.headers.get('cache-control')).toBe('public, max-age=31536000, immutable');
    const plain = await fetch(`${base}/chunk-ABCDEF12.js`, { headers: { 'accept-encoding': 'identity' } });
    expect(await plain.text()).toBe('as it is');
  });

  it('answers plainly, under the same policy, to addresses that cannot be read and to a build that is not there', async () => {
    const bare = createApp(mkdtempSync(join(tmpdir(), 'chemin-empty-')));
    const other: Server = await new Promise((ready) => {
      const started = bare.listen(0, () => ready(started));
    });
    others.push(other);
    const empty = `http://localhost:${(other.address() as AddressInfo).port}/`;
    const cases: [string, number][] = [[`${base}/%`, 400], [`${base}/%zz`, 400], [`${base}/%c3%28`, 400], [`${base}/a%00b.js`, 404], [`${base}/..%2f..%2fetc/passwd%`, 400], [empty, 503]]; // prettier-ignore
    for (const [address, status] of cases) {
      const response = await fetch(address);
      expect([address, response.status]).toEqual([address, status]);
      const text = await response.text();
      expect(text).toMatch(/^[A-Z][\w ,]+\.( Run npm start, which builds it\.)?$/);
      expect(text).not.toMatch(/\/|node_modules|at /);
      expect(response.headers.get('content-security-policy')).toContain("default-src 'self'");
    }
    expect((await fetch(base, { method: 'POST' })).status).toBe(405);
  });

  it('serves what is there beside a link that leads nowhere', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'chemin-links-'));
    writeFileSync(join(folder, 'index.html'), '<!doctype html><title>page</title>');
    symlinkSync('/nowhere/at-all.js', join(folder, 'broken.js'));
    writeFileSync(join(folder, 'main-ABCDEF12.js'), 'here');
    const other: Server = await new Promise((ready) => {
      const started = createApp(folder).listen(0, () => ready(started));
    });
    others.push(other);
    const address = `http://localhost:${(other.address() as AddressInfo).port}`;
    expect(await (await fetch(`${address}/main-ABCDEF12.js`)).text()).toBe('here');
    expect((await fetch(`${address}/broken.js`)).status).toBe(404);
  });

  it('says plainly which file is not there', async () => {
    const response = await fetch(`${base}/nothing.js`);
    expect(response.status).toBe(404);
    expect(await response.text()).toBe('There is no such file.');
  });
});
