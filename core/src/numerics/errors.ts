/** Longest message or hint, characters: what is wrong may quote what was given, but not all of it. */
const LONGEST = 1200;
const bounded = (text: string): string => (text.length > LONGEST ? `${text.slice(0, LONGEST)}…` : text);

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
    hint?: string,
    path?: string,
  ) {
    super(bounded(message));
    this.name = new.target.name;
    this.hint = hint && bounded(hint);
    this.path = path && bounded(path);
  }
  readonly hint?: string;
  readonly path?: string;
}

/** The input cannot be worked with: the caller must change it. */
export class InvalidInput extends VeldtwindError {}

/** The input is acceptable but the computation did not succeed. */
export class FailedComputation extends VeldtwindError {}
