import { freeId } from '../limits';
import type { Body } from './body';
import { planformOf, referenceSurface } from './planform';
import type { LiftingSurface } from './types';

/** Length of a body where there is no wing, m; of a further one, a share of the first. */
const ALONE = 1.2;
const FURTHER = 0.4;
/** Mean chords ahead of the leading edge, and behind it where there is no tail. */
const AHEAD = 1.6;
const BEHIND = 3.4;
/** Width, of the mean chord. */
const WIDE = 0.45;
const millimetres = (v: number) => Number(v.toFixed(3));

/**
 * A new body: the first begins ahead of the wing, so that there is a place for masses that balance, and reaches the end of the tail; further ones are pods
 * that are set off, so that they are seen. @param surfaces those that stand in the aircraft.
 */
export function newBody(bodies: readonly Body[], surfaces: readonly LiftingSurface[]): Body {
  const first = bodies.length === 0;
  const wing = surfaces.length > 0 ? referenceSurface(surfaces) : null;
  const chord = wing ? planformOf(wing).mac.chord : ALONE / 5;
  let from = wing ? wing.position.x - AHEAD * chord : 0;
  let to = wing ? wing.position.x + BEHIND * chord : ALONE;
  const others = surfaces.filter((s) => s !== wing && s.plane === 'horizontal');
  if (wing && others.length > 0) {
    from = Math.min(from, ...others.map((s) => s.position.x - 0.3 * chord));
    to = Math.max(wing.position.x + wing.stations[0].chord, ...others.map((s) => s.position.x + s.stations[0].chord));
  }
  if (!first) {
    const length = FURTHER * (to - from);
    from += 0.1 * (to - from);
    to = from + length;
  }
  const length = to - from;
  const wide = (first ? WIDE : 0.6 * WIDE) * chord;
  const at = (x: number, share: number): Body['stations'][number] => ({
    x: millimetres(x * length),
    width: millimetres(share * wide),
    height: millimetres(share * wide),
    z: 0,
    shape: 'ellipse',
    corner: 0.3,
  });
  return {
    id: freeId('body', (id) => bodies.some((b) => b.id === id)),
    name: first ? 'Fuselage' : `Body ${bodies.length + 1}`,
    mirrored: false,
    position: { x: millimetres(from), y: 0, z: millimetres(wing?.position.z ?? 0) },
    loft: 'smooth',
    stations: [at(0, 0), at(0.1, 0.75), at(0.25, 1), at(0.5, 0.85), at(1, 0.15)],
  };
}
