const swc = [
  '@swc/jest',
  { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'commonjs' } },
];
const project = (displayName, extra = {}) => ({
  displayName,
  rootDir: '.',
  testMatch: [`<rootDir>/${displayName}/src/**/*.test.ts`],
  transform: { '^.+\\.(ts|mjs|js)$': swc },
  transformIgnorePatterns: ['/node_modules/(?!(d3|d3-[a-z]+|internmap|delaunator|robust-predicates)/)'],
  moduleNameMapper: {
    '^@veldtwind/core/(.*)$': '<rootDir>/core/src/$1/index.ts',
    '^@veldtwind/server/(.*)$': '<rootDir>/server/src/$1',
    '^@veldtwind/demo/(.*)$': '<rootDir>/demo/src/$1',
    '^@/(.*)$': '<rootDir>/web/src/$1',
    // Jest takes .mjs for native modules; this build is the same code in the older form.
    '^d3$': '<rootDir>/node_modules/d3/dist/d3.js',
  },
  ...extra,
});
export default {
  projects: [project('core'), project('server'), project('web'), project('cli')],
  testTimeout: 60000,
};
