import type { Law } from '@veldtwind/core/control';

/** The parts that a law has. */
export function lawWords(l: Law): string {
  const parts = [l.kp !== 0 && 'proportional', l.ki !== 0 && 'integral', l.kd !== 0 && 'derivative'].filter(Boolean);
  return parts.length ? parts.join(' + ') : 'no gain yet';
}

/** A gain in a few figures. */
export const gainText = (v: number): string => (v === 0 ? '0' : String(Number(v.toPrecision(3))));
