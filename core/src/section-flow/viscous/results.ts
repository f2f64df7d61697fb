import { QUANTITY, STATION_RECORD } from '../boundary-layer';
import { criticalMach, waveDrag } from '../drag-rise';
import { criticalPressure } from '../inviscid';
import { CLOSURE_REYNOLDS } from './conditions';
import { noseBursts } from './nose-stall';
import { lastLaminar } from './layers';
import { doubt, type SolvedPoint } from './point';
import { compressible, stationOf, type SolvedFlow } from './solved-flow';

/** Distributions along one surface (from the stagnation point) or the wake (from the edge), one number a station; everything in chords and stream speeds. */
export interface LayerDistribution {
  x: Float32Array;
  y: Float32Array;
  /** Arc length from the stagnation point, or from the edge in the wake. */
  s: Float32Array;
  cp: Float32Array;
  /** Pressure without viscosity, at the same angle. */
  cpInviscid: Float32Array;
  edgeVelocity: Float32Array;
  displacementThickness: Float32Array;
  momentumThickness: Float32Array;
  shapeFactor: Float32Array;
  friction: Float32Array;
  /** Amplification exponent n where the layer is laminar, else NaN. */
  amplification: Float32Array;
  /** Shear stress coefficient Cτ where the layer is turbulent, else NaN. */
  shearStress: Float32Array;
  /** Momentum-thickness Reynolds number. */
  reTheta: Float32Array;
}

/** Everything along both surfaces and the wake. */
export interface Distributions {
  top: LayerDistribution;
  bottom: LayerDistribution;
  wake: LayerDistribution;
}

export const DISTRIBUTION_KEYS = [
  'x',
  'y',
  's',
  'cp',
  'cpInviscid',
  'edgeVelocity',
  'displacementThickness',
  'momentumThickness',
  'shapeFactor',
  'friction',
  'amplification',
  'shearStress',
  'reTheta',
] as const satisfies readonly (keyof LayerDistribution)[];

/** Reads forces, moment and the marks of the layers from a solved flow. */
export function readPoint(flow: SolvedFlow, hinge?: { x: number; y: number }): SolvedPoint {
  const { alpha, solver, coupling, conditions, layers, stations } = flow;
  const { x, y } = solver.nodes;
  const n = x.length;
  const mach = conditions.mach ?? 0;
  const { pressure } = compressible(mach);
  const [cos, sin] = [Math.cos(alpha), Math.sin(alpha)];
  const inviscid = coupling.inviscid;
  const viscous = layers.velocity;
  const sum = { fx: 0, fy: 0, moment: 0, stray: 0 };
  const flap = { fx: 0, fy: 0, moment: 0 };
  let cpMin = Infinity;
  let lowest = 0;
  for (let i = 0; i < n; i++) {
    const j = i + 1 === n ? 0 : i + 1;
    const [pa, pb] = [pressure(viscous[i]), pressure(viscous[j])];
    if (pa < cpMin) {
      cpMin = pa;
      lowest = i;
    }
    const dx = x[j] - x[i];
    const dy = y[j] - y[i];
    const closing = j === 0;
    const mean = closing ? 0.5 * (pa + pb) : (pa + 4 * pressure(0.5 * (viscous[i] + viscous[j])) + pb) / 6;
    const [ia, ib] = [pressure(inviscid[i]), pressure(inviscid[j])];
    const bare = closing ? 0.5 * (ia + ib) : (ia + 4 * pressure(0.5 * (inviscid[i] + inviscid[j])) + ib) / 6;
    sum.fx -= mean * dy;
    sum.fy += mean * dx;
    // Without viscosity the drag is zero; what the panels make of it is their error.
    sum.stray += -bare * dy * cos + bare * dx * sin;
    const mx = 0.5 * (x[i] + x[j]);
    const my = 0.5 * (y[i] + y[j]);
    const slope = ((pb - pa) / 12) * (dx * dx + dy * dy);
    sum.moment -= mean * ((mx - 0.25) * dx + my * dy) + slope;
    if (hinge && mx > hinge.x) {
      flap.fx -= mean * dy;
      flap.fy += mean * dx;
      flap.moment -= mean * ((mx - hinge.x) * dx + (my - hinge.y) * dy) + slope;
    }
  }
  const record = new Float64Array(STATION_RECORD);
  let cdFriction = 0;
  const point: SolvedPoint = {
    alpha,
    reynolds: conditions.reynolds,
    cl: sum.fy * cos - sum.fx * sin,
    cd: 0,
    cdFriction: 0,
    cdPressure: 0,
    cm: sum.moment,
    cpMin,
    machCritical: 1,
    transitionTop: 1,
    transitionBottom: 1,
    status: 'solved',
    doubts: [],
    iterations: flow.iterations,
    residual: flow.residual,
  };
  for (const [surface, from, to] of [
    [0, 0, stations.upper],
    [1, stations.upper, stations.lower],
  ] as const) {
    let before = 0;
    const wall: number[] = [];
    const places: number[] = [];
    let first = to;
    for (let p = from; p < to; p++) {
      const node = stations.order[p];
      const state = stationOf(flow, node, record);
      if (state.kind === 'turbulent' && first === to) first = p;
      const tau = record[QUANTITY.friction] * state.edge ** 2;
      wall.push(record[QUANTITY.friction]);
      places.push(x[node]);
      if (p > from) {
        const previous = stations.order[p - 1];
        const [dx, dy] = [x[node] - x[previous], y[node] - y[previous]];
        const mean = 0.5 * (tau + before);
        cdFriction += mean * (dx * cos + dy * sin);
        if (hinge && 0.5 * (x[node] + x[previous]) > hinge.x) {
          flap.fx += mean * dx;
          flap.fy += mean * dy;
          flap.moment -=
            mean * ((0.5 * (x[node] + x[previous]) - hinge.x) * dy - (0.5 * (y[node] + y[previous]) - hinge.y) * dx);
        }
      }
      before = tau;
    }
    readMarks(point, surface, wall, places, first - from, placeOfTransition(flow, surface));
  }
  const end = n + coupling.wake - 1;
  const last = stationOf(flow, end, record);
  const shape = last.displacement / last.theta;
  // Far downstream, by the momentum equation with the shape falling to one. @source R&M 1838, 1937.
  const compressionShape = 0.5 * (shape + 5 + 0.4 * mach * mach);
  point.cd = 2 * last.theta * last.edge ** compressionShape;
  point.cdFriction = cdFriction;
  point.cdPressure = point.cd - cdFriction;
  point.machCritical = criticalMach(1 - viscous[lowest] ** 2);
  const wave = waveDrag(mach, point.machCritical);
  if (wave > 0) {
    point.cdWave = wave;
    point.cd += wave;
  }
  if (hinge) {
    const chord = Math.max(1e-6, 1 - hinge.x);
    // Positive when it drives the trailing edge down.
    point.hinge = {
      ...hinge,
      moment: flap.moment,
      momentOnFlapChord: flap.moment / chord ** 2,
      forceX: flap.fx,
      forceY: flap.fy,
    };
  }
  if (mach > 0 && cpMin < criticalPressure(mach)) doubt(point, 'locally-supersonic');
  if (conditions.reynolds < CLOSURE_REYNOLDS) doubt(point, 'low-reynolds');
  const edge = 0.5 * (pressure(viscous[0]) + pressure(viscous[n - 1]));
  if (noseBursts(edge - cpMin, x[lowest], conditions.reynolds, mach)) doubt(point, 'nose-bubble-bursts');
  if (Math.min(point.separationTop ?? 1, point.separationBottom ?? 1) < 0.4) doubt(point, 'large-separation');
  return point;
}

/**
 * The drag once more, by forces on the surface, from the momentum of the potential flow with the mass defect as sources:
 *   D = ∫ τ ds − ∮ p n_x ds + ∫ (1 − cos φ) u σ ds
 * The last term is there because the integral equations count momentum along the surface, which is inclined by φ to the stream. What the panels leave
 * over without viscosity is taken off; a blunt edge that sends out a stream of its gap has the pressure force 2 u (u − 1) h by the same theorem.
 * @returns drag coefficient, to be held against the wake's.
 */
export function integratedDrag(flow: SolvedFlow): number {
  const { alpha, solver, coupling, layers, stations } = flow;
  const { x, y } = solver.nodes;
  const n = x.length;
  const [cos, sin] = [Math.cos(alpha), Math.sin(alpha)];
  const pressure = (u: number) => 1 - u * u;
  const { velocity, mass } = layers;
  let drag = 0;
  for (let i = 0; i < n; i++) {
    const j = i + 1 === n ? 0 : i + 1;
    const mean = (v: Float64Array) =>
      j === 0
        ? 0.5 * (pressure(v[i]) + pressure(v[j]))
        : (pressure(v[i]) + 4 * pressure(0.5 * (v[i] + v[j])) + pressure(v[j])) / 6;
    const [dx, dy] = [x[j] - x[i], y[j] - y[i]];
    drag += (mean(velocity) - mean(coupling.inviscid)) * (-dy * cos + dx * sin);
    if (j === 0) continue;
    const u = 0.5 * (velocity[i] + velocity[j]);
    const along = (dx * cos + dy * sin) / Math.hypot(dx, dy);
    drag += 2 * (Math.abs(u) - u * along) * (mass[j] - mass[i]);
  }
  for (let k = 0; k + 1 < coupling.wake; k++) {
    const [dx, dy] = [coupling.wakeX[k + 1] - coupling.wakeX[k], coupling.wakeY[k + 1] - coupling.wakeY[k]];
    const u = 0.5 * (velocity[n + k] + velocity[n + k + 1]);
    drag += 2 * (1 - (dx * cos + dy * sin) / Math.hypot(dx, dy)) * u * (mass[n + k + 1] - mass[n + k]);
  }
  const out = Math.abs(coupling.inviscid[0]);
  drag += 2 * out * flow.dead[0] * (out - 1);
  const record = new Float64Array(STATION_RECORD);
  for (const [from, to] of [
    [0, stations.upper],
    [stations.upper, stations.lower],
  ]) {
    let before = 0;
    for (let p = from; p < to; p++) {
      const state = stationOf(flow, stations.order[p], record);
      const wall = record[QUANTITY.friction] * state.edge ** 2;
      if (p > from)
        drag +=
          0.5 * (wall + before) * Math.abs(solver.nodes.s[stations.order[p]] - solver.nodes.s[stations.order[p - 1]]);
      before = wall;
    }
  }
  return drag;
}

/** x of transition on a surface; 1 where only the edge ends the laminar run. */
function placeOfTransition(flow: SolvedFlow, surface: 0 | 1): number {
  const { layers, solver, conditions } = flow;
  const { x, s } = solver.nodes;
  const at = layers.transition[surface];
  const trip = surface === 0 ? conditions.tripTop : conditions.tripBottom;
  const edge = lastLaminar(s, surface === 0);
  if (layers.held[surface] && trip === undefined && Math.abs(at - edge) < 1e-9) return 1;
  let i = 0;
  while (i + 2 < s.length && s[i + 1] < at) i++;
  return x[i] + ((at - s[i]) / (s[i + 1] - s[i])) * (x[i + 1] - x[i]);
}

/** Laminar separation, reattachment behind transition, and turbulent separation, from where the friction changes its sign. */
function readMarks(
  point: SolvedPoint,
  surface: 0 | 1,
  friction: number[],
  x: number[],
  firstTurbulent: number,
  transition: number,
): void {
  const zero = (i: number) => {
    const t = friction[i - 1] / (friction[i - 1] - friction[i]);
    return x[i - 1] + t * (x[i] - x[i - 1]);
  };
  let laminar: number | undefined;
  let reattachment: number | undefined;
  let turbulent: number | undefined;
  for (let i = 1; i < x.length; i++) {
    if (friction[i] < 0 && friction[i - 1] >= 0) {
      if (i <= firstTurbulent) laminar ??= zero(i);
      else turbulent ??= zero(i);
    } else if (friction[i] >= 0 && friction[i - 1] < 0) {
      if (laminar !== undefined && reattachment === undefined && turbulent === undefined) reattachment = zero(i);
      else turbulent = undefined;
    }
  }
  // A bubble that never closes is a separation of the whole rest.
  if (laminar !== undefined && reattachment === undefined && turbulent === undefined) turbulent = laminar;
  const end = surface === 0 ? 'Top' : 'Bottom';
  point[`transition${end}`] = transition;
  if (laminar !== undefined) point[`laminarSeparation${end}`] = laminar;
  if (reattachment !== undefined) point[`reattachment${end}`] = reattachment;
  if (turbulent !== undefined && turbulent < 0.995) point[`separation${end}`] = turbulent;
}

/** Everything along both surfaces and the wake. */
export function readDistributions(flow: SolvedFlow): Distributions {
  const { solver, coupling, conditions, layers, stations } = flow;
  const n = solver.nodes.x.length;
  const mach = conditions.mach ?? 0;
  const { pressure } = compressible(mach);
  const record = new Float64Array(STATION_RECORD);
  const make = (from: number, to: number): LayerDistribution => {
    const d = Object.fromEntries(
      DISTRIBUTION_KEYS.map((k) => [k, new Float32Array(to - from)]),
    ) as unknown as LayerDistribution;
    for (let p = from; p < to; p++) {
      const i = p - from;
      const node = stations.order[p];
      const state = stationOf(flow, node, record);
      const wake = node >= n;
      d.x[i] = wake ? coupling.wakeX[node - n] : solver.nodes.x[node];
      d.y[i] = wake ? coupling.wakeY[node - n] : solver.nodes.y[node];
      d.s[i] = wake ? coupling.wakeS[node - n] : Math.abs(solver.nodes.s[node] - layers.stagnation);
      d.cp[i] = pressure(state.u);
      d.cpInviscid[i] = pressure(coupling.inviscid[node]);
      d.edgeVelocity[i] = state.edge;
      d.displacementThickness[i] = state.displacement;
      d.momentumThickness[i] = state.theta;
      d.shapeFactor[i] = state.displacement / state.theta;
      d.friction[i] = record[QUANTITY.friction];
      d.amplification[i] = state.kind === 'laminar' ? state.c : NaN;
      d.shearStress[i] = state.kind === 'laminar' ? NaN : state.c * state.c;
      d.reTheta[i] = conditions.reynolds * state.edge * state.theta;
    }
    return d;
  };
  return {
    top: make(0, stations.upper),
    bottom: make(stations.upper, stations.lower),
    wake: make(stations.lower, stations.lower + coupling.wake),
  };
}
