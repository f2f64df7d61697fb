import { describe, expect, it } from '@jest/globals';
import { planformOf, type LiftingSurface } from '../airframe';
import { airframeMotion, latticeSource, sectionLookup } from '../candidate';
import { keptMeanLine, makeLattice, thinHingeSlopes } from '../lift';
import { RAD } from '../numerics';
import { stickFree } from './stick-free';

const lookup = sectionLookup({});
const lineOf = (key: string) => keptMeanLine(lookup(key));
const surface = (id: string, x: number, chord: number, span: number, more: object = {}): LiftingSurface =>
  ({
    id,
    name: id,
    role: id === 'wing' ? 'wing' : 'tailplane',
    plane: 'horizontal',
    mirrored: true,
    position: { x, y: 0, z: x > 1 ? 0.4 : 0 },
    incidenceDeg: 0,
    stations: [chord, chord].map((c) => ({ chord: c, twistDeg: 0, section: 'naca:0009' })),
    bays: [{ span, sweepDeg: 0, dihedralDeg: 0 }],
    ...more,
  }) as LiftingSurface;
const elevator = (deflectionDeg: number, hinge = 0.7) => ({
  id: 'e',
  name: 'Elevator',
  from: 0,
  to: 1,
  hinge,
  kind: 'symmetric',
  deflectionDeg,
  limitsDeg: [-25, 25],
});
const aircraft = (deflectionDeg: number, x = 0.35, tailSpan = 0.8) => ({
  surfaces: [
    surface('wing', 0, 0.5, 2.5),
    surface('tail', 2.2, 0.35, tailSpan, { controls: [elevator(deflectionDeg)] }),
  ],
  bodies: [],
  massItems: [
    { id: 'a', name: 'a', mass: 4, position: { x: x - 0.5, y: 0, z: 0 } },
    { id: 'b', name: 'b', mass: 4, position: { x: x + 0.5, y: 0, z: 0 } },
    { id: 'c', name: 'c', mass: 2, position: { x, y: 0.8, z: 0 } },
    { id: 'd', name: 'd', mass: 2, position: { x, y: -0.8, z: 0 } },
  ],
});
const motionOf = (c: ReturnType<typeof aircraft>, speed = 20) =>
  airframeMotion(c as never, lookup, lineOf, { speed, altitude: 0, polars: null });

describe('a control that trims', () => {
  it('has the same deflection wherever it stood before, told from zero', () => {
    const [still, turned] = [motionOf(aircraft(0, 0.2), 15), motionOf(aircraft(3, 0.2), 15)];
    expect(Math.abs(still.trim.controls.e)).toBeGreaterThan(1.5 * RAD);
    // The lattice turns normals: drag and products of angles are what is left.
    expect(turned.trim.controls.e).toBeCloseTo(still.trim.controls.e, 2);
    expect(turned.staticMargin).toBeCloseTo(still.staticMargin, 2);
  });

  it('turns further than attached flow asks for, and has less left of each degree', () => {
    const m = motionOf(aircraft(0, -0.15), 12);
    const d = m.trim.controls.e;
    expect(d / RAD).toBeLessThan(-10);
    const { now, least, method } = m.works.e;
    expect(method).toBe('plain-flap');
    expect(now).toBeLessThan(0.97);
    expect(least).toBeLessThan(0.72);
    expect(least).toBeGreaterThan(0.55);
    const small = motionOf(aircraft(0, 0.35));
    expect(m.derivatives.controls.Elevator.Cm / small.derivatives.controls.Elevator.Cm).toBeLessThan(0.8);
  });
});

describe('the margin with the stick free', () => {
  it('is less than with it fixed, by what a floating tail loses', () => {
    const m = motionOf(aircraft(0));
    const free = m.stickFree!;
    expect(free.control).toBe('e');
    expect(free.floats).toBeLessThan(0);
    const { Elevator } = m.derivatives.controls;
    const byHand =
      -(m.derivatives.Cm_alpha + free.floats * Elevator.Cm) / (m.derivatives.CL_alpha + free.floats * Elevator.CL);
    expect(free.staticMargin).toBeCloseTo(byHand, 12);
    expect(free.staticMargin).toBeLessThan(m.staticMargin - 0.02);
  });

  it('has hinge moments that come to those of the thin section on a wide tail', () => {
    // Alone: no downwash of a wing.
    const alone = {
      ...aircraft(0, 0.35, 12).surfaces[1],
      position: { x: 0, y: 0, z: 0 },
      role: 'wing',
    } as LiftingSurface;
    const about = { x: 0.05, y: 0, z: 0 };
    const lattice = makeLattice({ surfaces: [alone], about }, lineOf);
    const source = latticeSource(lattice, { surfaces: [alone], bodies: [], lineOf });
    const { hinge } = stickFree(source, 0.05, 'e', { CL: 5, Cm: -1 }, { CL: 2, Cm: -0.5 })!;
    const thin = thinHingeSlopes(0.7);
    const A = planformOf(alone).aspectRatio;
    const lift = A / (A + 2);
    expect(hinge.perAngle / thin.perAngle).toBeCloseTo(lift, 1);
    // Of the section's turn only what the span takes off its angle is less.
    expect(hinge.perDeflection / thin.perDeflection).toBeGreaterThan(lift);
    expect(hinge.perDeflection / thin.perDeflection).toBeLessThan(1);
  });
});
