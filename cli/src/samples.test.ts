import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { writeCandidateFile } from '@veldtwind/core/candidate';
import { readDocument, resolvedSource } from '@veldtwind/core/project';
import { vwIn } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'samples-'));
afterAll(() => rmSync(folder, { recursive: true }));

/** Ids of the numbers that the pages of the samples tell. */
const IDS: Record<string, { id: string; by: number }> = {
  'Static margin': { id: 'balance.staticMargin', by: 100 },
  'Best glide': { id: 'performance.bestGlide', by: 1 },
  'Stall speed': { id: 'performance.stallSpeed', by: 1 },
  'Best rate of climb': { id: 'performance.climbRate', by: 1 },
};
/** Rows of the table of a page: candidate, number, value as it is written. */
const rowsOf = (page: string) =>
  [...page.matchAll(/^\| (?:Balance|Performance) +\| ([A-F]) +\| (\S.*?) +\| ([−\d.]+)/gm)].map(
    ([, letter, label, value]) => ({ id: letter.toLowerCase(), label, value: value.replace('−', '-') }),
  );

const samples = readdirSync('demo/samples').map((f) => f.replace('.json', ''));

it('every sample has its page, and every page its sample', () => {
  expect(readdirSync('docs/samples').map((f) => f.replace('.md', ''))).toEqual(samples);
});

it.each(samples)('the page of %s tells what is computed of it', async (name) => {
  const { document } = JSON.parse(readFileSync(join('demo/samples', `${name}.json`), 'utf8')) as { document: unknown };
  const { brief, candidates, sections } = readDocument(document);
  const rows = rowsOf(readFileSync(resolve('docs/samples', `${name}.md`), 'utf8'));
  expect(rows.length).toBeGreaterThan(3);
  // All candidates of one sample; of the others the first, since polars take seconds.
  for (const candidate of Object.values(candidates).slice(0, name === 'bergwind' ? undefined : 1)) {
    const file = join(folder, `${name}-${candidate.id}.json`);
    writeFileSync(
      file,
      writeCandidateFile(candidate, (key) => (sections[key] ? resolvedSource(sections, key) : undefined)),
    );
    const { out } = await vwIn(
      ['model', '--airframe', file, '--speed', String(brief.speed), '--altitude', String(brief.altitude), '--json'],
      { cwd: resolve('.') },
    );
    const { method, quantities } = JSON.parse(out) as {
      method: string;
      quantities: { id: string; value: number | null }[];
    };
    expect(method).toBe('polars');
    for (const row of rows.filter((r) => r.id === candidate.id)) {
      const { id, by } = IDS[row.label];
      const digits = row.value.split('.')[1]?.length ?? 0;
      const value = quantities.find((q) => q.id === id)!.value! * by;
      // The last digit may round either way.
      expect([row.label, Math.abs(value - Number(row.value)) <= 1.01 * 10 ** -digits, value]).toEqual([
        row.label,
        true,
        value,
      ]);
    }
  }
});
