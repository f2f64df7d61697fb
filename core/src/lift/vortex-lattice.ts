import { solveFactorised, type Factorisation } from '../numerics';
import type { Point3, Reference } from '../airframe';
import { makeInfluence, partOffsets, type Influence } from './influence';
import type { Lattice, SurfaceLattice } from './lattice';

/** The state of flight: angles in rad; rates non-dimensional, p·b/2V, q·c/2V, r·b/2V, about body axes (x forward, y right, z down). */
export interface FlightAttitude {
  alpha: number;
  /** Positive with the wind from the right. */
  beta?: number;
  roll?: number;
  pitch?: number;
  yaw?: number;
}

/** Loads of one strip. */
export interface StripLoad {
  surface: number;
  id: string;
  /** Share of the half span, negative on the left of an explicit left side. */
  station: number;
  y: number;
  z: number;
  chord: number;
  width: number;
  /** Circulation over speed and length, m. */
  circulation: number;
  cl: number;
  /** Downwash angle far behind, halved: the induced angle at the strip, rad. */
  inducedAngle: number;
}

/** Coefficients of the whole airframe at one attitude; moments about the moment reference. */
export interface AirframeLoads {
  alpha: number;
  beta: number;
  CL: number;
  /** Induced drag from the Trefftz plane. */
  CDi: number;
  /** Induced drag from the forces on the bound vortices. */
  CDiNear: number;
  CY: number;
  /** Rolling moment, right wing down positive, over span. */
  Cl: number;
  /** Pitching moment, nose-up positive, over chord. */
  Cm: number;
  /** Yawing moment, nose right positive, over span. */
  Cn: number;
  /** Span efficiency CL²/(π A CDi); NaN at no lift. */
  efficiency: number;
  strips: StripLoad[];
}

type Basis = 'x' | 'y' | 'z' | 'p' | 'q' | 'r';
const SYMMETRIC: Basis[] = ['x', 'z', 'q'];
const LATERAL: Basis[] = ['y', 'p', 'r'];

interface Response {
  /** Circulation of every horseshoe for one unit of the basis stream. */
  gamma: Float64Array;
  /** Velocity that they cause at the middle of every bound vortex. */
  u: Float64Array;
  v: Float64Array;
  w: Float64Array;
}

export interface LatticeOptions {
  /** Mach number of the Prandtl–Glauert rule. */
  mach?: number;
  /** Angle of the wake above the body's x axis, rad; 0 leaves it along the body. */
  wakeAngle?: number;
}

/**
 * The vortex lattice of an airframe: assembled and factorised once, then any angle, sideslip and rate by superposition.
 *
 * Flow tangency holds at the ¾ points of all panels. In a symmetric lattice the right half is solved with its mirror image, once for
 * streams that are symmetric (along x, z, pitching) and, when asked for, once for those that are not (along y, rolling, yawing).
 * @source Katz and Plotkin, Low-Speed Aerodynamics, 2nd ed., 2001, chapter 12; Göthert's rule: NACA TM-1105, 1946; Trefftz plane:
 *   NACA TR-121, 1921.
 */
export class VortexLattice {
  private readonly responses = new Map<Basis, Response>();
  private readonly factors = new Map<'even' | 'odd' | 'all', { f: Factorisation; parts: number[] }>();
  private readonly influence: Influence;
  private readonly offsets: number[];
  private readonly beta: number;
  private readonly flow: Lattice;
  private readonly wake: [number, number, number];

  /**
   * @param lattice the true geometry. @param stretched the same cut with y and z times √(1 − M²) when M > 0, else the same object.
   * @param reference area, span and chord of the coefficients. @param about moment reference, m.
   * @throws FailedComputation `singular-matrix` when surfaces coincide.
   */
  constructor(
    readonly lattice: Lattice,
    stretched: Lattice,
    readonly reference: Reference,
    readonly about: Point3,
    readonly options: LatticeOptions = {},
    influence?: Influence,
  ) {
    const mach = options.mach ?? 0;
    this.beta = Math.sqrt(1 - mach * mach);
    this.flow = stretched;
    const angle = options.wakeAngle ?? 0;
    const raw = [Math.cos(angle), 0, Math.sin(angle) * this.beta];
    const norm = Math.hypot(...raw);
    this.wake = [raw[0] / norm, 0, raw[2] / norm];
    this.influence = influence ?? makeInfluence(stretched.parts, this.wake);
    this.offsets = partOffsets(lattice.parts);
  }

  /** Parts that take part in a problem: a surface in the plane of symmetry carries nothing in symmetric flow. */
  private activeParts(kind: 'even' | 'odd' | 'all'): number[] {
    return this.flow.parts.map((_, i) => i).filter((i) => kind !== 'even' || !this.flow.parts[i].central);
  }

  private system(kind: 'even' | 'odd' | 'all'): { f: Factorisation; parts: number[] } {
    const known = this.factors.get(kind);
    if (known) return known;
    const parts = this.activeParts(kind);
    const made = { f: this.influence.system(parts, kind === 'odd' ? -1 : 1), parts };
    this.factors.set(kind, made);
    return made;
  }

  private kindOf(basis: Basis): 'even' | 'odd' | 'all' {
    if (this.flow.symmetry === 'full') return 'all';
    return SYMMETRIC.includes(basis) ? 'even' : 'odd';
  }

  /** Basis stream at a true point: unit stream along an axis, or unit non-dimensional rate. */
  private stream(basis: Basis, x: number, y: number, z: number, out: Float64Array): void {
    const { span, chord } = this.reference;
    const rx = x - this.about.x;
    const ry = y - this.about.y;
    const rz = z - this.about.z;
    out.fill(0);
    // The air moves with −ω × r; ω in geometry axes (aft, right, up) is (−p, q, −r).
    if (basis === 'x') out[0] = 1;
    else if (basis === 'y') out[1] = 1;
    else if (basis === 'z') out[2] = 1;
    else if (basis === 'p') {
      const k = 2 / span;
      out[1] = -k * rz;
      out[2] = k * ry;
    } else if (basis === 'q') {
      const k = 2 / chord;
      out[0] = -k * rz;
      out[2] = k * rx;
    } else {
      const k = 2 / span;
      out[0] = -k * ry;
      out[1] = k * rx;
    }
  }

  private circulations(basis: Basis): Float64Array {
    const { f, parts } = this.system(this.kindOf(basis));
    const right = new Float64Array(f.n);
    const vel = new Float64Array(3);
    let row = 0;
    for (const p of parts) {
      const { normals } = this.flow.parts[p];
      const { controls } = this.lattice.parts[p];
      for (let c = 0; c < controls.length; c += 3, row++) {
        this.stream(basis, controls[c], controls[c + 1], controls[c + 2], vel);
        // Göthert: slopes and lateral streams shrink with the stretched coordinates.
        right[row] = -(vel[0] * normals[c] + this.beta * (vel[1] * normals[c + 1] + vel[2] * normals[c + 2]));
      }
    }
    solveFactorised(f, right);
    const gamma = new Float64Array(this.lattice.panels);
    row = 0;
    for (const p of parts) {
      const size = this.flow.parts[p].rows * this.flow.parts[p].strips;
      gamma.set(right.subarray(row, row + size), this.offsets[p]);
      row += size;
    }
    return gamma;
  }

  /** Solves for the streams that are not known yet, those of one kind together. */
  private prepare(wanted: Basis[]): void {
    for (const kind of ['even', 'odd', 'all'] as const) {
      const missing = wanted.filter((b) => this.kindOf(b) === kind && !this.responses.has(b));
      if (missing.length === 0) continue;
      const { parts } = this.system(kind);
      const gammas = missing.map((basis) => this.circulations(basis));
      const total = this.lattice.panels;
      const made = gammas.map((gamma) => ({
        gamma,
        u: new Float64Array(total),
        v: new Float64Array(total),
        w: new Float64Array(total),
      }));
      const b = this.beta;
      this.flow.parts.forEach((part, to) => {
        const velocities = this.influence.induced(parts, kind === 'odd' ? -1 : 1, to, boundMiddles(part), gammas);
        velocities.forEach((vel, s) => {
          for (let k = 0; k < vel.length / 3; k++) {
            const at = this.offsets[to] + k;
            made[s].u[at] = vel[3 * k] / (b * b);
            made[s].v[at] = vel[3 * k + 1] / b;
            made[s].w[at] = vel[3 * k + 2] / b;
          }
        });
      });
      missing.forEach((basis, s) => {
        for (let k = 0; k < total; k++) made[s].gamma[k] /= b * b;
        this.responses.set(basis, made[s]);
      });
    }
  }

  /** Coefficients at an attitude. Only the streams that it needs are solved for. */
  at(attitude: FlightAttitude): AirframeLoads {
    const { alpha, beta = 0, roll = 0, pitch = 0, yaw = 0 } = attitude;
    const weights: [Basis, number][] = [
      ['x', Math.cos(alpha) * Math.cos(beta)],
      ['z', Math.sin(alpha) * Math.cos(beta)],
    ];
    if (pitch !== 0) weights.push(['q', pitch]);
    if (beta !== 0) weights.push(['y', -Math.sin(beta)]);
    if (roll !== 0) weights.push(['p', roll]);
    if (yaw !== 0) weights.push(['r', yaw]);
    this.prepare(weights.map(([b]) => b));
    const half = this.flow.symmetry === 'half';
    const lateral = half && weights.some(([b]) => LATERAL.includes(b));
    // In a symmetric lattice with lateral streams the left side carries even minus odd: both sides are then summed apart.
    const sides = lateral ? [1, -1] : [1];
    const totals = { fx: 0, fy: 0, fz: 0, mx: 0, my: 0, mz: 0 };
    const strips: StripLoad[] = [];
    for (const side of sides) this.sumSide(side, weights, totals, strips, half && !lateral);
    const { area, span, chord } = this.reference;
    const cos = Math.cos(alpha);
    const sin = Math.sin(alpha);
    const k = 2 / area;
    const CL = k * (totals.fz * cos - totals.fx * sin);
    const near = k * (totals.fx * cos + totals.fz * sin);
    const CDi = this.trefftz(strips, half && !lateral);
    return {
      alpha,
      beta,
      CL,
      CDi,
      CDiNear: near,
      CY: k * totals.fy,
      // Body axes: x forward, so rolling and yawing moments change sign against the geometry's x and z.
      Cl: (-k * totals.mx) / span,
      Cm: (k * totals.my) / chord,
      Cn: (-k * totals.mz) / span,
      efficiency: (CL * CL) / (Math.PI * ((span * span) / area) * CDi),
      strips,
    };
  }

  private sumSide(
    side: number,
    weights: [Basis, number][],
    totals: { fx: number; fy: number; fz: number; mx: number; my: number; mz: number },
    strips: StripLoad[],
    doubled: boolean,
  ): void {
    const stream = new Float64Array(3);
    const responses = weights.map(([basis, weight]) => ({
      basis,
      weight,
      // Odd streams change sign on the left side of a symmetric lattice.
      sign: side < 0 && LATERAL.includes(basis) ? -1 : 1,
      r: this.responses.get(basis)!,
    }));
    const { about } = this;
    this.lattice.parts.forEach((part, p) => {
      if (side < 0 && !part.mirrored) return;
      const twice = doubled && part.mirrored;
      const stride = 3 * (part.rows + 1);
      const add = (px: number, py: number, pz: number, fx: number, fy: number, fz: number) => {
        const rx = px - about.x;
        const ry = py - about.y;
        const rz = pz - about.z;
        const m = twice ? 2 : 1;
        totals.fx += m * fx;
        totals.fz += m * fz;
        totals.my += m * (rz * fx - rx * fz);
        if (!twice) {
          totals.fy += fy;
          totals.mx += ry * fz - rz * fy;
          totals.mz += rx * fy - ry * fx;
        }
      };
      const cumulative = new Float64Array((part.strips + 2) * part.rows);
      for (let s = 0; s < part.strips; s++) {
        let circulation = 0;
        for (let i = 0; i < part.rows; i++) {
          const at = this.offsets[p] + s * part.rows + i;
          const a = s * stride + 3 * i;
          const b = a + stride;
          const px = 0.5 * (part.corners[a] + part.corners[b]);
          const py = side * 0.5 * (part.corners[a + 1] + part.corners[b + 1]);
          const pz = 0.5 * (part.corners[a + 2] + part.corners[b + 2]);
          const lx = side * (part.corners[b] - part.corners[a]);
          const ly = part.corners[b + 1] - part.corners[a + 1];
          const lz = side * (part.corners[b + 2] - part.corners[a + 2]);
          let g = 0;
          let vx = 0;
          let vy = 0;
          let vz = 0;
          for (const { basis, weight, sign, r } of responses) {
            this.stream(basis, px, py, pz, stream);
            const k = weight * sign;
            g += k * r.gamma[at];
            vx += weight * stream[0] + k * r.u[at];
            vy += weight * stream[1] + side * k * r.v[at];
            vz += weight * stream[2] + k * r.w[at];
          }
          circulation += g;
          cumulative[(s + 1) * part.rows + i] = circulation;
          add(px, py, pz, g * (vy * lz - vz * ly), g * (vz * lx - vx * lz), g * (vx * ly - vy * lx));
        }
        strips.push({
          surface: part.surface,
          id: part.id,
          station: side * part.station[s],
          y: side * part.middleY[s],
          z: part.middleZ[s],
          chord: part.chord[s],
          width: part.width[s],
          circulation,
          cl: (2 * circulation) / part.chord[s],
          inducedAngle: 0,
        });
      }
      // Legs on the surface: the circulation of two neighbouring strips differs there. The stream alone is used, which is first order.
      for (let e = 0; e <= part.strips; e++) {
        for (let i = 0; i < part.rows; i++) {
          const g = side * (cumulative[e * part.rows + i] - cumulative[(e + 1) * part.rows + i]);
          if (g === 0) continue;
          const a = e * stride + 3 * i;
          const px = 0.5 * (part.corners[a] + part.corners[a + 3]);
          const py = side * 0.5 * (part.corners[a + 1] + part.corners[a + 4]);
          const pz = 0.5 * (part.corners[a + 2] + part.corners[a + 5]);
          const lx = part.corners[a + 3] - part.corners[a];
          const ly = side * (part.corners[a + 4] - part.corners[a + 1]);
          const lz = part.corners[a + 5] - part.corners[a + 2];
          let vx = 0;
          let vy = 0;
          let vz = 0;
          for (const { basis, weight } of responses) {
            this.stream(basis, px, py, pz, stream);
            vx += weight * stream[0];
            vy += weight * stream[1];
            vz += weight * stream[2];
          }
          add(px, py, pz, g * (vy * lz - vz * ly), g * (vz * lx - vx * lz), g * (vx * ly - vy * lx));
        }
      }
    });
  }

  /** Induced drag from the wake far behind; fills in every strip's induced angle. */
  private trefftz(strips: StripLoad[], doubled: boolean): number {
    const traces = this.wakeTraces(strips, doubled);
    let drag = 0;
    strips.forEach((strip, i) => {
      const t = traces[i];
      const y = (1 - t.share) * t.ya + t.share * t.yb;
      const z = (1 - t.share) * t.za + t.share * t.zb;
      const width = Math.hypot(t.yb - t.ya, t.zb - t.za);
      const ny = -(t.zb - t.za) / width;
      const nz = (t.yb - t.ya) / width;
      let normal = 0;
      for (const o of traces) {
        if (o.circulation === 0) continue;
        normal += o.circulation * (threadVelocity(y, z, o.yb, o.zb, ny, nz) - threadVelocity(y, z, o.ya, o.za, ny, nz));
      }
      strip.inducedAngle = -0.5 * normal;
      drag += -0.5 * strip.circulation * normal * width * (doubled && t.mirrored ? 2 : 1);
    });
    return (2 * drag) / this.reference.area;
  }

  private wakeTraces(
    strips: StripLoad[],
    doubled: boolean,
  ): { ya: number; za: number; yb: number; zb: number; circulation: number; share: number; mirrored: boolean }[] {
    const traces: {
      ya: number;
      za: number;
      yb: number;
      zb: number;
      circulation: number;
      share: number;
      mirrored: boolean;
    }[] = [];
    const tilt = this.options.wakeAngle ?? 0;
    let k = 0;
    const pushPart = (part: SurfaceLattice, side: number) => {
      const stride = 3 * (part.rows + 1);
      for (let s = 0; s < part.strips; s++, k++) {
        const a = s * stride + 3 * part.rows;
        const b = a + stride;
        const height = (c: number) => part.corners[c + 2] * Math.cos(tilt) - part.corners[c] * Math.sin(tilt);
        const right = { y: part.corners[b + 1], z: height(b) };
        const left = { y: part.corners[a + 1], z: height(a) };
        // A left side is its right side seen in the mirror: the ends change places.
        const [from, to] =
          side > 0
            ? [left, right]
            : [
                { y: -right.y, z: right.z },
                { y: -left.y, z: left.z },
              ];
        traces.push({
          ya: from.y,
          za: from.z,
          yb: to.y,
          zb: to.z,
          circulation: strips[k].circulation,
          share: side > 0 ? part.share[s] : 1 - part.share[s],
          mirrored: part.mirrored,
        });
      }
    };
    for (const part of this.lattice.parts) pushPart(part, 1);
    if (!doubled && this.lattice.symmetry === 'half')
      for (const part of this.lattice.parts) if (part.mirrored && k < strips.length) pushPart(part, -1);
    if (doubled) {
      const images = traces
        .filter((t) => t.mirrored)
        .map((t) => ({
          ya: -t.yb,
          za: t.zb,
          yb: -t.ya,
          zb: t.za,
          circulation: t.circulation,
          share: 1 - t.share,
          mirrored: true,
        }));
      return [...traces, ...images];
    }
    return traces;
  }
}

/** Middles of the bound vortices, where the near-field forces are taken. */
function boundMiddles(part: SurfaceLattice): Float64Array {
  const out = new Float64Array(3 * part.rows * part.strips);
  const stride = 3 * (part.rows + 1);
  for (let s = 0, k = 0; s < part.strips; s++) {
    for (let i = 0; i < 3 * part.rows; i++, k++) {
      out[k] = 0.5 * (part.corners[s * stride + i] + part.corners[(s + 1) * stride + i]);
    }
  }
  return out;
}

/** Velocity along (ny, nz) at (y, z) from a straight thread along x through (ty, tz), unit circulation about +x. */
function threadVelocity(y: number, z: number, ty: number, tz: number, ny: number, nz: number): number {
  const dy = y - ty;
  const dz = z - tz;
  const d2 = dy * dy + dz * dz;
  if (d2 < 1e-16) return 0;
  return (-dz * ny + dy * nz) / (2 * Math.PI * d2);
}
