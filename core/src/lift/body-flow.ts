import type { Body, Point3 } from '../airframe';
import { bodyForces, slenderBodies, type SlenderBody } from './bodies';
import type { SurfaceLattice } from './lattice';
import type { Totals } from './near-field';
import type { FlightState, VortexLattice } from './vortex-lattice';

/** Induced speeds beyond this are those of a vortex that the axis passes by, and of no flow, stream speeds. */
const GREATEST = 0.8;
/** Surfaces whose normals lean more than this to the side turn no flow up or down. */
const FLAT = 0.7;

/** Stations of a body between the edges of a surface that it passes through: the flow goes along the chord there. */
interface Shielded {
  /** By station: how far the chord falls a metre aft; NaN where no surface shields. */ fall: Float64Array;
}

/**
 * Bodies as slender ones in the flow of the surfaces: the cross-flow at their axis is the stream's with what the lattice's vortices add — upwash ahead of a wing,
 * downwash behind it — and along the chord of a surface that they pass through it is the chord's.
 * @source Multhopp, Luftfahrtforschung 18, 1941 (NACA TM-1036, 1942); slender bodies: NACA TR-184, 1924.
 */
export class BodyFlow {
  private readonly slender: readonly SlenderBody[];
  private readonly shielded: readonly Shielded[];
  /** Places on the axes, all bodies one after the other. */
  private readonly places: Float64Array;
  private readonly wash = new Map<string, Float64Array>();

  /** @param alone true to leave out what surfaces do to the bodies. */
  constructor(
    private readonly lattice: VortexLattice,
    bodies: readonly Body[],
    private readonly alone = false,
  ) {
    this.slender = slenderBodies(bodies);
    this.places = Float64Array.from(this.slender.flatMap((b) => b.x.flatMap((x, i) => [x, b.y, b.z[i]])));
    this.shielded = this.slender.map((b) => shieldOf(b, lattice.lattice.parts));
  }

  /** The same with moments about another point. */
  movedTo(lattice: VortexLattice): BodyFlow {
    const moved: BodyFlow = Object.create(this);
    return Object.assign(moved, { lattice });
  }

  /**
   * Forces of the bodies in a state of flight. @param share of the surfaces' circulation that is there: less past the stall.
   * @returns over density and speed squared, geometry axes, about the lattice's moment reference.
   */
  forces(state: FlightState, share = 1): Totals {
    const { reference, about } = this.lattice;
    if (this.slender.length === 0) return { fx: 0, fy: 0, fz: 0, mx: 0, my: 0, mz: 0 };
    if (this.alone) return bodyForces(this.slender, state, reference, about);
    return bodyForces(this.slender, state, reference, about, this.added(state, about, share));
  }

  /** What the surfaces add to the cross-flow at each station, side and up, stream speeds; and how the chord falls that leads the flow there. */
  private added(state: FlightState, about: Point3, share: number) {
    const amounts = this.lattice.amountsOf(state);
    // Rates turn about the moment reference: what they induce belongs to it.
    const key = (id: string) => (/^[pqr]$/.test(id) ? `${id} ${about.x} ${about.y} ${about.z}` : id);
    const missing = amounts.filter(([id]) => !this.wash.has(key(id))).map(([id]) => id);
    for (const [id, v] of this.lattice.washAt(this.places, missing)) this.wash.set(key(id), v);
    const starts: number[] = [];
    this.slender.reduce((at, b) => (starts.push(at), at + b.x.length), 0);
    return (body: number, station: number): { side: number; up: number; fall: number } => {
      const k = 3 * (starts[body] + station);
      let [side, up] = [0, 0];
      for (const [id, amount] of amounts) {
        const v = this.wash.get(key(id))!;
        side += amount * v[k + 1];
        up += amount * v[k + 2];
      }
      const bounded = (v: number) => share * Math.max(-GREATEST, Math.min(GREATEST, v));
      return { side: bounded(side), up: bounded(up), fall: this.shielded[body].fall[station] };
    };
  }
}

/** Where a body passes through surfaces that lie across it. */
function shieldOf(b: SlenderBody, parts: readonly SurfaceLattice[]): Shielded {
  const fall = new Float64Array(b.x.length).fill(NaN);
  const half = (area: number) => Math.sqrt(area / Math.PI);
  for (const part of parts) {
    const { rows, strips, corners, normals, mirrored } = part;
    const y = mirrored ? Math.abs(b.y) : b.y;
    for (let s = 0; s < strips; s++) {
      const a = 3 * s * (rows + 1);
      const c = a + 3 * (rows + 1);
      const [inner, outer] = [Math.min(corners[a + 1], corners[c + 1]), Math.max(corners[a + 1], corners[c + 1])];
      if (Math.abs(normals[3 * s * rows + 2]) < FLAT) continue;
      const [lead, trail] = [a, a + 3 * rows].map((k) => ({
        x: 0.5 * (corners[k] + corners[k + 3 * (rows + 1)]),
        z: 0.5 * (corners[k + 2] + corners[k + 2 + 3 * (rows + 1)]),
      }));
      if (!(trail.x > lead.x)) continue;
      b.x.forEach((x, i) => {
        // The first strip stands for what of the surface lies within the body.
        const wide = half(b.up[i]);
        if (y < inner - (s === 0 ? wide : 0) || y >= outer || x < lead.x || x > trail.x) return;
        const slope = (trail.z - lead.z) / (trail.x - lead.x);
        if (Math.abs(lead.z + slope * (x - lead.x) - b.z[i]) < half(b.aside[i])) fall[i] = slope;
      });
    }
  }
  return { fall };
}
