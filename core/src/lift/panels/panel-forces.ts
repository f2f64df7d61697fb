import type { Point3, Reference } from '../../airframe';
import type { Panels } from './panel-geometry';
import { streamOf, type PanelPoint, type PanelState } from './panel-point';
import type { Units } from './units';
import type { WakeStrip } from './wake-sheet';
import { onFin } from './wakes';

/** Pressure coefficient of a speed without loss of total pressure. */
function pressureOf(speed2: number, mach: number): number {
  if (mach === 0) return 1 - speed2;
  const half = 0.5 * mach * mach;
  // Air that is faster than into a vacuum is at none.
  const temperature = Math.max(0, 1 + 0.4 * half * (1 - speed2));
  return (temperature ** 3.5 - 1) / (1.4 * half);
}

/** Skins on which pressures act. */
export interface PressedSkins {
  units: Units;
  /** Pieces of the panels, as they are. */ pieces: Panels;
  /** By unit, three numbers each: area times normal as it is; normal in the space that is longer along x by 1∕√(1 − M²). */
  faces: Float64Array;
  normal: Float64Array;
  /** First panel of every patch. */ offsets: readonly number[];
  reference: Reference;
  about: Point3;
  /** Panels from one to before another that carry no lift: halves of fins, whose lids would tell of what the surfaces beside them carry already. */
  still: readonly (readonly [number, number])[];
  half: boolean;
  mach: number;
}

/** What the wakes tell of the whole force, which pressures on panels that are cut tell roughly. */
export interface FarForce {
  /** Over the stream's pressure, m². */ force: readonly [number, number, number];
  /** Where what pressures lack of it acts: beside the bodies. */ at: readonly [number, number, number] | null;
}

/**
 * Speeds, pressures and forces.
 * @param gradient of the disturbance's potential along the skins, three numbers a unit. @param jumps of the wakes, in their order.
 * @returns the pressure coefficient of every unit beside what it comes to.
 */
export function skinForces(
  skin: PressedSkins,
  wakes: readonly WakeStrip[],
  state: PanelState,
  gradient: Float64Array,
  jumps: Float64Array,
  far: FarForce,
): Omit<PanelPoint, 'CDi' | 'strips' | 'cp'> & { cp: Float64Array } {
  const { units, pieces, faces, normal: along, offsets, reference, about, half, mach, still } = skin;
  const { count: n, first, own } = units;
  const beta = Math.sqrt(1 - mach * mach);
  const stream = streamOf(state);
  const { centre } = pieces;
  const cp = new Float64Array(n);
  let [fx, fy, fz, mx, my, mz] = [0, 0, 0, 0, 0, 0];
  for (let k = 0; k < n; k++) {
    const at = 3 * k;
    // The disturbance along the skin, and that across it, which takes away what the stream would bring through.
    const across = (stream[0] / beta) * along[at] + stream[1] * along[at + 1] + stream[2] * along[at + 2];
    let speed2 = 0;
    for (let d = 0; d < 3; d++) {
      const disturbance = gradient[at + d] - across * along[at + d];
      speed2 += (stream[d] + (d === 0 ? disturbance / beta : disturbance)) ** 2;
    }
    const pressure = pressureOf(speed2, mach);
    cp[k] = pressure;
    const lifts = still.every(([from, to]) => units.panel[k] < from || units.panel[k] >= to);
    const [px, py] = [-pressure * faces[at], -pressure * faces[at + 1]];
    const pz = lifts ? -pressure * faces[at + 2] : 0;
    const c = 3 * own[k];
    const [rx, ry, rz] = [centre[c] - about.x, centre[c + 1] - about.y, centre[c + 2] - about.z];
    fx += px;
    fy += py;
    fz += pz;
    mx += ry * pz - rz * py;
    my += rz * px - rx * pz;
    mz += rx * py - ry * px;
  }
  const pressure = (fx * Math.cos(state.alpha) + fz * Math.sin(state.alpha)) * (half ? 2 : 1);
  // Panels do not resolve the suction of a thin nose: what pressures give besides the circulation is taken off there.
  wakes.forEach((w, s) => {
    const { patch, column } = w;
    let [drag, lift, side] = [0, 0, 0];
    const panel = offsets[w.index] + column * patch.ni;
    for (let k = first[panel]; k < first[panel + patch.ni]; k++) {
      drag -= cp[k] * faces[3 * k];
      lift -= cp[k] * faces[3 * k + 2];
      side -= cp[k] * faces[3 * k + 1];
    }
    // What goes through a fin is carried by the surface as a whole.
    const [a, b] = (
      [
        ['inner', w.a],
        ['outer', w.b],
      ] as const
    ).map(([end, own]) => {
      const line = w.lines.find((l) => l.end === end && onFin(l));
      return line ? line.places[line.places.length - 1] : own;
    });
    const [inner, outer] = patch.out > 0 ? [a, b] : [b, a];
    // Force over the stream's pressure: twice the circulation, across the stream and the strip.
    const [wy, wz] = [2 * jumps[s] * (outer[1] - inner[1]), 2 * jumps[s] * (outer[2] - inner[2])];
    const dx = wz * stream[1] - wy * stream[2] - drag;
    const dy = -wz * stream[0] - side;
    const dz = wy * stream[0] - lift;
    const nose = 3 * (column * (patch.ni + 1) + patch.ni / 2);
    const { nodes } = patch;
    const next = nose + 3 * (patch.ni + 1);
    const [rx, ry, rz] = [0, 1, 2].map(
      (d) => 0.5 * (nodes[nose + d] + nodes[next + d]) - [about.x, about.y, about.z][d],
    );
    fx += dx;
    fy += dy;
    fz += dz;
    mx += ry * dz - rz * dy;
    my += rz * dx - rx * dz;
    mz += rx * dy - ry * dx;
  });
  if (half) [fx, fy, fz, mx, my, mz] = [2 * fx, 0, 2 * fz, 0, 2 * my, 0];
  const { area: S, span, chord } = reference;
  const { alpha, sideslip = 0 } = state;
  const [c, s] = [Math.cos(alpha), Math.sin(alpha)];
  const CLpressure = (fz * c - fx * s) / S;
  if (far.at) {
    const [dx, dy, dz] = [far.force[0] - fx, far.force[1] - fy, far.force[2] - fz];
    const [rx, ry, rz] = [far.at[0] - about.x, far.at[1] - about.y, far.at[2] - about.z];
    fx += dx;
    fy += dy;
    fz += dz;
    my += rz * dx - rx * dz;
    if (!half) {
      mx += ry * dz - rz * dy;
      mz += rx * dy - ry * dx;
    }
  }
  return {
    alpha,
    beta: sideslip,
    CL: (fz * c - fx * s) / S,
    CLpressure,
    CDpressure: pressure / S,
    CY: fy / S,
    Cl: -mx / (S * span),
    Cm: my / (S * chord),
    Cn: -mz / (S * span),
    cp,
  };
}
