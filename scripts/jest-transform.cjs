// Turns TypeScript and ES modules into what Jest runs, with esbuild.
const { createHash } = require('node:crypto');
const { transformSync, version } = require('esbuild');

module.exports = {
  getCacheKey: (source, path) => createHash('sha256').update(version).update(path).update(source).digest('hex'),
  process: (source, path) =>
    transformSync(source, {
      loader: /\.[cm]?ts$/.test(path) ? 'ts' : 'js',
      format: 'cjs',
      target: 'node20',
      sourcemap: 'inline',
      sourcefile: path,
    }),
};
