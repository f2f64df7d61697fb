import type { Body } from '../airframe';
import { BodyFlow, makeLattice, slenderBodies } from '.';
import { madeWing } from './viscous/testing/made-polar';

const flat = () => ({ ordinate: () => 0, slope: () => 0 });
const hull = (x: number, length: number, width: number, z = 0): Body =>
  ({
    id: 'hull',
    name: 'Hull',
    mirrored: false,
    loft: 'smooth',
    position: { x, y: 0, z },
    stations: [
      [0, 0],
      [0.15, 0.75],
      [0.4, 1],
      [0.7, 0.8],
      [1, 0],
    ].map(([t, s]) => ({ x: t * length, width: width * s, height: width * s, z: 0, shape: 'ellipse', corner: 0 })),
  }) as unknown as Body;
const wing = madeWing(6, 1, 1);
const about = { x: 0.25, y: 0, z: 0 };
const moment = (flow: BodyFlow) => (flow.forces({ alpha: 0.02 }).my - flow.forces({ alpha: -0.02 }).my) / 0.04;

describe('bodies in the flow of the wing', () => {
  const lattice = makeLattice({ surfaces: [wing], about }, flat);
  it('turn more ahead of the wing, less behind it, and not at all where its chord leads the flow', () => {
    const pair = (b: Body) => [moment(new BodyFlow(lattice, [b])), moment(new BodyFlow(lattice, [b], true))];
    const [ahead, aheadAlone] = pair(hull(-2.2, 2, 0.3));
    expect(ahead / aheadAlone).toBeGreaterThan(1.1);
    expect(ahead / aheadAlone).toBeLessThan(1.6);
    const [behind, behindAlone] = pair(hull(1.2, 2, 0.3));
    expect(behind / behindAlone).toBeLessThan(0.75);
    expect(behind / behindAlone).toBeGreaterThan(0.2);
    const [within] = pair(hull(0.02, 0.96, 0.2));
    expect(Math.abs(within)).toBeLessThan(1e-3);
  });
  it('are alone far from every wing', () => {
    const far = hull(-200, 4, 0.5);
    const [a, b] = [moment(new BodyFlow(lattice, [far])), moment(new BodyFlow(lattice, [far], true))];
    expect(a / b).toBeCloseTo(1, 3);
  });
  it('have the integral of area times cross-flow as their moment, by the lattice’s own velocities', () => {
    const b = hull(-2.4, 2.1, 0.3, 0.2);
    const [slender] = slenderBodies([b]);
    const state = { alpha: 0.05 };
    const places = Float64Array.from(slender.x.flatMap((x, i) => [x, 0, slender.z[i]]));
    const wash = lattice.washAt(places, ['x', 'z']);
    let sum = 0;
    for (let i = 1; i < slender.x.length; i++) {
      const up = [i - 1, i].map(
        (k) =>
          slender.up[k] *
          (Math.sin(0.05) + Math.cos(0.05) * wash.get('x')![3 * k + 2] + Math.sin(0.05) * wash.get('z')![3 * k + 2]),
      );
      sum += 0.5 * (up[0] + up[1]) * (slender.x[i] - slender.x[i - 1]);
    }
    const { my, fz } = new BodyFlow(lattice, [b]).forces(state);
    expect(Math.abs(my / (slender.factor * Math.cos(0.05) * sum) - 1)).toBeLessThan(0.02);
    // A closed body carries no force of its own.
    expect(Math.abs(fz)).toBeLessThan(1e-9);
  });
  it('hold past the stall only what circulation is left, and move with the moment reference', () => {
    const flow = new BodyFlow(lattice, [hull(-2.2, 2, 0.3)]);
    const [full, none] = [1, 0].map((share) => flow.forces({ alpha: 0.1 }, share).my);
    expect(none).toBeCloseTo(new BodyFlow(lattice, [hull(-2.2, 2, 0.3)], true).forces({ alpha: 0.1 }).my, 9);
    expect(full).toBeGreaterThan(none);
    const moved = flow.movedTo(lattice.movedTo({ x: 2, y: 0, z: 0 }));
    // A couple is the same about every point.
    expect(moved.forces({ alpha: 0.1 }).my).toBeCloseTo(full, 9);
  });
});
