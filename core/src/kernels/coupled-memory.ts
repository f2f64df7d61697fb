import { FailedComputation } from '../numerics';
import { instantiate } from './index';
import { reference } from './coupled-reference';

/** The inner loops on memory addresses in bytes, as compiled or as the TypeScript reference has them. */
export interface CoupledLoops {
  respond(
    order: number,
    before: number,
    from: number,
    to: number,
    kind: number,
    kept: number,
    r0: number,
    r1: number,
    r2: number,
    total: number,
    response: number,
    right: number,
    stagnation: number,
    weights: number,
    growth: number,
    weighted: number,
  ): void;
  assembleCoupled(
    a: number,
    lda: number,
    mass: number,
    response: number,
    g: number,
    line: number,
    signs: number,
    scale: number,
    n: number,
  ): void;
  multiply(a: number, x: number, y: number, n: number): void;
  factorise(a: number, n: number, lda: number, pivot: number): number;
  solveFactorised(a: number, n: number, lda: number, pivot: number, b: number, count: number): void;
}

/** Loops over the stations' closures and equations; there is no reference of them here, since they stand in section-flow in TypeScript. */
interface LayerLoops {
  recordStations(
    order: number,
    count: number,
    kind: number,
    signs: number,
    c: number,
    theta: number,
    mass: number,
    velocity: number,
    dead: number,
    stream: number,
    record: number,
  ): void;
  intervals(
    order: number,
    from: number,
    to: number,
    except: number,
    kind: number,
    signs: number,
    velocity: number,
    x: number,
    stream: number,
    record: number,
    kept: number,
    residual: number,
    scratch: number,
  ): void;
}

/** Loops of a factorisation in single numbers, whose solutions are refined; the reference has none of its own. */
interface SingleLoops {
  factoriseSingle(from: number, lda64: number, a: number, n: number, lda: number, pivot: number): number;
  solveSingle(a: number, n: number, lda: number, pivot: number, x: number): void;
  restOf(a: number, n: number, lda: number, x: number, b: number, rest: number): number;
  addAll(x: number, d: number, count: number): void;
}

/** Rest of a linear system over its right-hand side down to which it is always refined, and rounds after which there is a better way. */
const LEAST_REST = 1e-10;
const MOST_ROUNDS = 5;
/** Share of the rest that a round must not leave. */
const SLOW = 0.3;

/** Columns of a response behind those of the mass defects. */
export const EXTRA_COLUMNS = 4;
/** Numbers kept by station. */
export const KEPT = 24;
/** Numbers of a station's record, and of an interval's residuals with their slopes. */
const RECORD = 54;
const RESIDUALS = 36;
const BASE = 65536;

/**
 * The memory of one coupled system of n unknowns, with the loops over it. All arrays are views that stay good for the object's life.
 */
export class CoupledMemory {
  /** n × n: speeds by mass defects; responses of the layers' speeds. */
  readonly mass: Float64Array;
  readonly response: Float64Array;
  /** Three rows of n + 4 doubles: the response of (C, θ, u) at the station reached. */
  readonly rows: [Float64Array, Float64Array, Float64Array];
  /** By node: T (9), columns of m before, m here, residual, stagnation and transition (3 each). */
  readonly kept: Float64Array;
  /** Nodes in streamwise order. */
  readonly order: Int32Array;
  /** By station in that order: what n at the place of transition takes of θ, of u and of m there. */
  readonly weights: Float64Array;
  /** n at the places of transition, as rows over all columns. */
  readonly growth: [Float64Array, Float64Array];
  readonly byStagnation: Float64Array;
  readonly stagnation: Float64Array;
  readonly signs: Float64Array;
  readonly scale: Float64Array;
  /** Three right-hand sides, then solutions, one after the other. */
  readonly right: [Float64Array, Float64Array, Float64Array];
  readonly vector: Float64Array;
  readonly product: Float64Array;
  /** The matrix assembled last, rows of `stride` doubles. */
  readonly matrix: Float64Array;
  readonly stride: number;
  /** By node: the station's record; what closures and equations are made of; three residuals of the interval that ends there. */
  readonly record: Float64Array;
  readonly kind: Int32Array;
  readonly c: Float64Array;
  readonly theta: Float64Array;
  readonly defect: Float64Array;
  readonly velocity: Float64Array;
  readonly dead: Float64Array;
  readonly x: Float64Array;
  readonly residual: Float64Array;
  /** Reynolds number, Mach number, λ of Kármán and Tsien. */ readonly stream: Float64Array;
  private readonly scratch: Float64Array;
  private readonly kindAt: number;
  private readonly solution: Float64Array;
  private readonly rest: Float64Array;
  private readonly singleAt: number;
  private readonly singleStride: number;
  private readonly pivotSingle: number;
  private factored = false;
  private readonly single: SingleLoops | null;
  private readonly loops: CoupledLoops;
  private readonly layers: LayerLoops | null;
  private readonly address = new Map<Float64Array, number>();
  private readonly pivot: number;
  private readonly orderAt: number;

  /** @param compiled false asks for the TypeScript reference. */
  constructor(
    readonly n: number,
    compiled = true,
  ) {
    const width = n + EXTRA_COLUMNS + 2;
    this.stride = n + (n & 1);
    const squares = 2 * n * n + n * this.stride + 0.5 * n * (n + 4);
    const lists = 6 * width + (KEPT + RECORD + 40) * n + RESIDUALS;
    const room = 8 * (squares + lists) + 4 * 4 * n + 16 * 64;
    const instance = compiled ? instantiate() : null;
    let buffer: ArrayBufferLike;
    if (instance) {
      const memory = instance.memory as WebAssembly.Memory;
      const missing = BASE + room - memory.buffer.byteLength;
      if (missing > 0) memory.grow(Math.ceil(missing / 65536));
      buffer = memory.buffer;
      this.loops = instance as unknown as CoupledLoops;
      this.layers = instance as unknown as LayerLoops;
      this.single = instance as unknown as SingleLoops;
    } else {
      buffer = new ArrayBuffer(BASE + room);
      this.loops = reference(buffer);
      this.layers = null;
      this.single = null;
    }
    let at = BASE;
    const take = (count: number) => {
      const view = new Float64Array(buffer, at, count);
      this.address.set(view, at);
      at = (at + 8 * count + 15) & ~15;
      return view;
    };
    this.mass = take(n * n);
    this.response = take(n * n);
    this.matrix = take(n * this.stride);
    this.rows = [take(width), take(width), take(width)];
    this.kept = take(KEPT * n);
    this.weights = take(3 * n);
    this.growth = [take(width), take(width)];
    this.byStagnation = take(n);
    this.stagnation = take(n);
    this.signs = take(n);
    this.scale = take(n);
    const all = take(3 * n);
    this.right = [all.subarray(0, n), all.subarray(n, 2 * n), all.subarray(2 * n)];
    this.address.set(this.right[0], this.address.get(all)!);
    this.vector = take(n);
    this.product = take(n);
    this.record = take(RECORD * n);
    [this.c, this.theta, this.defect, this.velocity, this.dead, this.x] = Array.from({ length: 6 }, () => take(n));
    this.residual = take(3 * n);
    this.stream = take(4);
    this.scratch = take(RESIDUALS);
    this.solution = take(3 * n);
    this.rest = take(3 * n);
    this.singleStride = (n + 3) & ~3;
    this.singleAt = this.of(take((n * this.singleStride) / 2));
    this.pivot = at;
    at = (at + 4 * n + 15) & ~15;
    this.order = new Int32Array(buffer, at, n);
    this.orderAt = at;
    at = (at + 4 * n + 15) & ~15;
    this.kind = new Int32Array(buffer, at, n);
    this.kindAt = at;
    this.pivotSingle = (at + 4 * n + 15) & ~15;
  }

  /** Whether stations and intervals can be evaluated here. */
  get evaluates(): boolean {
    return this.layers !== null;
  }

  /** Records of the first stations of `order`. */
  recordStations(count: number): void {
    this.layers!.recordStations(
      this.orderAt,
      count,
      this.kindAt,
      this.of(this.signs),
      this.of(this.c),
      this.of(this.theta),
      this.of(this.defect),
      this.of(this.velocity),
      this.of(this.dead),
      this.of(this.stream),
      this.of(this.record),
    );
  }

  /** Residuals and responses of the stations behind `from` up to `to`, but for one. */
  intervals(from: number, to: number, except: number): void {
    this.layers!.intervals(
      this.orderAt,
      from,
      to,
      except,
      this.kindAt,
      this.of(this.signs),
      this.of(this.velocity),
      this.of(this.x),
      this.of(this.stream),
      this.of(this.record),
      this.of(this.kept),
      this.of(this.residual),
      this.of(this.scratch),
    );
  }

  private of(view: Float64Array): number {
    return this.address.get(view)!;
  }

  /**
   * Carries the responses along the stations `from … to` of `order`, and keeps those of the speeds.
   * @param kind 0 upper surface, 1 lower, 2 wake. @param before the station ahead of the first, or −1.
   * @param weighted stations before this one add to a surface's row of growth.
   */
  respond(kind: 0 | 1 | 2, before: number, from: number, to: number, weighted: number): void {
    this.loops.respond(
      this.orderAt,
      before,
      from,
      to,
      kind,
      this.of(this.kept),
      this.of(this.rows[0]),
      this.of(this.rows[1]),
      this.of(this.rows[2]),
      this.n,
      this.of(this.response),
      this.of(this.right[0]),
      this.of(this.byStagnation),
      this.of(this.weights),
      this.of(this.growth[kind === 0 ? 0 : 1]),
      weighted,
    );
  }

  /** matrix[i][j] = (signs[i] signs[j] mass[i][j] − response[i][j] − byStagnation[i] stagnation[j]) scale[j]. */
  assemble(): void {
    this.loops.assembleCoupled(
      this.of(this.matrix),
      this.stride,
      this.of(this.mass),
      this.of(this.response),
      this.of(this.byStagnation),
      this.of(this.stagnation),
      this.of(this.signs),
      this.of(this.scale),
      this.n,
    );
  }

  /** product = mass · vector. */
  multiply(): void {
    this.loops.multiply(this.of(this.mass), this.of(this.vector), this.of(this.product), this.n);
  }

  /**
   * Solves the assembled system for the three right-hand sides.
   * @param wanted rest over right-hand side that is good enough. @param again whether the factors of the matrix before may do, with refinement.
   * @throws FailedComputation `singular-matrix`.
   */
  solve(wanted = 0, again = false): void {
    const { n, stride, single } = this;
    if (single) {
      const goal = Math.max(LEAST_REST, wanted);
      if (again && this.factored && this.refined(goal)) return;
      this.factored =
        single.factoriseSingle(this.of(this.matrix), stride, this.singleAt, n, this.singleStride, this.pivotSingle) ===
        0;
      if (this.factored && this.refined(goal)) return;
    }
    this.factored = false;
    const failed = this.loops.factorise(this.of(this.matrix), n, stride, this.pivot);
    if (failed)
      throw new FailedComputation('singular-matrix', `The coupled system is singular at equation ${failed} of ${n}.`);
    this.loops.solveFactorised(this.of(this.matrix), n, stride, this.pivot, this.of(this.right[0]), 3);
  }

  /** Solution by the factors that there are, refined with the matrix; the right-hand sides stay where they do not come to the goal. */
  private refined(goal: number): boolean {
    const { n, stride, single, solution, rest } = this;
    const [right, x, r] = [this.of(this.right[0]), this.of(solution), this.of(rest)];
    solution.fill(0);
    for (let i = 0; i < 3; i++) rest.set(this.right[i], i * n);
    let before = 1;
    for (let round = 0; round < MOST_ROUNDS; round++) {
      single!.solveSingle(this.singleAt, n, this.singleStride, this.pivotSingle, r);
      single!.addAll(x, r, 3 * n);
      const left = single!.restOf(this.of(this.matrix), n, stride, x, right, r);
      if (left <= goal) {
        for (let i = 0; i < 3; i++) this.right[i].set(solution.subarray(i * n, (i + 1) * n));
        return true;
      }
      if (!(left < SLOW * before)) return false;
      before = left;
    }
    return false;
  }

  /** Forgets the factors: the next matrix is of another problem. */
  forget(): void {
    this.factored = false;
  }
}
