import { designationOutline } from '../../section';
import { asSolved, ViscousSection, type ViscousConditions } from '..';
import {
  bypassGrowth,
  bypassThreshold,
  evaluateStation,
  grainGrowth,
  laminarFriction,
  QUANTITY,
  slope,
  STATION_RECORD,
} from '.';

const close = (exact: number, other: number, size = 1e-9) =>
  expect(Math.abs(exact - other)).toBeLessThanOrEqual(1e-5 * Math.max(Math.abs(other), size));
const difference = (f: (v: number) => number, v: number) => {
  const h = 1e-6 * Math.abs(v);
  return (f(v + h) - f(v - h)) / (2 * h);
};

describe('transition in a rough stream', () => {
  it('begins on a plate where the published threshold says', () => {
    // Zero pressure gradient: Reθ = 163 + exp(6.91 − Tu).
    for (const tu of [1, 3, 5])
      expect(Math.abs(bypassThreshold(2.61, tu)[0] - (163 + Math.exp(6.91 - tu)))).toBeLessThan(1);
    expect(bypassThreshold(2.4, 2)[0]).toBeGreaterThan(bypassThreshold(2.61, 2)[0]);
    expect(bypassThreshold(3.2, 2)[0]).toBeLessThan(bypassThreshold(2.61, 2)[0]);
    expect(bypassGrowth(2.6, 150, 1e-3, 3)).toBe(0);
    expect(bypassGrowth(2.6, 400, 1e-3, 3)).toBeCloseTo(100, 9);
  });
  it.each([2.3, 2.5, 2.7, 3.4, 6])('has exact slopes at Hk = %f', (hk) => {
    close(
      bypassThreshold(hk, 2)[1],
      difference((h) => bypassThreshold(h, 2)[0], hk),
      1e-3,
    );
    const re = bypassThreshold(hk, 2)[0] * 1.01;
    bypassGrowth(hk, re, 1e-3, 2);
    const [byHk, byRe, , , byTheta] = slope;
    close(
      byHk,
      difference((h) => bypassGrowth(h, re, 1e-3, 2), hk),
      1,
    );
    close(
      byRe,
      difference((r) => bypassGrowth(hk, r, 1e-3, 2), re),
    );
    close(
      byTheta,
      difference((t) => bypassGrowth(hk, re, t, 2), 1e-3),
    );
  });
});

describe('grains', () => {
  const grain = (hk: number, re: number, theta: number, speed: number) => {
    const cf = laminarFriction(hk, re);
    const [byHk, byRe] = slope;
    return grainGrowth(cf, byHk, byRe, theta, speed, 2e6, 5e-4);
  };
  it('trip a layer at the Reynolds number of a grain, and no thicker one', () => {
    const cf = laminarFriction(2.6, 500);
    const speed = Math.sqrt(600 / (0.5 * cf)) / (2e6 * 5e-4);
    expect(grain(2.6, 500, 2.5e-4, 0.9 * speed)).toBe(0);
    expect(grain(2.6, 500, 2.5e-4, 1.1 * speed)).toBeCloseTo(400, 9);
    // Exact slopes in the middle of the rise.
    grain(2.6, 500, 2.5e-4, speed);
    const [byHk, byRe, , bySpeed, byTheta] = slope;
    close(
      byHk,
      difference((h) => grain(h, 500, 2.5e-4, speed), 2.6),
    );
    close(
      byRe,
      difference((r) => grain(2.6, r, 2.5e-4, speed), 500),
    );
    close(
      bySpeed,
      difference((u) => grain(2.6, 500, 2.5e-4, u), speed),
    );
    close(
      byTheta,
      difference((t) => grain(2.6, 500, t, speed), 2.5e-4),
    );
  });
  it('stand in the record of a station with all their slopes', () => {
    const flow = { reynolds: 2e6, mach: 0.2, turbulence: 3, grain: 4e-4 };
    const growth = (v: number[]) => {
      const record = new Float64Array(STATION_RECORD);
      evaluateStation(record, 0, 'laminar', 1, v[0], v[1], v[2], flow);
      return record.slice(QUANTITY.growth, QUANTITY.growth + 5);
    };
    const at = [1.1e-4, 2.6e-4, 1.05];
    const exact = growth(at);
    expect(exact[0]).toBeGreaterThan(0);
    for (let i = 0; i < 3; i++) {
      const by = difference((v) => growth(at.map((w, j) => (i === j ? v : w)))[0], at[i]);
      close(exact[2 + i], by, Math.abs(exact[0]));
    }
  });
});

describe('on a section', () => {
  const section = new ViscousSection(designationOutline('4415'));
  const at = (more: Partial<ViscousConditions>) => asSolved(section.at(0.05, { reynolds: 1e6, ...more }));
  const smooth = at({});
  it('turbulence and grains move transition forward and raise drag; what is too small for that changes nothing', () => {
    const rough = at({ criticalAmplification: 1, turbulence: 3 });
    const waves = at({ criticalAmplification: 1 });
    expect(rough.transitionTop).toBeLessThan(waves.transitionTop - 0.01);
    const grains = at({ grain: 5e-4 });
    expect(grains.transitionTop).toBeLessThan(0.6 * smooth.transitionTop);
    expect(grains.transitionBottom).toBeLessThan(0.6 * smooth.transitionBottom);
    expect(grains.cd).toBeGreaterThan(1.2 * smooth.cd);
    expect(at({ grain: 5e-6, turbulence: 0.5 }).cd).toBeCloseTo(smooth.cd, 9);
  });
  it('a surface may have a critical amplification of its own', () => {
    const top = at({ criticalTop: 4 });
    expect(top.transitionTop).toBeLessThan(smooth.transitionTop - 0.02);
    expect(Math.abs(top.transitionBottom - smooth.transitionBottom)).toBeLessThan(0.03);
    expect(at({ criticalAmplification: 4, criticalBottom: 9 }).transitionTop).toBeCloseTo(top.transitionTop, 3);
  });
  it('refuses what lies outside the measurements', () => {
    expect(() => at({ turbulence: 7 })).toThrow(/0 to 6 %/);
    expect(() => at({ grain: 0.01 })).toThrow(/Grains/);
    expect(() => at({ criticalBottom: 40 })).toThrow(/from 0.1 to 30/);
  });
});
