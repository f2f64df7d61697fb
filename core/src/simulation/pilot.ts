import { RAD } from '../numerics';
import type { FlightInput } from './scenario';
import { valueOf } from './scenario';

/** What an input adds at an instant, rad. */
export function inputAt(i: FlightInput, t: number): number {
  if (i.kind === 'points') return valueOf(i.points, t, 0) * RAD;
  const s = t - i.at;
  if (s < 0) return 0;
  if (i.kind === 'step') return i.amountDeg * RAD;
  if (s >= i.duration) return 0;
  if (i.kind === 'doublet') return (s < i.duration / 2 ? 1 : -1) * i.amountDeg * RAD;
  // The frequency grows evenly in its logarithm; the phase is its integral.
  const ratio = i.toHz / i.fromHz;
  const phase =
    Math.abs(ratio - 1) < 1e-9
      ? 2 * Math.PI * i.fromHz * s
      : (2 * Math.PI * i.fromHz * i.duration * (ratio ** (s / i.duration) - 1)) / Math.log(ratio);
  return i.amountDeg * RAD * Math.sin(phase);
}

/** Instants at which an input jumps or bends, s. */
export function bendsOf(i: FlightInput): number[] {
  if (i.kind === 'points') return i.points.map(([t]) => t);
  if (i.kind === 'step') return [i.at];
  return i.kind === 'doublet' ? [i.at, i.at + i.duration / 2, i.at + i.duration] : [i.at, i.at + i.duration];
}
