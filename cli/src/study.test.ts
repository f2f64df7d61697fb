import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { writeCandidateFile } from '@veldtwind/core/candidate';
import { madeTailed } from '../../core/src/candidate/testing/made-tailed';
import { vwIn } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'vw-study-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const section = { kind: 'designation', designation: '1410', trailingEdge: 'published' } as const;
writeFileSync(
  join(folder, 'a.json'),
  writeCandidateFile(madeTailed({ centre: 0.2 }), () => section),
);
const vw = (...args: string[]) => vwIn(['study', ...args]);
const written = (name: string, plan: object) => {
  const file = join(folder, `${name}.json`);
  writeFileSync(file, JSON.stringify({ airframe: 'a.json', flight: { speed: 24, altitude: 500 }, ...plan }));
  return file;
};
const TAIL = { path: 'surfaces.tail.incidenceDeg', from: -8, to: 6 };
const MASS = { path: 'massItems.m.position.x', from: 0, to: 0.5 };
interface Told {
  tries: { values: Record<string, number>; answers: Record<string, number> }[];
  solution?: { met: boolean; answers: Record<string, number> };
  resumed: number;
}

describe('vw study', () => {
  it('tells what may vary and what may answer', async () => {
    const variables = JSON.parse(
      (await vw('--list-variables', '--airframe', join(folder, 'a.json'), '--json')).out,
    ) as {
      variables: { path: string; value: number }[];
    };
    expect(variables.variables.find((v) => v.path === TAIL.path)!.value).toBe(-2);
    const answers = JSON.parse((await vw('--list-answers', '--json')).out) as {
      answers: { id: string; model?: string }[];
    };
    expect(answers.answers.find((a) => a.model === 'balance.staticMargin')!.id).toBe('static-margin');
  });
  it('solves for bands, and keeps every try as a line', async () => {
    const out = join(folder, 'solved');
    const bands = [
      { id: 'balance.trimAngle', least: 3, greatest: 3.2 },
      { id: 'balance.staticMargin', least: 0.2, greatest: 0.22 },
    ];
    const plan = written('solve', { kind: 'solve', variables: [TAIL, MASS], bands });
    const made = await vw('--plan', plan, '--out', out, '--json');
    expect(made).toMatchObject({ code: 0, err: '' });
    const told = JSON.parse(made.out) as Told;
    expect(told.solution!.met).toBe(true);
    expect(told.solution!.answers['balance.trimAngle']).toBeGreaterThan(2.99);
    const lines = readFileSync(join(out, 'tries.jsonl'), 'utf8').trim().split('\n');
    expect(lines).toHaveLength(told.tries.length);
    expect(JSON.parse(lines[0])).toMatchObject({ values: { [TAIL.path]: -2, [MASS.path]: 0.2 } });
    // It holds a study: only --resume goes on with it, and nothing is made twice.
    expect((await vw('--plan', plan, '--out', out)).err).toMatch(/holds a study[\s\S]*--resume/);
    const again = JSON.parse((await vw('--plan', plan, '--out', out, '--resume', '--json')).out) as Told;
    expect(again.resumed).toBe(told.tries.length);
    expect(again.solution).toEqual(told.solution);
    const other = written('other', { kind: 'solve', variables: [TAIL], bands });
    expect((await vw('--plan', other, '--out', out, '--resume')).err).toMatch(/another plan/);
  });
  it('killed with −9 and begun again has the same tries and the same answer', async () => {
    const plan = written('search', {
      kind: 'search',
      variables: [TAIL, MASS],
      bands: [{ id: 'balance.staticMargin', least: 0.15 }],
      aim: [{ id: 'drag.coefficient', sense: 'least' }],
      budget: 45,
      seed: 5,
    });
    const whole = JSON.parse((await vw('--plan', plan, '--json')).out) as Told;
    const out = join(folder, 'killed');
    const child = spawn(process.execPath, [resolve('scripts/vw.mjs'), 'study', '--plan', plan, '--out', out]);
    const lines = () => {
      try {
        return readFileSync(join(out, 'tries.jsonl'), 'utf8').split('\n').length;
      } catch {
        return 0;
      }
    };
    while (lines() < 8 && child.exitCode === null) await new Promise((r) => setTimeout(r, 20));
    child.kill('SIGKILL');
    await new Promise((r) => (child.exitCode === null && child.signalCode === null ? child.once('exit', r) : r(0)));
    // As a stop in the middle of a line leaves it.
    const file = join(out, 'tries.jsonl');
    writeFileSync(file, readFileSync(file, 'utf8').slice(0, -7));
    const made = JSON.parse((await vw('--plan', plan, '--out', out, '--resume', '--json')).out) as Told;
    expect(made.resumed).toBeGreaterThan(4);
    expect(made.tries).toEqual(whole.tries);
    expect({ ...made, resumed: 0, seconds: 0 }).toEqual({ ...whole, resumed: 0, seconds: 0 });
  });
  it.each([
    [{ kind: 'effects', variables: [], answers: [{ id: 'balance.trimAngle' }] }, /needs a variable/],
    [{ kind: 'effects', variables: [{ ...TAIL, from: 9 }], answers: [{ id: 'balance.trimAngle' }] }, /second must be greater/],
    [{ kind: 'effects', variables: [TAIL], answers: [{ id: 'no.such' }] }, /no quantity "no.such"/],
    [{ kind: 'grid', variables: [{ ...TAIL, steps: 9999 }, { ...MASS, steps: 9999 }], answers: [{ id: 'drag.coefficient' }] }, /are the most/],
    [{ kind: 'effects', flight: undefined, variables: [TAIL], answers: [{ id: 'drag.coefficient' }] }, /needs the speed/],
  ])('refuses %p with the reason', async (plan, says) => {
    const { code, err } = await vw('--plan', written('wrong', plan));
    expect(code).toBe(1);
    expect(err).toMatch(says);
    expect(err).not.toMatch(/unforeseen/);
  }); // prettier-ignore
  it('varies a section by itself, without an airframe', async () => {
    const plan = join(folder, 'section.json');
    const at = { re: 1e6, CL: 0.4 };
    writeFileSync(
      plan,
      JSON.stringify({
        kind: 'grid',
        sections: { s: section },
        variables: [{ path: 'sections.s.shape.thickness', from: 0.08, to: 0.14, steps: 3 }],
        answers: [{ id: 'sections.s.thickness' }, { id: 'sections.s.cd', at }, { id: 'sections.s.area' }],
      }),
    );
    const { tries } = JSON.parse((await vw('--plan', plan, '--json')).out) as Told;
    expect(tries.map((t) => t.answers['sections.s.thickness'])).toEqual(
      [0.08, 0.11, 0.14].map((v) => expect.closeTo(v, 5) as number),
    );
    const drag = tries.map((t) => t.answers['sections.s.cd at CL 0.4, Re 1000000']);
    expect(drag.every((cd) => cd > 0.004 && cd < 0.01)).toBe(true);
    expect(drag[2]).toBeGreaterThan(drag[0]);
  });
  it('refuses what is no plan', async () => {
    for (const text of ['', 'null', '[]', '{"kind":', '42']) {
      const file = join(folder, 'none.json');
      writeFileSync(file, text);
      const { code, err } = await vw('--plan', file, '--airframe', join(folder, 'a.json'));
      expect([code, /unforeseen/.test(err)]).toEqual([1, false]);
    }
    expect((await vw()).err).toMatch(/needs a plan/);
  });
});
