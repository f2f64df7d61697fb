import { RAD } from '../../numerics';
import { designationOutline } from '../../section';
import { isSolved, polarPoints, stateBytes, stateOf, ViscousSection, type Outcome, type ViscousPoint } from '..';

describe('a sweep that was broken off', () => {
  const conditions = { reynolds: 1e5 };
  const alphas = Array.from({ length: 12 }, (_, i) => (2 * i - 4) * RAD);
  const panels = { panels: 100, trailingEdge: 1, nose: 1 };
  const run = (past: readonly Outcome[], seen: number[] = []) => {
    const journal: Outcome[] = [];
    let next = 0;
    const points = polarPoints(
      new ViscousSection(designationOutline('2415'), panels),
      { kind: 'fixed-re', conditions, alphas },
      { journal: { next: () => past[next++], add: (o) => journal.push(o) }, onPoint: (i) => seen.push(i) },
    );
    return { points, journal };
  };
  it('ends exactly as if it had not been, wherever it was broken off', () => {
    const whole = run([]);
    expect(whole.journal.length).toBeGreaterThanOrEqual(alphas.length);
    // As stored: through bytes.
    const stored = whole.journal.map((o) => ({ ...o, ...(o.state ? { state: stateOf(stateBytes(o.state)) } : {}) }));
    for (const cut of [1, 5, whole.journal.length - 1]) {
      const seen: number[] = [];
      const rest = run(stored.slice(0, cut), seen);
      expect(rest.points).toEqual(whole.points);
      expect(rest.journal.length).toBe(whole.journal.length - cut);
      expect(seen.length).toBeLessThan(alphas.length);
    }
  });
});

describe('a stored state', () => {
  const section = new ViscousSection(designationOutline('4415'));
  const conditions = { reynolds: 5e5, mach: 0.2 };
  const point = section.at(4 * RAD, conditions);
  const distributions = section.distributions()!;
  const bytes = stateBytes(section.state());
  it('gives point and distributions again without solving', () => {
    expect(bytes.length).toBeLessThan(4000);
    const other = new ViscousSection(designationOutline('4415'));
    const again = other.restore(stateOf(bytes)!, conditions);
    if (!isSolved(point)) throw new Error(point.reason);
    for (const key of ['cl', 'cd', 'cdFriction', 'cm', 'cpMin', 'transitionTop', 'transitionBottom'] as const)
      expect(Math.abs(again[key] - point[key])).toBeLessThan(2e-6);
    const read = other.distributions()!;
    for (const side of ['top', 'bottom', 'wake'] as const)
      read[side].cp.forEach((v, i) => expect(Math.abs(v - distributions[side].cp[i])).toBeLessThan(1e-5));
  });
  it('starts a neighbour', () => {
    const next: ViscousPoint = section.at(4.5 * RAD, conditions, stateOf(bytes));
    expect(next.status).not.toBe('unsolved');
    expect(next.iterations).toBeLessThan(20);
  });
  it('that is cut off, foreign, or of other panels is none', () => {
    expect(stateOf(bytes.slice(0, -1))).toBeUndefined();
    expect(stateOf(new Uint8Array(10))).toBeUndefined();
    expect(stateOf(new Uint8Array(bytes.length))).toBeUndefined();
    const coarse = new ViscousSection(designationOutline('4415'), { panels: 80, trailingEdge: 1, nose: 1 });
    expect(() => coarse.restore(stateOf(bytes)!, conditions)).toThrow(/other panels/);
  });
});
