import { availableParallelism } from 'node:os';

const swc = [
  '@swc/jest',
  { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'commonjs' } },
];
const project = (displayName, extra = {}) => ({
  displayName,
  rootDir: '.',
  testMatch: [`<rootDir>/${displayName}/src/**/*.test.ts`],
  transform: { '^.+\\.(ts|mjs|js)$': swc },
  transformIgnorePatterns: [
    '/node_modules/(?!(d3-[a-z]+|internmap|@noble/hashes|svg-pathdata|cookie|lru-cache|fast-xml-parser|strnum|yerror|three|maxrects-packer|@gltf-transform/core|property-graph|replicad-opencascadejs)/)',
  ],
  moduleNameMapper: {
    '^@veldtwind/core$': '<rootDir>/core/src/index.ts',
    '^@veldtwind/core/(.*)$': '<rootDir>/core/src/$1/index.ts',
    '^@veldtwind/contract$': '<rootDir>/contract/src/index.ts',
    '^@veldtwind/server/(.*)$': '<rootDir>/server/src/$1',
    '^@veldtwind/store/(.*)$': '<rootDir>/store/src/$1',
    '^@veldtwind/exchange/(.*)$': '<rootDir>/exchange/src/$1',
    '^@veldtwind/runs/(.*)$': '<rootDir>/runs/src/$1',
    '^@veldtwind/demo/(.*)$': '<rootDir>/demo/src/$1',
    '^@/(.*)$': '<rootDir>/web/src/$1',
    // Jest takes their modules for native ones; these are the same in the older form, or stand in for them.
    '^(d3-[a-z-]+)$': '<rootDir>/node_modules/$1/dist/$1.js',
    '^marked$': '<rootDir>/node_modules/marked/lib/marked.umd.js',
    '^fast-check$': '<rootDir>/scripts/fast-check.cjs',
    '^mathjs$': '<rootDir>/scripts/mathjs.cjs',
    '^pinia$': '<rootDir>/web/src/test/pinia.ts',
    '^vue-sonner$': '<rootDir>/web/src/test/sonner.ts',
  },
  // Tests run in a context of their own, where each look at a global takes its time; these are handed in.
  sandboxInjectedGlobals: [
    'Math',
    'Number',
    'Float64Array',
    'Int32Array',
    'Uint8Array',
    'Infinity',
    'Array',
    'Object',
    'Map',
    'Set',
  ],
  ...extra,
});
export default {
  projects: [
    project('core'),
    project('contract'),
    project('store'),
    project('server'),
    project('runs'),
    project('exchange'),
    project('web'),
    project('cli'),
  ],
  globalSetup: '<rootDir>/scripts/before-tests.mjs',
  testTimeout: 180000,
  // By itself it would leave one of two cores idle.
  maxWorkers: Math.max(2, availableParallelism() - 1),
};
