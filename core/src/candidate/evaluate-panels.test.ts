import { keptMeanLine } from '../lift';
import { RAD } from '../numerics';
import { madeTailed } from './testing/made-tailed';
import { evaluateCandidate, evaluateWithPanels, modelOf, sectionLookup } from '.';

const lookup = sectionLookup({ s: { kind: 'designation', designation: '0009', trailingEdge: 'sharp' } });
const lineOf = (key: string) => keptMeanLine(lookup(key));
const brief = { speed: 22, altitude: 500, mass: 20 };
const tailed = madeTailed({ sweep: { fromDeg: -4, toDeg: 10, stepDeg: 1 } });

describe('an evaluation by surface panels', () => {
  const alone = evaluateCandidate(brief, tailed, lookup, lineOf);
  const made = evaluateWithPanels(alone, brief, tailed, lookup, lineOf);
  it('tells margin, neutral point, slopes and trims near those of the lattice, as thickness changes them', () => {
    expect(made.method).toBe('panels');
    const [b, l] = [made.balance!, alone.balance!];
    expect(Math.abs(b.staticMargin - l.staticMargin)).toBeLessThan(0.03);
    expect(b.liftSlope / l.liftSlope).toBeGreaterThan(0.97);
    expect(b.liftSlope / l.liftSlope).toBeLessThan(1.15);
    expect(b.pitchSlope).toBeCloseTo(-b.staticMargin * b.liftSlope, 9);
    expect(Math.abs(b.trims[0].alpha - l.trims[0].alpha)).toBeLessThan(0.6 * RAD);
    expect(made.curve!.greatestLift).toBeNull();
    // Its own line through the point of no lift.
    const { zeroLiftAngle, liftSlope, points } = made.curve!;
    const zero = points.find((p) => p.alpha === 0)!;
    expect(zero.CL + liftSlope! * zeroLiftAngle!).toBeCloseTo(0, 9);
  });
  it('moves with the centre of gravity along a straight line', () => {
    const { x, staticMargin, pitchSlope } = made.balance!.centres;
    expect(staticMargin[0] - staticMargin[4]).toBeCloseTo(1.2, 9);
    expect(x[2]).toBeCloseTo(0.25, 9);
    expect(staticMargin[2]).toBeCloseTo(made.balance!.staticMargin, 9);
    expect(pitchSlope[2]).toBeCloseTo(made.balance!.pitchSlope, 9);
  });
  it('has the same numbers as vw model tells', () => {
    const m = modelOf(tailed, lookup, lineOf, { ...brief, method: 'panels', polars: null });
    const value = (v: typeof m.staticMargin) => ('value' in v ? v.value : NaN);
    expect(value(m.staticMargin)).toBeCloseTo(made.balance!.staticMargin, 9);
    expect(value(m.neutralPoint)).toBeCloseTo(made.balance!.neutralPoint, 9);
    expect(value(m.trimAngle)).toBeCloseTo(made.balance!.trims[0].alpha, 9);
  });
  it('a flow that cannot be leaves the lattice, with the reason', () => {
    const fast = evaluateWithPanels(alone, { ...brief, speed: 330 }, tailed, lookup, lineOf);
    expect(fast.method).toBe('lattice');
    expect(fast.problems.at(-1)!.message).toMatch(/Mach/);
    const { mass: _, ...noMass } = alone;
    expect(evaluateWithPanels({ ...noMass, mass: null }, brief, tailed, lookup, lineOf).method).toBe('lattice');
  });
});
