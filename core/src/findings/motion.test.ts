import { autopilotSchema, modelPrint, surveyLoops } from '../control';
import { lateralSystem, longitudinalSystem, modesOf } from '../motion';
import { sampleCase } from '../motion/testing/sample-case';
import { freshBrief } from '../project';
import { controlFindings, findingWords, loadPerAlpha, motionFindings } from '.';

const of = sampleCase({
  Cl_p: -0.52,
  Cn_beta: 0.05,
  Cn_r: -0.06,
  Cl_r: 0.1,
  CY_beta: -0.3,
  Cl_beta: -0.01,
});
const modes = modesOf(longitudinalSystem(of), lateralSystem(of), of.speed);
const brief = freshBrief();
const words = (list: ReturnType<typeof motionFindings>) =>
  list.map((f) => `${f.state}: ${Object.values(findingWords(f)).slice(0, 2).join('')}`);

describe('findings of motion', () => {
  it('tells what grows, what the brief wants of damping, and the levels', () => {
    const said = words(motionFindings(brief, { modes, case: of, class: 'I', phase: 'B' }));
    expect(said.some((s) => /outside: The spiral grows: it doubles in [\d.]+ s/.test(s))).toBe(true);
    const strict = { ...brief, bands: { ...brief.bands, dampingRatio: { min: 0.2, max: null } } };
    expect(words(motionFindings(strict, { modes, case: of, class: 'I', phase: 'B' })).join()).toMatch(
      /Damping of the phugoid 0\.0\d+, outside above 0\.2/,
    );
  });
  it('tells a control that cannot trim, with the tail’s incidence as what mends it', () => {
    const facts = { modes, case: of, class: 'I', phase: 'B' } as const;
    const [found] = motionFindings(brief, {
      ...facts,
      beyond: [{ name: 'Elevator', deflection: -0.42, limit: -0.35 }],
      tail: { surfaceId: 'tail', alpha: 0.05 },
    }).filter((f) => f.code === 'trim-control');
    expect(words([found])[0]).toMatch(/outside: Elevator needs −24.1° to trim at 26.0 m\/s, its limit is −20.1°/);
    expect(found.fix).toEqual({ code: 'tail-incidence', surfaceId: 'tail', targetDeg: 2.86 });
  });
  it('has a load factor per angle that carries the weight', () => {
    // CL_alpha over the CL of level flight.
    const level = (24 * 9.80665) / (0.5 * 1.156 * 26 * 26 * 1.56);
    expect(loadPerAlpha(of)).toBeCloseTo(5.6 / level, 6);
  });
});

describe('findings of loops', () => {
  const chain = (kp: number, tunedFor?: string) =>
    autopilotSchema.parse({
      step: 0.02,
      chains: [
        {
          id: 'p',
          name: 'Pitch',
          to: 'e',
          mover: { timeConstant: 0.05 },
          laws: [{ from: 'q', kp, sign: -1 }],
          tunedFor,
        },
      ],
    });
  const found = (settings: ReturnType<typeof chain>) => {
    const lines = surveyLoops({ of, scale: {}, settings, controls: { e: 'Elevator' } });
    return controlFindings(settings, lines, of, (from) => (from === 'q' ? 'pitch rate' : from));
  };
  it('says that margins are kept, that they are not, that a loop grows, and that gains are of another aircraft', () => {
    expect(words(found(chain(0.02)))).toEqual(['inside: The loop keeps its margins that are aimed at']);
    expect(words(found(chain(1.2)))[0]).toMatch(
      /outside: The loop on pitch rate \(Pitch\) keeps .*, above \d+.* wanted/,
    );
    expect(words(found(chain(60)))[0]).toMatch(/The loop on pitch rate \(Pitch\) grows/);
    expect(words(found(chain(0)))[0]).toMatch(/cannot be closed: Loop 1 of Pitch has no gain/);
    const print = modelPrint(of, chain(0.02).chains[0]);
    expect(found(chain(0.02, print))).toHaveLength(1);
    expect(words(found(chain(0.02, 'other')))[0]).toMatch(/Gains of Pitch were found for another aircraft/);
  });
  it('leaves the print as it is for the last digits, and not for a tail that is larger', () => {
    const { laws } = chain(0.05).chains[0];
    const changed = (by: number) => ({ ...of, derivatives: { ...of.derivatives, Cm_q: of.derivatives.Cm_q * by } });
    expect(modelPrint(changed(1.001), { laws })).toBe(modelPrint(of, { laws }));
    expect(modelPrint(changed(1.2), { laws })).not.toBe(modelPrint(of, { laws }));
  });
});
