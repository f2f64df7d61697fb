import fc from 'fast-check';
import { autopilotSchema, surveyLoops } from '../control';
import { AIRCRAFT_CLASSES, FLIGHT_PHASES, lateralSystem, longitudinalSystem, modesOf } from '../motion';
import { sampleCase } from '../motion/testing/sample-case';
import { freshBrief, type BriefPart } from '../project';
import { SAME_MATTER, controlFindings, motionFindings, worstFirst, type Finding, type FindingCode } from '.';

/** Pairs of findings that say opposite things of one matter. */
const contradictions = (found: readonly Finding[]) =>
  found.flatMap((f) =>
    f.state === 'inside'
      ? found.filter((o) => o.state === 'outside' && SAME_MATTER[f.code]?.includes(o.code)).map((o) => [f.code, o.code])
      : [],
  );
const spread = (least: number, greatest: number) => fc.double({ min: least, max: greatest, noNaN: true });

describe('findings do not contradict each other', () => {
  it('over made-up aircraft, stable and not, in every class and phase', () => {
    let [growing, level] = [0, 0];
    fc.assert(
      fc.property(
        fc.record({
          Cm_alpha: spread(-1.5, 1.5),
          Cm_q: spread(-25, -1),
          CD_alpha: spread(0, 0.6),
          Cm_u: spread(-0.1, 0.1),
          Cl_p: spread(-0.7, -0.1),
          Cn_beta: spread(-0.05, 0.15),
          Cn_r: spread(-0.2, 0),
          Cl_r: spread(0, 0.3),
          CY_beta: spread(-0.9, -0.1),
          Cl_beta: spread(-0.2, 0.05),
        }),
        fc.constantFrom(...AIRCRAFT_CLASSES),
        fc.constantFrom(...FLIGHT_PHASES),
        fc.option(spread(0.01, 0.3), { nil: null }),
        (derivatives, aircraftClass, phase, least) => {
          const of = sampleCase(derivatives);
          const modes = modesOf(longitudinalSystem(of), lateralSystem(of), of.speed);
          const brief: BriefPart = freshBrief();
          brief.bands.dampingRatio = { min: least, max: null };
          const found = motionFindings(brief, { modes, case: of, class: aircraftClass, phase });
          expect(contradictions(found)).toEqual([]);
          const outside = found.some((f) => f.state === 'outside');
          const check = found.some((f) => f.code === 'modes-level');
          // A root that grows fast, of whatever name, leaves no check mark and is told once.
          const fast = modes.filter((m) => m.re > 0.1);
          if (fast.length > 0) expect([check, outside]).toEqual([false, true]);
          for (const m of modes)
            expect(found.filter((f) => f.state === 'outside' && f.id.endsWith(`-${m.name}`)).length).toBeLessThan(3);
          growing += fast.length > 0 ? 1 : 0;
          level += check ? 1 : 0;
        },
      ),
      { numRuns: 400 },
    );
    // Both kinds were among them.
    expect(growing).toBeGreaterThan(20);
    expect(level).toBeGreaterThan(5);
  });
  it('tells a divergent root of pitch once, without a level and without a check mark', () => {
    const of = sampleCase({ Cm_alpha: 1.2, Cl_p: -0.5, Cn_beta: 0.08, Cn_r: -0.1, Cl_beta: -0.05, CY_beta: -0.4 });
    const modes = modesOf(longitudinalSystem(of), lateralSystem(of), of.speed);
    const found = motionFindings(freshBrief(), { modes, case: of, class: 'I', phase: 'B' });
    const grows = modes.find((m) => m.im === 0 && m.re > 0.5)!;
    expect(grows.name).toMatch(/, real \d$/);
    expect(found.filter((f) => f.id.includes(grows.name)).map((f) => f.code)).toEqual(['mode-grows']);
    expect(found.map((f) => f.code)).not.toContain('modes-level');
  });
  it('tells a stale loop before it tells that loops keep their margins', () => {
    const of = sampleCase({ Cm_alpha: -0.6 });
    const settings = autopilotSchema.parse({
      step: 0.02,
      chains: [
        {
          id: 'p',
          name: 'Pitch',
          to: 'e',
          mover: { timeConstant: 0.05 },
          laws: [{ from: 'q', kp: 0.1, sign: -1 }],
          tunedFor: 'another',
        },
      ],
    });
    const lines = surveyLoops({ of, scale: {}, settings, controls: { e: 'Elevator' } });
    expect(contradictions(controlFindings(settings, lines, of, (n) => n))).toEqual([]);
  });
  it.each(Object.entries(SAME_MATTER).flatMap(([code, list]) => list!.map((other) => [code, other])))(
    '%s is not held beside %s',
    (code, other) => {
      const made = (c: string, state: Finding['state']) =>
        ({ code: c as FindingCode, id: c, state, facts: {}, evidence: { area: 'motion' } }) as Finding;
      const told = worstFirst([made(code, 'inside'), made(other, 'outside')]);
      expect(contradictions(told)).toEqual([]);
      expect(told[0].code).toBe(other);
      expect(worstFirst([made(code, 'inside')])[0].state).toBe('inside');
    },
  );
});
