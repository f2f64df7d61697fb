import { CoupledMemory, KEPT } from '../../kernels';
import { RAD } from '../../numerics';
import { evaluateStation, STATION_RECORD, type LayerKind } from '../boundary-layer';
import { designationOutline } from '../../section';
import { InviscidSection } from '../inviscid';
import { DEFAULT_SPREAD } from '../panelling';
import { SectionCoupling } from './coupling';
import { CoupledEquations } from './equations';
import { deadAir } from './layers';
import { freshLayers } from './start';

const KINDS: LayerKind[] = ['laminar', 'turbulent', 'wake'];

/** Largest difference of two lists, of the size of their numbers. */
function apart(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let most = 0;
  for (let i = 0; i < a.length; i++)
    most = Math.max(most, Math.abs(a[i] - b[i]) / Math.max(1e-9, Math.abs(a[i]), Math.abs(b[i])));
  return most;
}

describe('compiled closures', () => {
  it.each([0, 0.6])('leave the records of those in TypeScript at Mach %d', (mach) => {
    const shapes = [1.0005, 1.002, 1.03, 1.12, 1.4, 2.1, 2.59, 3.2, 3.999, 5, 7.39, 7.5, 14];
    const thicknesses = [2e-6, 4e-5, 3e-4, 0.008];
    const cases = KINDS.flatMap((kind) =>
      shapes.flatMap((shape) => thicknesses.map((theta) => ({ kind, shape, theta }))),
    );
    const memory = new CoupledMemory(cases.length);
    expect(memory.evaluates).toBe(true);
    memory.stream.set([1.3e6, mach, 0]);
    const expected = new Float64Array(STATION_RECORD);
    cases.forEach(({ kind, shape, theta }, i) => {
      memory.order[i] = i;
      memory.kind[i] = KINDS.indexOf(kind);
      memory.signs[i] = i % 2 ? -1 : 1;
      memory.c[i] = 0.03 + 1e-4 * i;
      memory.theta[i] = theta;
      memory.dead[i] = kind === 'wake' && i % 3 === 0 ? 0.1 * theta : 0;
      const u = 0.7 + 0.004 * i;
      memory.velocity[i] = memory.signs[i] * u;
      memory.defect[i] = memory.signs[i] * u * (shape * theta + memory.dead[i]);
    });
    memory.recordStations(cases.length);
    cases.forEach(({ kind, theta }, i) => {
      const u = memory.signs[i] * memory.velocity[i];
      const displacement = (memory.signs[i] * memory.defect[i]) / u;
      expected.fill(0);
      evaluateStation(
        expected,
        0,
        kind,
        memory.c[i],
        theta,
        displacement,
        u,
        { reynolds: 1.3e6, mach },
        memory.dead[i],
      );
      const found = memory.record.subarray(i * STATION_RECORD, (i + 1) * STATION_RECORD);
      // Close to H = 1 what is left of H − 1 has few digits.
      expect(apart(found, expected)).toBeLessThan(1e-8);
    });
  });

  it.each([
    ['4415', 1e6, 0.3, 4],
    ['0009', 6e4, 0, -3],
  ])('leave the residuals and responses of those in TypeScript on %s at Re %d', (name, reynolds, mach, deg) => {
    const solver = new InviscidSection(designationOutline(name), { ...DEFAULT_SPREAD, panels: 90 });
    const kept: Float64Array[] = [];
    const residuals: number[] = [];
    for (const compiled of [true, false]) {
      const coupling = new SectionCoupling(solver).at(deg * RAD);
      const equations = new (class extends CoupledEquations {
        get responses() {
          return this.kept.slice(0, KEPT * this.total);
        }
      })(solver.nodes, coupling.wake, compiled);
      const dead = deadAir(0.002, coupling);
      const conditions = { reynolds, mach };
      equations.load(coupling, conditions, dead, freshLayers(solver.nodes, coupling, conditions, dead));
      residuals.push(equations.evaluate());
      kept.push(equations.responses);
    }
    expect(residuals[0]).toBeCloseTo(residuals[1], 9);
    const size = Math.max(...kept[1].map(Math.abs));
    kept[0].forEach((v, i) => expect(Math.abs(v - kept[1][i])).toBeLessThan(1e-7 * (Math.abs(v) + 1e-3 * size)));
  });
});
