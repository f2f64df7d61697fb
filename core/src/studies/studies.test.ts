import { madeTailed } from '../candidate/testing/made-tailed';
import { sectionLookup } from '../candidate';
import { performanceSchema } from '../performance';
import type { CandidatePart } from '../project';
import { checkedPlan, runStudy, StudyStopped, valueAt, variablesOf, withValues, type StudySubject, type Try } from '.';

const sections = { s: { kind: 'designation', designation: '1410', trailingEdge: 'published' } } as const;
const subjectOf = (candidate: CandidatePart = madeTailed({ centre: 0.2 })): StudySubject => ({
  candidate,
  sections: { ...sections },
  flight: { speed: 24, altitude: 500 },
});
const means = { polars: null, settings: performanceSchema.parse({}), lookupOf: sectionLookup };
const run = (given: object, subject = subjectOf(), context = {}) =>
  runStudy(checkedPlan(given, subject), subject, means, context);
const TAIL = { path: 'surfaces.tail.incidenceDeg', from: -8, to: 6 };
const MASS = { path: 'massItems.m.position.x', from: 0, to: 0.5 };
const AREA = { path: 'surfaces.tail.scale.area', from: 0.4, to: 2.5 };

describe('variables of a candidate', () => {
  it('are read and written by their paths, each with its limit, and nothing given changes', () => {
    const subject = subjectOf();
    const before = JSON.stringify(subject);
    const all = variablesOf(subject);
    expect(new Set(all.map((v) => v.path)).size).toBe(all.length);
    for (const { path, value, limit, step } of all) {
      expect(valueAt(subject, path)).toBe(value);
      expect(value).toBeGreaterThanOrEqual(limit.min);
      expect(step).toBeGreaterThan(0);
      if (path.includes('.shape.'))
        // A shape is measured: its numbers are met to what a measurement tells.
        expect(valueAt(withValues(subject, new Map([[path, value + step]])), path)).toBeCloseTo(value + step, 3);
      else if (!path.includes('.scale.'))
        expect(valueAt(withValues(subject, new Map([[path, value + step]])), path)).toBe(value + step);
    }
    expect(JSON.stringify(subject)).toBe(before);
  });
  it('scale a surface: its area by the factor, with the same shape', () => {
    const { candidate } = withValues(subjectOf(), new Map([['surfaces.tail.scale.area', 2]]));
    const tail = candidate.surfaces[1];
    const old = subjectOf().candidate.surfaces[1];
    expect(tail.bays[0].span * tail.stations[0].chord).toBeCloseTo(2 * old.bays[0].span * old.stations[0].chord, 12);
    expect(tail.stations[1].chord / tail.stations[0].chord).toBeCloseTo(
      old.stations[1].chord / old.stations[0].chord,
      12,
    );
  });
});

describe('a plan', () => {
  it.each([
    [{ variables: [] }, /needs a variable/],
    [{ variables: [{ ...TAIL, path: 'surfaces.none.incidenceDeg' }] }, /no number at "surfaces.none/],
    [{ variables: [{ ...TAIL, path: 'surfaces.tail.__proto__.x' }] }, /no number at/],
    [{ variables: [{ ...TAIL, from: 3, to: -3 }] }, /second must be greater/],
    [{ variables: [{ ...TAIL, from: -80 }] }, /Incidence/],
    [{ variables: [TAIL, TAIL] }, /varies twice/],
    [{ answers: [{ id: 'balance.nothing' }] }, /no quantity "balance.nothing"/],
    [{ answers: [] }, /needs answers/],
    [{ kind: 'solve', answers: [] }, /needs bands/],
    [{ kind: 'search', answers: [] }, /needs aim/],
    [{ kind: 'dream' }, /kind/],
    [{ answers: [{ id: 'balance.trimAngle', at: { speed: -4 } }] }, /at.speed|Speed/],
  ])('with %p is refused with the reason', (wrong, says) => {
    const plan = { kind: 'effects', variables: [TAIL], answers: [{ id: 'balance.trimAngle' }], ...wrong };
    expect(() => checkedPlan(plan, subjectOf())).toThrow(says);
  });
});

describe('effects', () => {
  it('are those of a careful difference, and say where they are not to be relied on', async () => {
    const answers = ['balance.trimAngle', 'balance.staticMargin', 'drag.coefficient'].map((id) => ({ id }));
    const made = await run({ kind: 'effects', variables: [TAIL, MASS], answers });
    const at = async (path: string, by: number) =>
      (await run({ kind: 'grid', variables: [{ path, from: by, to: by + 1, steps: 2 }], answers })).tries[0].answers;
    for (const [path, value] of [
      [TAIL.path, -2],
      [MASS.path, 0.2],
    ] as const) {
      const h = 1e-3 * (path === TAIL.path ? 10 : 1);
      const [up, down] = [await at(path, value + h), await at(path, value - h)];
      answers.forEach(({ id }, k) => {
        const told = made.effects!.find((e) => e.variable === path && e.answer === id)!;
        const slope = (up[k]! - down[k]!) / (2 * h);
        if (Math.abs(slope) > 1e-6) expect(told.slope! / slope).toBeCloseTo(1, 2);
        expect(told.reliable).toBe(true);
      });
    }
    expect(made.tries).toHaveLength(1 + 2 * 4);
  });
  it('of a try that fails are none, with the reason', async () => {
    const made = await run({
      kind: 'effects',
      variables: [TAIL],
      answers: [{ id: 'performance.stallSpeed' }, { id: 'balance.staticMargin' }],
    });
    expect(made.effects![0]).toMatchObject({ slope: null, reliable: false });
    expect(made.tries[0].reasons!['performance.stallSpeed']).toMatch(/./);
    expect(made.effects![1].slope).not.toBeNull();
  });
});

describe('solving for bands', () => {
  const bands = [
    { id: 'balance.trimAngle', least: 3, greatest: 3.2 },
    { id: 'balance.staticMargin', least: 0.2, greatest: 0.22 },
  ];
  // Made-up aircraft: other tails, centres and incidences.
  const aircraft = Array.from({ length: 8 }, (_, i) =>
    madeTailed({ centre: 0.12 + 0.03 * i, incidenceDeg: -3.5 + 0.5 * i }),
  );
  it.each(aircraft.map((a, i) => [i + 1, a] as const))('holds both on aircraft %p', async (_, candidate) => {
    const subject = subjectOf(candidate);
    const { solution, contradictions } = await run({ kind: 'solve', variables: [TAIL, MASS], bands }, subject);
    expect(contradictions).toBeUndefined();
    expect(solution!.met).toBe(true);
    const [trim, margin] = solution!.answers as number[];
    expect(trim).toBeGreaterThan(3 - 2e-4);
    expect(trim).toBeLessThan(3.2 + 2e-4);
    expect(margin).toBeGreaterThan(0.2 - 2e-5);
    expect(margin).toBeLessThan(0.22 + 2e-5);
  });
  // Of twenty made-up aircraft: one far from every band, one near, and one that has no trim at all at its start.
  const finned = (i: number): CandidatePart => {
    const candidate = madeTailed({ centre: 0.1 + 0.012 * i, incidenceDeg: -4 + 0.3 * ((7 * i) % 20) });
    const fin = {
      ...candidate.surfaces[1],
      id: 'fin',
      name: 'Fin',
      role: 'fin' as const,
      plane: 'vertical' as const,
      mirrored: false,
      incidenceDeg: 0,
      controls: [],
      stations: [0.34, 0.24].map((chord) => ({ chord, twistDeg: 0, section: 's' })),
      bays: [{ span: 0.4 + 0.015 * ((3 * i) % 20), sweepDeg: 12, dihedralDeg: 0 }],
    };
    return { ...candidate, surfaces: [...candidate.surfaces, fin] };
  };
  it.each([5, 12, 14])('holds trim angle, margin and damping of the Dutch roll at once on aircraft %p', async (i) => {
    const three = [
      { id: 'balance.trimAngle', least: 3, greatest: 3.4 },
      { id: 'balance.staticMargin', least: 0.15, greatest: 0.2 },
      { id: 'motion.dutchRoll.damping', least: 0.12 },
    ];
    const FIN = { path: 'surfaces.fin.scale.area', from: 0.3, to: 4 };
    const plan = { kind: 'solve', variables: [TAIL, MASS, FIN], bands: three };
    const { solution, tries } = await run(plan, subjectOf(finned(i)));
    if (i === 14) expect(tries[0].answers[0]).toBeNull();
    expect(solution!.met).toBe(true);
    const [trim, margin, damping] = solution!.answers as number[];
    expect(trim).toBeGreaterThan(3 - 4e-4);
    expect(trim).toBeLessThan(3.4 + 4e-4);
    expect(margin).toBeGreaterThan(0.15 - 5e-5);
    expect(margin).toBeLessThan(0.2 + 5e-5);
    expect(damping).toBeGreaterThan(0.12 - 1e-4);
  });
  it('tells what one more variable would bring to a contradiction, and it brings that', async () => {
    const alone = await run({ kind: 'solve', variables: [TAIL], bands });
    expect(alone.contradictions!.map((c) => c.id)).toEqual(['balance.staticMargin']);
    expect(alone.oneMore!.length).toBeGreaterThan(0);
    // Followed: with it among the variables all is held.
    for (const { path, to, left } of alone.oneMore!) {
      expect(left).toBeLessThan(0.05);
      const now = valueAt(subjectOf(), path);
      const away = 1.5 * Math.abs(to - now);
      const more = { path, from: now - away, to: now + away };
      expect((await run({ kind: 'solve', variables: [TAIL, more], bands })).solution!.met).toBe(true);
    }
  });
  it('changes nothing where all is held, and no more than it must elsewhere', async () => {
    const wide = bands.map((b) => ({ ...b, least: b.least - 10, greatest: b.greatest + 10 }));
    const still = await run({ kind: 'solve', variables: [TAIL, MASS], bands: wide });
    expect(still.solution!.change.every((v) => Math.abs(v) < 1e-9)).toBe(true);
    const [first] = bands;
    const one = await run({ kind: 'solve', variables: [TAIL, MASS], bands: [first] });
    const trim = one.solution!.answers[0]!;
    // It ends at the near side of the band, with the reserve of a fiftieth of its width.
    expect(Math.min(trim - 3, 3.2 - trim)).toBeLessThan(0.02);
    expect(one.solution!.met).toBe(true);
  });
  it('tells what contradicts, by how much, and what ended at its bound', async () => {
    const { solution, contradictions } = await run({
      kind: 'solve',
      variables: [{ ...MASS, from: 0.15, to: 0.25 }],
      bands: [
        { id: 'balance.trimAngle', least: 12, greatest: 13 },
        { id: 'balance.staticMargin', least: 0.9 },
      ],
    });
    expect(solution!.met).toBe(false);
    expect(contradictions!.map((b) => b.id)).toEqual(['balance.trimAngle', 'balance.staticMargin']);
    expect(contradictions!.every((b) => b.missedBy > 0)).toBe(true);
  });
  it('gives way on a wish before a must', async () => {
    const { bands: held } = await run({
      kind: 'solve',
      variables: [MASS],
      bands: [
        { id: 'balance.staticMargin', least: 0.3, greatest: 0.32 },
        { id: 'balance.trimAngle', least: 14, weight: 'wish' },
      ],
    });
    expect(held![0].missedBy).toBe(0);
    expect(held![1].missedBy).toBeGreaterThan(0);
  });
});

describe('a grid, a search and a spread', () => {
  it('runs over every place, the last variable fastest', async () => {
    const { tries } = await run({
      kind: 'grid',
      variables: [{ ...TAIL, from: -2, to: 0, steps: 3 }, { ...MASS, from: 0.1, to: 0.2, steps: 2 }],
      answers: [{ id: 'balance.staticMargin' }, { id: 'balance.staticMargin', at: { speed: 30 } }],
    }); // prettier-ignore
    expect(tries.map((t) => t.values)).toEqual([[-2, 0.1], [-2, 0.2], [-1, 0.1], [-1, 0.2], [0, 0.1], [0, 0.2]]); // prettier-ignore
    expect(tries[0].answers[0]).not.toBe(tries[0].answers[1]);
  });
  it('finds the least drag under a margin, better than its start, and goes on to the same answer after a stop', async () => {
    const plan = {
      kind: 'search',
      variables: [TAIL, AREA],
      bands: [{ id: 'balance.staticMargin', least: 0.15 }],
      aim: [{ id: 'drag.coefficient', sense: 'least' }],
      budget: 60,
      seed: 3,
    };
    const whole = await run(plan);
    const [start] = whole.tries;
    expect(whole.best!.answers[1]!).toBeLessThan(start.answers[1]!);
    expect(whole.best!.answers[0]!).toBeGreaterThanOrEqual(0.15);
    const made: Try[] = [];
    const broken = run(plan, subjectOf(), { onTry: (t: Try) => made.push(t), cancelled: () => made.length >= 25 });
    await expect(broken).rejects.toThrow(StudyStopped);
    const resumed = await run(plan, subjectOf(), { known: JSON.parse(JSON.stringify(made)) as Try[] });
    expect(resumed.resumed).toBe(25);
    expect(JSON.stringify(resumed.tries)).toBe(JSON.stringify(whole.tries));
    expect(resumed.best).toEqual(whole.best);
  });
  it('holds two aims against each other: no try of the front beats another', async () => {
    const { front } = await run({
      kind: 'search',
      variables: [AREA],
      aim: [
        { id: 'drag.coefficient', sense: 'least' },
        { id: 'balance.staticMargin', sense: 'greatest' },
      ],
      budget: 60,
    });
    expect(front!.length).toBeGreaterThan(3);
    for (let i = 1; i < front!.length; i++) {
      expect(front![i].answers[0]!).toBeGreaterThan(front![i - 1].answers[0]!);
      expect(front![i].answers[1]!).toBeGreaterThan(front![i - 1].answers[1]!);
    }
  });
  it('tells how sure a margin is, and which variable makes it unsure', async () => {
    const { spread, chances } = await run({
      kind: 'spread',
      variables: [{ ...MASS, sd: 0.01 }, { ...TAIL, sd: 0.2 }],
      answers: [{ id: 'balance.trimAngle' }],
      bands: [{ id: 'balance.staticMargin', least: 0.1 }],
      budget: 200,
    }); // prettier-ignore
    const margin = spread!.find((s) => s.answer === 'balance.staticMargin')!;
    expect(margin.p5).toBeLessThan(margin.p50);
    expect(margin.p50).toBeLessThan(margin.p95);
    expect(margin.causes[0].total.value).toBeGreaterThan(0.95);
    // Of a chord of 0.45 m, a hundredth of a metre is about 2.2 in a hundred.
    expect(margin.sd).toBeGreaterThan(0.018);
    expect(margin.sd).toBeLessThan(0.028);
    expect(chances!['balance.staticMargin']).toBeGreaterThan(0.9);
    expect(spread!.find((s) => s.answer === 'balance.trimAngle')!.causes[1].total.value).toBeGreaterThan(0.2);
  });
});
