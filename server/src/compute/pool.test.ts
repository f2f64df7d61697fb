import { readFileSync } from 'node:fs';
import { canonicalJson, Cancelled } from '@veldtwind/core/results';
import { readDocument } from '@veldtwind/core/project';
import { ComputePool } from './pool';

const pool = new ComputePool(2);
afterAll(() => pool.close());
const { document } = JSON.parse(readFileSync('demo/seedsnipe.json', 'utf8')) as { document: unknown };
const project = readDocument(document);
const small = canonicalJson({
  source: { kind: 'designation', designation: '0012', trailingEdge: 'sharp' },
  alpha: 0.05,
  mach: 0,
});
/** Minutes of work. */
const large = canonicalJson({
  source: { kind: 'designation', designation: '4415', trailingEdge: 'published' },
  kind: 'fixed-re',
  conditions: { reynolds: 40_000 },
  alphas: Array.from({ length: 2000 }, (_, i) => -0.2 + 0.0003 * i),
});
const file = (signal?: AbortSignal) =>
  pool.exportAirframe(
    JSON.stringify(project.candidates.a),
    JSON.stringify(project.sections),
    { as: 'step' } as never,
    signal,
  );

describe('threads that compute', () => {
  it('end what is cancelled, and go on with what is asked then', async () => {
    await pool.run('inviscid-flow', small);
    const gone = [new AbortController(), new AbortController()];
    const ended = gone.map(({ signal }) => pool.run('polar', large, signal).catch((e: unknown) => e));
    await new Promise((r) => setTimeout(r, 500));
    gone.forEach((g) => g.abort());
    for (const e of await Promise.all(ended)) expect(e).toBeInstanceOf(Cancelled);
    expect(JSON.parse(await pool.run('inviscid-flow', small))).toHaveProperty('point');
  }, 60_000);

  it('let small computations by while files are written, and end files that nobody waits for', async () => {
    const gone = Array.from({ length: 6 }, () => new AbortController());
    const files = gone.map(({ signal }) => file(signal).catch((e: unknown) => e));
    const order: string[] = [];
    void Promise.all(files).then(() => order.push('files'));
    await pool.run('inviscid-flow', small);
    order.push('small');
    gone.slice(1).forEach((g) => g.abort());
    const [first, ...rest] = await Promise.all(files);
    expect(order[0]).toBe('small');
    expect(first).toMatchObject({ letter: 'A' });
    for (const e of rest) expect(e).toBeInstanceOf(Cancelled);
    // And the turn goes on.
    expect(await file()).toMatchObject({ letter: 'A' });
  }, 120_000);

  it('refuse to begin what is cancelled already', async () => {
    const gone = new AbortController();
    gone.abort();
    await expect(pool.run('inviscid-flow', small, gone.signal)).rejects.toBeInstanceOf(Cancelled);
  });
});
