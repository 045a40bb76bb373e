// Turns TypeScript and ES modules into what Jest runs, with esbuild.
const { createHash } = require('node:crypto');
const { readFileSync } = require('node:fs');
const { pathToFileURL } = require('node:url');
const { transformSync, version } = require('esbuild');

const self = readFileSync(require.resolve('./jest-transform.cjs'));

module.exports = {
  getCacheKey: (source, path) => createHash('sha256').update(version).update(self).update(path).update(source).digest('hex'),
  process: (source, path) =>
    transformSync(source, {
      loader: /\.[cm]?ts$/.test(path) ? 'ts' : 'js',
      format: 'cjs',
      // Modules that are loaded when first needed are required then.
      supported: { 'dynamic-import': false },
      define: { 'import.meta.url': JSON.stringify(pathToFileURL(path).href) },
      target: 'node20',
      sourcemap: 'inline',
      sourcefile: path,
    }),
};
