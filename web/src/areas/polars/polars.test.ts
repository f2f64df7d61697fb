import type { CurveReply } from '@veldtwind/contract';
import { CURVE_VERSION } from '@veldtwind/core/polar';
import type { Distributions } from '@veldtwind/core/section-flow';
import { within } from '@/lib/parallel';
import { seriesStyle } from '@/lib/series-style';
import { axesSeries, curveConditions, curveOfSeries, polarAxis } from './curve-series';
import { measuredSeries } from './measured-series';
import { asFlown, PLAN_DEFAULTS, planOf, planValues, readList, readReynolds, spacedReynolds } from './plan-form';
import { bodyOf, offset } from './point-series';

const section = {
  name: 'Karoo 14',
  source: { kind: 'designation' as const, designation: '2414', trailingEdge: 'published' as const },
};
const form = (more: object) => ({ ...PLAN_DEFAULTS, ...more });

describe('an axis of both surfaces', () => {
  const asked: string[] = [];
  const seriesOf = (x: string, y: string) => {
    asked.push(`${y} over ${x}`);
    return [{ id: '12', label: 'Karoo 14', style: { ...seriesStyle(0), dash: '2 2' }, points: [] }];
  };
  it('draws a curve for each, the lower one dashed; both lead to one curve', () => {
    const drawn = axesSeries('cl', 'transitions', seriesOf);
    expect(asked).toEqual(['transition-top over cl', 'transition-bottom over cl']);
    expect(drawn.map((s) => [s.label, s.style.dash])).toEqual([
      ['Karoo 14', ''],
      ['', '6 3'],
    ]);
    expect(drawn.map((s) => curveOfSeries(s.id))).toEqual(['12', '12']);
    expect(new Set(drawn.map((s) => s.id)).size).toBe(2);
  });
  it('leaves curves of one quantity as they are, and knows lift where it knows nothing', () => {
    expect(axesSeries('cl', 'cd', seriesOf)).toEqual(seriesOf('cl', 'cd'));
    expect(polarAxis('of tomorrow').id).toBe('cl');
  });
});

describe('a run plan as it is typed', () => {
  it('reads Reynolds numbers as they are written, and says what is wrong', () => {
    expect(readReynolds('1.5 M, 300k; 3e5\n2 m')).toEqual([300_000, 1_500_000, 2_000_000]);
    expect(readReynolds('')).toMatch(/at least one/);
    expect(readReynolds('12')).toMatch(/“12” is no Reynolds number/);
    expect(readReynolds('300 k, two')).toMatch(/“two”/);
  });
  it('reads lists within limits, with true minus signs and degrees', () => {
    expect(readList('10°, −5, 0, 10', 'flap angle', -60, 60)).toEqual([-5, 0, 10]);
    expect(readList('', 'flap angle', -60, 60)).toEqual([]);
    expect(readList('70', 'flap angle', -60, 60)).toMatch(/from -60 to 60/);
  });
  it('spaces Reynolds numbers by equal steps or equal ratios', () => {
    expect(spacedReynolds(1e5, 1e6, 3, true)).toEqual([1e5, 316_000, 1e6]);
    expect(spacedReynolds(1e5, 5e5, 3, false)).toEqual([1e5, 3e5, 5e5]);
    expect(spacedReynolds(1e5, 1e5, 4, true)).toEqual([1e5]);
  });
  it('sweeps angles or lifts with both ends, and refuses what cannot be swept', () => {
    expect(planValues(form({ fromDeg: -1, toDeg: 1, stepDeg: 0.5 }))).toEqual([-1, -0.5, 0, 0.5, 1]);
    expect(planValues(form({ swept: 'cl', fromLift: 0.1, toLift: 0.3, stepLift: 0.1 }))).toEqual([0.1, 0.2, 0.3]);
    expect(planValues(form({ list: '4, −2, 0, 8:9:0.5, 4' }))).toEqual([-2, 0, 4, 8, 8.5, 9]);
    expect(planValues(form({ list: '0, 90' }))).toMatch(/from -45 to 45; 90 does not/);
    expect(planValues(form({ list: '0, up' }))).toMatch(/not a number/);
    expect(planValues(form({ fromDeg: 4, toDeg: 1 }))).toMatch(/before the first/);
    expect(planValues(form({ stepDeg: 0 }))).toMatch(/greater than zero/);
    expect(planValues(form({ fromDeg: -40, toDeg: 40, stepDeg: 0.01 }))).toMatch(/2 000/);
  });
  it('becomes a plan: a section for every flap setting, turbulence instead of the critical amplification', () => {
    const plan = planOf(form({ flaps: '0, 10', mach: '0, 0.2', turbulence: 0.5, tripTop: 0.1 }), [section]);
    if (typeof plan === 'string') throw new Error(plan);
    expect(plan.sections.map((s) => s.flap)).toEqual([null, { x: 0.75, y: 0.5, angleDeg: 10 }]);
    expect(plan.mach).toEqual([0, 0.2]);
    expect(plan.conditions).toMatchObject({ turbulence: 0.5, tripTop: 0.1 });
    expect(plan.conditions.criticalAmplification).toBeLessThan(6);
    const clean = planOf(form({}), [section]);
    expect(clean).toMatchObject({ conditions: { criticalAmplification: 9 }, mach: [0], sections: [{ flap: null }] });
    expect(planOf(form({}), [])).toMatch(/Choose at least one section/);
    expect(planOf(form({ mach: '0.9' }), [section])).toMatch(/“0.9” is no Mach number/);
    expect(planOf(form({ flaps: 'down' }), [section])).toMatch(/“down”/);
    expect(planOf(form({ kind: 'fixed-lift', swept: 'cl', fromLift: -0.2 }), [section])).toMatch(/above zero/);
  });
  it('takes Reynolds numbers of the tip, mean and root at every speed that the brief sets', () => {
    const station = (chord: number) => ({ chord, twistDeg: 0, section: 's' });
    const wing = {
      id: 'w',
      name: 'Wing',
      role: 'wing',
      symmetric: true,
      position: { x: 0, y: 0, z: 0 },
      incidenceDeg: 0,
      rollDeg: 0,
      stations: [station(0.4), station(0.2)],
      bays: [{ span: 2, sweepDeg: 0, dihedralDeg: 0 }],
    };
    const candidate = { surfaces: [wing], massItems: [], reference: null, sweep: {} } as never;
    const brief = { speed: 26, altitude: 0, mass: 24, climbSpeed: 20, stallSpeed: null };
    const flown = asFlown(brief, candidate);
    expect(flown.map((f) => f.at)).toEqual(['climb', 'cruise']);
    expect(flown[1].reynolds[2] / flown[1].reynolds[0]).toBeCloseTo(2, 1);
    expect(flown[0].reynolds[2] / flown[1].reynolds[2]).toBeCloseTo(20 / 26, 1);
    expect(asFlown(brief, null)).toEqual([]);
  });
});

describe('curves and points', () => {
  it('a curve says what it was solved at', () => {
    const curve = (conditions: object, more: object = {}, version: number = CURVE_VERSION) =>
      curveConditions({
        version,
        input: { kind: 'fixed-re', swept: 'alpha', conditions: { reynolds: 3e5, ...conditions }, ...more },
      } as unknown as CurveReply);
    expect(curve({})).toBe('300 k');
    expect(curve({}, {}, CURVE_VERSION - 1)).toBe(`300 k, by method ${CURVE_VERSION - 1}`);
    expect(curve({ mach: 0.2, criticalAmplification: 4 })).toBe('300 k, M 0.2, n 4');
    expect(curve({ turbulence: 0.5, criticalAmplification: 4 })).toBe('300 k, Tu 0.5 %');
    expect(curve({ tripTop: 0.1 }, { flap: { angleDeg: 10 } })).toBe('300 k, tripped, flap 10°');
  });
  it('a line is moved along its normals, to its left', () => {
    const moved = offset([0, 1, 2], [0, 0, 0], [0.1, 0.2, 0.3]);
    expect(moved.map((p) => [p.x, p.y])).toEqual([
      [0, 0.1],
      [1, 0.2],
      [2, 0.3],
    ]);
  });
  it('the body is thicker by the displacement thickness on the outside of both surfaces, and its wake goes on from it', () => {
    const side = (y: number[], d: number[]) =>
      ({ x: [0, 0.5, 1], y, displacementThickness: d }) as unknown as Distributions['top'];
    const d = {
      top: side([0, 0.1, 0], [0, 0.01, 0.03]),
      bottom: side([0, -0.05, 0], [0, 0.005, 0.01]),
      wake: { x: [1, 1.1, 2], y: [0, 0, 0], displacementThickness: [0.04, 0.03, 0.01] },
    } as unknown as Distributions;
    const [shape, above, below] = bodyOf(d, '0', seriesStyle(0));
    expect(shape.points).toHaveLength(6);
    expect(above.points[1].y).toBeCloseTo(0.11, 5);
    expect(below.points[1].y).toBeCloseTo(-0.055, 5);
    expect(above.points.map((p) => p.x).filter((x) => x > 1.2)).toEqual([]);
    // The wake begins where the surfaces end: its thickness is shared as theirs.
    expect(above.points[3].y).toBeCloseTo(0.03, 5);
    expect(below.points[3].y).toBeCloseTo(-0.01, 5);
  });
  it('measured rows stand over the quantities that they have, and over those that follow from them', () => {
    const m = {
      id: 'm',
      name: 'Tunnel',
      note: '',
      reynolds: 4e5,
      columns: ['alpha', 'cl', 'cd'] as ('alpha' | 'cl' | 'cd')[],
      rows: [
        [0, 0.4, 0.01],
        [2, 0.6, null],
      ],
    };
    const [s] = measuredSeries([m], 'alpha', 'ratio', 'metric');
    expect(s.points).toEqual([{ x: 0, y: 40, tag: 0 }]);
    expect(measuredSeries([m], 'alpha', 'cl', 'metric')[0].points).toHaveLength(2);
    expect(measuredSeries([m], 'alpha', 'cm', 'metric')).toEqual([]);
    expect(measuredSeries([{ ...m, hidden: true }], 'alpha', 'cl', 'metric')).toEqual([]);
  });
  it('what has no value keeps no limit', () => {
    expect(within({ values: { a: 1 } }, { a: [0, 2] })).toBe(true);
    expect(within({ values: { a: 3 } }, { a: [null, 2] })).toBe(false);
    expect(within({ values: { a: null } }, { a: [0, null] })).toBe(false);
    expect(within({ values: {} }, { a: [null, null] })).toBe(true);
  });
});
