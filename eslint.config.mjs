import js from '@eslint/js';
import ts from 'typescript-eslint';
import hooks from 'eslint-plugin-react-hooks';
import prettier from 'eslint-config-prettier';
import globals from 'globals';
import { readdirSync } from 'node:fs';

/** Folders of core in the order they may build on each other: a folder imports only those before it. */
const CORE_ORDER = [
  'math',
  'jobs',
  'params',
  'brush',
  'surface',
  'decal',
  'prop',
  'entity',
  'map',
  'edit',
  'checks',
  'commands',
  'compile',
  'play',
  'analyse',
  'formats',
];

/** One rule block a core folder: imports point one way, and only through a folder's index. */
const coreLayers = CORE_ORDER.map((folder, place) => ({
  files: [`packages/core/src/${folder}/**/*.ts`],
  ignores: ['**/*.test.ts'],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            group: ['node:*', 'react*', 'three*', '@mantine/*'],
            message: 'Core runs anywhere: no Node API, no interface code.',
          },
          ...CORE_ORDER.slice(place + 1).map((later) => ({
            group: [`**/${later}/**`, `../${later}`, `**/${later}.ts`].slice(0, 1),
            message: `${folder}/ comes before ${later}/ and must not import it.`,
          })),
        ],
      },
    ],
  },
}));

/** Folders of the web app in the order they may build on each other, as core's. */
const WEB_ORDER = [
  'theme',
  'workers',
  'api',
  'state',
  'fields',
  'geometry',
  'scene',
  'commands',
  'tools',
  'panes',
  'palette',
  'panels',
  'pages',
];

const webLayers = WEB_ORDER.slice(0, -1).map((folder, place) => ({
  files: [`apps/web/src/${folder}/**/*.{ts,tsx}`],
  ignores: ['**/*.test.{ts,tsx}', '**/testing.ts'],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: WEB_ORDER.slice(place + 1).map((later) => ({
          group: [`../**/${later}/**`],
          message: `${folder}/ comes before ${later}/ and must not import it.`,
        })),
      },
    ],
  },
}));

/** What files call the kinds of things: one file a kind in `kinds/`. No other file may ask for one by name. */
const KINDS = readdirSync(new URL('./packages/core/src/entity/kinds/', import.meta.url))
  .filter((file) => file !== 'index.ts' && !file.includes('.test.'))
  .map((file) => file.replace(/\.ts$/, '').replace(/-(.)/g, (_, letter) => letter.toUpperCase()))
  // Words that mean something else as well: openings are doors, windows or arches; brushes have the role of a zone; a key picks materials
  // up; a parameter names a sound; a process exits, a database has checkpoints.
  .filter((kind) => !['door', 'pickup', 'zone', 'exit', 'sound', 'checkpoint'].includes(kind));

const NO_APPLICATIONS = {
  selector: 'ImportDeclaration[source.value=/^@yesca\\/(web|server|cli)/]',
  message: 'Packages never import applications.',
};

const NO_KINDS = {
  selector: `Literal[value=/^(${KINDS.join('|')})$/]`,
  message: 'Only entity/kinds/ knows kinds by name. Ask for what is meant: isSpawn, shines, floods, entityKind(…).',
};

/** What a tool or a pane remembers belongs to the one object that is in use. */
const NO_MODULE_STATE = {
  selector: 'Program > VariableDeclaration[kind="let"]',
  message: 'Keep state in an object that is made, not in the module.',
};

export default ts.config(
  { ignores: ['**/node_modules', '**/dist', '**/data', '**/.cache', '**/*.generated.js'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  // What has no components has none of their rules, which read each file with a compiler of their own.
  {
    ...hooks.configs.flat['recommended-latest'],
    files: ['apps/web/src/**/*.{ts,tsx}'],
    ignores: ['**/*.test.{ts,tsx}'],
  },
  prettier,
  {
    languageOptions: { globals: { ...globals.node, ...globals.browser } },
    rules: {
      '@typescript-eslint/no-unused-vars': 'off',
      '@typescript-eslint/consistent-type-imports': 'error',
      'no-console': 'off',
      eqeqeq: 'error',
    },
  },
  {
    // Of all else the types say what is not used.
    files: ['**/*.mjs'],
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
  ...coreLayers,
  ...webLayers,
  {
    // The camera of three is an object that is moved, not a value that is replaced.
    files: ['apps/web/src/panes/EyePane.tsx', 'apps/web/src/panes/EyeCamera.tsx'],
    rules: { 'react-hooks/immutability': 'off', 'react-hooks/preserve-manual-memoization': 'off' },
  },
  {
    files: ['packages/core/src/**/*.ts', 'packages/stock/src/**/*.ts', 'packages/contract/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: { 'no-restricted-globals': ['error', 'window', 'document', 'localStorage', 'self'] },
  },
  {
    // Their last bits differ from one engine to the next, and with them what is played again or built elsewhere.
    files: ['packages/core/src/**/*.ts'],
    ignores: ['**/*.test.ts', '**/testing/**', 'packages/core/src/math/exact.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        ...[
          'sin',
          'cos',
          'tan',
          'asin',
          'acos',
          'atan',
          'atan2',
          'hypot',
          'exp',
          'expm1',
          'pow',
          'cbrt',
          'sinh',
          'cosh',
          'tanh',
        ].map((property) => ({
          object: 'Math',
          property,
          message: 'Take it from math/exact.ts: engines differ in its last bits.',
        })),
      ],
    },
  },
  {
    files: ['packages/**/*.ts'],
    rules: {
      'no-restricted-syntax': ['error', NO_APPLICATIONS],
    },
  },
  {
    files: ['packages/core/src/**/*.ts', 'apps/{web,cli,server}/src/**/*.{ts,tsx}'],
    ignores: ['packages/core/src/entity/kinds/**', '**/*.test.{ts,tsx}', '**/testing/**', '**/testing.ts'],
    rules: {
      'no-restricted-syntax': ['error', NO_APPLICATIONS, NO_KINDS],
    },
  },
  {
    files: ['apps/web/src/{tools,panes,scene}/**/*.{ts,tsx}'],
    ignores: ['**/*.test.{ts,tsx}', '**/testing.ts', '**/anisotropy.ts'],
    rules: {
      'no-restricted-syntax': ['error', NO_APPLICATIONS, NO_KINDS, NO_MODULE_STATE],
    },
  },
);
