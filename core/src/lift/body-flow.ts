import type { Body } from '../airframe';
import { addSlender, slenderBodies, type SlenderBody } from './bodies';
import type { SurfaceLattice } from './lattice';
import type { Totals } from './near-field';
import { aboutPoint } from './pair-forms';
import { basisStreams, type RightSide, type StreamId } from './streams';
import type { FlightState, VortexLattice } from './vortex-lattice';

/** Induced speeds beyond this are those of a vortex that the axis passes by, and of no flow, stream speeds. */
const GREATEST = 0.8;
/** Surfaces whose normals lean more than this to the side turn no flow up or down. */
const FLAT = 0.7;

/** Stations of a body at which the surfaces' velocities are asked for, at most; between them they run straight. */
const ASKED = 18;

/** Which stations of a body are asked at, the ends among them. */
function askedOf(stations: number): number[] {
  if (stations <= ASKED) return Array.from({ length: stations }, (_, i) => i);
  return Array.from({ length: ASKED }, (_, k) => Math.round((k * (stations - 1)) / (ASKED - 1)));
}

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
  /** By body, the stations that are asked at. */ private readonly asked: readonly number[][];
  /** Places on the axes, all bodies one after the other. */
  private readonly places: Float64Array;
  private readonly wash = new Map<string, Float64Array>();
  /** Forces of unit amounts, by right-hand side: of the stream itself, and of what the surfaces add. */
  private units = new Map<string, { own: Totals; added: Totals }>();
  private led: Totals | null = null;

  /** @param alone true to leave out what surfaces do to the bodies. */
  constructor(
    private readonly lattice: VortexLattice,
    bodies: readonly Body[],
    private readonly alone = false,
  ) {
    this.slender = slenderBodies(bodies);
    this.asked = this.slender.map((b) => askedOf(b.x.length));
    this.places = Float64Array.from(
      this.slender.flatMap((b, k) => this.asked[k].flatMap((i) => [b.x[i], b.y, b.z[i]])),
    );
    this.shielded = this.slender.map((b) => shieldOf(b, lattice.lattice.parts));
  }

  /** The same with moments about another point; velocities at the axes are shared, and forces that are known are moved along. */
  movedTo(lattice: VortexLattice): BodyFlow {
    const moved = Object.create(this) as BodyFlow;
    const to = (t: Totals) => aboutPoint(t, this.lattice.about, lattice.about);
    const units = new Map<string, { own: Totals; added: Totals }>();
    // Rates turn about the point itself.
    for (const [id, { own, added }] of this.units) if (!isRate(id)) units.set(id, { own: to(own), added: to(added) });
    return Object.assign(moved, { lattice, units, led: this.led && to(this.led) });
  }

  /**
   * Forces of the bodies in a state of flight: the stream along them times the cross-flow, which is linear in what the state is made of.
   * @param share of the surfaces' circulation that is there: less past the stall.
   * @returns over density and speed squared, geometry axes, about the lattice's moment reference.
   */
  forces(state: FlightState, share = 1): Totals {
    const total = none();
    if (this.slender.length === 0) return total;
    const along = Math.cos(state.alpha) * Math.cos(state.sideslip ?? 0);
    const amounts = this.lattice.amountsOf(state);
    this.ask(amounts.map(([id]) => id));
    for (const [id, amount] of amounts) {
      const { own, added } = this.unit(id);
      for (const key of KEYS) total[key] += along * amount * (own[key] + share * added[key]);
    }
    if (!this.alone) {
      this.led ??= this.crossForces((body, i, flow) => {
        flow[0] = 0;
        flow[1] = zeroIfNone(this.shielded[body].fall[i]);
      });
      for (const key of KEYS) total[key] += along * along * this.led[key];
    }
    return total;
  }

  /** Rates turn about the moment reference: what they induce belongs to it. */
  private washKey(id: string): string {
    const { x, y, z } = this.lattice.about;
    return isRate(id) ? `${id} ${x} ${y} ${z}` : id;
  }

  private ask(ids: readonly string[]): void {
    if (this.alone) return;
    const missing = ids.filter((id) => !this.wash.has(this.washKey(id)));
    if (missing.length === 0) return;
    for (const [id, v] of this.lattice.washAt(this.places, missing)) this.wash.set(this.washKey(id), v);
  }

  private unit(id: string): { own: Totals; added: Totals } {
    let made = this.units.get(id);
    if (made) return made;
    const stream = basisStreams(this.lattice.reference, this.lattice.about)[id as StreamId] as RightSide | undefined;
    const v = new Float64Array(3);
    const free = (body: number, i: number) => this.alone || Number.isNaN(this.shielded[body].fall[i]);
    const own = this.crossForces((body, i, flow) => {
      const b = this.slender[body];
      v.fill(0);
      stream?.velocity?.(b.x[i], b.y, b.z[i], v);
      flow[0] = v[1];
      flow[1] = free(body, i) ? v[2] : 0;
    });
    const wash = this.wash.get(this.washKey(id));
    const added = wash
      ? this.crossForces((body, i, flow) => {
          this.between(wash, body, i, flow);
          if (!free(body, i)) flow[1] = 0;
        })
      : none();
    this.units.set(id, (made = { own, added }));
    return made;
  }

  /** Velocities at a station, side and up, from those at the stations that were asked at. */
  private between(wash: Float64Array, body: number, station: number, flow: Float64Array): void {
    const list = this.asked[body];
    let start = 0;
    for (let k = 0; k < body; k++) start += this.asked[k].length;
    let n = 0;
    while (n < list.length - 2 && list[n + 1] <= station) n++;
    const { x } = this.slender[body];
    const [from, to] = [x[list[n]], x[list[n + 1]]];
    const t = to > from ? (x[station] - from) / (to - from) : 0;
    const k = 3 * (start + n);
    flow[0] = bounded((1 - t) * wash[k + 1] + t * wash[k + 4]);
    flow[1] = bounded((1 - t) * wash[k + 2] + t * wash[k + 5]);
  }

  /** Forces of a cross-flow, side and up, in a unit stream along the bodies. */
  private crossForces(cross: (body: number, station: number, flow: Float64Array) => void): Totals {
    const total = none();
    this.slender.forEach((b, k) => addSlender(b, this.lattice.about, (i, flow) => cross(k, i, flow), total));
    return total;
  }
}

const KEYS = ['fx', 'fy', 'fz', 'mx', 'my', 'mz'] as const;
const none = (): Totals => ({ fx: 0, fy: 0, fz: 0, mx: 0, my: 0, mz: 0 });
const isRate = (id: string) => id === 'p' || id === 'q' || id === 'r';
const bounded = (v: number) => Math.max(-GREATEST, Math.min(GREATEST, v));
const zeroIfNone = (v: number) => (Number.isNaN(v) ? 0 : v);

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
