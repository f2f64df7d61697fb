import type { LayerFlow } from '../boundary-layer';
import type { Coupling } from './coupling';

/** Conditions of a viscous solution. */
export interface ViscousConditions {
  reynolds: number;
  mach?: number;
  /** Critical amplification exponent. */
  criticalAmplification?: number;
  /** Of one surface, where it differs. */
  criticalTop?: number;
  criticalBottom?: number;
  /** Turbulence of the stream, %: above 1 % it enters the layer, whatever grows there. The critical exponent is not taken from it. */
  turbulence?: number;
  /** Height of grains all over the surface, chords: they make the laminar layer turbulent, and raise the friction behind. */
  grain?: number;
  /** Place of a trip, x in chords, on each surface. */
  tripTop?: number;
  tripBottom?: number;
}

/**
 * The unknowns of the coupled problem, by node (section loop first, then wake). Mass defect and velocity are signed along the loop and the wake;
 * C is the amplification exponent n where the layer is laminar and √Cτ elsewhere.
 */
export interface Layers {
  c: Float64Array;
  theta: Float64Array;
  mass: Float64Array;
  velocity: Float64Array;
  /** Arc length of the stagnation point, and of transition on the upper and the lower surface. */
  stagnation: number;
  transition: [number, number];
  /** −1 upper surface, +1 lower surface and wake, 0 for a node on the stagnation point, which carries no layer of its own. */
  side: Int8Array;
  turbulent: Uint8Array;
  /** Whether transition is held at its bound (a trip, or the trailing edge). */
  held: [boolean, boolean];
}

/** Layers with every unknown at zero. @param total nodes of section and wake. */
export function emptyLayers(total: number): Layers {
  return {
    c: new Float64Array(total),
    theta: new Float64Array(total),
    mass: new Float64Array(total),
    velocity: new Float64Array(total),
    stagnation: 0,
    transition: [0, 0],
    side: new Int8Array(total),
    turbulent: new Uint8Array(total),
    held: [true, true],
  };
}

/** Critical amplification exponents of the upper and the lower surface. */
export function criticalOf(conditions: ViscousConditions): [number, number] {
  const both = conditions.criticalAmplification ?? 9;
  return [conditions.criticalTop ?? both, conditions.criticalBottom ?? both];
}

/** The stream as the layers see it. */
export function streamOf({ reynolds, mach, turbulence, grain }: ViscousConditions): LayerFlow {
  return { reynolds, mach: mach ?? 0, ...(turbulence ? { turbulence } : {}), ...(grain ? { grain } : {}) };
}

/** Copies all unknowns into layers of the same size. */
export function copyLayers(from: Layers, to: Layers): void {
  to.c.set(from.c);
  to.theta.set(from.theta);
  to.mass.set(from.mass);
  to.velocity.set(from.velocity);
  to.stagnation = from.stagnation;
  to.transition = [...from.transition];
  to.side.set(from.side);
  to.turbulent.set(from.turbulent);
  to.held = [...from.held];
}

/** Stations of both surfaces and the wake in streamwise order, by node. */
export interface Stations {
  order: Int32Array;
  /** Ends of the upper and of the lower surface's stretch in `order`. */
  upper: number;
  lower: number;
}

/** A node nearer the stagnation point than this share of its panel carries no layer. */
const NEAR = 0.15;

/** The stretch ahead of the edge that is always turbulent, in chords; at least one and a half panels. */
const LAST = 0.012;

/** Arc length at which a surface that nothing else made turbulent becomes so. */
export function lastLaminar(s: Float64Array, upper: boolean): number {
  const n = s.length;
  const step = upper ? 1 : -1;
  const edge = upper ? 0 : n - 1;
  const panels = s[edge + step] + 0.5 * (s[edge + 2 * step] - s[edge + step]);
  const chords = s[edge] + step * LAST;
  return upper ? Math.max(panels, chords) : Math.min(panels, chords);
}

/**
 * Where the velocity along the loop turns from upstream to downstream, by linear interpolation; of several such places the one nearest `near`.
 * @returns the node before it, or −1.
 */
export function stagnationPanel(s: Float64Array, velocity: Float64Array, near: number): number {
  let best = -1;
  let distance = Infinity;
  for (let i = 0; i + 1 < s.length; i++) {
    if (!(velocity[i] < 0 && velocity[i + 1] >= 0)) continue;
    const at = s[i] + ((s[i + 1] - s[i]) * -velocity[i]) / (velocity[i + 1] - velocity[i]);
    if (Math.abs(at - near) < distance) {
      distance = Math.abs(at - near);
      best = i;
    }
  }
  return best;
}

/** Shares of `NEAR` within which a node drops its layer, and beyond which it gets one again, where nodes keep their side. */
const DROPS = 0.3;
const RETURNS = 2;

/**
 * Orders the stations about a stagnation point and writes their sides.
 * @param keep nodes keep being with or without a layer over a wider range, so that they do not change for ever as the stagnation point moves to and fro.
 */
export function orderStations(
  s: Float64Array,
  wake: number,
  stagnation: number,
  side: Int8Array,
  into: Stations,
  keep = false,
): Stations {
  const n = s.length;
  const { order } = into;
  let k = 0;
  while (k + 2 < n && s[k + 1] < stagnation) k++;
  const near = NEAR * (s[k + 1] - s[k]);
  const carries = (i: number, distance: number) => distance >= near * (keep ? (side[i] === 0 ? RETURNS : DROPS) : 1);
  let count = 0;
  for (let i = k; i >= 0; i--) {
    side[i] = carries(i, stagnation - s[i]) ? -1 : 0;
    if (side[i]) order[count++] = i;
  }
  into.upper = count;
  for (let i = k + 1; i < n; i++) {
    side[i] = carries(i, s[i] - stagnation) ? 1 : 0;
    if (side[i]) order[count++] = i;
  }
  into.lower = count;
  for (let i = n; i < n + wake; i++) {
    side[i] = 1;
    order[count++] = i;
  }
  return into;
}

/** The stations of layers whose sides are known. @param nodes of the section's loop. */
export function stationsBySide(side: Int8Array, nodes: number, into: Stations): Stations {
  let count = 0;
  for (let i = nodes - 1; i >= 0; i--) if (side[i] < 0) into.order[count++] = i;
  into.upper = count;
  for (let i = 0; i < nodes; i++) if (side[i] > 0) into.order[count++] = i;
  into.lower = count;
  for (let i = nodes; i < side.length; i++) into.order[count++] = i;
  return into;
}

/** Arc length of a trip at x on the stretch of the loop from the stagnation point to an edge; the edge itself without a trip. */
export function tripArc(
  x: Float64Array,
  s: Float64Array,
  stagnation: number,
  upper: boolean,
  trip: number | undefined,
): number {
  const n = s.length;
  // At the latest shortly ahead of the edge: there both surfaces share one speed, and a laminar layer cannot choose its own.
  const end = lastLaminar(s, upper);
  if (trip === undefined || trip >= 1) return end;
  const step = upper ? 1 : -1;
  // From the edge forward, so that the nose's turn of x does not matter.
  for (
    let i = upper ? 0 : n - 1;
    upper ? i + 1 < n && s[i + 1] < stagnation : i > 0 && s[i - 1] > stagnation;
    i += step
  ) {
    const j = i + step;
    if (x[j] <= trip && x[i] >= trip) {
      const share = x[i] === x[j] ? 0 : (x[i] - trip) / (x[i] - x[j]);
      const at = s[i] + share * (s[j] - s[i]);
      return upper ? Math.max(at, end) : Math.min(at, end);
    }
    if (x[j] > x[i]) break;
  }
  return stagnation;
}

/** Thickness of the still air behind a blunt edge at the wake's nodes: a cubic that closes within a few gaps. */
export function deadAir(gap: number, coupling: Pick<Coupling, 'wake' | 'wakeS'>): Float64Array {
  const length = 2.5 * gap;
  const first = coupling.wakeS[1];
  // At least one interval long, so that the mass is not lost between two nodes.
  const reach = Math.max(length, 1.5 * first);
  return Float64Array.from(coupling.wakeS, (d) => {
    const t = Math.min(1, d / reach);
    return gap * (1 - t) * (1 - t) * (1 + 2 * t);
  });
}
