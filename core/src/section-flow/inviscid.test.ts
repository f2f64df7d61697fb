import { RAD } from '../numerics';
import { designationOutline, outlineFromPairs, SurfaceSpline } from '../section';
import {
  conformalSection,
  criticalPressure,
  DEFAULT_SPREAD,
  InviscidSection,
  panelNodes,
  vortexStream,
  vortexVelocity,
} from '.';

/** Greatest error of Cp ahead of 98 % chord, against the exact speed interpolated along the outline. */
function pressureError(edge: ReturnType<typeof conformalSection>, panels: number, alpha: number): number {
  const solution = new InviscidSection(edge.outline, { ...DEFAULT_SPREAD, panels });
  const point = solution.at(alpha);
  const exact = edge.speed(alpha);
  const knots = new SurfaceSpline(edge.outline).knots;
  let worst = 0;
  let k = 0;
  for (let i = 0; i < point.cp.length; i++) {
    if (solution.nodes.x[i] > 0.98) continue;
    while (k < knots.length - 2 && knots[k + 1] < solution.nodes.s[i]) k++;
    const u = (solution.nodes.s[i] - knots[k]) / (knots[k + 1] - knots[k]);
    const q = exact[k] + u * (exact[k + 1] - exact[k]);
    worst = Math.max(worst, Math.abs(point.cp[i] - (1 - q * q)));
  }
  return worst;
}

const cases: [string, number, number, number][] = [
  ['symmetric Joukowski', -0.1, 0, 0],
  ['cambered Joukowski', -0.1, 0.1, 0],
  ['Kármán–Trefftz, 11° edge', -0.08, 0.05, 0.2],
  ['Kármán–Trefftz, 17° edge', -0.1, 0.1, 0.3],
];

describe('panel method against exact solutions', () => {
  for (const [name, cx, cy, edge] of cases) {
    const exact = conformalSection(cx, cy, edge, 1201);
    it.each([0, 2, 5, 10])(`${name} at %i°: cl within 0.3 %, Cp within 0.03`, (angle) => {
      const solution = new InviscidSection(exact.outline);
      const cl = exact.cl(angle * RAD);
      expect(Math.abs(solution.at(angle * RAD).cl - cl)).toBeLessThan(Math.max(0.003 * Math.abs(cl), 1e-9));
      expect(pressureError(exact, 160, angle * RAD)).toBeLessThan(0.02);
    });
    it(`${name}: the error falls at least as N^-1.5`, () => {
      const at = 5 * RAD;
      const errors = [40, 80, 160, 320].map((panels) =>
        Math.abs(new InviscidSection(exact.outline, { ...DEFAULT_SPREAD, panels }).at(at).cl / exact.cl(at) - 1),
      );
      // An error below 0.01 % is the outline's own spline; above, one lucky cancellation must not decide, so pairs are compared.
      const before = Math.max(errors[0], errors[1]);
      expect(Math.max(errors[2], errors[3])).toBeLessThan(Math.max(1.5e-4, before * 4 ** -1.5 * 1.05));
      expect(pressureError(exact, 320, at) / pressureError(exact, 80, at)).toBeLessThan(4 ** -1.5);
    });
  }
});

describe('symmetry and frames', () => {
  it('mirrors a symmetric section at ±α to 1e-6', () => {
    const s = new InviscidSection(designationOutline('0012'));
    const up = s.at(6 * RAD);
    const down = s.at(-6 * RAD);
    expect(Math.abs(up.cl + down.cl)).toBeLessThan(1e-6);
    expect(Math.abs(up.cm + down.cm)).toBeLessThan(1e-6);
    const n = up.cp.length;
    for (let i = 0; i < n; i++) expect(Math.abs(up.cp[i] - down.cp[n - 1 - i])).toBeLessThan(1e-6);
  });
  it('gives the same lift for an outline turned by an angle', () => {
    const o = designationOutline('2411', 'sharp', 241);
    const a = 4 * RAD;
    const turned = outlineFromPairs(
      Array.from(o.x, (x, i) => [x * Math.cos(a) + o.y[i] * Math.sin(a), o.y[i] * Math.cos(a) - x * Math.sin(a)]),
    );
    expect(new InviscidSection(turned).at(0).cl).toBeCloseTo(new InviscidSection(o).at(a).cl, 4);
  });
  it('leaves almost no stray drag', () => {
    for (const d of ['0012', '4415', '23012', '0006'])
      expect(Math.abs(new InviscidSection(designationOutline(d)).at(4 * RAD).strayDrag)).toBeLessThan(0.003);
  });
  it('treats a slightly blunt edge like the sharp one', () => {
    const sharp = new InviscidSection(designationOutline('0012', 'sharp')).at(5 * RAD).cl;
    const blunt = new InviscidSection(designationOutline('0012', 'published')).at(5 * RAD).cl;
    expect(Math.abs(blunt / sharp - 1)).toBeLessThan(0.01);
  });
});

describe('compressibility and limits', () => {
  it('raises the lift by about the Prandtl–Glauert factor', () => {
    const s = new InviscidSection(designationOutline('0006'));
    expect(s.at(2 * RAD, 0.4).cl / s.at(2 * RAD).cl).toBeCloseTo(1 / Math.sqrt(1 - 0.16), 1);
  });
  it('says when the flow becomes supersonic', () => {
    const point = new InviscidSection(designationOutline('0012')).at(8 * RAD, 0.5);
    expect(point.cpMin).toBeLessThan(criticalPressure(0.5));
    expect(point.status).toBe('doubtful');
    expect(point.reason).toMatch(/supersonic/);
  });
  it('refuses angles, Mach numbers and panel counts outside its range', () => {
    const o = designationOutline('0012');
    const s = new InviscidSection(o);
    expect(() => s.at(NaN)).toThrow(/±45°/);
    expect(() => s.at(2)).toThrow(/±45°/);
    expect(() => s.at(0, 0.7)).toThrow(/Mach/);
    expect(() => s.at(0, -0.1)).toThrow(/Mach/);
    expect(() => panelNodes(o, { ...DEFAULT_SPREAD, panels: 12 })).toThrow(/20 to 1 000/);
  });
});

it('has velocities that are the gradient of its stream function', () => {
  const psi = new Float64Array(2);
  const v = new Float64Array(4);
  const at = (x: number, y: number, k: number) => {
    vortexStream(0.1, 0.2, 0.9, 0.5, x, y, psi);
    return psi[k];
  };
  const h = 1e-5;
  for (const [x, y] of [
    [0.4, 0.6],
    [1.2, 0.4],
    [0.2, -0.3],
    [0.3, 0.29],
  ]) {
    vortexVelocity(0.1, 0.2, 0.9, 0.5, x, y, v);
    for (const k of [0, 1]) {
      expect(v[2 * k]).toBeCloseTo((at(x, y + h, k) - at(x, y - h, k)) / (2 * h), 6);
      expect(v[2 * k + 1]).toBeCloseTo(-(at(x + h, y, k) - at(x - h, y, k)) / (2 * h), 6);
    }
  }
});
