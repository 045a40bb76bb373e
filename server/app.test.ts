import { mkdtempSync, mkdirSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import type { Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createApp } from './app';

let server: Server;
let base: string;

beforeAll(async () => {
  const folder = mkdtempSync(join(tmpdir(), 'chemin-server-'));
  writeFileSync(join(folder, 'index.html'), '<!doctype html><title>page</title>');
  writeFileSync(join(folder, 'main-ABCDEF12.js'), `console.log(${JSON.stringify('x'.repeat(5000))})`);
  mkdirSync(join(folder, 'wasm'));
  writeFileSync(join(folder, 'wasm', 'kernel.wasm'), Buffer.from([0, 97, 115, 109]));
  await new Promise<void>((ready) => (server = createApp(folder).listen(0, () => ready())));
  base = `http://localhost:${(server.address() as AddressInfo).port}`;
});

afterAll(() => new Promise<void>((done) => server.close(() => done())));

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

  it('says plainly which file is not there', async () => {
    const response = await fetch(`${base}/nothing.js`);
    expect(response.status).toBe(404);
    expect(await response.text()).toBe('There is no such file.');
  });
});
