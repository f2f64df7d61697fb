// Runs one command of the command line after another for whoever forked it: a start of its own would cost each 0.4 s.
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { commandsMade } from './parts.mjs';

const { run } = await import(pathToFileURL(join(dirname(await commandsMade()), 'run.mjs')).href);
process.setMaxListeners(0);
process.on('disconnect', () => process.exit());
let out = '';
let err = '';
const taken = (take) => (text, encoding, done) => {
  take(typeof text === 'string' ? text : Buffer.from(text).toString());
  (typeof encoding === 'function' ? encoding : done)?.();
  return true;
};
process.stdout.write = taken((text) => (out += text));
process.stderr.write = taken((text) => (err += text));
let failed = null;
process.on('unhandledRejection', (error) => (failed = error));
const usual = { ...process.env };

async function answer({ id, args, cwd, env }) {
  out = err = '';
  process.exitCode = undefined;
  failed = null;
  for (const name of Object.keys(process.env)) if (!(name in usual)) delete process.env[name];
  Object.assign(process.env, usual, env);
  process.chdir(cwd);
  await run(args);
  // What a process would have died of comes after the work.
  await new Promise((done) => setImmediate(done));
  if (failed) err += `${failed.stack ?? failed}\n`;
  process.send({ id, code: failed ? 1 : (process.exitCode ?? 0), out, err });
}
let last = Promise.resolve();
process.on('message', (asked) => (last = last.then(() => answer(asked))));
process.send({ ready: true });
