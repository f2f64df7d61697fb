import { RAD } from '../../numerics';
import { designationOutline } from '../../section';
import { asSolved, polarPoints, ViscousSection } from '..';

describe('close points', () => {
  it.each([
    ['0009', 3e6, 1],
    ['0015', 3e5, 2],
    ['2411', 6e6, 1],
    ['4415', 1e6, 2],
    ['6412', 2e5, 3],
    ['4421', 5e5, 0],
  ])('%s at Re %d: steps of 0.1° have no kink that a halved step removes', (name, reynolds, from) => {
    const section = new ViscousSection(designationOutline(name), { panels: 120, trailingEdge: 1, nose: 1 });
    const solve = (step: number) =>
      polarPoints(section, {
        kind: 'fixed-re',
        conditions: { reynolds },
        alphas: Array.from({ length: Math.round(1 / step) + 1 }, (_, i) => (from + i * step) * RAD),
      }).map(asSolved);
    const coarse = solve(0.1);
    const fine = solve(0.05);
    coarse.forEach((p, i) => {
      expect(Math.abs(p.cl - fine[2 * i].cl)).toBeLessThan(1e-4);
      expect(Math.abs(p.cd / fine[2 * i].cd - 1)).toBeLessThan(3e-3);
    });
  });
});
