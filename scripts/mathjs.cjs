// The library's index makes each of its functions as it is read, a second for every suite; a bundler leaves out what nobody asks for, Jest cannot.
/* eslint-disable @typescript-eslint/no-require-imports -- Jest reads its mappings as CommonJS */
const { create } = require('../node_modules/mathjs/lib/cjs/core/create.js');
const part = (file, key) =>
  require(`../node_modules/mathjs/lib/cjs/entry/dependenciesAny/dependencies${file}.generated.js`)[key];

/** Names that are asked for → the files that they lie in. */
const FILES = {
  addDependencies: 'Add',
  divideDependencies: 'Divide',
  evaluateDependencies: 'Evaluate',
  multiplyDependencies: 'Multiply',
  powDependencies: 'Pow',
  subtractDependencies: 'Subtract',
  unaryMinusDependencies: 'UnaryMinus',
  unaryPlusDependencies: 'UnaryPlus',
  unitDependencies: 'UnitFunction',
};
let erf;
module.exports = { create, erf: (x) => (erf ??= create(part('Erf', 'erfDependencies'), {}).erf)(x) };
for (const [key, file] of Object.entries(FILES)) {
  Object.defineProperty(module.exports, key, { enumerable: true, get: () => part(file, key) });
}
