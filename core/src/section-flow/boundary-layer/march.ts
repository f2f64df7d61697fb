import { FailedComputation } from '../../numerics';
import { INTERVAL_RECORD, intervalResiduals, RESIDUAL, similarityResiduals } from './interval';
import { evaluateStation, QUANTITY, STATION_RECORD, type LayerFlow, type LayerKind } from './station';
import { GROWTH_RECORD, transitionResiduals } from './transition';

const growth = new Float64Array(GROWTH_RECORD);

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

/** Conditions of a layer that is marched by itself. */
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
  const records = new Float64Array(n * STATION_RECORD);
  const march: March = { layer, records, x, flow, lenient };
  firstStation(march, options.similarity);
  let turbulent = options.turbulentStart ?? false;
  if (turbulent) startTurbulent(march);
  for (let i = 1; i < n; i++) {
    if (turbulent) {
      solveStation(march, i, 'turbulent');
      continue;
    }
    solveStation(march, i, 'laminar');
    grow(march, i);
    const tripped = options.trip !== undefined && x[i] >= options.trip;
    if (layer.c[i] >= criticalAmplification || tripped) {
      const rise = layer.c[i] - layer.c[i - 1];
      const natural =
        rise > 0 ? x[i - 1] + ((criticalAmplification - layer.c[i - 1]) / rise) * (x[i] - x[i - 1]) : Infinity;
      layer.transition = Math.max(x[i - 1], Math.min(natural, options.trip ?? Infinity));
      turbulent = true;
      solveStation(march, i, 'turbulent', Math.min(x[i], Math.max(x[i - 1], layer.transition)));
    }
  }
  for (let i = 0; i < n; i++) {
    layer.shape[i] = layer.displacement[i] / layer.theta[i];
    layer.friction[i] = records[i * STATION_RECORD + QUANTITY.friction];
  }
  return layer;
}

interface March {
  layer: MarchedLayer;
  records: Float64Array;
  x: ArrayLike<number>;
  flow: LayerFlow;
  lenient: boolean;
}

function evaluate({ layer, records, flow }: March, i: number): void {
  evaluateStation(
    records,
    i * STATION_RECORD,
    layer.kind[i],
    layer.c[i],
    layer.theta[i],
    layer.displacement[i],
    layer.speed[i],
    flow,
  );
}

/** The similar solution at the first station: θ and δ* by Newton from the plate's or the stagnation point's values. */
function firstStation(march: March, m: number): void {
  const { layer, records, x, flow } = march;
  const re = flow.reynolds * layer.speed[0] * x[0];
  layer.theta[0] = x[0] * Math.sqrt(0.45 / ((1 + 5 * Math.max(m, -0.08)) * re));
  layer.displacement[0] = layer.theta[0] * (m > 0.5 ? 2.2 : m < -0.05 ? 3.3 : 2.6);
  const out = new Float64Array(INTERVAL_RECORD);
  for (let k = 0; k < 60; k++) {
    evaluate(march, 0);
    similarityResiduals(out, records, 0, x[0], m);
    const [a, b, p] = [out[RESIDUAL + 6], out[RESIDUAL + 7], -out[RESIDUAL]];
    const [c, d, q] = [out[2 * RESIDUAL + 6], out[2 * RESIDUAL + 7], -out[2 * RESIDUAL]];
    const det = a * d - b * c;
    const dt = (p * d - b * q) / det;
    const dd = (a * q - c * p) / det;
    const size = Math.max(Math.abs(dt) / layer.theta[0], Math.abs(dd) / layer.displacement[0], 1e-300);
    const relax = Math.min(1, 0.3 / size);
    layer.theta[0] += relax * dt;
    layer.displacement[0] += relax * dd;
    if (size < 1e-12) return;
  }
  throw new FailedComputation('boundary-layer', 'The similar layer at the first station did not converge.');
}

function startTurbulent(march: March): void {
  const { layer, records } = march;
  layer.kind[0] = 'turbulent';
  layer.displacement[0] = layer.theta[0] * 1.6;
  layer.c[0] = 0.05;
  evaluate(march, 0);
  layer.c[0] = records[QUANTITY.equilibrium];
  evaluate(march, 0);
}

/** n at a laminar station, by the mean growth over the interval. */
function grow({ layer, records, x }: March, i: number): void {
  const rate = (k: number) => records[k * STATION_RECORD + QUANTITY.growth];
  layer.c[i] = layer.c[i - 1] + 0.5 * (rate(i - 1) + rate(i)) * (x[i] - x[i - 1]);
}

const residuals = new Float64Array(INTERVAL_RECORD);

/**
 * Newton on one station, given the one before.
 * @param transition arc length of transition, where it lies in the interval.
 */
function solveStation(march: March, i: number, kind: 'laminar' | 'turbulent', transition?: number): void {
  const { layer, records, x, flow, lenient } = march;
  const limit = kind === 'laminar' ? HIGHEST_LAMINAR : HIGHEST_TURBULENT;
  const given = layer.speed[i];
  const laminarShape = layer.displacement[i] / layer.theta[i];
  layer.kind[i] = kind;
  layer.c[i] = transition === undefined ? layer.c[i - 1] : 0.05;
  layer.theta[i] = layer.theta[i - 1];
  // The shape falls through transition: start from a turbulent one.
  layer.displacement[i] =
    transition === undefined ? layer.displacement[i - 1] : Math.min(layer.displacement[i - 1], 2 * layer.theta[i]);
  let wanted: number | null = null;
  const a = (i - 1) * STATION_RECORD;
  const b = i * STATION_RECORD;
  for (let attempt = 0; attempt < 2; attempt++) {
    let converged = false;
    for (let k = 0; k < (lenient ? 25 : 60); k++) {
      evaluate(march, i);
      if (transition === undefined)
        intervalResiduals(residuals, records, a, records, b, x[i - 1], x[i], kind === 'laminar');
      else transitionResiduals(residuals, growth, records, a, records, b, x[i - 1], x[i], transition, flow);
      const rows = [0, 1, 2].map((r) => {
        const at = r * RESIDUAL;
        return [residuals[at + 5], residuals[at + 6], residuals[at + 7], residuals[at + 8], -residuals[at]];
      });
      if (kind === 'laminar') rows[0] = [1, 0, 0, 0, 0];
      // The fourth row holds the speed as given, or the kinematic shape as wanted.
      if (wanted === null) rows.push([0, 0, 0, 1, 0]);
      else {
        const h = b + QUANTITY.kinematic;
        rows.push([records[h + 1], records[h + 2], records[h + 3], records[h + 4], wanted - records[h]]);
      }
      const d = solve4(rows);
      if (!d) break;
      const size = Math.max(
        kind === 'laminar' ? 0 : Math.abs(d[0]) / Math.max(0.01, layer.c[i]),
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
    evaluate(march, i);
    const kinematic = records[b + QUANTITY.kinematic];
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
  if (!lenient)
    throw new FailedComputation('boundary-layer', `The boundary layer did not converge at x = ${x[i].toFixed(4)}.`);
  layer.theta[i] = layer.theta[i - 1] * (1 + (0.3 * (x[i] - x[i - 1])) / x[i]);
  const shape = Math.min(
    limit,
    layer.displacement[i - 1] / layer.theta[i - 1],
    transition === undefined ? Infinity : laminarShape,
  );
  layer.displacement[i] = layer.theta[i] * shape;
  layer.speed[i] = given;
  layer.c[i] = transition === undefined ? layer.c[i - 1] : 0.05;
  layer.prescribed[i] = true;
  evaluate(march, i);
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
