// Before the unit tests: what they start is made once, not by each of them.
import { dirname } from 'node:path';
import { commandsMade, serverMade } from './parts.mjs';

export default async function beforeTests() {
  await commandsMade();
  // Threads that tests start are these; from their sources each would take seconds.
  process.env.VELDTWIND_MADE = dirname(await serverMade());
}
