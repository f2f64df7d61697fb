// Properties run from one seed, so that a run that passed passes again; FC_SEED and FC_RUNS look further.
// eslint-disable-next-line @typescript-eslint/no-require-imports -- Jest reads its mappings as CommonJS
const fc = require('../node_modules/fast-check/lib/cjs/fast-check.js');
fc.configureGlobal({
  seed: Number(process.env.FC_SEED ?? 20261130),
  ...(process.env.FC_RUNS ? { numRuns: Number(process.env.FC_RUNS) } : {}),
});
module.exports = fc;
