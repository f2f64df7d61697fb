import { flowState } from '../atmosphere';
import { madeTailed } from '../candidate/testing/made-tailed';
import { liftInputOf, sectionLookup, withPlacedMass } from '../candidate';
import { keptMeanLine, makeLattice } from '../lift';
import { trefftzDrag } from '../lift/trefftz';
import { RAD } from '../numerics';
import { performanceSchema } from '../performance';
import { freshCandidate, type CandidatePart } from '../project';
import { polarPoints, ViscousSection, asSolved } from '../section-flow';
import { sourceOutline, type SectionSource } from '../shaping';
import { answersFor, checkedPlan, runStudy, valueAt, variablesOf, withValues, type StudySubject } from '.';

const means = { polars: null, settings: performanceSchema.parse({}), lookupOf: sectionLookup };
const SPEED = 20;
/** A wing alone, six stations evenly apart on each side, mean chord 1 m. */
function wing(taper: number, span: number): CandidatePart {
  const n = 6;
  const root = 2 / (1 + taper);
  return {
    ...freshCandidate('a', 'A', 'Wing', 0),
    surfaces: [
      {
        id: 'w',
        name: 'Wing',
        role: 'wing',
        plane: 'horizontal',
        mirrored: true,
        position: { x: 0, y: 0, z: 0 },
        incidenceDeg: 0,
        stations: Array.from({ length: n }, (_, i) => ({
          chord: root * (1 - ((1 - taper) * i) / (n - 1)),
          twistDeg: 0,
          section: 'naca:0009',
        })),
        bays: Array.from({ length: n - 1 }, () => ({ span: span / 2 / (n - 1), sweepDeg: 0, dihedralDeg: 0 })),
      },
    ],
  };
}
const alone = (candidate: CandidatePart): StudySubject => ({
  candidate,
  sections: {},
  flight: { speed: SPEED, altitude: 0 },
});
const TWISTS = [1, 2, 3, 4, 5].map((i) => ({ path: `surfaces.w.stations.${i}.twistDeg`, from: -12, to: 6 }));
const search = (subject: StudySubject, plan: object) =>
  runStudy(checkedPlan({ kind: 'search', variables: TWISTS, budget: 600, ...plan }, subject), subject, means);

/**
 * Span efficiency of the elliptic load put on a lattice's strips by hand, at a lift coefficient. The lattice's wake leaves along the body: what is induced is
 * normal to it, and takes drag times sin α from the lift.
 */
function ellipticEfficiency(candidate: CandidatePart, span: number, CL: number, alphaDeg: number): number {
  const lookup = sectionLookup({});
  const solver = makeLattice(liftInputOf({ speed: SPEED, altitude: 0, mass: 0 }, candidate), (k) =>
    keptMeanLine(lookup(k)),
  );
  const strips = solver
    .at({ alpha: 0.05 })
    .strips.map((s) => ({ ...s, circulation: Math.sqrt(1 - (s.y / (span / 2)) ** 2) }));
  const { area } = solver.reference;
  const drag = (2 * trefftzDrag(solver.lattice, strips, true, 0)) / area;
  const lift = (2 * strips.reduce((sum, s) => sum + 2 * s.circulation * s.width, 0)) / area;
  // How much of the load: amount · lift − amount² · drag · sin α = CL.
  const lost = drag * Math.sin(alphaDeg * RAD);
  const amount = (2 * CL) / (lift + Math.sqrt(lift * lift - 4 * lost * CL));
  return CL ** 2 / (Math.PI * (span ** 2 / area) * amount ** 2 * drag);
}

describe('twist of a wing', () => {
  it.each([1, 0.4])(
    'of taper %f: least induced drag at a lift is that of the elliptic load within 0.3 %%',
    async (taper) => {
      const candidate = wing(taper, 8);
      const at = { CL: 0.5 };
      const { best, tries } = await search(alone(candidate), {
        aim: [{ id: 'lattice.CDi', at, sense: 'least' }],
        answers: [
          { id: 'lattice.efficiency', at },
          { id: 'lattice.alpha', at },
        ],
      });
      const [[start], [found, alphaDeg]] = [tries[0], best!].map((t) => t.answers as number[]);
      expect(Math.abs(found / ellipticEfficiency(candidate, 8, at.CL, alphaDeg) - 1)).toBeLessThan(0.003);
      expect(found).toBeGreaterThan(start);
    },
  );
  it.each([
    [1, 1.05],
    [0.4, 1.1],
    [1, 1.2],
  ])(
    'of taper %f: at %f times the span with the second moment of the load held, within 1.5 %% of the exact one',
    async (taper, ratio) => {
      // The elliptic wing of the same lift, 8 m of span.
      const span = 8;
      const q = flowState(SPEED, 0).dynamicPressure;
      const lift = q * span * 0.5;
      const at = { CL: 0.5 / ratio };
      const { best } = await search(alone(wing(taper, span * ratio)), {
        bands: [{ id: 'lattice.bending-integral', at, greatest: (lift / 2) * (span ** 2 / 16) }],
        aim: [{ id: 'lattice.induced-drag', at, sense: 'least' }],
      });
      const elliptic = lift ** 2 / (Math.PI * q * span ** 2);
      const exact = (1 + 3 * (1 / ratio ** 2 - 1) ** 2) / ratio ** 2;
      expect(Math.abs(best!.answers[1]! / elliptic / exact - 1)).toBeLessThan(0.015);
    },
  );
});

describe('answers of the lattice', () => {
  it('at a lift are those at its angle, and moments are those of the strips', async () => {
    const subject = { ...alone(madeTailed({ centre: 0.2 })), sections: { s: section() } };
    const lookup = sectionLookup(subject.sections);
    const ask = (id: string, at: object) => ({ id: `lattice.${id}`, at });
    const { values } = await answersFor(
      subject,
      lookup,
      [ask('CL', { CL: 0.4 }), ask('alpha', { CL: 0.4 }), ask('root-bending', { CL: 0.4 })],
      means,
    );
    expect(values[0]).toBeCloseTo(0.4, 8);
    const again = await answersFor(subject, lookup, [ask('CL', { alphaDeg: values[1] })], means);
    expect(again.values[0]).toBeCloseTo(0.4, 8);
    const placed = withPlacedMass(subject.candidate, lookup);
    const solver = makeLattice(liftInputOf({ speed: SPEED, altitude: 0, mass: 1 }, placed), (k) =>
      keptMeanLine(lookup(k)),
    );
    const { strips } = solver.at({ alpha: values[1]! * RAD });
    const moment = strips
      .filter((s) => s.id === 'wing' && s.y > 0)
      .reduce((sum, s) => sum + s.cl * s.chord * s.width * s.y, 0);
    expect(values[2]! / (moment * flowState(SPEED, 0).dynamicPressure)).toBeCloseTo(1, 6);
  });
  it.each([
    [{ id: 'lattice.CL' }, /needs either alphaDeg or CL/],
    [{ id: 'lattice.CL', at: { alphaDeg: 2, CL: 0.4 } }, /needs either/],
    [{ id: 'lattice.CD', at: { CL: 0.4 } }, /no quantity "lattice.CD"/],
    [{ id: 'balance.trimAngle', at: { CL: 0.4 } }, /cannot be asked for at "CL"/],
    [{ id: 'sections.s.cd', at: { CL: 0.4 } }, /needs a Reynolds number/],
    [{ id: 'sections.s.cd', at: { re: 1e6 } }, /either alphaDeg or CL/],
    [{ id: 'sections.none.thickness' }, /no section "none"/],
    [{ id: 'sections.s.beauty' }, /no quantity "beauty"/],
  ])('refuses %j', (answer, why) => {
    const subject = { ...alone(wing(1, 8)), sections: { s: section() } };
    const plan = { kind: 'grid', variables: [TWISTS[0]], answers: [answer] };
    expect(() => checkedPlan(plan, subject)).toThrow(why);
  });
  it('keeps a lift that no angle has as failed, with the reason', async () => {
    const subject = alone(wing(1, 8));
    const asked = [{ id: 'lattice.CDi', at: { CL: 5 } }];
    const { values, reasons } = await answersFor(subject, sectionLookup({}), asked, means);
    expect(values).toEqual([null]);
    expect(Object.values(reasons)[0]).toMatch(/No angle of attack/);
  });
});

const section = (): SectionSource => ({ kind: 'designation', designation: '4412', trailingEdge: 'published' });
describe('sections', () => {
  const of = (source: SectionSource): StudySubject => ({
    ...alone(freshCandidate('a', 'A', 'Sections', 0)),
    sections: { s: source },
  });
  it('vary by numbers of their shape, their recipe, their coefficients and their mix', () => {
    const paths = (source: SectionSource) =>
      variablesOf(of(source)).flatMap(({ path }) => (path.startsWith('sections.s.') ? [path.slice(11)] : []));
    expect(paths(section())).toEqual([
      'shape.camber-crest',
      'shape.thickness-crest',
      'shape.camber',
      'shape.thickness',
      'shape.nose-radius',
    ]);
    expect(paths({ kind: 'recipe', source: section(), steps: [{ kind: 'set-thickness', to: 0.1 }] })).toContain(
      'steps.0.to',
    );
    const flat: SectionSource = {
      kind: 'class-shape',
      upper: [0.17, 0.16, 0.15],
      lower: [-0.17, -0.16, -0.15],
      edgeUpper: 0.001,
      edgeLower: -0.001,
    };
    // Without camber there is no crest of it to move.
    expect(paths(flat)).not.toContain('shape.camber-crest');
    expect(paths(flat)).toContain('upper.2');
    expect(paths({ kind: 'mix', a: section(), b: flat, fraction: 0.5 })).toContain('fraction');
    const thin = withValues(of(section()), new Map([['sections.s.shape.thickness', 0.09]]));
    expect(valueAt(thin, 'sections.s.shape.thickness')).toBeCloseTo(0.09, 6);
    expect(valueAt(thin, 'sections.s.shape.camber')).toBeCloseTo(0.04, 4);
  });
  it('that stations name by digits vary too, and the aircraft with them', async () => {
    const candidate = madeTailed({ centre: 0.2 });
    candidate.surfaces = candidate.surfaces.map((s) => ({
      ...s,
      stations: s.stations.map((t) => ({ ...t, section: s.role === 'wing' ? 'naca:1410' : 'naca:0009' })),
    }));
    const subject = alone(candidate);
    const plan = {
      kind: 'grid',
      variables: [{ path: 'sections.naca:1410.shape.camber', from: 0.01, to: 0.03, steps: 2 }],
      answers: [{ id: 'balance.trimAngle' }, { id: 'sections.naca:1410.camber' }],
    };
    const { tries } = await runStudy(checkedPlan(plan, subject), subject, means);
    expect(tries.map((t) => t.answers[1])).toEqual([expect.closeTo(0.01, 5), expect.closeTo(0.03, 5)]);
    expect(Math.abs(tries[0].answers[0]! - tries[1].answers[0]!)).toBeGreaterThan(0.2);
  });
  it('answer as the viscous solver does, the same digits whatever was solved before', async () => {
    const at = { re: 2e6, CL: 0.5 };
    const ask = [
      { id: 'sections.s.cd', at },
      { id: 'sections.s.cm', at },
    ];
    const told = await answersFor(of(section()), sectionLookup({ s: section() }), ask, means);
    const solver = new ViscousSection(sourceOutline(section()));
    const conditions = { reynolds: 2e6, criticalAmplification: 9 };
    const own = asSolved(polarPoints(solver, { kind: 'fixed-re', conditions, lifts: [0.5] })[0]);
    expect(told.values[0]! / own.cd).toBeCloseTo(1, 3);
    expect(told.values[1]).toBeCloseTo(own.cm, 4);
    const other = { kind: 'designation', designation: '0012', trailingEdge: 'published' } as const;
    await answersFor(of(other), sectionLookup({ s: other }), ask, means);
    expect((await answersFor(of(section()), sectionLookup({ s: section() }), ask, means)).values).toEqual(told.values);
  });
  it('of an aircraft have polars of their own in every try, or the study is refused', async () => {
    const subject = { ...alone(madeTailed({ centre: 0.2 })), sections: { s: section() } };
    const plan = checkedPlan(
      {
        kind: 'grid',
        method: 'polars',
        variables: [{ path: 'sections.s.shape.camber', from: 0.01, to: 0.03, steps: 2 }],
        answers: [{ id: 'sections.s.camber' }],
      },
      subject,
    );
    const asked: (string | number)[] = [];
    const polarsOf = (of: StudySubject) => {
      asked.push(Number(valueAt(of, 'sections.s.shape.camber').toFixed(4)));
      return Promise.resolve([]);
    };
    await runStudy(plan, subject, { ...means, polars: [], polarsOf });
    expect(asked).toEqual([0.01, 0.03]);
    await expect(runStudy(plan, subject, { ...means, polars: [] })).rejects.toThrow(/no polars here/);
  });
  it('are chosen among: every option of a grid, the better one of a search, and never where steps are wanted', async () => {
    const subject = alone(wing(1, 8));
    const at = { alphaDeg: 2 };
    const path = subject.candidate.surfaces[0].stations.map((_, i) => `surfaces.w.stations.${i}.section`);
    const options = ['naca:0009', 'naca:4415', 'naca:1410'];
    const choice = { path, kind: 'choice', options };
    const plan = (more: object) => checkedPlan({ variables: [choice], ...more }, subject);
    const grid = await runStudy(plan({ kind: 'grid', answers: [{ id: 'lattice.CL', at }] }), subject, means);
    const lifts = grid.tries.map((t) => t.answers[0]!);
    expect(grid.tries.map((t) => t.values)).toEqual([[0], [1], [2]]);
    expect(lifts[1]).toBeGreaterThan(lifts[2]);
    expect(lifts[2]).toBeGreaterThan(lifts[0]);
    const aim = [{ id: 'lattice.CL', at, sense: 'greatest' }];
    const { best } = await runStudy(plan({ kind: 'search', aim, budget: 20 }), subject, means);
    expect(options[best!.values[0]]).toBe('naca:4415');
    for (const [wrong, why] of [
      [{ kind: 'effects' }, /no use for a choice/],
      [{ kind: 'grid', variables: [{ path, kind: 'choice' }] }, /needs options/],
      [{ kind: 'grid', variables: [{ ...choice, options: ['a', 'a'] }] }, /each once/],
      [{ kind: 'grid', variables: [{ ...choice, path: 'surfaces.w.incidenceDeg' }] }, /no word at/],
      [{ kind: 'grid', variables: [{ path: 'surfaces.w.incidenceDeg' }] }, /needs its bounds/],
    ] as const)
      expect(() => plan({ answers: [{ id: 'lattice.CL', at }], ...wrong })).toThrow(why);
  });
});
