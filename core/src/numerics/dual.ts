/**
 * Forward-mode differentiation without allocation: numbers with their exact partial derivatives, kept in one block of memory and named by
 * slots. A slot is good until the next `reset`.
 * @source Griewank and Walther, Evaluating Derivatives, 2nd ed., 2008, chapter 3.
 */
export class DualSpace {
  private readonly values: Float64Array;
  private readonly partialsOf: Float64Array;
  private used = 0;

  /** @param partials number of independent variables. @param capacity slots between two resets. */
  constructor(
    readonly partials: number,
    capacity = 512,
  ) {
    this.values = new Float64Array(capacity);
    this.partialsOf = new Float64Array(capacity * partials);
  }

  reset(): void {
    this.used = 0;
  }
  value(a: number): number {
    return this.values[a];
  }
  /** ∂a/∂(variable k). */
  partial(a: number, k: number): number {
    return this.partialsOf[a * this.partials + k];
  }

  private slot(value: number): number {
    const s = this.used++;
    if (s >= this.values.length) throw new RangeError('The dual space is full: reset it between evaluations.');
    this.values[s] = value;
    return s;
  }
  constant(value: number): number {
    const s = this.slot(value);
    this.partialsOf.fill(0, s * this.partials, (s + 1) * this.partials);
    return s;
  }
  variable(value: number, k: number): number {
    const s = this.constant(value);
    this.partialsOf[s * this.partials + k] = 1;
    return s;
  }
  /** A slot whose value and `count` partials stand in `from` at `offset`; the partials belong to variables `base` and on. */
  adopt(from: Float64Array, offset: number, count: number, base: number): number {
    const s = this.constant(from[offset]);
    const at = s * this.partials + base;
    for (let k = 0; k < count; k++) this.partialsOf[at + k] = from[offset + 1 + k];
    return s;
  }
  /** Writes a slot's value and its first `count` partials into `to` at `offset`. */
  record(a: number, to: Float64Array, offset: number, count: number): void {
    to[offset] = this.values[a];
    const at = a * this.partials;
    for (let k = 0; k < count; k++) to[offset + 1 + k] = this.partialsOf[at + k];
  }
  /** A slot with a value and the derivative wa·a′ + wb·b′. */
  private combine(value: number, a: number, wa: number, b: number, wb: number): number {
    const s = this.slot(value);
    const n = this.partials;
    const d = this.partialsOf;
    for (let k = 0; k < n; k++) d[s * n + k] = wa * d[a * n + k] + wb * d[b * n + k];
    return s;
  }
  private chain(value: number, a: number, slope: number): number {
    const s = this.slot(value);
    const n = this.partials;
    const d = this.partialsOf;
    for (let k = 0; k < n; k++) d[s * n + k] = slope * d[a * n + k];
    return s;
  }

  add(a: number, b: number): number {
    return this.combine(this.values[a] + this.values[b], a, 1, b, 1);
  }
  sub(a: number, b: number): number {
    return this.combine(this.values[a] - this.values[b], a, 1, b, -1);
  }
  mul(a: number, b: number): number {
    return this.combine(this.values[a] * this.values[b], a, this.values[b], b, this.values[a]);
  }
  div(a: number, b: number): number {
    const inverse = 1 / this.values[b];
    const q = this.values[a] * inverse;
    return this.combine(q, a, inverse, b, -q * inverse);
  }
  /** p + q·a */
  affine(a: number, p: number, q: number): number {
    return this.chain(p + q * this.values[a], a, q);
  }
  scale(a: number, q: number): number {
    return this.chain(q * this.values[a], a, q);
  }
  pow(a: number, p: number): number {
    const v = this.values[a] ** p;
    return this.chain(v, a, p * this.values[a] ** (p - 1));
  }
  square(a: number): number {
    return this.chain(this.values[a] ** 2, a, 2 * this.values[a]);
  }
  sqrt(a: number): number {
    const v = Math.sqrt(this.values[a]);
    return this.chain(v, a, 0.5 / v);
  }
  exp(a: number): number {
    const v = Math.exp(this.values[a]);
    return this.chain(v, a, v);
  }
  log(a: number): number {
    return this.chain(Math.log(this.values[a]), a, 1 / this.values[a]);
  }
  tanh(a: number): number {
    const v = Math.tanh(this.values[a]);
    return this.chain(v, a, 1 - v * v);
  }
}
