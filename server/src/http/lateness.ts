import { monitorEventLoopDelay } from 'node:perf_hooks';

type Delays = ReturnType<typeof monitorEventLoopDelay>;

/** Time that one measurement covers, ms. */
const COVERS = 60_000;
/** The monitor looks so often, ms: what it tells is late by that much itself. */
const RESOLUTION = 10;

let now: { delays: Delays; since: number } | undefined;
let before: Delays | undefined;

function begin(): { delays: Delays; since: number } {
  const delays = monitorEventLoopDelay({ resolution: RESOLUTION });
  delays.enable();
  return { delays, since: Date.now() };
}

/** How late the loop of this process was in the last minute or two, ms. It is measured from the first question on. */
export function lateness(): { median: number; percentile99: number; longest: number } {
  now ??= begin();
  if (Date.now() - now.since > COVERS) {
    now.delays.disable();
    before = now.delays;
    now = begin();
  }
  const both = [now.delays, before].filter((d) => d !== undefined);
  const told = (of: (d: Delays) => number) =>
    Number(Math.max(0, ...both.map((d) => (d.count > 0 ? of(d) / 1e6 - RESOLUTION : 0))).toFixed(1));
  return {
    median: told((d) => d.percentile(50)),
    percentile99: told((d) => d.percentile(99)),
    longest: told((d) => d.max),
  };
}
