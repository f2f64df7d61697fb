/** Frames at rest after which nothing is looked at any more: what eases out may pause for one. */
const REST = 10;

/**
 * A loop of frames that runs only while something moves: a page at rest takes no processor time.
 * @param step makes a frame of so many seconds. @returns whether it moved. The first frame after a rest counts as a sixtieth of a second.
 */
export function whileMoving(step: (seconds: number) => boolean) {
  let frame = 0;
  let still = 0;
  let last = 0;
  const loop = (now: number): void => {
    const seconds = last > 0 ? (now - last) / 1000 : 1 / 60;
    last = now;
    still = step(seconds) ? 0 : still + 1;
    frame = still < REST ? requestAnimationFrame(loop) : 0;
  };
  return {
    /** Begins it, where it rests. */
    wake: (): void => {
      still = 0;
      if (frame) return;
      last = 0;
      frame = requestAnimationFrame(loop);
    },
    stop: (): void => {
      cancelAnimationFrame(frame);
      frame = 0;
    },
  };
}
