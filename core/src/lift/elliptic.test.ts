import { ellipseOf, ellipticLoad, type StripLoad } from '.';

/** Strips of one side with a load, cl·c over the mean chord. */
const strips = (load: (eta: number) => number, count = 400, chord = 0.5): StripLoad[] =>
  Array.from({ length: count }, (_, i) => {
    const station = (i + 0.5) / count;
    const cl = load(station) / chord;
    return {
      surface: 0,
      id: 'wing',
      station,
      y: station,
      z: 0,
      chord,
      width: 1 / count,
      circulation: 0,
      cl,
      inducedAngle: 0,
    };
  });

describe('deviation from the elliptic load', () => {
  it('is nothing for an ellipse, of either sign', () => {
    for (const CL of [0.6, -0.4]) {
      const fit = ellipseOf(
        strips((eta) => ellipticLoad(CL, eta)),
        1,
      );
      expect(fit.CL).toBeCloseTo(CL, 4);
      expect(fit.deviation).toBeLessThan(1e-4);
    }
  });
  it('is that of the closed form for an even load, 22.32 %, however much it is', () => {
    // √(32/(3π²) − 1) over 4/π.
    const exact = Math.sqrt(32 / (3 * Math.PI ** 2) - 1) / (4 / Math.PI);
    expect(exact).toBeCloseTo(0.2232, 4);
    for (const load of [0.2, 1.3])
      expect(
        ellipseOf(
          strips(() => load),
          1,
        ).deviation,
      ).toBeCloseTo(exact, 4);
  });
  it('says at each strip how much more than the ellipse it carries', () => {
    const { differences } = ellipseOf(
      strips(() => 1),
      1,
    );
    expect(differences[0]).toBeCloseTo(1 - 4 / Math.PI, 4);
    expect(differences.at(-1)).toBeGreaterThan(0.9);
  });
  it('has no shape without lift or strips', () => {
    expect(
      ellipseOf(
        strips((eta) => 1 - 2 * eta),
        1,
      ).deviation,
    ).toBeNull();
    expect(ellipseOf([], 1)).toEqual({ CL: 0, deviation: null, differences: [] });
  });
});
