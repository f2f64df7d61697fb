export default {
  displayName: 'browser',
  rootDir: '.',
  testMatch: ['<rootDir>/browser-tests/src/**/*.test.ts'],
  transform: {
    '^.+\\.ts$': [
      '@swc/jest',
      { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'commonjs' } },
    ],
  },
  testTimeout: 180000,
  maxWorkers: 2,
};
