import { designationOutline } from '../../section';
import tunnel from '../../../reference/section-tunnel.json';
import { ViscousSection } from './viscous-section';

const RAD = Math.PI / 180;
const smooth = { reynolds: 6e6, criticalAmplification: 9 };

describe('boundary layer and panels coupled', () => {
  const symmetric = new ViscousSection(designationOutline('0012'));
  const row = tunnel.rows.find((r) => r.section.endsWith('0012'))!;
  it('converges from 0° to 12° with the measured lift slope, least drag and moment', () => {
    const points = [0, 2, 4, 6, 8, 10, 12].map((a) => symmetric.at(a * RAD, smooth));
    for (const p of points) expect(p).toMatchObject({ status: 'solved' });
    const slope = points[2].cl / 4;
    expect(slope).toBeGreaterThan(row.lift_slope_per_deg[0]);
    expect(slope).toBeLessThan(row.lift_slope_per_deg[1]);
    expect(points[0].cd).toBeGreaterThan(row.cd_min[0]);
    expect(points[0].cd).toBeLessThan(row.cd_min[1]);
    expect(Math.abs(points[0].cm)).toBeLessThan(0.005);
    for (let i = 1; i < points.length; i++) {
      expect(points[i].cd).toBeGreaterThan(points[i - 1].cd);
      expect(points[i].transitionTop).toBeLessThan(points[i - 1].transitionTop);
      expect(points[i].cdPressure).toBeGreaterThan(0);
    }
  });
  it('mirrors a symmetric section', () => {
    const up = symmetric.at(4 * RAD, smooth);
    const down = symmetric.at(-4 * RAD, smooth);
    expect(Math.abs(up.cl + down.cl)).toBeLessThan(1e-5);
    expect(Math.abs(up.cd - down.cd)).toBeLessThan(1e-6);
    expect(up.transitionTop).toBeCloseTo(down.transitionBottom, 4);
  });
  it('drags more with trips at the nose', () => {
    const tripped = symmetric.at(0, { ...smooth, tripTop: 0.05, tripBottom: 0.05 });
    expect(tripped.status).toBe('solved');
    expect(tripped.transitionTop).toBeCloseTo(0.05, 2);
    expect(tripped.cd).toBeGreaterThan(1.3 * symmetric.at(0, smooth).cd);
  });
  it('refuses conditions outside its range, and never gives a number for what it did not solve', () => {
    expect(() => symmetric.at(0, { reynolds: 0 })).toThrow(/Reynolds/);
    expect(() => symmetric.at(0, { reynolds: 1e12 })).toThrow(/Reynolds/);
    expect(() => symmetric.at(0, { reynolds: 1e6, tripTop: 2 })).toThrow(/trip/);
    expect(() => symmetric.at(0, { reynolds: 1e6, criticalAmplification: -3 })).toThrow(/amplification/);
    expect(() => symmetric.at(2, smooth)).toThrow(/±45°/);
    const hopeless = symmetric.at(40 * RAD, { reynolds: 2000 });
    if (hopeless.status === 'unsolved') {
      expect(hopeless.reason).toBeTruthy();
      expect(hopeless.cl).toBeNaN();
    }
  });
});
