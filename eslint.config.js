import js from '@eslint/js';
import reactHooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import tseslint from 'typescript-eslint';

/** One decision by many kinds, each a line: a switch over messages or words is easier read whole. */
const TABLES = [
  'core/src/controls/{recognise,sources,words}.ts',
  'core/src/engine/controls/actions.ts',
  'core/src/engine/engine.ts',
  'core/src/engine/play/messageRouter.ts',
  'core/src/formats/smf/{structure,trackEvents}.ts',
  'core/src/formats/soundfont/checkBank.ts',
  'core/src/monitor/lines.ts',
  'core/src/show/sameBody.ts',
  'web/src/host/bench/Bench.ts',
  'web/src/host/hostCore.ts',
  'web/src/show/api.ts',
];

/**
 * Functions over sixty lines that tell one story in order: a start, a document, a zone with all its generators, a
 * page's hook with its state and its actions.
 */
const ONE_STORY = [
  'core/src/engine/compile/patch.ts',
  'server/src/http/openApi.ts',
  'web/src/app/{feedHost,startApp,useShortcuts}.ts',
  'web/src/features/gear/useRoles.ts',
  'web/src/features/setlist/useRunningOrder.ts',
  'web/src/features/song-sheet/useSongSheet.ts',
  'web/src/features/sounds/useOwnPresets.ts',
  'web/src/host/audio/sampled/presetFromBank.ts',
];

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', 'test-results/**', '.reports/**'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-expressions': ['error', { allowTernary: true, allowShortCircuit: true }],
      '@typescript-eslint/no-redeclare': 'off',
      // As the compiler has it: a name that begins with _ says what is handed in and is not needed here.
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'no-restricted-syntax': [
        'error',
        { selector: 'ExportDefaultDeclaration', message: 'name every export' },
        { selector: 'ExportAllDeclaration[exported=null]', message: 'name each export' },
      ],
    },
  },
  {
    files: ['{core,cli,server,web}/{src,test}/**/*.{ts,tsx}', 'e2e/{tests,figures,audio}/**/*.ts'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      // A default counts, where it is written down.
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
    },
  },
  {
    // Long files hide what they hold; none may join the tables without its reason at its head.
    files: ['{core,cli,server,web}/src/**/*.{ts,tsx}'],
    ignores: TABLES,
    rules: { 'max-lines': ['error', 450], complexity: ['error', 15] },
  },
  {
    files: ['{core,cli,server,web}/src/**/*.ts'],
    ignores: [...TABLES, ...ONE_STORY],
    rules: { 'max-lines-per-function': ['error', { max: 60, skipBlankLines: true, skipComments: true }] },
  },
  {
    // What a page draws is markup, read from top to bottom; 60 lines are the aim here too.
    files: ['{core,cli,server,web}/src/**/*.tsx'],
    rules: { 'max-lines-per-function': ['error', { max: 150, skipBlankLines: true, skipComments: true }] },
  },
  {
    files: ['**/*.config.{js,mjs,ts}', '.dependency-cruiser.cjs', 'web/test/environment.mjs', 'web/test/nothing.cjs'],
    languageOptions: { globals: globals.node },
    rules: { 'no-restricted-syntax': 'off' },
  },
  { files: ['scripts/**', '**/bin/**'], languageOptions: { globals: globals.node } },
  { files: ['web/src/**/*.{ts,tsx}'], ...reactHooks.configs.flat['recommended-latest'] },
  {
    // The engine runs in the host and in the checks' worker. Pages know it by what they are told.
    files: ['web/src/{app,features,files,installed,live,protocol,show,state,ui}/**/*.{ts,tsx}'],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          paths: ['engine', 'simulate', 'dryRun', 'soundcheck'].map((part) => ({
            name: `@rackle/core/${part}`,
            allowTypeImports: true,
            message: 'pages never run the engine',
          })),
        },
      ],
    },
  },
  // The virtualised list is not compiled by React Compiler, which this application does not use.
  { files: ['web/src/**/*.{ts,tsx}'], rules: { 'react-hooks/incompatible-library': 'off' } },
);
