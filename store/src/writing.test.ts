import { Worker } from 'node:worker_threads';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freshProject } from '@veldtwind/core/project';
import { openDatabase } from './open';
import { ProjectStore } from './projects';

const folder = mkdtempSync(join(tmpdir(), 'writing-'));
const file = join(folder, 'a.sqlite');
const db = openDatabase(file);
let other: Worker;
afterAll(async () => {
  await other?.terminate();
  db.close();
  rmSync(folder, { recursive: true, force: true });
});

/** Writes through a connection of its own all the time, as threads of the server do. */
const WRITER = `
  const { parentPort, workerData } = require('node:worker_threads');
  const db = new (require('better-sqlite3'))(workerData.file);
  db.pragma('busy_timeout = 5000');
  const put = db.prepare('UPDATE project SET updated_at = updated_at');
  let n = 0;
  const go = () => { for (let k = 0; k < 20; k++) put.run(); if (++n === 1) parentPort.postMessage('on'); setTimeout(go, 0); };
  go();`;

it('edits and steps back are never refused because a thread writes at the same time', async () => {
  const projects = new ProjectStore(db);
  const { id } = projects.create('Seedsnipe', freshProject());
  other = new Worker(WRITER, { eval: true, workerData: { file } });
  await new Promise((on) => other.once('message', on));
  for (let k = 0; k < 150; k++) {
    const { version } = projects.state(id);
    const brief = { ...projects.state(id).document.brief, mission: `flight ${k}` };
    const edited = projects.edit(id, version, 'Mission', [{ part: 'brief', value: brief }]);
    projects.step(id, edited.version, 'undo');
  }
  expect(projects.state(id).version).toBe(300);
});
