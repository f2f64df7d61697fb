import { GRAVITY } from '../atmosphere';
import { anglesOf, type Vector } from './attitude';

/** Mean radius, m, and rate of turn against the stars, rad/s. @source GRS 80, J. Geod. 74(1), 2000, 128–133. */
export const EARTH_RADIUS = 6371000.8;
export const EARTH_RATE = 7.292115e-5;

/** Where an aircraft flies: positions are north, east and down of the launch place, which lies on the ground. */
export interface Earth {
  /** Pull of the mass below, m/s², at a position. */
  gravity: (x: number, y: number, z: number) => Vector;
  /** Height over the ground, m. */
  height: (x: number, y: number, z: number) => number;
  /** Turn of the local axes against the stars, rad/s; null where they stand. */
  rate: Vector | null;
  /** Centre of the earth, for what its turn throws outward. */
  centre: number;
  /** Bank, pitch and heading against the horizon of a position. */
  angles: (m: Float64Array, x: number, y: number, z: number) => { phi: number; theta: number; psi: number };
}

/** A plane under a constant pull, m/s². */
export const flatEarth = (gravity = GRAVITY): Earth => ({
  gravity: () => [0, 0, gravity],
  height: (_x, _y, z) => -z,
  rate: null,
  centre: 0,
  angles: (m) => anglesOf(m),
});

/**
 * A sphere whose pull falls with the square of the distance from its centre.
 * @param gravity at the launch place, m/s². @param latitude rad; null for one that does not turn.
 */
export function roundEarth(gravity = GRAVITY, latitude: number | null = null, radius = EARTH_RADIUS): Earth {
  const away = (x: number, y: number, z: number) => Math.hypot(x, y, radius - z);
  return {
    gravity: (x, y, z) => {
      const r = away(x, y, z);
      const k = (gravity * radius * radius) / (r * r * r);
      return [-k * x, -k * y, k * (radius - z)];
    },
    // Without the loss of digits of a difference of two radii.
    height: (x, y, z) => (x * x + y * y + z * z - 2 * radius * z) / (away(x, y, z) + radius),
    rate: latitude === null ? null : [EARTH_RATE * Math.cos(latitude), 0, -EARTH_RATE * Math.sin(latitude)],
    centre: radius,
    angles: (m, x, y, z) => {
      const r = away(x, y, z);
      const down = [-x / r, -y / r, (radius - z) / r];
      // East stands on down and on the launch place's north; north on both.
      const e = [0, down[2], -down[1]];
      const size = Math.hypot(e[0], e[1], e[2]) || 1;
      const east = [e[0] / size, e[1] / size, e[2] / size];
      const north = [
        east[1] * down[2] - east[2] * down[1],
        east[2] * down[0] - east[0] * down[2],
        east[0] * down[1] - east[1] * down[0],
      ];
      const turned = new Float64Array(9);
      [north, east, down].forEach((axis, i) => {
        for (let j = 0; j < 3; j++) turned[3 * i + j] = axis[0] * m[j] + axis[1] * m[3 + j] + axis[2] * m[6 + j];
      });
      return anglesOf(turned);
    },
  };
}
