import { bodyRings, type Body, type Point3, type Reference } from '../airframe';
import { kept } from '../shaping';
import type { Totals } from './near-field';
import { basisStreams } from './streams';
import type { FlightState } from './vortex-lattice';

/** A body as the slender-body theory sees it: cross-sections along x; m. */
export interface SlenderBody {
  id: string;
  /** Along, and the centre of the cross-section. */
  x: number[];
  y: number;
  z: number[];
  /** Apparent masses over density and length, up and to the side: those of the ellipse about the cross-section, m². */
  up: number[];
  aside: number[];
  /** Factor of its fineness on both. */
  factor: number;
}

/**
 * Difference of the apparent masses across and along an ellipsoid of revolution, over the mass of the air that it displaces: 1 for a needle, 0 for a sphere.
 * @param fineness length over diameter, above 0. @source Lamb, Hydrodynamics, 6th ed., 1932, §114; NACA TR-184, 1924.
 */
export function apparentMassFactor(fineness: number): number {
  if (fineness <= 1) return 0;
  const e = Math.sqrt(1 - 1 / (fineness * fineness));
  const log = Math.log((1 + e) / (1 - e));
  // Short ones lose all digits in the closed form.
  if (e < 0.05) return (e * e) / 2.5;
  const along = ((2 * (1 - e * e)) / e ** 3) * (0.5 * log - e);
  const across = 1 / (e * e) - ((1 - e * e) / (2 * e ** 3)) * log;
  return across / (2 - across) - along / (2 - along);
}

/** The bodies of an airframe, mirrored ones twice. @throws InvalidInput for a body that is no shape. */
export const slenderBodies = (bodies: readonly Body[]): SlenderBody[] => bodies.flatMap((b) => slender(b));

/** Bodies change seldom, and their rings are many. */
const slender = kept(60, (body: Body): SlenderBody[] => {
  const rings = bodyRings(body);
  const made: SlenderBody = { id: body.id, x: [], y: body.position.y, z: [], up: [], aside: [], factor: 0 };
  let widest = 0;
  for (const ring of rings) {
    let [left, right, low, high] = [Infinity, -Infinity, Infinity, -Infinity];
    for (const p of ring) {
      left = Math.min(left, p.y);
      right = Math.max(right, p.y);
      low = Math.min(low, p.z);
      high = Math.max(high, p.z);
    }
    const [w, h] = [right - left, high - low];
    widest = Math.max(widest, w * h);
    made.x.push(ring[0].x);
    made.z.push(0.5 * (low + high));
    made.up.push((Math.PI * w * w) / 4);
    made.aside.push((Math.PI * h * h) / 4);
  }
  const length = made.x[made.x.length - 1] - made.x[0];
  made.factor = apparentMassFactor(length / Math.sqrt(widest));
  return body.mirrored ? [made, { ...made, y: -made.y }] : [made];
});

/**
 * Adds the forces and moments of a slender body, over density and speed squared: what flows through a slice gains the momentum that the apparent mass of the slice
 * gains. A closed body has a moment and hardly a force.
 * @param cross writes the cross-flow at a station, side and up, in a unit stream along the body. @param total added to; geometry axes, about a point.
 * @source NACA TR-184, 1924.
 */
export function addSlender(
  b: SlenderBody,
  about: Point3,
  cross: (station: number, flow: Float64Array) => void,
  total: Totals,
): void {
  const flow = new Float64Array(2);
  let [sideBefore, upBefore] = [0, 0];
  for (let i = 0; i < b.x.length; i++) {
    cross(i, flow);
    const side = b.factor * b.aside[i] * flow[0];
    const up = b.factor * b.up[i] * flow[1];
    const fy = side - sideBefore;
    const fz = up - upBefore;
    const last = Math.max(0, i - 1);
    const rx = 0.5 * (b.x[i] + b.x[last]) - about.x;
    const ry = b.y - about.y;
    const rz = 0.5 * (b.z[i] + b.z[last]) - about.z;
    total.fy += fy;
    total.fz += fz;
    total.mx += ry * fz - rz * fy;
    total.my += -rx * fz;
    total.mz += rx * fy;
    sideBefore = side;
    upBefore = up;
  }
}

/** Forces of slender bodies in a state of flight, with the stream's cross-flow and the rates of turn alone. @returns over density and speed squared. */
export function bodyForces(
  bodies: readonly SlenderBody[],
  state: FlightState,
  reference: Reference,
  about: Point3,
): Totals {
  const total: Totals = { fx: 0, fy: 0, fz: 0, mx: 0, my: 0, mz: 0 };
  const { alpha, sideslip = 0, rollRate = 0, pitchRate = 0, yawRate = 0 } = state;
  const streams = basisStreams(reference, about);
  const vel = new Float64Array(3);
  const along = Math.cos(alpha) * Math.cos(sideslip);
  const across = (x: number, y: number, z: number, flow: Float64Array): void => {
    let [side, up] = [-Math.sin(sideslip), Math.sin(alpha) * Math.cos(sideslip)];
    for (const [id, rate] of [
      ['p', rollRate],
      ['q', pitchRate],
      ['r', yawRate],
    ] as const) {
      if (rate === 0) continue;
      streams[id].velocity!(x, y, z, vel);
      side += rate * vel[1];
      up += rate * vel[2];
    }
    flow[0] = along * side;
    flow[1] = along * up;
  };
  for (const b of bodies) addSlender(b, about, (i, flow) => across(b.x[i], b.y, b.z[i], flow), total);
  return total;
}
