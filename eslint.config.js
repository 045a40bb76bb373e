import eslint from '@eslint/js';
import angular from 'angular-eslint';
import tseslint from 'typescript-eslint';

/** What both the picture and what is handed over are made of. */
const BEFORE_PICTURE = [
  'math',
  'projection',
  'grid',
  'paint',
  'shape',
  'snap',
  'geometry',
  'solids',
  'joining',
  'visibility',
  'light',
  'artwork',
  'photo',
  'document',
];

/** Which of core's folders each may import: the way that the data takes, never back. */
const CORE_MAY_IMPORT = {
  math: [],
  projection: ['math'],
  grid: ['math', 'projection'],
  paint: ['math'],
  shape: ['math', 'projection', 'paint'],
  snap: ['math', 'projection', 'grid', 'shape'],
  geometry: ['math', 'projection', 'shape'],
  solids: ['math', 'projection', 'shape', 'geometry'],
  joining: ['math', 'projection', 'shape', 'geometry'],
  lettering: ['math', 'projection', 'shape'],
  visibility: ['math', 'projection', 'shape', 'geometry'],
  light: ['math', 'projection', 'shape', 'geometry'],
  artwork: ['math', 'projection', 'shape', 'geometry', 'paint', 'photo'],
  photo: ['math', 'grid'],
  imaging: ['math', 'projection', 'shape', 'geometry', 'visibility', 'artwork', 'photo'],
  shadow: ['math', 'projection', 'shape', 'geometry', 'light', 'artwork', 'visibility'],
  document: ['math', 'projection', 'grid', 'paint', 'shape', 'snap', 'geometry', 'solids', 'joining', 'lettering', 'light', 'artwork', 'visibility', 'photo'],
  picture: [...BEFORE_PICTURE, 'lettering', 'shadow'],
  output: [...BEFORE_PICTURE, 'imaging', 'picture'],
};

const only = (files, patterns) => ({ files, rules: { 'no-restricted-imports': ['error', { patterns }] } });
const FROM_OUTSIDE = {
  regex: '/(app|workers|server|demo|e2e|bench)/|^@core|^@later|^@demo|^@angular|^@ngrx|^primeng|^konva|^dexie',
  message: 'core imports nothing of the rest.',
};

const coreRules = Object.entries(CORE_MAY_IMPORT).map(([folder, allowed]) => {
  const others = allowed.length > 0 ? `^\\.\\./(?!(${allowed.join('|')})/)` : '^\\.\\./';
  return only([`core/${folder}/**/*.ts`], [FROM_OUTSIDE, { regex: others, message: `core/${folder} comes before that folder; see docs/architecture.md.` }]);
});

const INSIDE_CORE = { regex: '^\\.{1,2}/(.*/)?core/(?!index$)', message: 'core is entered by its index alone.' };
/** Which of the application's rooms each may import; tools and controls stand beside the way that acts take. */
const APP_MAY_IMPORT = {
  tools: [],
  platform: [],
  state: ['platform', 'tools'],
  controls: ['platform', 'state', 'tools'],
  drawing: ['platform', 'state', 'tools', 'controls'],
  features: ['platform', 'state', 'tools', 'controls', 'drawing'],
  shell: ['platform', 'state', 'tools', 'controls', 'drawing', 'features'],
};
const ROOMS = ['theme', 'testing', ...Object.keys(APP_MAY_IMPORT)];

/** Rooms that may not be imported from files so many folders below `app`. @param up such as `\\.\\./` */
const notFrom = (room, up) => ({
  regex: `^${up}(${ROOMS.filter((other) => other !== room && !APP_MAY_IMPORT[room].includes(other)).join('|')})(/|$)`,
  message: `app/${room} comes before that room; see docs/architecture.md.`,
});

const appRules = Object.keys(APP_MAY_IMPORT).map((room) => only([`app/${room}/*.ts`], [INSIDE_CORE, notFrom(room, '\\.\\./')]));

const FEATURES = ['projection', 'draw', 'build', 'light', 'artwork', 'photo', 'output'];
const featureRules = FEATURES.map((name) =>
  only(
    [`app/features/${name}/**/*.ts`],
    [
      INSIDE_CORE,
      notFrom('features', '\\.\\./\\.\\./'),
      { regex: `^\\.\\./(${FEATURES.filter((f) => f !== name).join('|')})/|/features/(?!${name}/)`, message: 'features never import one another.' },
    ],
  ),
);
// Tests may set up what they like, but reach core by its index and its tests' own helpers alone.
const appTests = only(['app/**/*.test.ts', 'app/testing/*.ts'], [{ ...INSIDE_CORE, regex: '^\\.{1,2}/(.*/)?core/(?!index$|testing/)' }]);

export default tseslint.config(
  { ignores: ['dist/', 'node_modules/', '.angular/', 'test-results/', 'playwright-report/'] },
  {
    files: ['**/*.ts'],
    extends: [eslint.configs.recommended, ...tseslint.configs.strict, ...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-extraneous-class': ['error', { allowWithDecorator: true }],
      '@typescript-eslint/unified-signatures': 'off',
      'no-console': ['error', { allow: ['error'] }],
      // What is taken out of an object by leaving it out of the rest.
      '@typescript-eslint/no-unused-vars': ['error', { ignoreRestSiblings: true }],
      eqeqeq: 'error',
    },
  },
  { files: ['**/*.html'], extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility] },
  { files: ['server/**/*.ts', 'bench/**/*.ts', 'e2e/**/*.ts', '**/*.test.ts'], rules: { 'no-console': 'off' } },
  {
    files: ['**/*.{js,mjs,cjs}'],
    extends: [eslint.configs.recommended],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        module: 'writable',
        require: 'readonly',
        setTimeout: 'readonly',
        URL: 'readonly',
        fetch: 'readonly',
        Buffer: 'readonly',
        document: 'readonly',
        localStorage: 'readonly',
        requestAnimationFrame: 'readonly',
      },
    },
  },
  // Workers enter core by the files that they need, so that none carries what it does not use.
  only(['app/**/*.ts', 'demo/**/*.ts'], [INSIDE_CORE]),
  ...coreRules,
  ...appRules,
  ...featureRules,
  appTests,
  only(['core/**/*.test.ts'], [{ ...FROM_OUTSIDE, regex: FROM_OUTSIDE.regex.replace('|^@demo', '') }]),
);
