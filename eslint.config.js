import { readdirSync } from 'node:fs';
import js from '@eslint/js';
import globals from 'globals';
import ts from 'typescript-eslint';
import vue from 'eslint-plugin-vue';

// core's folders in the direction in which they stand on each other: a folder may import only from those before it.
const order = [
  'numerics',
  'kernels',
  'units',
  'limits',
  'results',
  'atmosphere',
  'propulsion',
  'actuation',
  'structure',
  'section',
  'section-flow',
  'shaping',
  'polar',
  'airframe',
  'members',
  'figures',
  'formats',
  'lift',
  'drag',
  'flight',
  'balance',
  'motion',
  'performance',
  'control',
  'simulation',
  'observed',
  'estimation',
  'project',
  'starter',
  'candidate',
  'quantities',
  'findings',
  'studies',
  'solve',
  'layouts',
  'report',
  'analysis',
];
const upward = (folder, at) => ({
  files: [`core/src/${folder}/**/*.ts`],
  ignores: ['**/*.test.ts'],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            group: [
              ...order.slice(at + 1).map((later) => `**/${later}/*`),
              ...order.slice(at + 1).map((later) => `../${later}`),
              '@veldtwind/contract*',
              '@veldtwind/server*',
              '@veldtwind/store*',
              '@veldtwind/web*',
              '@veldtwind/cli*',
              'node:*',
              'vue',
              'express',
              'better-sqlite3',
            ],
            message: 'core stands on nothing above it, and its subjects stand on each other in one direction.',
          },
        ],
      },
    ],
  },
});
const onlyCore = (folder, forbidden) => ({
  files: [`${folder}/src/**/*.{ts,vue}`],
  ignores: ['**/*.test.ts'],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            group: forbidden.map((f) => `@veldtwind/${f}*`),
            message: 'Arrows only point down: to core, and to the store from server and command line.',
          },
        ],
      },
    ],
  },
});

// An area stands by itself: what two need belongs below them.
const areas = readdirSync(new URL('./web/src/areas', import.meta.url), { withFileTypes: true }).filter((e) =>
  e.isDirectory(),
);
const alone = ({ name }) => ({
  files: [`web/src/areas/${name}/**/*.{ts,vue}`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            group: areas
              .filter((a) => a.name !== name)
              .flatMap((a) => [`@/areas/${a.name}/*`, `**/${a.name}/*Area.vue`]),
            message: 'No area imports another.',
          },
          {
            group: ['@veldtwind/server*', '@veldtwind/store*', '@veldtwind/cli*', '@veldtwind/demo*'],
            message: 'Arrows only point at core.',
          },
        ],
      },
    ],
  },
});

export default ts.config(
  { ignores: ['core/kernels/**', '**/dist/**', '**/.made/**', '**/node_modules/**', 'coverage/**', 'data/**'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/essential'],
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: ts.parser }, globals: globals.browser },
    rules: { 'vue/multi-word-component-names': 'off' },
  },
  { files: ['web/**/*.ts'], languageOptions: { globals: { ...globals.browser, ...globals.worker } } },
  { files: ['**/*.{mjs,js,cjs}'], languageOptions: { globals: globals.node } },
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      'no-undef': 'off',
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'prefer-const': 'error',
      'no-restricted-syntax': [
        'error',
        {
          selector:
            "BinaryExpression[operator='/']:has(> MemberExpression[property.name='PI']):has(> Literal[value=180])",
          message: 'Degrees and radians are converted by RAD and DEG of core/numerics.',
        },
        {
          selector:
            "BinaryExpression[operator='/'][right.value=180] > BinaryExpression[operator='*']:has(> MemberExpression[property.name='PI'])",
          message: 'Degrees and radians are converted by RAD and DEG of core/numerics.',
        },
      ],
    },
  },
  { files: ['core/src/numerics/angle.ts'], rules: { 'no-restricted-syntax': 'off' } },
  ...areas.map(alone),
  ...order.map(upward),
  onlyCore('contract', ['store', 'server', 'web', 'cli', 'browser-tests', 'demo']),
  onlyCore('store', ['server', 'web', 'cli', 'browser-tests', 'demo']),
  onlyCore('server', ['web', 'cli', 'browser-tests']),
  onlyCore('web', ['server', 'store', 'cli', 'browser-tests', 'demo']),
  onlyCore('cli', ['server', 'web', 'browser-tests']),
);
