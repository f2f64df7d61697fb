import type { Point3, Reference } from '../airframe';
import { solveColumns } from '../kernels';
import { InvalidInput, solveFactorised, type Factorisation } from '../numerics';
import { checkAbove, groundBelow, stretchedPlane, type GroundPlane } from './ground';
import { makeInfluence, partOffsets, ReferenceInfluence, type Influence } from './influence';
import type { Lattice, SurfaceLattice } from './lattice';
import type { AirframeLoads, StripLoad } from './loads';
import { addNearField, type Response, type Share, type Totals } from './near-field';
import { basisStreams, type RightSide, type StreamId, type Symmetry } from './streams';
import { aboutPoint, PairForms, type Forces } from './pair-forms';
import { UnitResponses } from './unit-responses';
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
  /** Height of the moment reference over the ground, m; the ground lies along the wake. */
  ground?: number;
}

/** Which problem a right-hand side belongs to: of a half with its mirror image, alike or opposite, or of the whole. */
export type Problem = 'even' | 'odd' | 'all';

/** What turning the sections of single strips does, in one problem. */
export interface Turning {
  /** The strips that take part: part of the lattice, and strip of it. */
  strips: { part: number; strip: number }[];
  /** Circulations of all horseshoes for a unit turn (rad) of each strip. */
  gammas: Float64Array[];
  /** n × n, row-major: circulation of strip i over speed for a unit turn of strip k, m. */
  circulation: Float64Array;
}

/** What is added to a state of flight: turned sections, as responses of the problems they belong to. */
export interface Turned {
  symmetry: Symmetry;
  response: Response;
}

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
  private factors = new Map<Problem, { f: Factorisation; parts: number[] }>();
  private readonly influence: Influence;
  private readonly ground: GroundPlane | null = null;
  private readonly offsets: number[];
  /** √(1 − M²). */
  private readonly compression: number;
  private readonly flow: Lattice;
  private readonly streams: Record<StreamId, RightSide>;
  private readonly controls = new Map<string, RightSide>();
  private turns = new Map<Problem, Turning>();
  private unitTurns = new Map<Problem, UnitResponses>();
  /** The lattice that this one was moved from. */ private from: { forms: PairForms; about: Point3 } | null = null;
  /** Loads of strips of single right-hand sides. */
  private readonly strips = new Map<string, readonly StripLoad[]>();
  private readonly forms = new PairForms((weights) => {
    const { forces, strips } = this.evaluate(weights, []);
    const [[basis, amount]] = weights;
    if (weights.length === 1 && amount === 1) this.strips.set(basis.id, strips);
    return forces;
  });

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
    const wake: [number, number, number] = [raw[0] / norm, 0, raw[2] / norm];
    if (options.ground !== undefined) {
      this.ground = groundBelow(about, options.ground, angle);
      checkAbove(lattice.parts, this.ground, options.ground);
      this.influence = new ReferenceInfluence(stretched.parts, wake, stretchedPlane(this.ground, this.compression));
    } else this.influence = influence ?? makeInfluence(stretched.parts, wake);
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
    return this.spread(right, parts);
  }

  /** Solves for what is not known yet, what belongs to one problem together. */
  private prepare(wanted: readonly RightSide[]): void {
    for (const problem of ['even', 'odd', 'all'] as const) {
      let missing = wanted.filter((b) => this.problemOf(b) === problem && !this.responses.has(b.id));
      if (missing.length === 0) continue;
      // What goes beyond angles is asked for one after the other; the walk over all pairs of panels is the same for one and for all.
      if (missing.some((b) => b.id !== 'x' && b.id !== 'z'))
        missing = [...Object.values(this.streams), ...this.controls.values()].filter(
          (b) => this.problemOf(b) === problem && !this.responses.has(b.id),
        );
      const made = this.responsesTo(
        problem,
        missing.map((basis) => this.circulations(basis)),
      );
      missing.forEach((basis, s) => this.responses.set(basis.id, made[s]));
    }
  }

  /**
   * Velocities that circulations cause, and both in the true flow.
   * @param gammas of all horseshoes, in the stretched flow; one array a set. They are scaled in place.
   */
  responsesTo(problem: Problem, gammas: readonly Float64Array[]): Response[] {
    const { parts } = this.system(problem);
    const total = this.lattice.panels;
    const made = gammas.map((gamma): Response => ({
      gamma,
      u: new Float64Array(total),
      v: new Float64Array(total),
      w: new Float64Array(total),
    }));
    const b = this.compression;
    this.flow.parts.forEach((part, to) => {
      const velocities = this.influence.induced(
        parts,
        problem === 'odd' ? -1 : 1,
        to,
        boundMiddles(part),
        gammas.slice(),
      );
      velocities.forEach((vel, s) => {
        for (let k = 0; k < vel.length / 3; k++) {
          const at = this.offsets[to] + k;
          made[s].u[at] = vel[3 * k] / (b * b);
          made[s].v[at] = vel[3 * k + 1] / b;
          made[s].w[at] = vel[3 * k + 2] / b;
        }
      });
    });
    for (const { gamma } of made) for (let k = 0; k < total; k++) gamma[k] /= b * b;
    return made;
  }

  /** The problems that a state of flight is made of. */
  problemsOf(state: FlightState): Problem[] {
    if (this.lattice.symmetry === 'full') return ['all'];
    return this.weightsOf(state).some(([b]) => b.symmetry === 'odd') ? ['even', 'odd'] : ['even'];
  }

  /** Circulations of all horseshoes in a state, of one problem of it; true flow. */
  circulationsIn(state: FlightState, problem: Problem): Float64Array {
    const weights = this.weightsOf(state).filter(([b]) => this.problemOf(b) === problem);
    this.prepare(weights.map(([b]) => b));
    const sum = new Float64Array(this.lattice.panels);
    for (const [basis, weight] of weights) {
      const { gamma } = this.responses.get(basis.id)!;
      for (let k = 0; k < sum.length; k++) sum[k] += weight * gamma[k];
    }
    return sum;
  }

  /** What turning every strip's section about its span does: nose-up, seen along the part's own normals. Solved once. */
  turning(problem: Problem): Turning {
    const known = this.turns.get(problem);
    if (known) return known;
    const { f, parts } = this.system(problem);
    const squeeze = this.compression;
    const strips: Turning['strips'] = [];
    const total = parts.reduce((sum, p) => sum + this.lattice.parts[p].strips, 0);
    // All right sides at once: the kernel solves them together.
    const columns = new Float64Array(total * f.n);
    let row = 0;
    for (const p of parts) {
      const { rows, strips: count, corners } = this.lattice.parts[p];
      const { normals } = this.lattice.parts[p];
      const stride = 3 * (rows + 1);
      for (let s = 0; s < count; s++) {
        const [ay, az] = [corners[s * stride + 1], corners[s * stride + 2]];
        const [by, bz] = [corners[(s + 1) * stride + 1], corners[(s + 1) * stride + 2]];
        const size = Math.hypot(by - ay, bz - az);
        const right = columns.subarray(strips.length * f.n, (strips.length + 1) * f.n);
        for (let i = 0; i < rows; i++) {
          const n = 3 * (s * rows + i);
          right[row + s * rows + i] = (-squeeze * ((by - ay) * normals[n + 2] - (bz - az) * normals[n + 1])) / size;
        }
        strips.push({ part: p, strip: s });
      }
      row += rows * count;
    }
    solveColumns(f, columns);
    const gammas = strips.map((_, k) => this.spread(columns.subarray(k * f.n, (k + 1) * f.n), parts));
    const n = strips.length;
    const circulation = new Float64Array(n * n);
    const b2 = squeeze * squeeze;
    strips.forEach(({ part, strip }, i) => {
      const { rows } = this.lattice.parts[part];
      const at = this.offsets[part] + strip * rows;
      for (let k = 0; k < n; k++) {
        let sum = 0;
        for (let r = 0; r < rows; r++) sum += gammas[k][at + r];
        circulation[i * n + k] = sum / b2;
      }
    });
    const made = { strips, gammas, circulation };
    this.turns.set(problem, made);
    return made;
  }

  /**
   * What turns of strips cause: circulations and velocities, in the true flow. The unit responses are made once, and a state is a sum of them.
   * @param amounts of turn, rad, of the strips of {@link turning}, in their order.
   */
  turnedBy(problem: Problem, amounts: ArrayLike<number>): Response {
    let units = this.unitTurns.get(problem);
    if (!units) {
      const gammas = this.turning(problem).gammas.map((g) => g.slice());
      this.unitTurns.set(problem, (units = new UnitResponses(this.responsesTo(problem, gammas))));
    }
    return units.sum(amounts);
  }

  /** Values of a system's unknowns, at their places among all horseshoes. */
  private spread(unknowns: Float64Array, parts: readonly number[]): Float64Array {
    const out = new Float64Array(this.lattice.panels);
    let row = 0;
    for (const p of parts) {
      const size = this.flow.parts[p].rows * this.flow.parts[p].strips;
      out.set(unknowns.subarray(row, row + size), this.offsets[p]);
      row += size;
    }
    return out;
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
   * @param turned sections that are turned besides. @param extra forces that come from elsewhere, both sides; in {@link Totals}.
   * @throws InvalidInput `control-missing` for a control that is none.
   */
  at(
    state: FlightState,
    turned: readonly Turned[] = [],
    extra?: (strips: readonly StripLoad[]) => Totals,
  ): AirframeLoads {
    const weights = this.weightsOf(state);
    const alike = this.flow.symmetry !== 'half' || weights.every(([b]) => b.symmetry !== 'odd');
    if (turned.length === 0 && alike) {
      const strips = this.stripsOf(weights);
      return { ...this.told(state, this.formsOf(state, weights), extra?.(strips)), strips };
    }
    const { forces, strips } = this.evaluate(weights, turned);
    return { ...this.told(state, forces, extra?.(strips)), strips };
  }

  /**
   * The same without the strips, at a fraction of the work where many states are asked for: forces are forms of pairs of what a state is made of.
   * @param extra forces that come from elsewhere, both sides. @throws InvalidInput `control-missing` for a control that is none.
   */
  coefficients(state: FlightState, extra?: Totals): Omit<AirframeLoads, 'strips'> {
    return this.told(state, this.formsOf(state, this.weightsOf(state)), extra);
  }

  private formsOf(state: FlightState, weights: readonly (readonly [RightSide, number])[]): Forces {
    const { rollRate = 0, pitchRate = 0, yawRate = 0 } = state;
    // Rates turn about the point itself; all else is shared with the lattice that this one comes from.
    const turns = rollRate !== 0 || pitchRate !== 0 || yawRate !== 0;
    return this.from && !turns
      ? aboutPoint(this.from.forms.of(weights), this.from.about, this.about)
      : this.forms.of(weights);
  }

  /** Loads of strips of a state that is alike on both sides: circulations, and with them induced angles, are sums of those of what it is made of. */
  private stripsOf(weights: readonly (readonly [RightSide, number])[]): StripLoad[] {
    const units = weights.map(([basis]) => this.unitStrips(basis));
    return units[0].map((first, i) => {
      let [circulation, inducedAngle] = [0, 0];
      weights.forEach(([, k], w) => {
        circulation += k * units[w][i].circulation;
        inducedAngle += k * units[w][i].inducedAngle;
      });
      return { ...first, circulation, cl: (2 * circulation) / first.chord, inducedAngle };
    });
  }

  private unitStrips(basis: RightSide): readonly StripLoad[] {
    let made = this.strips.get(basis.id);
    if (!made) this.strips.set(basis.id, (made = this.evaluate([[basis, 1]], []).strips));
    return made;
  }

  /** What a state is made of: ids of right-hand sides with their amounts. @throws InvalidInput `control-missing`. */
  amountsOf(state: FlightState): [string, number][] {
    return this.weightsOf(state).map(([b, amount]) => [b.id, amount]);
  }

  /**
   * Velocities that the vortices of unit right-hand sides cause at points off the surfaces, stream speeds; wakes with cores.
   * @param points x, y, z triples of the true geometry, m. @param ids of streams and controls. @returns triples, by id.
   */
  washAt(points: Float64Array, ids: readonly string[]): Map<string, Float64Array> {
    const out = new Map<string, Float64Array>();
    const b = this.compression;
    const stretched = points.map((v, k) => (k % 3 === 0 ? v : v * b));
    const known = [...Object.values(this.streams), ...this.controls.values()].filter((s) => ids.includes(s.id));
    this.prepare(known);
    for (const problem of ['even', 'odd', 'all'] as const) {
      const own = known.filter((s) => this.problemOf(s) === problem);
      if (own.length === 0) continue;
      const { parts } = this.system(problem);
      const gammas = own.map((s) => this.responses.get(s.id)!.gamma.map((g) => g * b * b));
      const sign = problem === 'odd' ? -1 : 1;
      this.influence.induced(parts, sign, -1, stretched, gammas).forEach((v, s) => {
        out.set(
          own[s].id,
          v.map((w, k) => (k % 3 === 0 ? w / (b * b) : w / b)),
        );
      });
    }
    return out;
  }

  /** The same flow with moments, and rates of turn, about another point: what does not depend on it is shared. @param about m. */
  movedTo(about: Point3): VortexLattice {
    const { lattice, flow, reference, options, influence } = this;
    const moved = new VortexLattice(lattice, flow, reference, about, options, [...this.controls.values()], influence);
    moved.factors = this.factors;
    moved.turns = this.turns;
    moved.unitTurns = this.unitTurns;
    moved.from = this.from ?? { forms: this.forms, about: this.about };
    for (const [id, response] of this.responses) if (!/^[pqr]$/.test(id)) moved.responses.set(id, response);
    for (const [id, strips] of this.strips) if (!/^[pqr]$/.test(id)) moved.strips.set(id, strips);
    return moved;
  }

  /** Forces of a sum of right-hand sides, and the loads of the strips. */
  private evaluate(
    weights: readonly (readonly [RightSide, number])[],
    turned: readonly Turned[],
  ): { forces: Forces; strips: StripLoad[] } {
    this.prepare(weights.map(([b]) => b));
    const shares: Share[] = weights.map(([basis, weight]) => ({
      basis,
      weight,
      response: this.responses.get(basis.id)!,
    }));
    for (const { symmetry, response } of turned)
      shares.push({ basis: { id: 'turned', symmetry }, weight: 1, response });
    const half = this.flow.symmetry === 'half';
    const lateral = half && shares.some(({ basis }) => basis.symmetry === 'odd');
    // In a symmetric lattice with lateral streams the left side carries even minus odd: both sides are then summed apart.
    const doubled = half && !lateral;
    const totals: Totals = { fx: 0, fy: 0, fz: 0, mx: 0, my: 0, mz: 0 };
    const strips: StripLoad[] = [];
    for (const side of lateral ? ([1, -1] as const) : ([1] as const))
      addNearField(this.lattice, this.offsets, this.about, shares, side, doubled, totals, strips);
    const drag = trefftzDrag(this.lattice, strips, doubled, this.options.wakeAngle ?? 0, this.ground?.d);
    return { forces: { ...totals, drag }, strips };
  }

  /** Forces as coefficients of a state. */
  private told({ alpha, sideslip = 0 }: FlightState, forces: Forces, more?: Totals): Omit<AirframeLoads, 'strips'> {
    const totals = { ...forces };
    if (more) for (const key of ['fx', 'fy', 'fz', 'mx', 'my', 'mz'] as const) totals[key] += more[key];
    const { area, span, chord } = this.reference;
    const cos = Math.cos(alpha);
    const sin = Math.sin(alpha);
    const k = 2 / area;
    const CL = k * (totals.fz * cos - totals.fx * sin);
    const CDi = k * totals.drag;
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
