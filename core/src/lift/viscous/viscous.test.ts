import type { LiftingSurface } from '../../airframe';
import { FailedComputation, RAD } from '../../numerics';
import { readDesignation, type MeanLine } from '../../section';
import { liftingLine } from '../lifting-line';
import { madePolar, madeWing as wing } from './testing/made-polar';
import { lineWithPolars } from './line-with-polars';
import { LEAST_REYNOLDS, missingPolars, polarNeeds, reynoldsAbout } from './needs';
import { polarCurve, PolarReader, type PolarCurve, type SectionPolars } from './polar-curve';
import { SectionPolar } from './section-polar';
import { stripPolars } from './strip-polars';
import { ViscousAirframe, type ViscousInput } from './viscous-airframe';
import { analyseViscousLift } from './viscous-sweep';

const flat: MeanLine = { ordinate: () => 0, slope: () => 0 };

const polarsOf = (...curves: PolarCurve[]): SectionPolars[] => [{ section: 's', flap: null, curves }];

const inputOf = (surfaces: LiftingSurface[], polars: SectionPolars[], more: Partial<ViscousInput> = {}) => ({
  surfaces,
  polars,
  speed: 15,
  reynoldsPerMetre: 1e6,
  ...more,
});
const sweepOf = (from: number, to: number, step = 1) =>
  Array.from({ length: Math.round((to - from) / step) + 1 }, (_, i) => (from + i * step) * RAD);
function analyse(input: ReturnType<typeof inputOf>, alphas: number[], line: MeanLine = flat) {
  const airframe = new ViscousAirframe(input, () => line);
  return analyseViscousLift({ surfaces: input.surfaces, alphas, beta: input.beta }, airframe);
}

describe('a polar that is read', () => {
  const reader = new PolarReader(madePolar(1e6));
  const out = new Float64Array(4);
  it('gives its knots back, its slope, zero lift and crest', () => {
    reader.read(4 * RAD, out);
    expect(out[0]).toBeCloseTo(6 * 7 * RAD, 10);
    expect(out[1]).toBeCloseTo(6, 3);
    expect(reader.zeroLift / RAD).toBeCloseTo(-3, 6);
    expect(reader.slope).toBeCloseTo(6, 6);
    expect(reader.highest / RAD).toBeCloseTo(15, 0);
  });
  it('does not overshoot between its knots', () => {
    for (let a = -13.9; a < 23.9; a += 0.1) {
      reader.read(a * RAD, out);
      expect(out[0]).toBeLessThanOrEqual(reader.clMax + 1e-12);
      expect(out[2]).toBeGreaterThan(0.0079);
    }
  });
  it('goes over to a plate beyond its end, without a jump', () => {
    reader.read(24 * RAD, out);
    const at = out.slice();
    reader.read(24.001 * RAD, out);
    expect(Math.abs(out[0] - at[0])).toBeLessThan(1e-3);
    reader.read(90 * RAD, out);
    expect(Math.abs(out[0])).toBeLessThan(1e-6);
    expect(out[2]).toBeCloseTo(2, 6);
  });
  it('refuses knots that are too few or out of order', () => {
    const curve = madePolar(1e6);
    expect(() => new PolarReader({ ...curve, alpha: curve.alpha.slice().reverse() })).toThrow(/order of their angles/);
    expect(() => new PolarReader({ reynolds: 1, alpha: [0, 1], cl: [0, 1], cd: [0, 1], cm: [0, 1] })).toThrow();
    expect(polarCurve(1e6, [])).toBeNull();
  });
  it('lies between two Reynolds numbers, and says where it does not', () => {
    const polar = new SectionPolar({ curves: [madePolar(4e5, { slope: 5 }), madePolar(1e5, { slope: 4 })] });
    const mid = polar.place(2e5);
    const values = new Float64Array(4);
    polar.add(2 * RAD, mid, 1, values);
    expect(values[0]).toBeCloseTo(4.5 * 5 * RAD, 6);
    expect(polar.place(9e4).outside).toBe('below');
    expect(polar.place(5e5).outside).toBe('above');
    expect(polar.place(4e5).outside).toBeNull();
  });
});

describe('strips in balance with their polars', () => {
  it('is the lattice itself where the polar is a thin section’s', () => {
    const thin = madePolar(1e6, { slope: 2 * Math.PI, zero: 0, bends: 30, crest: 40 });
    const input = inputOf([wing(8, 1, 1)], polarsOf(thin));
    const airframe = new ViscousAirframe(input, () => flat);
    const { points } = analyseViscousLift({ surfaces: input.surfaces, alphas: [3 * RAD] }, airframe);
    const plain = airframe.lattice.at({ alpha: 3 * RAD });
    expect(points[0].CL).toBeCloseTo(plain.CL, 9);
    expect(points[0].CDi).toBeCloseTo(plain.CDi, 9);
    expect(points[0].status).toBe('solved');
  });

  it('comes to the section’s own greatest lift and drag on a long wing', () => {
    const polar = madePolar(1e6, { bends: 5, fall: 5 });
    const reader = new PolarReader(polar);
    const { points, CLmax } = analyse(inputOf([wing(40, 1, 1)], polarsOf(polar)), sweepOf(-4, 20));
    // What is missing is the load that falls off over the last chord of each tip.
    expect(Math.abs(CLmax! / reader.clMax - 1)).toBeLessThan(0.022);
    const out = new Float64Array(4);
    for (const p of points.filter((q) => q.alpha > 0 && q.alpha < 12 * RAD)) {
      // At the angle of its middle strip the section has the lift of the middle, and nearly the drag of the wing.
      const { angle, cl } = p.states[0];
      reader.read(angle, out);
      expect(Math.abs(cl / out[0] - 1)).toBeLessThan(0.005);
      expect(Math.abs(p.CDprofile / out[2] - 1)).toBeLessThan(0.1);
    }
  });

  it.each([
    [8, 1],
    [12, 1],
    [20, 1],
    [8, 0.45],
    [12, 0.45],
    [20, 0.45],
  ])('agrees with the lifting line on a wing of aspect ratio %d and taper %d', (aspect, taper) => {
    const root = 2 / (1 + taper);
    const polar = madePolar(1e6);
    const alphas = sweepOf(-2, 23);
    const { points, CLmax } = analyse(inputOf([wing(aspect, root, root * taper)], polarsOf(polar)), alphas);
    const line = lineWithPolars(
      {
        span: aspect,
        chord: (s) => root * (1 + (taper - 1) * s),
        polar: new SectionPolar({ curves: [polar] }),
        reynoldsPerMetre: 1e6,
      },
      alphas,
    );
    points.forEach((p, i) => {
      const q = line[i];
      // Past its stall the line alone has many solutions, and saws.
      if (p.alpha < 17 * RAD) expect(q.converged).toBe(true);
      if (p.alpha < 12 * RAD && p.CL > 0.1) {
        expect(Math.abs(p.CL / q.CL - 1)).toBeLessThan(0.01);
        expect(Math.abs((p.CDi + p.CDprofile) / (q.CDi + q.CDprofile) - 1)).toBeLessThan(0.01);
      }
    });
    expect(Math.abs(CLmax! / Math.max(...line.filter((q) => q.converged).map((q) => q.CL)) - 1)).toBeLessThan(0.02);
  });

  it('has a second way that is the plain lifting line where sections meet the flow on it', () => {
    const chord = (s: number) => 1.2 - 0.4 * s;
    const polar = new SectionPolar({ curves: [madePolar(1e6, { slope: 2 * Math.PI, zero: 0, bends: 30, crest: 40 })] });
    const [{ CL, CDi }] = lineWithPolars(
      { span: 8, chord, polar, reynoldsPerMetre: 1e6, meets: 'quarter' },
      [3 * RAD],
      40,
    );
    const plain = liftingLine({ span: 8, chord, angle: () => 0 }, 3 * RAD);
    expect(CL / plain.CL).toBeCloseTo(1, 6);
    expect(CDi / plain.CDi).toBeCloseTo(1, 6);
  });

  it('stalls at the root of a straight wing, and further out on a pointed one', () => {
    const polar = polarsOf(madePolar(1e6));
    const straight = analyse(inputOf([wing(8, 1, 1)], polar), sweepOf(6, 20));
    const pointed = analyse(inputOf([wing(8, 1.6, 0.4)], polar), sweepOf(6, 20));
    expect(straight.stallBegins!.eta).toBeLessThan(0.2);
    expect(pointed.stallBegins!.eta).toBeGreaterThan(0.5);
    const late = straight.points[straight.points.length - 1];
    expect(late.status).toBe('doubtful');
    expect(late.reason).toMatch(/Stalled: Wing from 0 % to/);
    expect(late.stalled[0]).toMatchObject({ surface: 'wing', from: 0 });
  });

  it('comes through a stall whose lift falls away steeply', () => {
    const { points, CLmax } = analyse(
      inputOf([wing(9, 1, 0.7)], polarsOf(madePolar(1e6, { fall: 60, bends: 13 }))),
      sweepOf(0, 22, 0.5),
    );
    expect(points.every((p) => p.status !== 'unsolved')).toBe(true);
    expect(points[points.length - 1].CL).toBeLessThan(CLmax! - 0.05);
  });

  it('is the same whether sides are held once or twice, and mirrored with the wind', () => {
    const polar = polarsOf(madePolar(1e6));
    const surfaces = [wing(8, 1, 0.6, { bays: [{ span: 4, sweepDeg: 10, dihedralDeg: 4 }] })];
    const alphas = [4 * RAD, 13 * RAD, 17 * RAD];
    const still = analyse(inputOf(surfaces, polar), alphas);
    const hardly = analyse(inputOf(surfaces, polar, { beta: 1e-9 }), alphas);
    const right = analyse(inputOf(surfaces, polar, { beta: 6 * RAD }), alphas);
    const left = analyse(inputOf(surfaces, polar, { beta: -6 * RAD }), alphas);
    alphas.forEach((_, i) => {
      for (const key of ['CL', 'CDprofile', 'Cm', 'CDi'] as const) {
        expect(hardly.points[i][key]).toBeCloseTo(still.points[i][key], 6);
        expect(left.points[i][key]).toBeCloseTo(right.points[i][key], 6);
      }
      for (const key of ['CY', 'Cl', 'Cn'] as const) expect(left.points[i][key]).toBeCloseTo(-right.points[i][key], 6);
    });
    // Dihedral and sweep roll the windward side up.
    expect(right.points[0].Cl).toBeLessThan(0);
  });

  it('counts the drag of a fin in the plane of symmetry, with the wind from ahead as with next to none from the side', () => {
    const polar = [...polarsOf(madePolar(1e6)), { section: 't', flap: null, curves: [madePolar(1e6, { zero: 0 })] }];
    const fin: LiftingSurface = {
      ...wing(2, 0.5, 0.3),
      id: 'fin',
      name: 'Fin',
      role: 'fin',
      plane: 'vertical',
      mirrored: false,
      position: { x: 4, y: 0, z: 0.2 },
      stations: [0.5, 0.3].map((chord) => ({ chord, twistDeg: 0, section: 't' })),
      bays: [{ span: 0.8, sweepDeg: 20, dihedralDeg: 0 }],
    };
    const alphas = [2 * RAD, 8 * RAD];
    const alone = analyse(inputOf([wing(8, 1, 0.6)], polar), alphas);
    const still = analyse(inputOf([wing(8, 1, 0.6), fin], polar), alphas);
    const hardly = analyse(inputOf([wing(8, 1, 0.6), fin], polar, { beta: 1e-9 }), alphas);
    alphas.forEach((_, i) => {
      for (const key of ['CL', 'CD', 'CDprofile', 'Cm'] as const)
        expect(hardly.points[i][key]).toBeCloseTo(still.points[i][key], 6);
      const { profiles, CDprofile } = still.points[i];
      expect(profiles.fin).toBeGreaterThan(1e-4);
      expect(CDprofile - alone.points[i].CDprofile).toBeCloseTo(profiles.fin, 5);
    });
  });

  it('holds a wing by itself as it holds one with its mirror image', () => {
    const polar = polarsOf(madePolar(1e6));
    const half = wing(6, 1, 1);
    const fin: LiftingSurface = {
      ...wing(2, 0.5, 0.5),
      id: 'fin',
      name: 'Fin',
      role: 'fin',
      plane: 'vertical',
      mirrored: false,
      position: { x: 4, y: 0.3, z: 0 },
      bays: [{ span: 0.6, sweepDeg: 0, dihedralDeg: 0 }],
    };
    // A fin off the plane of symmetry makes every surface explicit.
    const withFin = analyse(inputOf([half, fin], polar), [5 * RAD, 16 * RAD]);
    const without = analyse(inputOf([half], polar), [5 * RAD, 16 * RAD]);
    withFin.points.forEach((p, i) => expect(Math.abs(p.CL / without.points[i].CL - 1)).toBeLessThan(0.02));
  });

  it('reads a swept wing in the flow normal to its span', () => {
    const polar = madePolar(1e6, { slope: 2 * Math.PI, zero: 0, bends: 30, crest: 40 });
    const bent = madePolar(1e6, { zero: 0 });
    const swept = wing(30, 1, 1, { bays: [{ span: 15, sweepDeg: 35, dihedralDeg: 0 }] });
    const airframe = new ViscousAirframe(inputOf([swept], polarsOf(polar)), () => flat);
    const plain = airframe.lattice.at({ alpha: 4 * RAD });
    const { points } = analyseViscousLift({ surfaces: [swept], alphas: [4 * RAD] }, airframe);
    expect(points[0].CL).toBeCloseTo(plain.CL, 6);
    const { CLmax } = analyse(inputOf([swept], polarsOf(bent)), sweepOf(4, 24));
    // By simple sweep theory the greatest lift falls with the square of the cosine.
    const expected = new PolarReader(bent).clMax * Math.cos(35 * RAD) ** 2;
    expect(Math.abs(CLmax! / expected - 1)).toBeLessThan(0.12);
  });

  it('turns a flap by polars of the flapped section, between their steps', () => {
    const flapped = (deflectionDeg: number): LiftingSurface =>
      wing(20, 1, 1, {
        controls: [
          {
            id: 'flap',
            name: 'Flap',
            from: 0,
            to: 1,
            hinge: 0.75,
            kind: 'symmetric',
            deflectionDeg,
            limitsDeg: [-30, 30],
          },
        ],
      });
    const polars: SectionPolars[] = [
      { section: 's', flap: null, curves: [madePolar(1e6)] },
      { section: 's', flap: { hinge: 0.75, angleDeg: 5 }, curves: [madePolar(1e6, { zero: -5 })] },
      { section: 's', flap: { hinge: 0.75, angleDeg: 10 }, curves: [madePolar(1e6, { zero: -7 })] },
    ];
    const at = (d: number) => analyse(inputOf([flapped(d)], polars), [2 * RAD]).points[0].CL;
    const [none, five, seven, ten] = [at(0), at(5), at(7.5), at(10)];
    expect(five).toBeGreaterThan(none + 0.1);
    expect(seven).toBeCloseTo(0.5 * (five + ten), 2);
    const needs = polarNeeds([flapped(7.5)], [1e6]);
    expect(needs.map((n) => n.flap?.angleDeg)).toEqual([5, 10]);
    // Unsolved throughout: the polars next to it stand in, and it is told.
    const gap = [...polars, { section: 's', flap: { hinge: 0.75, angleDeg: 15 }, curves: [] }];
    const [beyond] = analyse(inputOf([flapped(15)], gap), [2 * RAD]).points;
    expect(beyond.status).toBe('doubtful');
    expect(beyond.reason).toMatch(/No polar with a flap of 15° can be read; those of 10° are used/);
    expect(Math.abs(beyond.CL - ten)).toBeLessThan(0.02);
    const [bare] = analyse(inputOf([flapped(-10)], polars), [2 * RAD]).points;
    expect(bare.reason).toMatch(/flap of -10° can be read; those of 0° are used/);
  });

  it('takes moment and drag from the polars', () => {
    const polar = madePolar(1e6);
    const line = readDesignation('4415').meanLine;
    const input = inputOf([wing(60, 1, 1)], polarsOf(polar));
    const { points } = analyse(input, [2 * RAD], line);
    expect(points[0].Cm).toBeCloseTo(-0.07, 2);
  });

  it('says what it was not told', () => {
    const polar = polarsOf(madePolar(2e6));
    const low = analyse(inputOf([wing(8, 1, 1)], polar), [3 * RAD]).points[0];
    expect(low.status).toBe('doubtful');
    expect(low.reason).toMatch(/below the lowest Reynolds number/);
    const steep = analyse(inputOf([wing(8, 1, 1)], polarsOf(madePolar(1e6))), [45 * RAD]).points[0];
    expect(steep.status).not.toBe('solved');
    expect(steep.CL).toBeLessThan(1.5);
    expect(() => analyse(inputOf([wing(8, 1, 1)], []), [0])).toThrow(FailedComputation);
    expect(() => analyse(inputOf([wing(8, 1, 1)], polar), [Math.PI / 2])).toThrow(/±45°/);
    expect(() => analyse(inputOf([wing(8, 1, 1)], polar, { reynoldsPerMetre: 0 }), [0])).toThrow(/speed/);
  });
});

describe('the polars that are needed', () => {
  it('are steps about every Reynolds number of a strip', () => {
    expect(reynoldsAbout(200_000)).toEqual([150_000, 250_000]);
    expect(reynoldsAbout(250_500)).toEqual([250_000]);
    expect(reynoldsAbout(10)).toEqual([LEAST_REYNOLDS]);
    expect(reynoldsAbout(9e6)).toEqual([6_000_000, 10_000_000]);
  });
  it('are those of all chords and speeds, less those that are there', () => {
    const needs = polarNeeds([wing(8, 1, 0.5)], [1e6]);
    expect(needs.map((n) => n.reynolds)).toEqual([400_000, 600_000, 1_000_000]);
    const have: SectionPolars[] = [{ section: 's', flap: null, curves: [madePolar(600_000)] }];
    expect(missingPolars(needs, have).map((n) => n.reynolds)).toEqual([400_000, 1_000_000]);
  });
  it('are told strip by strip, with how much of each is read', () => {
    const tapered = wing(8, 1, 0.5);
    const have = new Map([['s', [1_000_000, 600_000]]]);
    const list = stripPolars([tapered], [], have, 1e6);
    expect(list.length).toBeGreaterThan(5);
    for (const { surface, station, chord, reynolds, uses } of list) {
      expect(surface).toBe(tapered.id);
      expect(chord).toBeCloseTo(1 - 0.5 * station, 9);
      expect(reynolds).toBeCloseTo(1e6 * chord, 3);
      expect(uses).toHaveLength(1);
      const [{ reynolds: pair, share, outside, weight }] = uses;
      expect(weight).toBeCloseTo(1, 12);
      if (reynolds < 594_000) expect([pair, share, outside]).toEqual([[600_000, 600_000], 0, 'below']);
      else if (reynolds > 600_000) {
        expect(pair).toEqual([600_000, 1_000_000]);
        expect(600_000 * (10 / 6) ** share).toBeCloseTo(reynolds, 3);
        // As the strips themselves place it.
        const own = new SectionPolar({ curves: [madePolar(600_000), madePolar(1_000_000)] }).place(reynolds);
        expect(share).toBeCloseTo(own.share, 12);
      }
    }
    expect(stripPolars([tapered], [], new Map(), 1e6).every((s) => s.uses.length === 0)).toBe(true);
  });
});
