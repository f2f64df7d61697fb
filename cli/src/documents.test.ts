import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { readCandidateFile } from '@veldtwind/core/candidate';
import { vwIn } from './testing/vw';

// Every example in the documents is run as it stands there.
const folder = mkdtempSync(join(tmpdir(), 'documents-'));
const vw = (args: string[]) => vwIn(args, { cwd: folder });
const textOf = (name: string) => readFileSync(resolve('docs', name), 'utf8');
const blocksOf = (name: string, language: string): string[] =>
  [...textOf(name).matchAll(new RegExp('```' + language + '\\n([\\s\\S]*?)```', 'g'))].map((m) => m[1]);
const put = (name: string, text: string) => writeFileSync(join(folder, name), text);
/** Commands of a document, word by word. */
const commandsOf = (name: string): string[][] =>
  blocksOf(name, '')
    .flatMap((b) => b.split('\n'))
    .filter((line) => line.startsWith('npm run -s vw -- ') && !/ {3,}|\|/.test(line))
    // As a shell takes them apart: what stands in quotation marks is one word.
    .map((line) =>
      (line.replace('npm run -s vw -- ', '').match(/"[^"]*"|\S+/g) ?? []).map((w) => w.replace(/^"|"$/g, '')),
    );

const [candidate, ...fragments] = blocksOf('candidate-file.md', 'json');
const [model] = blocksOf('control.md', 'json');
const [derivatives] = blocksOf('motion.md', 'json');
const [plan] = blocksOf('polars.md', 'json');
const [recipe] = blocksOf('recipe-file.md', 'json');
const [study] = blocksOf('using.md', 'json');

beforeAll(async () => {
  put('candidate.json', candidate);
  put('model.json', model);
  put('derivatives.json', derivatives);
  put('plan.json', plan);
  put('recipe.json', recipe);
  put('study.json', study);
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
    const whole = JSON.parse(candidate) as { candidate: { surfaces: object[] } };
    // A structure is of a surface, all else of the candidate.
    for (const f of fragments)
      Object.assign(f.startsWith('"structure"') ? whole.candidate.surfaces[0] : whole.candidate, JSON.parse(`{${f}}`));
    const { candidate: read } = readCandidateFile(JSON.stringify(whole));
    expect(read.bodies[0].name).toBe('Pod');
    expect(read.surfaces[0].structure?.spars.map((s) => s.kind)).toEqual(['i', 'tube']);
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

  it('of the library run, and print what an engineer expects', async () => {
    // Inside of the project, so that its packages are found.
    mkdirSync(resolve('node_modules/.cache'), { recursive: true });
    const made = mkdtempSync(resolve('node_modules/.cache', 'examples-'));
    const run = (text: string, name: string) => {
      writeFileSync(join(made, name), text);
      return new Promise<string>((done, failed) =>
        execFile(resolve('node_modules/.bin/tsx'), [join(made, name)], { cwd: folder }, (error, out, err) =>
          error ? failed(new Error(err)) : done(out),
        ),
      );
    };
    const [polar, wing, trim] = await Promise.all(
      blocksOf('library.md', 'ts').map((text, i) => run(text, `example-${i}.ts`)),
    );
    rmSync(made, { recursive: true });
    const lifts = polar
      .trim()
      .split('\n')
      .map((l) => Number(l.split(' ')[0]));
    expect(lifts).toHaveLength(3);
    expect(lifts[2] - lifts[0]).toBeGreaterThan(0.7);
    expect(Number(wing.split(' ')[0])).toBeGreaterThan(4);
    const powers = trim
      .trim()
      .split('\n')
      .map((l) => Number(l.split(' ')[3]));
    expect(powers[0]).toBeLessThan(powers[1]);
    expect(powers[1]).toBeLessThan(powers[2]);
  }, 120_000);

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
