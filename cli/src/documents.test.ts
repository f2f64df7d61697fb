import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { readCandidateFile } from '@veldtwind/core/candidate';

// Every example in the documents is run as it stands there.
const folder = mkdtempSync(join(tmpdir(), 'documents-'));
const vw = (args: string[]) =>
  new Promise<{ code: number; out: string; err: string }>((done) => {
    execFile(
      process.execPath,
      [resolve('scripts/vw.mjs'), ...args],
      { cwd: folder, maxBuffer: 1e8 },
      (error, out, err) => done({ code: error ? Number((error as { code?: number }).code ?? 1) : 0, out, err }),
    );
  });
const textOf = (name: string) => readFileSync(resolve('docs', name), 'utf8');
const blocksOf = (name: string, language: string): string[] =>
  [...textOf(name).matchAll(new RegExp('```' + language + '\\n([\\s\\S]*?)```', 'g'))].map((m) => m[1]);
const put = (name: string, text: string) => writeFileSync(join(folder, name), text);
/** Commands of a document, word by word. */
const commandsOf = (name: string): string[][] =>
  blocksOf(name, '')
    .flatMap((b) => b.split('\n'))
    .filter((line) => line.startsWith('npm run -s vw -- ') && !/ {3,}|\|/.test(line))
    .map((line) => line.replace('npm run -s vw -- ', '').trim().split(/\s+/));

const [candidate, ...fragments] = blocksOf('candidate-file.md', 'json');
const [model] = blocksOf('control.md', 'json');
const [derivatives] = blocksOf('motion.md', 'json');
const [plan] = blocksOf('polars.md', 'json');
const [recipe] = blocksOf('recipe-file.md', 'json');

beforeAll(async () => {
  put('candidate.json', candidate);
  put('model.json', model);
  put('derivatives.json', derivatives);
  put('plan.json', plan);
  put('recipe.json', recipe);
  const { out } = await vw(['section', '--section', 'naca:1410', '--write', 'single-loop', '--out', 'my-section.txt']);
  expect(out).toBeDefined();
  mkdirSync(join(folder, 'my-sections'));
  for (const name of ['my.dat', 'my-sections/one.dat'])
    writeFileSync(join(folder, name), readFileSync(join(folder, 'my-section.txt')));
}, 60_000);

describe('examples of the documents', () => {
  it('are there', () => {
    expect([candidate, model, derivatives, plan, recipe].every(Boolean)).toBe(true);
    expect(fragments.length).toBeGreaterThanOrEqual(3);
    expect(commandsOf('using.md').length).toBeGreaterThanOrEqual(12);
  });

  it('of candidates are read, each part beside the others', () => {
    const whole = JSON.parse(candidate) as { candidate: object };
    for (const f of fragments) Object.assign(whole.candidate, JSON.parse(`{${f}}`));
    const { candidate: read } = readCandidateFile(JSON.stringify(whole));
    expect(read.bodies[0].name).toBe('Pod');
    expect(read.drag?.parts?.wing?.laminarShare).toBe(0.3);
    expect(Object.keys(read.loadings ?? {})).toEqual(['full', 'half seed', 'empty']);
    expect(read.massItems.map((m) => m.name)).toEqual(['Hopper', 'Tank']);
  });

  it('of loops and derivatives say what their documents say', async () => {
    const [control, motion] = await Promise.all([
      vw(['control', '--model', 'model.json', '--json']),
      vw(['motion', '--derivatives', 'derivatives.json', '--json']),
    ]);
    expect(control.err).toBe('');
    const { loops } = JSON.parse(control.out) as { loops: { name: string; stable: boolean; phaseMarginDeg: number }[] };
    expect(loops.map((l) => [l.name, l.stable])).toEqual([
      ['rate', true],
      ['attitude', true],
    ]);
    for (const l of loops) expect(l.phaseMarginDeg).toBeGreaterThan(45);
    const { modes } = JSON.parse(motion.out) as { modes: { name: string }[] };
    expect(modes.map((m) => m.name)).toContain('phugoid');
  }, 60_000);

  it('of commands run', async () => {
    const left = commandsOf('using.md').concat(commandsOf('polars.md').filter((c) => !c.includes('--resume')));
    const failed: string[] = [];
    const next = async (): Promise<void> => {
      const command = left.shift();
      if (!command) return;
      // Each run has a folder of its own.
      const { code, err } = await vw(command.map((word) => (word === 'folder' ? `folder-${left.length}` : word)));
      if (code !== 0) failed.push(`${command.join(' ')}: ${err}`);
      return next();
    };
    await Promise.all([next(), next()]);
    expect(failed).toEqual([]);
    expect(readdirSync(folder)).toContain('rib.dxf');
  }, 240_000);
});
