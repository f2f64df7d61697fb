import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { vwIn } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'vw-hostile-'));
const database = join(folder, 'data', 'd.sqlite');
const file = (name: string, text: string) => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};
const script = resolve('scripts/vw.mjs');
const vw = (...args: string[]) => vwIn(args, { env: { VELDTWIND_DATABASE: database } });
/** Refused with a sentence: no stack trace, no output, no time spent. */
async function refused(why: RegExp, ...args: string[]): Promise<void> {
  const { code, out, err } = await vw(...args);
  expect([code, out]).toEqual([1, '']);
  expect(err).toMatch(why);
  expect(err).not.toMatch(/\n {4}at |unforeseen/);
}
const wing = (over: object = {}, station: object = {}) =>
  JSON.stringify({
    format: 'veldtwind-candidate',
    version: 1,
    candidate: {
      name: 'Plain wing',
      surfaces: [
        {
          id: 'wing',
          name: 'Wing',
          role: 'wing',
          plane: 'horizontal',
          mirrored: true,
          position: { x: 0, y: 0, z: 0 },
          incidenceDeg: 0,
          stations: [
            { chord: 1, twistDeg: 0, section: 'naca:2411', ...station },
            { chord: 1, twistDeg: 0, section: 'naca:2411' },
          ],
          bays: [{ span: 4, sweepDeg: 0, dihedralDeg: 0, ...over }],
        },
      ],
    },
  });
const plain = file('wing.json', wing());
const lift = (...more: string[]) => ['lift', '--airframe', plain, '--alpha', '0:4:2', ...more];
const points = Array.from({ length: 61 }, (_, i) => {
  const t = (2 * Math.PI * i) / 60;
  return [0.5 + 0.5 * Math.cos(t), 0.06 * Math.sin(t) * (1 + Math.cos(t) * 0.5)];
});

describe('files that are none', () => {
  it.each(['section', 'polar', 'lift'])('%s refuses pipes, devices and folders at once', async (command) => {
    const pipe = join(folder, `pipe-${command}`);
    execFileSync('mkfifo', [pipe]);
    const args = (path: string) =>
      command === 'lift'
        ? ['lift', '--airframe', path, '--alpha', '0']
        : [command, '--section', path, ...(command === 'polar' ? ['--alpha', '0', '--inviscid'] : [])];
    await refused(/pipe or a device/, ...args(pipe));
    await refused(/pipe or a device/, ...args('/dev/zero'));
    await refused(/is a folder/, ...args(folder));
    await refused(/does not exist/, ...args(join(folder, 'nowhere')));
  });
  it('and files far too large, before they are read', async () => {
    const huge = file('huge.dat', '');
    truncateSync(huge, 3_000_000_000);
    await refused(/3000 MB/, 'section', '--section', huge);
    await refused(/3000 MB/, 'section', '--section', 'naca:0012', '--recipe', huge);
  });
});

describe('numbers beyond all bounds', () => {
  it.each([
    ['--panels', '1e9'],
    ['--panels', '-5'],
    ['--mach', '1e308'],
    ['--ncrit', '1e309'],
    ['--alpha', '0:1e300:1'],
    ['--re', '1e-300'],
    ['--re', '1e300'],
  ])('polar %s %s', (option, value) =>
    refused(/\w/, 'polar', '--section', 'naca:0012', '--re', '1e6', '--alpha', '0', option, value),
  );
  it.each([
    ['--beta', '1e9'],
    ['--chordwise', '1e9'],
    ['--spanwise', '1e9'],
    ['--chordwise', '0.5'],
    ['--mach', '-1'],
    ['--about', '1e400,0,0'],
    ['--alpha', '1e12'],
  ])('lift %s %s', (option, value) => refused(/\w/, ...lift(option, value)));
  it('a bay of no length, and one without end, are no wing', async () => {
    await refused(/span/, 'lift', '--airframe', file('thin.json', wing({ span: 1e-12 })), '--alpha', '0');
    await refused(/span/, 'lift', '--airframe', file('long.json', wing({ span: 1e300 })), '--alpha', '0');
    await refused(/chord/, 'lift', '--airframe', file('none.json', wing({}, { chord: 1e-300 })), '--alpha', '0');
    const overflow = wing().replace('"span":4', '"span":1e999');
    await refused(/span/, 'lift', '--airframe', file('overflow.json', overflow), '--alpha', '0');
  });
  it.each([1e-320, 1e-300, 1e300])(
    'coordinates in units of %p are a section or refused, never a trace',
    async (unit) => {
      const path = file(`unit-${unit}.dat`, points.map((p) => p.map((v) => v * unit).join(' ')).join('\n'));
      const { code, out, err } = await vw('section', '--section', path, '--json');
      expect(err).not.toMatch(/\n {4}at |unforeseen/);
      expect(code).toBeLessThan(2);
      if (code === 0) expect(out).not.toMatch(/null/);
    },
  );
});

describe('hostile structure', () => {
  it.each(['constructor', '__proto__', 'toString', 'hasOwnProperty'])(
    'a section called %s is not found',
    async (key) => {
      const path = file(`${key}.json`, wing({}, { section: key }));
      await refused(/section|stations/, 'lift', '--airframe', path, '--alpha', '0');
    },
  );
  it('JSON of another kind, cut off, or nested without end', async () => {
    for (const text of ['', '{', '[]', 'null', '7', '"x"', '['.repeat(200_000), wing().slice(0, -9)])
      await refused(/\w/, 'lift', '--airframe', file('bad.json', text), '--alpha', '0');
  });
  it('mixes of mixes nested deep are refused', async () => {
    let source: object = { kind: 'designation', designation: '0012', trailingEdge: 'published' };
    for (let k = 0; k < 3000; k++) source = { kind: 'recipe', source, steps: [] };
    const sections = { deep: source };
    const text = JSON.stringify({ ...JSON.parse(wing({}, { section: 'deep' })), sections });
    await refused(/\w/, 'lift', '--airframe', file('deep.json', text), '--alpha', '0');
  });
});

describe('output that nobody takes', () => {
  it('ends quietly when the reader has read enough', async () => {
    const child = spawn(process.execPath, [script, 'section', '--section', 'naca:4415', '--points', '2001', '--json']);
    child.stdout.destroy();
    let err = '';
    child.stderr.on('data', (d) => (err += String(d)));
    expect(await new Promise((done) => child.on('exit', done))).toBe(0);
    expect(err).toBe('');
  });
  it('says that the disk is full', async () => {
    await refused(
      /cannot be written \(ENOSPC\)/,
      'polar',
      '--section',
      'naca:0012',
      '--alpha',
      '0',
      '--inviscid',
      '--csv',
      '/dev/full',
    );
    const run = spawnSync('sh', [
      '-c',
      `"${process.execPath}" "${script}" section --section naca:0012 --json > /dev/full`,
    ]);
    expect([run.status, String(run.stderr)]).toEqual([1, expect.stringMatching(/cannot be written/)]);
  });
});

describe('backup and restore', () => {
  const demo = resolve('demo/seedsnipe.json');
  /** A database with the demo in it, through a project file that the server's code wrote. */
  const fill = async (name: string) => {
    const run = spawnSync(
      process.execPath,
      [
        '--import',
        'tsx',
        '-e',
        `
      import { readFileSync } from 'node:fs';
      import { openDatabase } from './store/src/open.ts';
      import { ProjectStore } from './store/src/projects.ts';
      import { readDocument } from './core/src/project/index.ts';
      const db = openDatabase(process.env.VELDTWIND_DATABASE);
      new ProjectStore(db).create(${JSON.stringify(name)}, readDocument(JSON.parse(readFileSync(${JSON.stringify(demo)}, 'utf8')).document));
      db.close();`,
      ],
      { env: { ...process.env, VELDTWIND_DATABASE: database }, cwd: resolve('.') },
    );
    expect(String(run.stderr)).not.toMatch(/Error/);
    return (JSON.parse((await vw('project', 'list', '--json')).out) as { projects: { id: string; name: string }[] })
      .projects;
  };
  const names = async () =>
    (JSON.parse((await vw('project', 'list', '--json')).out) as { projects: { name: string }[] }).projects
      .map((p) => p.name)
      .sort();

  it('go there and back: never over a newer one unless told to, and what was there is kept', async () => {
    await refused(/does not exist/, 'backup', '--out', join(folder, 'b1.sqlite'));
    await fill('First');
    const backup = join(folder, 'backup.sqlite');
    const made = JSON.parse((await vw('backup', '--out', backup, '--json')).out) as { projects: number };
    expect(made.projects).toBe(1);
    await refused(/exists/, 'backup', '--out', backup);
    await refused(/database itself/, 'backup', '--out', database);
    expect((await vw('backup', '--out', backup, '--force')).code).toBe(0);
    await fill('Second');
    await refused(/was changed on/, 'restore', backup);
    expect(await names()).toEqual(['First', 'Second']);
    const done = JSON.parse((await vw('restore', backup, '--force', '--json')).out) as { former: string };
    expect(await names()).toEqual(['First']);
    // The way back from the way back.
    expect((await vw('restore', done.former)).code).toBe(0);
    expect(await names()).toEqual(['First', 'Second']);
    expect(readdirSync(join(folder, 'data')).filter((f) => /part$/.test(f))).toEqual([]);
  });
  it('refuse what is no backup', async () => {
    await refused(/no database/, 'restore', file('letter.sqlite', 'Dear colleague, '.repeat(400)));
    await refused(/no database of Veldtwind|no database/, 'restore', file('empty.sqlite', ''));
    await refused(/does not exist/, 'restore', join(folder, 'nowhere.sqlite'));
    const cut = join(folder, 'cut.sqlite');
    writeFileSync(cut, readFileSync(join(folder, 'backup.sqlite')).subarray(0, 40_000));
    await refused(/damaged|no database/, 'restore', cut);
    expect(await names()).toEqual(['First', 'Second']);
  });
  it('a project goes out to one file and comes in again', async () => {
    const out = join(folder, 'first.zip');
    expect((await vw('project', 'export', 'First', '--out', out)).code).toBe(0);
    const made = JSON.parse((await vw('project', 'import', out, '--json')).out) as { name: string; left: string[] };
    expect([made.name, made.left]).toEqual(['First', []]);
    await refused(/2 projects are called/, 'project', 'export', 'First', '--out', out);
    await refused(/no project "Nowhere"/, 'project', 'export', 'Nowhere', '--out', out);
    await refused(/no zip/, 'project', 'import', plain);
    await refused(
      /cannot be written/,
      'project',
      'export',
      'Second',
      '--out',
      join(folder, 'no', 'such', 'folder.zip'),
    );
    expect(existsSync(`${out}.part`)).toBe(false);
  });
});
