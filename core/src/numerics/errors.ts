/** What every refusal of core carries: a stable code, what happened and why, and what to do about it. */
export class VeldtwindError extends Error {
  /**
   * @param code stable, machine-readable, kebab-case.
   * @param message one sentence: what happened and why.
   * @param hint what to do, when there is something to do.
   * @param path where in the input, as dotted keys.
   */
  constructor(
    readonly code: string,
    message: string,
    readonly hint?: string,
    readonly path?: string,
  ) {
    super(message);
    this.name = new.target.name;
  }
}

/** The input cannot be worked with: the caller must change it. */
export class InvalidInput extends VeldtwindError {}

/** The input is acceptable but the computation did not succeed. */
export class FailedComputation extends VeldtwindError {}
