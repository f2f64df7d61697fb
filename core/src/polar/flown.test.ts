import { RAD } from '../numerics';
import { runAnalysis } from '../analysis';
import { bubbleOf, dragOfStretches, isSolved, ViscousSection, type SolvedPoint } from '../section-flow';
import { sourceOutline, type SectionSource } from '../shaping';
import { flownChange, flownFlows, nearestToSeparation, type FlownCondition, type FlownFlow, type FlownStep } from '.';

const digits = (designation: string): SectionSource => ({
  kind: 'designation',
  designation,
  trailingEdge: 'published',
});
const CRUISE: FlownCondition = { cl: 0.4, conditions: { reynolds: 7e5 } };
const CLIMB: FlownCondition = { cl: 1, conditions: { reynolds: 4e5 } };
const BEYOND: FlownCondition = { cl: 2.4, conditions: { reynolds: 4e5 } };
const solved = (flow: FlownFlow) => flow.point as SolvedPoint;

describe('a section at the conditions that it is flown at', () => {
  it('has the lift that is asked for, and a lift beyond the stall is unsolved with the reason, the others staying', () => {
    const flows = flownFlows(digits('4415'), null, [CRUISE, BEYOND, CLIMB]);
    expect(flows.map((f) => f.point.status)).toEqual(['solved', 'unsolved', 'solved']);
    expect(solved(flows[0]).cl).toBeCloseTo(0.4, 4);
    expect(solved(flows[2]).cl).toBeCloseTo(1, 4);
    expect(flows[1].point).toMatchObject({ reason: expect.stringContaining('No angle was found') as string });
    expect(flows[1].drag).toBeUndefined();
  });
  it('compares two shapes number by number', () => {
    const [a] = flownFlows(digits('4415'), null, [CRUISE]);
    const [b] = flownFlows(digits('4412'), null, [CRUISE]);
    const { before, after, change, percent } = flownChange(a.point, b.point);
    expect(before.cd).toBe(solved(a).cd);
    expect(change.cd).toBeCloseTo(solved(b).cd - solved(a).cd, 12);
    expect(percent.cd).toBeCloseTo((100 * change.cd!) / before.cd!, 9);
    // The thinner one has less drag; a moment that becomes more nose-down is a negative share of its size.
    expect(percent.cd).toBeLessThan(-3);
    expect(Math.sign(percent.cm!)).toBe(Math.sign(change.cm!));
    expect(change.transitions!.top).toBeCloseTo(after.transitions!.top - before.transitions!.top, 12);
    const same = flownChange(a.point, a.point);
    expect([same.change.cd, same.percent.cm, same.percent.clOverCd]).toEqual([0, 0, 0]);
    const [none] = flownFlows(digits('4415'), null, [BEYOND]);
    expect(flownChange(a.point, none.point)).toMatchObject({
      after: { cd: null, status: 'unsolved' },
      change: { cd: null, transitions: null },
      percent: { cd: null },
    });
  });
  it('goes on from the shape before while it is touched, and comes to the same flow within 0.1 %', async () => {
    const touch = (to: number): SectionSource => ({
      kind: 'recipe',
      source: digits('4415'),
      steps: [{ id: 't', kind: 'set-thickness', to }],
    });
    const told: number[] = [];
    const conditions = [CRUISE, CLIMB];
    await runAnalysis('flown-flows', { source: touch(0.15), flap: null, conditions });
    const live = await runAnalysis(
      'flown-flows',
      { source: touch(0.146), flap: null, conditions },
      { report: ({ detail }) => void told.push((detail as FlownStep).index) },
    );
    const alone = flownFlows(touch(0.146), null, conditions);
    live.forEach((flow, i) => expect(solved(flow).cd / solved(alone[i]).cd).toBeCloseTo(1, 3));
    expect(told).toEqual([0, 1]);
    // Fewer iterations than from nothing.
    expect(solved(live[0]).iterations).toBeLessThan(solved(alone[0]).iterations);
  });
  it('keeps what it says of the others where one condition is refused', async () => {
    const wild: FlownCondition = { cl: 0.4, conditions: { reynolds: 7e5, mach: 0.69 } };
    const [a, b] = await runAnalysis('flown-flows', {
      source: digits('4415'),
      flap: null,
      conditions: [{ alphaDeg: 2, conditions: { reynolds: 10 } }, CRUISE],
    });
    expect(a.point).toMatchObject({ status: 'unsolved', reason: expect.stringContaining('Reynolds') as string });
    expect(isSolved(b.point)).toBe(true);
    expect((await runAnalysis('flown-flows', { source: digits('4415'), flap: null, conditions: [wild] })).length).toBe(
      1,
    );
  });
});

describe('where drag arises', () => {
  const of = (designation: string, alphaDeg: number, reynolds: number, ncrit = 9) => {
    const source: SectionSource = { kind: 'designation', designation, trailingEdge: 'sharp' };
    const section = new ViscousSection(sourceOutline(source, 241));
    const point = section.at(alphaDeg * RAD, { reynolds, criticalAmplification: ncrit }) as SolvedPoint;
    return { point, drag: section.dragAlong()! };
  };
  const last = (v: Float32Array) => v[v.length - 1];

  // Blasius: the energy thickness at the edge, 1.044/√Re, of a drag of 1.328/√Re a side; the rest is lost in the wake.
  it('a thin plate loses 0.786 of its drag along its laminar layers', () => {
    const { point, drag } = of('0001', 0, 1e5, 30);
    expect((last(drag.top.cd) + last(drag.bottom.cd)) / point.cd).toBeCloseTo(1.044 / 1.328, 1);
    expect((last(drag.top.cd) + last(drag.bottom.cd)) / point.cd).toBeGreaterThan(0.77);
    expect(last(drag.top.cd)).toBeCloseTo(last(drag.bottom.cd), 6);
    // Its layers grow with the root of the chord.
    const [front, , , rear] = dragOfStretches(drag.top, [0, 0.25, 0.5, 0.75, 1]);
    expect(rear / front).toBeCloseTo((1 - Math.sqrt(0.75)) / 0.5, 1);
  });
  it('stretches of both surfaces and the wake come to the drag, and energy is only lost', () => {
    for (const [designation, alpha, re] of [
      ['4415', 4, 1e6],
      ['4415', 6, 2e5],
      ['0012', 10, 1e6],
    ] as const) {
      const { point, drag } = of(designation, alpha, re);
      const edges = [0, 0.02, 0.1, 0.3, 0.55, 0.8, 1];
      const sum = [drag.top, drag.bottom].flatMap((s) => dragOfStretches(s, edges)).reduce((a, b) => a + b, drag.wake);
      expect(sum).toBeCloseTo(point.cd, 7);
      expect(drag.wake).toBeGreaterThan(0.08 * point.cd);
      expect(drag.wake).toBeLessThan(0.35 * point.cd);
      for (const { cd } of [drag.top, drag.bottom])
        for (let i = 1; i < cd.length; i++) expect(cd[i]).toBeGreaterThan(cd[i - 1] - 2e-6);
    }
  });
  it('a bubble lies where the layer is separated, and costs a part of the drag of its surface', () => {
    const { point, drag } = of('4415', 6, 2e5);
    const bubble = bubbleOf(point, drag, 'top')!;
    expect(bubble.from).toBeCloseTo(point.laminarSeparationTop!, 12);
    expect(bubble.to).toBeGreaterThan(bubble.from + 0.03);
    expect(bubble.cd).toBeGreaterThan(0.05 * last(drag.top.cd));
    expect(bubble.cd).toBeLessThan(0.6 * last(drag.top.cd));
    expect(bubbleOf(point, drag, 'bottom')).toBeNull();
  });
  it('a steeper climb brings the rear of the upper surface nearer to separation', () => {
    const [low, high] = flownFlows(digits('4415'), null, [
      { alphaDeg: 2, conditions: { reynolds: 2e6 } },
      { alphaDeg: 10, conditions: { reynolds: 2e6 } },
    ]).map((f) => nearestToSeparation(f, 'top')!);
    expect(high.shapeFactor).toBeGreaterThan(low.shapeFactor + 0.2);
    expect(high.x).toBeGreaterThan(0.7);
  });
});
