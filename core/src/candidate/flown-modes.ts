import { GRAVITY } from '../atmosphere';
import { keptMeanLine } from '../lift';
import { longitudinalSystem, lateralSystem, rootsOf, type Mode } from '../motion';
import { DEG } from '../numerics';
import { engineSchema, type Engine } from '../propulsion';
import { aeroTables, fly, scenarioSchema } from '../simulation';
import { flownVehicle } from './fly';
import { airframeMotion, motionSource, type AirframeMotion, type MotionInput } from './motion';
import { sectionLookup } from './section-lookup';
import { withPlacedMass } from './placed-mass';

/** A mode as it is seen in a flight: its eigenvalue, 1/s and rad/s. */
export interface FlownMode {
  re: number;
  im: number;
}

/** Angle by which a start lies off the trim, rad: small enough to be linear, large enough to stand clear of the tolerance. */
const START = 2e-3;
const RECORDS = 60;
/** Height over the ground, m. */
const CLEAR = 50;

/**
 * The root of an oscillation that a flight shows: x[k+1] = p x[k] + q x[k−1] holds of any sampled damped oscillation, by least squares.
 * @param x samples about the steady state. @param h their step, s. @returns growth and angular frequency, 1/s and rad/s; null where nothing swings.
 * @source Prony's method: Hildebrand, Introduction to Numerical Analysis, 2nd ed., 1974, chapter 9.
 */
export function seriesRoot(x: readonly number[], h: number): { re: number; im: number } | null {
  let [s11, s12, s22, r1, r2] = [0, 0, 0, 0, 0];
  for (let k = 1; k + 1 < x.length; k++) {
    s11 += x[k] * x[k];
    s12 += x[k] * x[k - 1];
    s22 += x[k - 1] * x[k - 1];
    r1 += x[k + 1] * x[k];
    r2 += x[k + 1] * x[k - 1];
  }
  const det = s11 * s22 - s12 * s12;
  const [p, q] = [(r1 * s22 - r2 * s12) / det, (s11 * r2 - s12 * r1) / det];
  const size = Math.sqrt(-q);
  if (!(size > 0) || !(Math.abs(p) < 2 * size)) return null;
  return { re: Math.log(size) / h, im: Math.acos(p / (2 * size)) / h };
}

/** The rate of a mode that does not swing: x[k+1] = p x[k]; 1/s. Null of one that changes its sign. */
export function seriesRate(x: readonly number[], h: number): number | null {
  let [s, r] = [0, 0];
  for (let k = 0; k + 1 < x.length; k++) {
    s += x[k] * x[k];
    r += x[k + 1] * x[k];
  }
  return r > 0 && s > 0 ? Math.log(r / s) / h : null;
}

/** What is watched, and its eigenvector's place in a disturbance. */
const WATCHED: Record<string, { side: 'longitudinal' | 'lateral'; column: string }> = {
  'short period': { side: 'longitudinal', column: 'q' },
  phugoid: { side: 'longitudinal', column: 'V' },
  'short period, real 2': { side: 'longitudinal', column: 'q' },
  'Dutch roll': { side: 'lateral', column: 'r' },
  roll: { side: 'lateral', column: 'p' },
};

/** The disturbance, body axes, that starts a mode alone: the real part of its eigenvector. */
function startOf(motion: AirframeMotion, mode: Mode, side: 'longitudinal' | 'lateral') {
  const system = side === 'longitudinal' ? longitudinalSystem(motion.case) : lateralSystem(motion.case);
  const root = rootsOf(system.A).find((r) => Math.abs(r.re - mode.re) + Math.abs(r.im - mode.im) < 1e-9 * (1 + r.im));
  if (!root) return null;
  const speed = motion.case.speed;
  const scale = side === 'longitudinal' ? [speed, speed, 0, 1] : [speed, 0, 0, 1];
  const size = Math.max(...root.vector.map(({ re, im }, i) => (scale[i] ? Math.hypot(re, im) / scale[i] : 0)));
  const [a, b, c, d] = root.vector.map(({ re }) => (START * re) / size);
  const [cos, sin] = [Math.cos(motion.trim.alpha), Math.sin(motion.trim.alpha)];
  // From stability axes into the body's.
  return side === 'longitudinal'
    ? { u: a * cos - b * sin, w: a * sin + b * cos, q: c, thetaDeg: d * DEG }
    : { v: a, p: b * cos - c * sin, r: b * sin + c * cos, phiDeg: d * DEG };
}

/** Thrust for a flight beside the linear model: its engine, or a constant thrust along the path through the centre. */
function thrustBeside(engine: Engine | undefined, motion: AirframeMotion): Engine {
  if (engine && engine.kind !== 'none') return engine;
  return engineSchema.parse({
    kind: 'constant',
    thrust: 3 * motion.mass.mass * GRAVITY,
    position: motion.mass.centre,
    pitchDeg: -motion.trim.alpha * DEG,
  });
}

/**
 * The modes of a candidate by its linear model and as the full equations of motion fly them, both by the lattice without viscosity:
 * a flight from the trim, less one that was not disturbed, begun on the mode's own eigenvector.
 * @returns phugoid, short period, Dutch roll and roll, where a flight shows them; replaced derivatives are left out of the linear ones, as a flight has none.
 * @throws as {@link airframeMotion}; FailedComputation `no-trim` where the flight finds none.
 */
export function linearBesideFlight(of: MotionInput): { linear: Mode; flown: FlownMode }[] {
  const { candidate: given, sections, speed, altitude, loading } = of;
  const lookup = sectionLookup(sections);
  const lineOf = (key: string) => keptMeanLine(lookup(key));
  const candidate = { ...withPlacedMass(given, lookup), derivatives: undefined };
  const linear = airframeMotion(candidate, lookup, lineOf, { speed, altitude, loading, polars: null });
  const source = motionSource(candidate, lookup, lineOf, linear.mass, speed, altitude, null);
  const tables = aeroTables(source, speed);
  const engine = thrustBeside(candidate.engine, linear);
  const shares = loading === undefined ? {} : (candidate.loadings?.[loading] ?? {});
  const ground = Math.max(-500, Math.min(9000, altitude - CLEAR));
  const out: { linear: Mode; flown: FlownMode }[] = [];
  for (const mode of linear.modes) {
    const watched = WATCHED[mode.name];
    const start = watched && mode.re !== 0 ? startOf(linear, mode, watched.side) : null;
    if (!start) continue;
    // Two periods; less of one that has died out, or grown out of the linear, before.
    const end = Math.min((4 * Math.PI) / mode.im, 3 / Math.abs(mode.re));
    const flown = (disturbance: object) => {
      const scenario = scenarioSchema.parse({
        launch: { kind: 'flight', speed, height: altitude - ground, disturbance },
        ground,
        duration: end,
        record: end / RECORDS,
        tolerance: 1e-9,
        engine,
      });
      const { series, columns } = fly(scenario, flownVehicle(candidate.massItems, shares, tables, scenario));
      return series[columns.indexOf(watched.column)];
    };
    const [calm, moved] = [flown({}), flown(start)];
    const away = moved.map((v, i) => v - calm[i]);
    const rate = mode.im > 0 ? null : seriesRate(away, end / RECORDS);
    const root = mode.im > 0 ? seriesRoot(away, end / RECORDS) : rate !== null ? { re: rate, im: 0 } : null;
    if (root) out.push({ linear: mode, flown: root });
  }
  return out;
}
