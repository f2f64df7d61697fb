import { interpolate } from '../numerics';
import type { AirframeLoads, StripLoad } from './loads';

/** Lift coefficients of sections of the wing: at the root, where the mean aerodynamic chord lies, and near the tip. */
export interface SectionLifts {
  root: number;
  mean: number;
  tip: number;
}

/** Share of the half span that stands for the tip: farther out the load falls to nothing. */
const TIP = 0.9;

/** Strips of the right half of the largest surface, from the root outboard. */
function halfWing(strips: readonly StripLoad[]): StripLoad[] {
  const areas = new Map<number, number>();
  for (const s of strips) areas.set(s.surface, (areas.get(s.surface) ?? 0) + s.chord * s.width);
  const wing = [...areas].reduce((a, b) => (b[1] > a[1] ? b : a), [-1, 0])[0];
  return strips.filter((s) => s.surface === wing && s.station > 0).sort((a, b) => a.station - b.station);
}

/**
 * What the sections of the wing lift where the aircraft has a lift coefficient, by the lattice.
 * @param points of a sweep over the angle of attack. @param CL of the aircraft. @returns null outside the sweep.
 * @source place of the mean aerodynamic chord: (2/S) ∫ c y dy over the half span.
 */
export function sectionLifts(points: readonly AirframeLoads[], CL: number): SectionLifts | null {
  const k = points.findIndex(
    (p, i) => i > 0 && (points[i - 1].CL - CL) * (p.CL - CL) <= 0 && p.CL !== points[i - 1].CL,
  );
  if (k < 0) return null;
  const [low, high] = [points[k - 1], points[k]];
  const share = (CL - low.CL) / (high.CL - low.CL);
  const [a, b] = [halfWing(low.strips), halfWing(high.strips)];
  if (a.length < 2 || b.length !== a.length) return null;
  const stations = a.map((s) => s.station);
  const cl = a.map((s, i) => s.cl + share * (b[i].cl - s.cl));
  const area = a.reduce((sum, s) => sum + s.chord * s.width, 0);
  const middle = a.reduce((sum, s) => sum + s.station * s.chord * s.width, 0) / area;
  const at = (station: number) => interpolate(stations, cl, station);
  return { root: cl[0], mean: at(middle), tip: at(TIP) };
}
