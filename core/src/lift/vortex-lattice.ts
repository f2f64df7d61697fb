import type { Point3, Reference } from '../airframe';
import { InvalidInput, solveFactorised, type Factorisation } from '../numerics';
import { makeInfluence, partOffsets, type Influence } from './influence';
import type { Lattice, SurfaceLattice } from './lattice';
import type { AirframeLoads, StripLoad } from './loads';
import { addNearField, type Response, type Totals } from './near-field';
import { basisStreams, type RightSide, type StreamId } from './streams';
import { trefftzDrag } from './trefftz';

/**
 * The state of flight: angles in rad; rates non-dimensional, p·b/2V, q·c/2V, r·b/2V, about body axes (x forward, y right, z down); deflections of
 * controls in rad, by the id of their right-hand side.
 */
export interface FlightState {
  alpha: number;
  /** Positive with the wind from the right. */
  sideslip?: number;
  rollRate?: number;
  pitchRate?: number;
  yawRate?: number;
  controls?: Readonly<Record<string, number>>;
}

/** Compressibility, and where the wake goes. */
export interface LatticeOptions {
  /** Mach number of the Prandtl–Glauert rule. */
  mach?: number;
  /** Angle of the wake above the body's x axis, rad; 0 leaves it along the body. */
  wakeAngle?: number;
}

/** Which problem a right-hand side belongs to: of a half with its mirror image, alike or opposite, or of the whole. */
type Problem = 'even' | 'odd' | 'all';

/**
 * The vortex lattice of an airframe: assembled and factorised once, then any angle, sideslip, rate and deflection by superposition.
 *
 * Flow tangency holds at the ¾ points of all panels. In a symmetric lattice the right half is solved with its mirror image, once for
 * right-hand sides that are symmetric and, when asked for, once for those that are not.
 * @source Katz and Plotkin, Low-Speed Aerodynamics, 2nd ed., 2001, chapter 12; Göthert's rule: NACA TM-1105, 1946; Trefftz plane:
 *   NACA TR-121, 1921.
 */
export class VortexLattice {
  private readonly responses = new Map<string, Response>();
  private readonly factors = new Map<Problem, { f: Factorisation; parts: number[] }>();
  private readonly influence: Influence;
  private readonly offsets: number[];
  /** √(1 − M²). */
  private readonly compression: number;
  private readonly flow: Lattice;
  private readonly streams: Record<StreamId, RightSide>;
  private readonly controls = new Map<string, RightSide>();

  /**
   * @param lattice the true geometry. @param stretched the same cut with y and z times √(1 − M²) when M > 0, else the same object.
   * @param reference area, span and chord of the coefficients. @param about moment reference, m.
   * @param controls right-hand sides of deflections, per rad.
   * @throws FailedComputation `singular-matrix` when surfaces coincide.
   */
  constructor(
    readonly lattice: Lattice,
    stretched: Lattice,
    readonly reference: Reference,
    readonly about: Point3,
    readonly options: LatticeOptions = {},
    controls: readonly RightSide[] = [],
    influence?: Influence,
  ) {
    const mach = options.mach ?? 0;
    this.compression = Math.sqrt(1 - mach * mach);
    this.flow = stretched;
    this.streams = basisStreams(reference, about);
    for (const c of controls) this.controls.set(c.id, c);
    const angle = options.wakeAngle ?? 0;
    const raw = [Math.cos(angle), 0, Math.sin(angle) * this.compression];
    const norm = Math.hypot(...raw);
    this.influence = influence ?? makeInfluence(stretched.parts, [raw[0] / norm, 0, raw[2] / norm]);
    this.offsets = partOffsets(lattice.parts);
  }

  /** Parts that take part in a problem: a surface in the plane of symmetry carries nothing in symmetric flow. */
  private system(problem: Problem): { f: Factorisation; parts: number[] } {
    const known = this.factors.get(problem);
    if (known) return known;
    const parts = this.flow.parts.map((_, i) => i).filter((i) => problem !== 'even' || !this.flow.parts[i].central);
    const made = { f: this.influence.system(parts, problem === 'odd' ? -1 : 1), parts };
    this.factors.set(problem, made);
    return made;
  }

  private problemOf(basis: RightSide): Problem {
    return this.flow.symmetry === 'full' ? 'all' : basis.symmetry;
  }

  /** Circulations for a unit of a right-hand side, in the stretched flow. */
  private circulations(basis: RightSide): Float64Array {
    const { f, parts } = this.system(this.problemOf(basis));
    const right = new Float64Array(f.n);
    const vel = new Float64Array(3);
    const squeeze = this.compression;
    let row = 0;
    for (const p of parts) {
      const { normals } = this.flow.parts[p];
      const { controls } = this.lattice.parts[p];
      for (let c = 0; c < controls.length; c += 3, row++) {
        vel.fill(0);
        basis.velocity?.(controls[c], controls[c + 1], controls[c + 2], vel);
        // Göthert: slopes and lateral streams shrink with the stretched coordinates.
        right[row] = -(vel[0] * normals[c] + squeeze * (vel[1] * normals[c + 1] + vel[2] * normals[c + 2]));
        if (basis.wash) right[row] -= squeeze * basis.wash(p, c / 3);
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

  /** Solves for what is not known yet, what belongs to one problem together. */
  private prepare(wanted: readonly RightSide[]): void {
    for (const problem of ['even', 'odd', 'all'] as const) {
      const missing = wanted.filter((b) => this.problemOf(b) === problem && !this.responses.has(b.id));
      if (missing.length === 0) continue;
      const { parts } = this.system(problem);
      const gammas = missing.map((basis) => this.circulations(basis));
      const total = this.lattice.panels;
      const made = gammas.map((gamma): Response => ({
        gamma,
        u: new Float64Array(total),
        v: new Float64Array(total),
        w: new Float64Array(total),
      }));
      const b = this.compression;
      this.flow.parts.forEach((part, to) => {
        const velocities = this.influence.induced(parts, problem === 'odd' ? -1 : 1, to, boundMiddles(part), gammas);
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
        this.responses.set(basis.id, made[s]);
      });
    }
  }

  /** The right-hand sides of a state, with how much of each there is. */
  private weightsOf(state: FlightState): [RightSide, number][] {
    const { alpha, sideslip = 0, rollRate = 0, pitchRate = 0, yawRate = 0, controls = {} } = state;
    const { x, y, z, p, q, r } = this.streams;
    const weights: [RightSide, number][] = [
      [x, Math.cos(alpha) * Math.cos(sideslip)],
      [z, Math.sin(alpha) * Math.cos(sideslip)],
    ];
    const also = (basis: RightSide, amount: number) => amount !== 0 && weights.push([basis, amount]);
    also(q, pitchRate);
    also(y, -Math.sin(sideslip));
    also(p, rollRate);
    also(r, yawRate);
    for (const [id, amount] of Object.entries(controls)) {
      const basis = this.controls.get(id);
      if (!basis)
        throw new InvalidInput(
          'control-missing',
          `There is no control "${id}".`,
          'Name one of the airframe’s.',
          'controls',
        );
      also(basis, amount);
    }
    return weights;
  }

  /**
   * Coefficients in a state of flight. Only what it needs is solved for.
   * @throws InvalidInput `control-missing` for a control that is none.
   */
  at(state: FlightState): AirframeLoads {
    const { alpha, sideslip = 0 } = state;
    const weights = this.weightsOf(state);
    this.prepare(weights.map(([b]) => b));
    const shares = weights.map(([basis, weight]) => ({ basis, weight, response: this.responses.get(basis.id)! }));
    const half = this.flow.symmetry === 'half';
    const lateral = half && weights.some(([b]) => b.symmetry === 'odd');
    // In a symmetric lattice with lateral streams the left side carries even minus odd: both sides are then summed apart.
    const doubled = half && !lateral;
    const totals: Totals = { fx: 0, fy: 0, fz: 0, mx: 0, my: 0, mz: 0 };
    const strips: StripLoad[] = [];
    for (const side of lateral ? ([1, -1] as const) : ([1] as const))
      addNearField(this.lattice, this.offsets, this.about, shares, side, doubled, totals, strips);
    const { area, span, chord } = this.reference;
    const cos = Math.cos(alpha);
    const sin = Math.sin(alpha);
    const k = 2 / area;
    const CL = k * (totals.fz * cos - totals.fx * sin);
    const CDi = k * trefftzDrag(this.lattice, strips, doubled, this.options.wakeAngle ?? 0);
    return {
      alpha,
      beta: sideslip,
      CL,
      CDi,
      CDiNear: k * (totals.fx * cos + totals.fz * sin),
      CY: k * totals.fy,
      // Body axes: x forward, so rolling and yawing moments change sign against the geometry's x and z.
      Cl: (-k * totals.mx) / span,
      Cm: (k * totals.my) / chord,
      Cn: (-k * totals.mz) / span,
      efficiency: (CL * CL) / (Math.PI * ((span * span) / area) * CDi),
      strips,
    };
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
