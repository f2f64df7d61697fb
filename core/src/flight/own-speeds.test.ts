import type { Body } from '../airframe';
import { GRAVITY } from '../atmosphere';
import type { SectionPolars } from '../lift';
import { madePolar, madeWing } from '../lift/viscous/testing/made-polar';
import { RAD } from '../numerics';
import { SteadyAircraft, type Aircraft } from './aircraft';
import { ownSpeeds, pointSlopes } from './own-speeds';
import { steadySweep } from './sweeps';

const flat = { ordinate: () => 0, slope: () => 0 };
const lookup = () => ({ kind: 'designation', designation: '0012', trailingEdge: 'published' }) as const;
/** The greatest lift grows with the Reynolds number, strongly. */
const polars: SectionPolars[] = [
  {
    section: 's',
    flap: null,
    curves: [1e5, 2e5, 4e5, 8e5, 1.6e6, 3.2e6].map((re) =>
      madePolar(re, { bends: 5 + 2 * Math.log2(re / 1e5), crest: 10 + 2 * Math.log2(re / 1e5) }),
    ),
  },
];
const pod: Body = {
  id: 'pod',
  name: 'Pod',
  mirrored: false,
  loft: 'smooth',
  position: { x: -0.9, y: 0, z: 0 },
  stations: [
    { x: 0, width: 0, height: 0, z: 0, shape: 'ellipse', corner: 0 },
    { x: 0.8, width: 0.4, height: 0.4, z: 0, shape: 'ellipse', corner: 0 },
    { x: 2, width: 0, height: 0, z: 0, shape: 'ellipse', corner: 0 },
  ],
} as Body;
const aircraft: Aircraft = { surfaces: [madeWing(5, 0.5, 0.35)], bodies: [pod], mass: 24, altitude: 600, polars };
const alphas = Array.from({ length: 28 }, (_, i) => (i - 4) * RAD);
const at = (speed: number) => {
  const flown = new SteadyAircraft(aircraft, speed, lookup, () => flat);
  const result = steadySweep(aircraft, speed, { kind: 'alpha', alphas }, lookup, () => flat, flown);
  return { result, flown, own: ownSpeeds(flown, result.points, { alpha: result.alphaCLmax! }, speed) };
};

describe('stall and glide at their own Reynolds numbers', () => {
  const all = [14, 21, 40].map(at);
  it('are the same whatever the speed of the sweep that they begin from', () => {
    const [a, b, c] = all.map(({ own }) => own);
    for (const o of [a, c]) {
      expect(o.stall!.speed / b.stall!.speed).toBeCloseTo(1, 3);
      expect(o.glide.bestGlide!.ratio / b.glide.bestGlide!.ratio).toBeCloseTo(1, 3);
      expect(o.glide.leastSink!.rate / b.glide.leastSink!.rate).toBeCloseTo(1, 3);
    }
    // At one speed each they would lie apart.
    const told = all.map(({ result }) => result.CLmax!);
    expect(Math.max(...told) / Math.min(...told)).toBeGreaterThan(1.08);
  });
  it('carry the weight just there: slower level flight finds no angle', () => {
    const { own, flown } = all[1];
    const { speed, CL } = own.stall!;
    const { area } = flown.reference;
    expect(0.5 * flown.flowAt(speed).density * speed ** 2 * area * CL).toBeCloseTo(24 * GRAVITY, 1);
    const level = steadySweep(
      aircraft,
      21,
      { kind: 'level', speeds: [1.01 * speed, 0.985 * speed] },
      lookup,
      () => flat,
    );
    expect(level.points.map((p) => p.status === 'unsolved')).toEqual([false, true]);
  });
  it('are found beyond a sweep that ends before the stall, and are none where nothing lifts', () => {
    const { flown, result, own } = all[1];
    const short = ownSpeeds(flown, result.points.slice(0, 8), null, 21);
    expect(short.stall!.speed / own.stall!.speed).toBeCloseTo(1, 3);
    const none = ownSpeeds(flown, result.points.slice(0, 1), null, 21);
    expect([none.stall, none.glide.bestGlide]).toEqual([null, null]);
  });
});

describe('slopes of a sweep', () => {
  it('are those of its own points, bodies included', () => {
    const { result } = all();
    const slopes = pointSlopes(result.points, result.momentReference.x, result.reference.chord)!;
    const i = alphas.findIndex((a) => Math.abs(a) < 1e-9);
    const [down, up] = [result.points[i - 1], result.points[i + 1]];
    expect(slopes.momentSlope).toBeCloseTo((up.Cm - down.Cm) / (2 * RAD), 3);
    expect(slopes.liftSlope).toBeCloseTo((up.CL - down.CL) / (2 * RAD), 2);
    expect(slopes.neutralPoint).toBeCloseTo(
      result.momentReference.x - (slopes.momentSlope / slopes.liftSlope) * result.reference.chord,
      12,
    );
    // Two points give their line, one gives none; a sweep that does not reach 0 tells its nearest end.
    expect(pointSlopes(result.points.slice(i, i + 2), 0, 1)!.liftSlope).toBeCloseTo(
      (up.CL - result.points[i].CL) / RAD,
      9,
    );
    expect(pointSlopes(result.points.slice(i, i + 1), 0, 1)).toBeNull();
    expect(pointSlopes(result.points.slice(i + 3), 0, 1)!.alpha).toBeCloseTo(3 * RAD, 12);
  });
  const all = () => at(21);
});
