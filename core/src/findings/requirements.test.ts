import { freshBrief, type Requirement } from '../project';
import { NOTHING_MADE, type Made } from '../quantities';
import { findingWords, requirementFindings } from '.';

const asks = (...requirements: Requirement[]) => ({ ...freshBrief(), requirements });
const must = (quantity: string, min: number | null, max: number | null = null): Requirement => ({
  quantity,
  min,
  max,
  weight: 'must',
});
const made = (method: 'lattice' | 'polars', more: object = {}): Made =>
  ({
    ...NOTHING_MADE,
    performance: {
      method,
      heaviest: null,
      stall: { missing: 'Without viscosity there is no stall.' },
      glide: { bestGlide: { speed: 19, ratio: 22, angle: 0.045, sink: 0.86 }, leastSink: null },
      climb: { best: null, steepest: null, fastest: null },
      ...more,
    },
    limits: {
      range: { missing: 'It has neither a battery nor fuel.' },
      ceiling: null,
      serviceCeiling: null,
      takeOff: { ok: false, reason: 'It has no engine.' },
      landing: { ok: true, run: 30, time: 4, total: 200, speed: 15 },
      turns: { sustained: { quickest: null, tightest: null } },
      loads: { greatest: 4 },
    },
  }) as unknown as Made;
const words = (f: ReturnType<typeof requirementFindings>[number]) => {
  const { headline, detail } = findingWords(f, 'metric');
  return `${headline}${detail}`;
};

describe('requirements of a brief', () => {
  it('are held against what was made, with the number in its unit and the band', () => {
    const [inside, outside] = requirementFindings(
      asks(must('performance.bestGlide', 18), must('performance.landingRun', null, 20)),
      made('polars'),
    );
    expect([inside.state, outside.state]).toEqual(['inside', 'outside']);
    expect(words(inside)).toBe('Best glide 22.00, inside above 18');
    expect(words(outside)).toMatch(/^Landing run 30\.0 m, outside below 20 m$/);
    expect(outside.evidence).toEqual({ area: 'performance', mark: 'performance.landingRun' });
  });
  it('what cannot be told says why, and is missing; what comes with the polars waits for them', () => {
    const brief = asks(must('performance.heaviestMass', 30), { ...must('performance.range', 10), weight: 'wish' });
    const [mass, range] = requirementFindings(brief, made('polars'));
    expect([mass.state, range.state]).toEqual(['missing', 'missing']);
    expect(words(mass)).toMatch(/^Heaviest mass not available: Without viscosity/);
    expect(words(range)).toMatch(/^Greatest range not available \(a wish\): It has neither/);
    expect(requirementFindings(brief, made('lattice'))).toEqual([]);
    const lattice = { ...brief, assumptions: { ...brief.assumptions, method: 'lattice' as const } };
    expect(requirementFindings(lattice, made('lattice'))).toHaveLength(2);
  });
  it('of level flight are held at the speed that they name, and wait until it is made', () => {
    const at = [
      { speed: 20, status: 'solved', climb: 4.4 },
      { speed: 9, status: 'unflyable', reason: 'No angle carries the weight.', climb: null },
    ];
    const told = made('polars', { at, design: { climb: 5.5 } });
    const climb = (speed?: number): Requirement => ({
      ...must('climb-rate', 5),
      ...(speed !== undefined && { speed }),
    });
    const found = requirementFindings(asks(climb(), climb(20), climb(9), climb(33)), told);
    expect(found.map((f) => f.state)).toEqual(['inside', 'outside', 'missing']);
    expect(new Set(found.map((f) => f.id)).size).toBe(3);
    expect(words(found[0])).toMatch(/^Rate of climb 5\.50 m\/s, inside/);
    expect(words(found[1])).toMatch(/^Rate of climb at 20(\.0)? m\/s 4\.40 m\/s, outside/);
    expect(words(found[2])).toMatch(/^Rate of climb at 9(\.0)? m\/s not available: No angle carries/);
  });
  it('on loops, drag and structure lead to their areas; a failure there is no reason of performance', () => {
    const loop = { chain: 'pitch', loop: 0, keeps: true, holds: true, gainMarginDb: 9, phaseMarginDeg: -50 };
    const told = {
      ...made('polars'),
      loops: [loop, { ...loop, loop: 1, gainMarginDb: null, phaseMarginDeg: 61 }],
      drag: { CD: 0.0213, parts: [] },
      strength: { surfaces: [{ members: [], mass: 2, tipDeflection: -0.2, frequencies: { bending: null } }] },
    } as unknown as Made;
    const found = requirementFindings(
      asks(
        must('control.leastGainMargin', 8),
        must('control.leastPhaseMargin', 55),
        must('drag.zeroLiftCoefficient', null, 0.02),
        must('structure.tipDeflection', null, 0.3),
        must('structure.leastReserve', 0),
      ),
      told,
    );
    expect(found.map((f) => [f.state, f.evidence.area])).toEqual([
      ['inside', 'control'],
      ['outside', 'control'],
      ['outside', 'drag'],
      ['inside', 'structure'],
      ['missing', 'structure'],
    ]);
    expect(words(found[1])).toMatch(/^Least phase margin of all loops 50°, outside/);
    expect(words(found[4])).toMatch(/No member carries load/);
    const bare = { ...told, strength: { surfaces: [] }, loops: [] };
    const [loops, built] = requirementFindings(
      asks(must('control.leastGainMargin', 8), must('structure.mass', null, 3)),
      bare,
    );
    expect(words(loops)).toMatch(/no control loops/);
    expect(words(built)).toMatch(/No surface has a structure/);
  });
  it('without limits, of an unknown quantity, or before it is made, there is nothing to tell', () => {
    const nothing = NOTHING_MADE;
    expect(requirementFindings(asks(must('performance.bestGlide', null)), made('polars'))).toEqual([]);
    expect(requirementFindings(asks(must('of.tomorrow', 1)), made('polars'))).toEqual([]);
    expect(requirementFindings(asks(must('performance.bestGlide', 18)), nothing)).toEqual([]);
  });
});
