/** Two suites: core and everything headless in plain Node, the application's components in jsdom. */
const shared = {
  roots: ['<rootDir>'],
  modulePathIgnorePatterns: ['<rootDir>/dist/', '<rootDir>/.angular/'],
  moduleNameMapper: {
    '^@core$': '<rootDir>/core/index.ts',
    '^@later$': '<rootDir>/core/later.ts',
    '^@archive$': '<rootDir>/core/document/archive.ts',
    '^@combine$': '<rootDir>/core/shape/combine.ts',
    '^@demo$': '<rootDir>/demo/index.ts',
    '^manifold-3d$': '<rootDir>/node_modules/manifold-3d/manifold.js',
  },
};
const esbuild = '<rootDir>/scripts/jest-transform.cjs';
module.exports = {
  // Every core works; the first test of a file also waits for what it imports to be compiled.
  maxWorkers: '100%',
  testTimeout: 30_000,
  projects: [
    {
      ...shared,
      displayName: 'core',
      // Looking a global up through the sandbox costs more than the arithmetic; these are passed in instead.
      sandboxInjectedGlobals: ['Math', 'Number', 'Infinity'],
      testEnvironment: 'node',
      testMatch: ['<rootDir>/{core,demo,workers,server}/**/*.test.ts', '<rootDir>/app/**/*.tool.test.ts'],
      transform: { '\\.[cm]?[jt]s$': esbuild },
      transformIgnorePatterns: [
        '/node_modules/(?!(culori|clipper2-ts|flatbush|flatqueue|earcut|robust-predicates|polygon-clipping|svgpath|splaytree|pixelmatch|manifold-3d)/)',
      ],
    },
    {
      ...shared,
      displayName: 'app',
      preset: 'jest-preset-angular',
      // Workers are started by a URL that only the build knows.
      moduleNameMapper: {
        ...shared.moduleNameMapper,
        'start-(photo|svg|imaging|archive|opening|pdf|picture|solve|areas|kernel|text)-worker$': '<rootDir>/app/testing/no-worker.ts',
      },
      testMatch: ['<rootDir>/app/**/*.test.ts'],
      testPathIgnorePatterns: ['\\.tool\\.test\\.ts$'],
      setupFilesAfterEnv: ['<rootDir>/app/testing/setup.ts'],
      transform: {
        '/node_modules/.+\\.[cm]?js$': esbuild,
        '\\.(ts|js|mjs|html|svg)$': ['jest-preset-angular', { tsconfig: '<rootDir>/tsconfig.spec.json', stringifyContentPathRegex: '\\.(html|svg)$' }],
      },
      transformIgnorePatterns: [
        '/node_modules/(?!(.*\\.mjs$|culori|clipper2-ts|flatbush|flatqueue|earcut|robust-predicates|polygon-clipping|konva|dexie|lucide|comlink)/?)',
      ],
    },
  ],
};
