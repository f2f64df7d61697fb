import { designationOutline, pairsFromOutline } from '../section';
import { checkSurface, meanLineOf, placeStations, planformOf, referenceOf, type LiftingSurface } from '.';

export const testWing = (over: Partial<LiftingSurface> = {}): LiftingSurface => ({
  id: 'wing',
  name: 'Wing',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0, y: 0, z: 0 },
  incidenceDeg: 0,
  stations: [
    { chord: 1.5, twistDeg: 0, section: 'naca:0012' },
    { chord: 0.5, twistDeg: 0, section: 'naca:0012' },
  ],
  bays: [{ span: 2, sweepDeg: 0, dihedralDeg: 0 }],
  ...over,
});

describe('planform', () => {
  it('matches the closed forms of a tapered wing', () => {
    const plan = planformOf(testWing());
    expect(plan.area).toBeCloseTo(4, 12);
    expect(plan.span).toBeCloseTo(4, 12);
    expect(plan.aspectRatio).toBeCloseTo(4, 12);
    expect(plan.taper).toBeCloseTo(1 / 3, 12);
    expect(plan.mac.chord).toBeCloseTo((2 / 3) * 1.5 * ((1 + 1 / 3 + 1 / 9) / (1 + 1 / 3)), 12);
    expect(plan.mac.offset).toBeCloseTo((4 / 6) * ((1 + 2 / 3) / (1 + 1 / 3)), 12);
    // Unswept quarter chord: the quarter chord of the mean aerodynamic chord lies on it.
    expect(plan.quarterChord).toBeCloseTo(0.375, 12);
  });
  it('is the same for two bays as for one', () => {
    const one = planformOf(testWing({ bays: [{ span: 2, sweepDeg: 20, dihedralDeg: 5 }] }));
    const mid = { chord: 1.25, twistDeg: 0, section: 'naca:0012' };
    const base = testWing();
    const two = planformOf(
      testWing({
        stations: [base.stations[0], mid, base.stations[1]],
        bays: [
          { span: 0.5, sweepDeg: 20, dihedralDeg: 5 },
          { span: 1.5, sweepDeg: 20, dihedralDeg: 5 },
        ],
      }),
    );
    expect(two.mac.chord).toBeCloseTo(one.mac.chord, 12);
    expect(two.mac.leadingEdge).toBeCloseTo(one.mac.leadingEdge, 12);
    expect(two.area).toBeCloseTo(one.area, 12);
  });
  it('stands a fin upright and turns stations about their quarter chord', () => {
    const [root, tip] = placeStations(
      testWing({ plane: 'vertical', mirrored: false, bays: [{ span: 1, sweepDeg: 45, dihedralDeg: 0 }] }),
    );
    expect(tip.quarterChord).toEqual({ x: expect.closeTo(1.375, 12), y: expect.closeTo(0, 12), z: 1 });
    expect(root.leadingEdge.x).toBeCloseTo(0, 12);
    const [pitched] = placeStations(testWing({ incidenceDeg: 10 }));
    expect(pitched.quarterChord.x).toBeCloseTo(0.375, 12);
    expect(pitched.leadingEdge.z).toBeCloseTo(0.375 * Math.sin(Math.PI / 18), 12);
  });
  it.each([
    ['a span of zero', { bays: [{ span: 0, sweepDeg: 0, dihedralDeg: 0 }] }],
    ['a span of −1', { bays: [{ span: -1, sweepDeg: 0, dihedralDeg: 0 }] }],
    ['a chord of NaN', { stations: [{ chord: NaN, twistDeg: 0, section: 'naca:0012' }, testWing().stations[1]] }],
    ['an upright sweep', { bays: [{ span: 1, sweepDeg: 90, dihedralDeg: 0 }] }],
    ['one station', { stations: [testWing().stations[0]], bays: [] }],
    ['a twist of 80°', { stations: [{ chord: 1, twistDeg: 80, section: 'naca:0012' }, testWing().stations[1]] }],
    ['a place that is no number', { position: { x: NaN, y: 0, z: 0 } }],
  ])('refuses %s', (_, over) => {
    expect(() => checkSurface(testWing(over as Partial<LiftingSurface>))).toThrow(/Wing/);
  });
  it('refers to the wing, and says when there is none', () => {
    expect(referenceOf([testWing({ role: 'tailplane', id: 't' }), testWing()]).area).toBeCloseTo(4);
    expect(() => referenceOf([])).toThrow(/no lifting surface/);
  });
});

it('finds nearly the same mean line in the points of a section as in its formula', () => {
  const exact = meanLineOf({ kind: 'designation', designation: '4412', trailingEdge: 'published' });
  const found = meanLineOf({ kind: 'coordinates', points: pairsFromOutline(designationOutline('4412')) });
  for (const x of [0.1, 0.3, 0.5, 0.75, 0.95]) {
    expect(Math.abs(found.ordinate(x) - exact.ordinate(x))).toBeLessThan(3e-4);
    expect(Math.abs(found.slope(x) - exact.slope(x))).toBeLessThan(x < 0.2 ? 0.03 : 3e-3);
  }
});
