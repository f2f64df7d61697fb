/** Longest that work in slices holds the loop, ms. */
const HOLDS = 15;

/** Gives the loop to others now and then. */
export class Slices {
  private begun = performance.now();

  /** Waits a turn of the loop where the slice has taken its time. */
  async rest(): Promise<void> {
    if (performance.now() - this.begun < HOLDS) return;
    await new Promise((go) => setImmediate(go));
    this.begun = performance.now();
  }
}
