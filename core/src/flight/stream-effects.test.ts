import { describe, expect, it } from '@jest/globals';
import type { Body, LiftingSurface } from '../airframe';
import { airframeMotion, evaluateCandidate, sectionLookup } from '../candidate';
import { carryOverFactors, keptMeanLine, lossAt, makeLattice, wakeSection } from '../lift';
import { engineSchema, propellerThrust, slipstreamAt } from '../propulsion';
import { streamFactors, withStreamEffects } from '.';

const lookup = sectionLookup({});
const lineOf = (key: string) => keptMeanLine(lookup(key));
const surface = (id: string, x: number, z: number, chord: number, span: number, more: object = {}): LiftingSurface =>
  ({
    id,
    name: id,
    role: id === 'wing' ? 'wing' : 'tailplane',
    plane: 'horizontal',
    mirrored: true,
    position: { x, y: 0, z },
    incidenceDeg: 0,
    stations: [chord, chord].map((c) => ({ chord: c, twistDeg: 0, section: 'naca:1410' })),
    bays: [{ span, sweepDeg: 0, dihedralDeg: 0 }],
    ...more,
  }) as LiftingSurface;
const wing = surface('wing', 0, 0, 0.5, 2.5);
const tailAt = (z: number, more: object = {}) => surface('tail', 2.2, z, 0.3, 0.7, more);
const body = (radius: number): Body =>
  ({
    id: 'body',
    name: 'Body',
    position: { x: -0.8, y: 0, z: 0 },
    mirrored: false,
    stations: [0, 0.25, 0.75, 1].map((s) => ({
      x: 4 * s,
      width: s === 0 || s === 1 ? 0 : 2 * radius,
      height: s === 0 || s === 1 ? 0 : 2 * radius,
      z: 0,
      upper: 2,
      lower: 2,
    })),
    ends: { nose: 'round', tail: 'round' },
  }) as unknown as Body;
const of = (surfaces: LiftingSurface[], more: object = {}) => ({
  surfaces,
  bodies: [],
  speed: 22,
  altitude: 0,
  mass: 12,
  ...more,
});

describe('the wake of a wing', () => {
  it('is that of the formulas: deepest at the edge, wider and weaker behind', () => {
    const [near, far] = [wakeSection(0.01, 0.5), wakeSection(0.01, 3)];
    expect(far.loss).toBeCloseTo((2.42 * 0.1) / 3.3, 10);
    expect(far.halfWidth).toBeCloseTo(0.68 * Math.sqrt(0.01 * 3.15), 10);
    expect(near.loss).toBeGreaterThan(far.loss);
    expect(near.halfWidth).toBeLessThan(far.halfWidth);
    expect(lossAt(far, 0)).toBe(far.loss);
    expect(lossAt(far, far.halfWidth)).toBe(0);
    // Its momentum is the section's drag, to first order half of the loss of pressure times the width twice over.
    const momentum = far.loss * far.halfWidth;
    expect(momentum / 0.01).toBeGreaterThan(0.7);
    expect(momentum / 0.01).toBeLessThan(1.1);
  });

  it('meets a tail that lies in it, and passes one that is above or ahead', () => {
    const at = (z: number) => streamFactors(of([wing, tailAt(z)]), lookup, lineOf).tail.wake;
    const losses = Array.from({ length: 31 }, (_, k) => 1 - at(-0.3 + 0.02 * k));
    const most = Math.max(...losses);
    expect(most).toBeGreaterThan(0.04);
    expect(most).toBeLessThan(0.15);
    // The wake goes up with the stream and down with the downwash: its middle stays near the chord plane.
    const middle = -0.3 + 0.02 * losses.indexOf(most);
    expect(Math.abs(middle)).toBeLessThan(0.15);
    expect(at(0.8)).toBe(1);
    const ahead = surface('tail', -1.5, 0, 0.3, 0.7);
    expect(streamFactors(of([wing, ahead]), lookup, lineOf).tail.wake).toBe(1);
  });
});

describe('a slipstream', () => {
  it('has the momentum of the thrust far behind, and twice the speed added that it has at the disc', () => {
    const [T, D, V, rho] = [40, 0.5, 20, 1.2];
    const [disc, far] = [slipstreamAt(T, D, V, rho, 0), slipstreamAt(T, D, V, rho, 1e4)];
    expect(far.speedRatio - 1).toBeCloseTo(2 * (disc.speedRatio - 1), 6);
    const mass = rho * Math.PI * far.radius ** 2 * far.speedRatio * V;
    expect(mass * V * (far.speedRatio - 1)).toBeCloseTo(T, 3);
    expect(disc.radius).toBeCloseTo(0.25, 10);
    // The ideal propeller of that power has this thrust.
    const power = T * V * disc.speedRatio;
    expect(propellerThrust(power, D, rho, V)).toBeCloseTo(T, 2);
  });

  it('adds dynamic pressure to a tail behind a propeller, by the share of the span that it covers', () => {
    const engine = engineSchema.parse({
      kind: 'constant',
      thrust: 100,
      position: { x: -0.5, y: 0, z: 0 },
    });
    expect(streamFactors(of([wing, tailAt(0)], { engine }), lookup, lineOf).tail.slipstream).toBe(1);
    const prop = (diameter: number, x = -0.5) =>
      streamFactors(
        of([wing, tailAt(0)], {
          engine: engineSchema.parse({ kind: 'propeller', power: 500, diameter, position: { x, y: 0, z: 0 } }),
        }),
        lookup,
        lineOf,
      ).tail.slipstream;
    expect(prop(0.5)).toBeGreaterThan(1.01);
    expect(prop(0.5, 4)).toBe(1);
    const share = (slipstreamAt(9, 0.5, 22, 1.225, 2.7).radius * 2) / 1.4;
    expect((prop(0.5) - 1) / (slipstreamAt(9, 0.5, 22, 1.225, 2.7).speedRatio ** 2 - 1)).toBeGreaterThan(0.4 * share);
  });
});

describe('lift carried over to a body', () => {
  it('is that of slender bodies: 1 + τ squared in all, a wing that is not there all on the body', () => {
    for (const t of [0.05, 0.2, 0.5, 0.8]) {
      const { wing: own, body: carried } = carryOverFactors(t);
      expect(own + carried).toBeCloseTo((1 + t) ** 2, 12);
      expect(own).toBeGreaterThan(1);
      expect(own).toBeLessThan(2);
    }
    expect(carryOverFactors(0)).toEqual({ wing: 1, body: 0 });
    // TR-1307's chart 1 has 1.16 and 0.28 at a fifth.
    expect(carryOverFactors(0.2).wing).toBeCloseTo(1.16, 2);
    expect(carryOverFactors(0.2).body).toBeCloseTo(0.28, 2);
    expect(carryOverFactors(0.999).wing).toBeCloseTo(2, 1);
  });

  it('changes the lift of a wing through a body by little where the body is slim, and none without one', () => {
    const factor = (radius: number) =>
      streamFactors(of([wing, tailAt(0.6)], { bodies: [body(radius)] }), lookup, lineOf).wing.carryOver;
    expect(streamFactors(of([wing, tailAt(0.6)]), lookup, lineOf).wing.carryOver).toBe(1);
    expect(Math.abs(factor(0.05) - 1)).toBeLessThan(0.02);
    expect(Math.abs(factor(0.3) - 1)).toBeLessThan(0.1);
    expect(factor(0.05)).not.toBe(1);
  });
});

describe('factors on a surface', () => {
  it('are on its forces alone, and change the margin as the tail’s lift does', () => {
    const about = { x: 0.2, y: 0, z: 0 };
    const at = (ratio?: number) =>
      makeLattice({ surfaces: [wing, tailAt(0.3, ratio ? { pressureRatio: ratio } : {})], about }, lineOf);
    const [one, less] = [at(), at(0.8)].map((l) => l.coefficients({ alpha: 0.05 }));
    const lattice = makeLattice({ surfaces: [wing, tailAt(0.3)], about }, lineOf);
    const whole = lattice.at({ alpha: 0.05 });
    const tail = whole.strips.filter((s) => s.id === 'tail').reduce((sum, s) => sum + 2 * s.cl * s.chord * s.width, 0);
    const { area } = lattice.reference;
    expect((one.CL - less.CL) / ((0.2 * tail) / area)).toBeCloseTo(1, 1);
  });

  it('count where they are switched on: the same in Balance and Motion', () => {
    const effects = { streamEffects: { wake: true } };
    const candidate = (more: object) => ({
      surfaces: [
        wing,
        tailAt(0.02, {
          ...more,
          controls: [
            {
              id: 'e',
              name: 'E',
              from: 0,
              to: 1,
              hinge: 0.7,
              kind: 'symmetric',
              deflectionDeg: 0,
              limitsDeg: [-25, 25],
            },
          ],
        }),
      ],
      bodies: [],
      massItems: [
        { id: 'a', name: 'a', mass: 6, position: { x: -0.2, y: 0.4, z: 0 } },
        { id: 'b', name: 'b', mass: 6, position: { x: 0.5, y: -0.4, z: 0 } },
      ],
      reference: null,
      sweep: { fromDeg: -4, toDeg: 12, stepDeg: 1 },
    });
    const brief = { speed: 22, altitude: 0, mass: 12 };
    const margin = (more: object) =>
      evaluateCandidate(brief, candidate(more) as never, lookup, lineOf).balance!.staticMargin;
    const moved = airframeMotion(candidate(effects) as never, lookup, lineOf, { speed: 22, altitude: 0, polars: null });
    expect(margin(effects)).toBeLessThan(margin({}) - 0.002);
    expect(moved.staticMargin).toBeCloseTo(margin(effects), 9);
    const off = withStreamEffects(of(candidate({}).surfaces), lookup, lineOf);
    expect(off[1]).toEqual(candidate({}).surfaces[1]);
  });
});
