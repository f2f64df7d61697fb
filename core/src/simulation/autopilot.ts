import { filtersOf, MEASURED, SampledFilter, scheduled, type Measured } from '../control';
import { RAD } from '../numerics';
import { valueOf, type Channel } from './scenario';

/** What sensors tell at an instant. */
export type Measurement = Record<Measured, number> & { x: number; y: number };

/** What sensors with a lag tell of what is measured in steps: exact for quantities that change along lines between the steps. */
export class Sensors {
  private last: Measurement | null = null;
  private readonly said: Record<string, number> = {};

  /** @param lag first order, s; 0: they tell what is. */
  constructor(
    private readonly lag: number,
    private readonly step: number,
  ) {}

  /** The place is told at once: it comes from elsewhere. */
  tell(now: Measurement): Measurement {
    const { lag, step, last, said } = this;
    if (lag === 0) return now;
    const fades = Math.exp(-step / lag);
    const out = { ...now };
    for (const key of MEASURED) {
      const turns = key === 'psi' || key === 'course' || key === 'phi';
      if (!last) said[key] = now[key];
      else {
        const change = turns ? wrapped(now[key] - last[key]) : now[key] - last[key];
        const slope = change / step;
        // Behind a ramp it lies by the lag times the slope.
        const behind = (turns ? wrapped(said[key] - last[key]) : said[key] - last[key]) + lag * slope;
        said[key] = last[key] + change - lag * slope + behind * fades;
        if (turns) said[key] = now[key] + wrapped(said[key] - now[key]);
      }
      out[key] = said[key];
    }
    this.last = now;
    return out;
  }
}

/** A place to fly to. */
export interface WayPoint {
  name?: string;
  x: number;
  y: number;
  height: number;
  radius: number;
}

const ROUND = 2 * Math.PI;
/** An angle between −π and π. */
export const wrapped = (a: number) => a - ROUND * Math.round(a / ROUND);
const TURNING: readonly Measured[] = ['psi', 'course', 'phi'];

interface LoopMemory {
  integral: number;
  /** Of the filtered derivative. */ slow: number;
  started: boolean;
  filters: SampledFilter[];
}

/**
 * Loops that are computed in steps: from the outermost, whose reference is given, each gives the reference of the next within it. A sum that would push on into
 * a limit is held, so that it does not wind up.
 */
export class Autopilot {
  private readonly memory: LoopMemory[][];
  private readonly held: number[];
  private readonly start: Measurement;
  private next = 0;
  readonly reached: { name: string; t: number }[] = [];

  constructor(
    private readonly channels: readonly Channel[],
    private readonly step: number,
    private readonly wayPoints: readonly WayPoint[],
    /** Bounds of what a channel moves, about its trim. */
    private readonly bounds: readonly (readonly [number, number])[],
    start: Measurement,
  ) {
    this.memory = channels.map((c) =>
      c.loops.map((loop) => ({
        integral: 0,
        slow: 0,
        started: false,
        filters: filtersOf(loop).map((f) => new SampledFilter(f, step)),
      })),
    );
    this.start = start;
    this.held = channels.map((c) => start[c.loops[c.loops.length - 1].from]);
  }

  /** All way-points are reached. */
  get done(): boolean {
    return this.wayPoints.length > 0 && this.next >= this.wayPoints.length;
  }

  private reference(k: number, t: number, now: Measurement): number {
    const c = this.channels[k];
    if (c.follow) {
      const to = this.wayPoints[Math.min(this.next, this.wayPoints.length - 1)];
      if (c.loops[c.loops.length - 1].from === 'height') return to.height;
      if (!this.done) this.held[k] = Math.atan2(to.y - now.y, to.x - now.x);
      return this.held[k];
    }
    const line = c.reference ?? c.referenceDeg;
    if (line === undefined) return this.held[k];
    const value = typeof line === 'number' ? line : valueOf(line, t);
    return c.referenceDeg === undefined ? value : value * RAD;
  }

  private fromStart(what: Measured, value: number): number {
    const away = value - this.start[what];
    return TURNING.includes(what) ? wrapped(away) : away;
  }

  /** One step of computing: what each channel adds to the trim. */
  update(t: number, now: Measurement): number[] {
    while (this.next < this.wayPoints.length) {
      const to = this.wayPoints[this.next];
      if (Math.hypot(to.x - now.x, to.y - now.y) > to.radius) break;
      this.reached.push({ name: to.name ?? `${this.next + 1}`, t });
      this.next++;
    }
    return this.channels.map((channel, k) => {
      let value = this.reference(k, t, now);
      for (let i = channel.loops.length - 1; i >= 0; i--) {
        const loop = channel.loops[i];
        const memory = this.memory[k][i];
        const away = value - now[loop.from];
        const error = TURNING.includes(loop.from) ? wrapped(away) : away;
        const { kp, ki, kd, filter = 1, sign, forward = 0 } = loop;
        const times = scheduled(loop, now.V);
        if (!memory.started) {
          memory.slow = error;
          memory.started = true;
        }
        // The derivative of the error behind a lag of 1/filter, exact for an error that is held over the step.
        const rate = filter * (error - memory.slow);
        memory.slow = error + (memory.slow - error) * Math.exp(-filter * this.step);
        const [least, greatest] = loop.limits ?? (i === 0 ? this.bounds[k] : [-Infinity, Infinity]);
        const terms = memory.filters.reduce(
          (u, f) => f.next(u),
          times * (kp * error + ki * memory.integral + kd * rate),
        );
        // What is fed forward is the change of the reference since the start: the trim holds what was there.
        const wanted = sign * (terms + (forward === 0 ? 0 : times * forward * this.fromStart(loop.from, value)));
        value = Math.max(least, Math.min(greatest, wanted));
        const push = sign * times * ki * error;
        if (value === wanted || (value === greatest && push < 0) || (value === least && push > 0))
          memory.integral += error * this.step;
      }
      return value;
    });
  }
}
