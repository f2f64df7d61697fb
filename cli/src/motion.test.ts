import { execFile } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

const folder = mkdtempSync(join(tmpdir(), 'motion-'));
const vw = (...args: string[]) =>
  new Promise<{ code: number; out: string; err: string }>((done) => {
    execFile(process.execPath, [resolve('scripts/vw.mjs'), ...args], (error, out, err) =>
      done({ code: error ? Number((error as { code?: number }).code ?? 1) : 0, out, err }),
    );
  });
const set = (more: object = {}, derivatives: object = {}) => ({
  mass: 24,
  Ixx: 6.1,
  Iyy: 3.4,
  Izz: 9.2,
  area: 1.56,
  chord: 0.33,
  span: 4.8,
  speed: 26,
  density: 1.156,
  CL: 0.386,
  CD: 0.031,
  derivatives: {
    CL_alpha: 5.6,
    Cm_alpha: -0.75,
    Cm_q: -14,
    Cl_p: -0.52,
    Cn_beta: 0.05,
    Cn_r: -0.06,
    CY_beta: -0.3,
    Cl_beta: -0.06,
    ...derivatives,
  },
  ...more,
});
const run = (value: unknown, ...args: string[]) => {
  const file = join(folder, 'set.json');
  writeFileSync(file, typeof value === 'string' ? value : JSON.stringify(value));
  return vw('motion', '--derivatives', file, ...args);
};

describe('vw motion', () => {
  it('gives matrices and modes of a set', async () => {
    const { out, err } = await run(set(), '--json');
    expect(err).toBe('');
    const made = JSON.parse(out) as {
      matrices: Record<string, { A: number[][]; states: string[] }>;
      modes: { name: string; re: number }[];
      doubts: string[];
    };
    expect(made.modes.map((m) => m.name)).toEqual(['short period', 'phugoid', 'roll', 'Dutch roll', 'spiral']);
    expect(made.matrices.longitudinal.states).toEqual(['u', 'w', 'q', 'theta']);
    expect(made.matrices.lateral.A).toHaveLength(4);
    expect(made.doubts).toEqual([]);
  });
  it('asks where units or signs look wrong, and refuses what cannot be', async () => {
    expect((await run(set({}, { CL_alpha: 0.098 }))).err).toMatch(/Are the derivatives per degree\?/);
    const refused = async (value: unknown) => {
      const r = await run(value, '--json');
      expect([r.code, r.out]).toEqual([1, '']);
      return r.err;
    };
    expect(await refused(set({ Izz: 40 }))).toMatch(/no body has such moments of inertia[\s\S]*at Izz/);
    expect(await refused(set({}, { Cm_alfa: 1 }))).toMatch(/Cm_alfa/);
    expect(await refused('{')).toMatch(/not JSON/);
  });
});
