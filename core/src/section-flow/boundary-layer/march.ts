import { DualSpace, FailedComputation } from '../../numerics';
import { intervalResiduals, similarityResiduals } from './interval';
import { stationState, type LayerFlow, type LayerKind, type StationState } from './station';

/** A layer along a surface at stations of given arc length: one number a station in every list. */
export interface MarchedLayer {
  kind: LayerKind[];
  /** n where laminar, √Cτ where turbulent. */
  c: Float64Array;
  theta: Float64Array;
  displacement: Float64Array;
  /** Edge speed: as given where the layer is attached, solved for where its shape had to be prescribed. */
  speed: Float64Array;
  shape: Float64Array;
  friction: Float64Array;
  /** Arc length of transition, or undefined when the layer stays laminar. */
  transition?: number;
  /** Stations at which the shape was prescribed, since the given speed would have separated the layer. */
  prescribed: boolean[];
}

export interface MarchOptions {
  flow: LayerFlow;
  /** Critical amplification exponent; 9 is a quiet tunnel. */
  criticalAmplification: number;
  /** Arc length at which the layer is tripped. */
  trip?: number;
  /** Exponent of u ~ ξᵐ at the first station: 1 at a stagnation point, 0 on a plate. */
  similarity: number;
  /** Starts turbulent at once. */
  turbulentStart?: boolean;
  /** Goes on with values of the station before where one will not converge; for first guesses only. */
  lenient?: boolean;
}

const HIGHEST_LAMINAR = 3.8;
const HIGHEST_TURBULENT = 2.5;

/**
 * Marches the boundary-layer equations along a surface with a given edge speed, station by station, each solved by Newton's method with exact
 * derivatives. Where the speed would drive the shape factor past its limit, the shape is prescribed and the speed solved for, so the march goes
 * through separation; the coupled solution starts from it.
 * @param x arc length from the stagnation point, increasing, x[0] > 0. @param speed edge speed there.
 * @returns the layer. @throws FailedComputation `boundary-layer` naming the station that would not converge.
 * @source AIAA J. 25(10), 1987, 1347–1355.
 */
export function marchLayer(x: ArrayLike<number>, speed: ArrayLike<number>, options: MarchOptions): MarchedLayer {
  const n = x.length;
  const { flow, criticalAmplification } = options;
  const lenient = options.lenient === true;
  const layer: MarchedLayer = {
    kind: new Array<LayerKind>(n).fill('laminar'),
    c: new Float64Array(n),
    theta: new Float64Array(n),
    displacement: new Float64Array(n),
    speed: Float64Array.from(speed),
    shape: new Float64Array(n),
    friction: new Float64Array(n),
    prescribed: new Array<boolean>(n).fill(false),
  };
  const space = new DualSpace(8, 1200);
  firstStation(space, layer, x[0], options);
  let turbulent = options.turbulentStart ?? false;
  if (turbulent) startTurbulent(space, layer, 0, x[0], options);
  for (let i = 1; i < n; i++) {
    if (!turbulent) {
      solveStation(space, layer, i, x, flow, 'laminar', lenient);
      const tripped = options.trip !== undefined && x[i] >= options.trip;
      if (layer.c[i] >= criticalAmplification || tripped) {
        const rise = layer.c[i] - layer.c[i - 1];
        const natural =
          rise > 0 ? x[i - 1] + ((criticalAmplification - layer.c[i - 1]) / rise) * (x[i] - x[i - 1]) : Infinity;
        layer.transition = Math.max(x[i - 1], Math.min(natural, options.trip ?? Infinity));
        turbulent = true;
        solveTransition(space, layer, i, x, options);
      }
    } else solveStation(space, layer, i, x, flow, 'turbulent', lenient);
    record(space, layer, i, flow);
  }
  record(space, layer, 0, flow);
  return layer;
}

function slots(s: DualSpace, layer: MarchedLayer, i: number, base: number) {
  return {
    c: s.variable(layer.c[i], base),
    theta: s.variable(layer.theta[i], base + 1),
    displacement: s.variable(layer.displacement[i], base + 2),
    speed: s.variable(layer.speed[i], base + 3),
  };
}

function record(s: DualSpace, layer: MarchedLayer, i: number, flow: LayerFlow): void {
  s.reset();
  const state = stationState(s, slots(s, layer, i, 0), layer.kind[i], flow);
  layer.shape[i] = s.value(state.shape);
  layer.friction[i] = s.value(state.friction);
}

/** The similar solution at the first station: θ and δ* by Newton from the plate's or the stagnation point's values. */
function firstStation(s: DualSpace, layer: MarchedLayer, x: number, options: MarchOptions): void {
  const m = options.similarity;
  const re = options.flow.reynolds * layer.speed[0] * x;
  layer.theta[0] = x * Math.sqrt(0.45 / ((1 + 5 * Math.max(m, -0.08)) * re));
  layer.displacement[0] = layer.theta[0] * (m > 0.5 ? 2.2 : m < -0.05 ? 3.3 : 2.6);
  for (let k = 0; k < 60; k++) {
    s.reset();
    const state = stationState(s, slots(s, layer, 0, 0), 'laminar', options.flow);
    const r = similarityResiduals(s, state, s.constant(x), m);
    const [a, b, p] = [s.partial(r.momentum, 1), s.partial(r.momentum, 2), -s.value(r.momentum)];
    const [c, d, q] = [s.partial(r.energy, 1), s.partial(r.energy, 2), -s.value(r.energy)];
    const det = a * d - b * c;
    const dt = (p * d - b * q) / det;
    const dd = (a * q - c * p) / det;
    const relax = Math.min(
      1,
      0.3 / Math.max(Math.abs(dt) / layer.theta[0], Math.abs(dd) / layer.displacement[0], 1e-300),
    );
    layer.theta[0] += relax * dt;
    layer.displacement[0] += relax * dd;
    if (Math.abs(dt) < 1e-12 * layer.theta[0] && Math.abs(dd) < 1e-12 * layer.displacement[0]) return;
  }
  throw new FailedComputation('boundary-layer', 'The similar layer at the first station did not converge.');
}

function startTurbulent(s: DualSpace, layer: MarchedLayer, i: number, _x: number, options: MarchOptions): void {
  layer.kind[i] = 'turbulent';
  layer.displacement[i] = layer.theta[i] * 1.6;
  layer.c[i] = 0.05;
  s.reset();
  const state = stationState(s, slots(s, layer, i, 0), 'turbulent', options.flow);
  layer.c[i] = s.value(state.equilibrium);
}

/** Newton on one station of one kind, given the one before. */
function solveStation(
  s: DualSpace,
  layer: MarchedLayer,
  i: number,
  x: ArrayLike<number>,
  flow: LayerFlow,
  kind: 'laminar' | 'turbulent',
  lenient: boolean,
): void {
  layer.kind[i] = kind;
  layer.c[i] = layer.c[i - 1];
  layer.theta[i] = layer.theta[i - 1];
  layer.displacement[i] = layer.displacement[i - 1];
  const make = (state: (k: number, base: number) => StationState) =>
    intervalResiduals(s, state(i - 1, 0), state(i, 4), s.constant(x[i - 1]), s.constant(x[i]), kind === 'laminar');
  newton(s, layer, i, flow, kind, x, lenient, make, (k, base) => stationState(s, slots(s, layer, k, base), kind, flow));
}

/** The interval in which transition lies: laminar up to it, turbulent behind, the state in between on the straight line. */
function solveTransition(
  s: DualSpace,
  layer: MarchedLayer,
  i: number,
  x: ArrayLike<number>,
  options: MarchOptions,
): void {
  const { flow } = options;
  const xt = Math.min(x[i] - 1e-9 * x[i], Math.max(x[i - 1] * (1 + 1e-9), layer.transition!));
  const f = (xt - x[i - 1]) / (x[i] - x[i - 1]);
  layer.kind[i] = 'turbulent';
  layer.c[i] = 0.05;
  // The shape falls through transition: start from a turbulent one.
  layer.theta[i] = layer.theta[i - 1];
  layer.displacement[i] = Math.min(layer.displacement[i - 1], 2 * layer.theta[i]);
  const upstream = (base: number) => slots(s, layer, i - 1, base);
  const make = () => {
    const a = upstream(0);
    const b = slots(s, layer, i, 4);
    const mid = (p: number, q: number) => s.add(s.scale(p, 1 - f), s.scale(q, f));
    const at = {
      c: a.c,
      theta: mid(a.theta, b.theta),
      displacement: mid(a.displacement, b.displacement),
      speed: mid(a.speed, b.speed),
    };
    const laminar = intervalResiduals(
      s,
      stationState(s, a, 'laminar', flow),
      stationState(s, at, 'laminar', flow),
      s.constant(x[i - 1]),
      s.constant(xt),
      true,
    );
    const probe = stationState(s, { ...at, c: s.constant(0.05) }, 'turbulent', flow);
    // The fresh turbulent layer starts below equilibrium.
    const start = stationState(s, { ...at, c: s.scale(probe.equilibrium, Math.sqrt(0.7)) }, 'turbulent', flow);
    const behind = intervalResiduals(s, start, stationState(s, b, 'turbulent', flow), s.constant(xt), s.constant(x[i]), false);
    return {
      first: behind.first,
      momentum: s.add(laminar.momentum, behind.momentum),
      energy: s.add(laminar.energy, behind.energy),
    };
  };
  newton(s, layer, i, flow, 'turbulent', x, options.lenient === true, make, (k, base) =>
    stationState(s, slots(s, layer, k, base), 'turbulent', flow),
  );
}

function newton(
  s: DualSpace,
  layer: MarchedLayer,
  i: number,
  flow: LayerFlow,
  kind: 'laminar' | 'turbulent',
  x: ArrayLike<number>,
  lenient: boolean,
  make: (state: (k: number, base: number) => StationState) => { first: number; momentum: number; energy: number },
  state: (k: number, base: number) => StationState,
): void {
  const limit = kind === 'laminar' ? HIGHEST_LAMINAR : HIGHEST_TURBULENT;
  const given = layer.speed[i];
  let wanted: number | null = null;
  for (let attempt = 0; attempt < 2; attempt++) {
    let converged = false;
    for (let k = 0; k < 60; k++) {
      s.reset();
      const r = make(state);
      const rows = [r.first, r.momentum, r.energy].map((slot) => [
        s.partial(slot, 4),
        s.partial(slot, 5),
        s.partial(slot, 6),
        s.partial(slot, 7),
        -s.value(slot),
      ]);
      // The fourth row holds the speed as given, or the kinematic shape as wanted.
      if (wanted === null) rows.push([0, 0, 0, 1, 0]);
      else {
        const b = state(i, 4);
        rows.push([
          s.partial(b.kinematic, 4),
          s.partial(b.kinematic, 5),
          s.partial(b.kinematic, 6),
          s.partial(b.kinematic, 7),
          wanted - s.value(b.kinematic),
        ]);
      }
      const d = solve4(rows);
      if (!d) break;
      const size = Math.max(
        Math.abs(d[0]) / (kind === 'laminar' ? 10 : Math.max(0.01, layer.c[i])),
        Math.abs(d[1]) / layer.theta[i],
        Math.abs(d[2]) / layer.displacement[i],
        Math.abs(d[3]) / layer.speed[i],
      );
      const relax = size > 0.3 ? 0.3 / size : 1;
      layer.c[i] += relax * d[0];
      if (kind === 'turbulent') layer.c[i] = Math.min(0.3, Math.max(1e-5, layer.c[i]));
      layer.theta[i] += relax * d[1];
      layer.displacement[i] = Math.max(1.02 * layer.theta[i], layer.displacement[i] + relax * d[2]);
      layer.speed[i] += relax * d[3];
      if (size < 1e-10) {
        converged = true;
        break;
      }
    }
    s.reset();
    const kinematic = s.value(stationState(s, slots(s, layer, i, 0), kind, flow).kinematic);
    if (converged && (wanted !== null || kinematic <= limit)) return;
    if (wanted !== null) break;
    // The given speed separates the layer: prescribe a shape that grows as a separated layer's does, or comes down again.
    const before = layer.displacement[i - 1] / layer.theta[i - 1];
    const step = (x[i] - x[i - 1]) / layer.theta[i - 1];
    wanted = kind === 'laminar' ? Math.max(before + 0.03 * step, limit) : Math.max(before - 0.15 * step, limit);
    if (kind === 'laminar') wanted = Math.min(wanted, 12);
    layer.prescribed[i] = true;
    layer.speed[i] = given;
    layer.c[i] = layer.c[i - 1] > 0.5 && kind === 'turbulent' ? 0.05 : layer.c[i - 1];
    layer.theta[i] = layer.theta[i - 1];
    layer.displacement[i] = layer.theta[i] * wanted;
  }
  if (lenient) {
    const grown = 1 + (0.3 * (x[i] - x[i - 1])) / x[i];
    const highest = kind === 'turbulent' ? HIGHEST_TURBULENT : HIGHEST_LAMINAR;
    layer.theta[i] = layer.theta[i - 1] * grown;
    layer.displacement[i] = layer.theta[i] * Math.min(highest, layer.displacement[i - 1] / layer.theta[i - 1]);
    layer.speed[i] = given;
    layer.c[i] = kind === 'turbulent' && layer.kind[i - 1] === 'laminar' ? 0.05 : layer.c[i - 1];
    layer.prescribed[i] = true;
    return;
  }
  throw new FailedComputation('boundary-layer', `The boundary layer did not converge at x = ${x[i].toFixed(4)}.`);
}

/** Gaussian elimination of a 4 × 4 system with its right-hand side as fifth column; null when singular. */
function solve4(a: number[][]): number[] | null {
  for (let k = 0; k < 4; k++) {
    let p = k;
    for (let r = k + 1; r < 4; r++) if (Math.abs(a[r][k]) > Math.abs(a[p][k])) p = r;
    if (!(Math.abs(a[p][k]) > 1e-300) || !Number.isFinite(a[p][k])) return null;
    [a[k], a[p]] = [a[p], a[k]];
    for (let r = k + 1; r < 4; r++) {
      const f = a[r][k] / a[k][k];
      for (let j = k; j < 5; j++) a[r][j] -= f * a[k][j];
    }
  }
  const out = [0, 0, 0, 0];
  for (let k = 3; k >= 0; k--) {
    let sum = a[k][4];
    for (let j = k + 1; j < 4; j++) sum -= a[k][j] * out[j];
    out[k] = sum / a[k][k];
  }
  return out.every(Number.isFinite) ? out : null;
}
