import { madeWing } from '../lift/viscous/testing/made-polar';
import { methodFindings } from '../findings';
import { freshCandidate, type CandidatePart } from '../project';
import { linearBesideFlight, pairsOfFlown, seriesRate, seriesRoot, type MotionInput } from '.';

const control = (id: string, kind: string) =>
  ({ id, name: id, kind, from: 0, to: 1, hinge: 0.7, deflectionDeg: 0, limitsDeg: [-25, 25] }) as const;
/** A tailed aircraft. @param centre x of its mass: ahead of 0.35 the short period swings. */
const tailed = (centre: number, massOf = 20): CandidatePart =>
  ({
    ...freshCandidate('t', 'T', 'Tailed', 0),
    surfaces: [
      { ...madeWing(5, 0.5, 0.4), bays: madeWing(5, 0.5, 0.4).bays.map((b) => ({ ...b, dihedralDeg: 4 })) },
      {
        ...madeWing(1.4, 0.32, 0.28),
        id: 'tail',
        name: 'Tail',
        role: 'tailplane',
        position: { x: 2.2, y: 0, z: 0.2 },
        controls: [control('elevator', 'symmetric')],
      },
      {
        ...madeWing(1, 0.4, 0.25),
        id: 'fin',
        name: 'Fin',
        role: 'fin',
        plane: 'vertical',
        mirrored: false,
        position: { x: 2.2, y: 0, z: 0 },
      },
    ],
    massItems: [
      {
        id: 'm',
        name: 'All',
        mass: massOf,
        position: { x: centre, y: 0, z: 0 },
        inertia: { Ixx: 9, Iyy: 8, Izz: 16, Ixz: 0.3 },
      },
    ],
  }) as unknown as CandidatePart;
const inputOf = (candidate: CandidatePart, more: Partial<MotionInput> = {}): MotionInput => ({
  candidate,
  sections: { s: { kind: 'designation', designation: '0009', trailingEdge: 'published' } } as MotionInput['sections'],
  speed: 22,
  altitude: 800,
  polars: null,
  ...more,
});

describe('roots of a series', () => {
  it('are those of a sampled oscillation, growing or dying, and of one that does not swing', () => {
    for (const [re, im] of [
      [-0.3, 2],
      [0.05, 0.4],
    ]) {
      const x = Array.from({ length: 61 }, (_, k) => Math.exp(re * k * 0.1) * Math.cos(im * k * 0.1 + 0.7));
      const root = seriesRoot(x, 0.1)!;
      expect(root.re).toBeCloseTo(re, 9);
      expect(root.im).toBeCloseTo(im, 9);
    }
    const falling = Array.from({ length: 61 }, (_, k) => -Math.exp(-1.4 * k * 0.1));
    expect(seriesRate(falling, 0.1)).toBeCloseTo(-1.4, 9);
    expect(seriesRoot(falling, 0.1)).toBeNull();
    expect(seriesRate([0, 0, 0, 0], 0.1)).toBeNull();
    expect(seriesRoot([0, 0, 0, 0], 0.1)).toBeNull();
  });
});

describe('the linear model beside flights', () => {
  it('has the modes of the full equations', () => {
    const modes = linearBesideFlight(inputOf(tailed(0.12)));
    expect(modes.map((m) => m.linear.name)).toEqual(
      expect.arrayContaining(['phugoid', 'short period', 'Dutch roll', 'roll']),
    );
    for (const { linear, flown } of modes) {
      const size = Math.hypot(linear.re, linear.im);
      expect(Math.hypot(flown.re - linear.re, flown.im - linear.im) / size).toBeLessThan(0.02);
    }
    const pairs = pairsOfFlown(modes);
    expect(pairs.every((p) => p.agree)).toBe(true);
    expect(methodFindings(pairs)).toEqual([]);
  });
  it('has them with a thrust line beside the centre and a power that falls with speed', () => {
    const engine = { kind: 'power', power: 900, efficiency: 0.7, position: { x: -0.5, y: 0, z: 0.15 }, pitchDeg: 2 };
    const modes = linearBesideFlight(inputOf({ ...tailed(0.12), engine } as unknown as CandidatePart));
    const phugoid = modes.find((m) => m.linear.name === 'phugoid')!;
    expect(
      -phugoid.flown.re / Math.hypot(phugoid.flown.re, phugoid.flown.im) / phugoid.linear.dampingRatio,
    ).toBeCloseTo(1, 1);
  });
  it('tells a pair that differs, with both methods', () => {
    const modes = linearBesideFlight(inputOf(tailed(0.12)));
    const wrong = modes.map((m) => (m.linear.name === 'phugoid' ? { ...m, flown: { re: -0.2, im: 0.7 } } : m));
    const [finding] = methodFindings(pairsOfFlown(wrong));
    expect((finding.facts as { pairs: object[] }).pairs).toEqual(
      expect.arrayContaining([
        expect.objectContaining({ quantity: 'phugoid', methods: ['linear-model', 'flight'] }),
        expect.objectContaining({ quantity: 'phugoid-damping' }),
      ]),
    );
  });
  it('answers for an aircraft that diverges: the modes that grow are flown only as long as they are small', () => {
    const modes = linearBesideFlight(inputOf(tailed(0.62)));
    expect(modes.map((m) => m.linear.name)).toContain('Dutch roll');
    for (const { flown } of modes) expect(Number.isFinite(flown.re + flown.im)).toBe(true);
  });
});
