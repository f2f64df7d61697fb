import { evaluateStation } from '../boundary-layer';
import type { InviscidSection } from '../inviscid';
import type { Coupling } from './coupling';
import { streamOf, type Layers, type Stations, type ViscousConditions } from './layers';

/** A flow as solved: what the results are read from. */
export interface SolvedFlow {
  alpha: number;
  solver: InviscidSection;
  coupling: Coupling;
  conditions: ViscousConditions;
  layers: Layers;
  stations: Stations;
  dead: Float64Array;
  iterations: number;
  residual: number;
}

/** Kármán–Tsien pressure and edge velocity from the speed of the incompressible plane. @source NACA TN-1006, 1946. */
export function compressible(mach: number) {
  const beta = Math.sqrt(1 - mach * mach);
  const tsien = (mach * mach) / (1 + beta) / 2;
  const l = (mach / (1 + beta)) ** 2;
  return {
    pressure: (u: number) => {
      const c = 1 - u * u;
      return c / (beta + tsien * c);
    },
    edge: (u: number) => (u * (1 - l)) / (1 - l * u * u),
  };
}

/** A station's values in plain numbers. */
export function stationOf(flow: SolvedFlow, node: number, record: Float64Array) {
  const { layers, solver, conditions } = flow;
  const n = solver.nodes.x.length;
  const sign = layers.side[node] < 0 ? -1 : 1;
  const u = sign * layers.velocity[node];
  const edge = compressible(conditions.mach ?? 0).edge(u);
  const kind = node >= n ? 'wake' : layers.turbulent[node] ? 'turbulent' : 'laminar';
  const displacement = (sign * layers.mass[node]) / edge;
  const dead = node >= n ? flow.dead[node - n] : 0;
  evaluateStation(record, 0, kind, layers.c[node], layers.theta[node], displacement, edge, streamOf(conditions), dead);
  return { u, edge, kind, displacement: displacement - dead, theta: layers.theta[node], c: layers.c[node] };
}
