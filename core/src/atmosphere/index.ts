import { InvalidInput } from '../numerics';

/** Air at rest, SI units. */
export interface Air {
  /** K */ temperature: number;
  /** Pa */ pressure: number;
  /** kg/m³ */ density: number;
  /** m/s */ soundSpeed: number;
  /** Dynamic viscosity, Pa·s */ viscosity: number;
}

export const GRAVITY = 9.80665;
const GAS_CONSTANT = 287.05287;
const HEAT_RATIO = 1.4;
const EARTH_RADIUS = 6356766;

/** Layer bases of the standard: geopotential height m, temperature K, gradient K/m. */
const LAYERS = [
  [0, 288.15, -0.0065],
  [11000, 216.65, 0],
  [20000, 216.65, 0.001],
  [32000, 228.65, 0.0028],
  [47000, 270.65, 0],
] as const;

export const LOWEST_ALTITUDE = -1000;
export const HIGHEST_ALTITUDE = 50000;

/**
 * The standard atmosphere.
 * @param altitude geometric altitude, m, from −1 000 to 50 000.
 * @param offset temperature above the standard at the same pressure altitude, K.
 * @throws InvalidInput `altitude-range` outside the range.
 * @source ISO 2533, 1975; viscosity by Sutherland's law as there.
 */
export function standardAir(altitude: number, offset = 0): Air {
  if (!(altitude >= LOWEST_ALTITUDE && altitude <= HIGHEST_ALTITUDE)) {
    throw new InvalidInput(
      'altitude-range',
      `The standard atmosphere is tabulated from ${LOWEST_ALTITUDE} m to ${HIGHEST_ALTITUDE} m; ${altitude} m is outside.`,
      'Give an altitude inside this range.',
      'altitude',
    );
  }
  const h = (EARTH_RADIUS * altitude) / (EARTH_RADIUS + altitude);
  let pressure = 101325;
  let standardTemperature = 288.15;
  for (let i = 0; i < LAYERS.length; i++) {
    const [base, temperature, gradient] = LAYERS[i];
    const top = i + 1 < LAYERS.length ? LAYERS[i + 1][0] : Infinity;
    const rise = Math.min(h, top) - base;
    standardTemperature = temperature + gradient * rise;
    pressure *=
      gradient === 0
        ? Math.exp((-GRAVITY * rise) / (GAS_CONSTANT * temperature))
        : (standardTemperature / temperature) ** (-GRAVITY / (GAS_CONSTANT * gradient));
    if (h <= top) break;
  }
  const temperature = standardTemperature + offset;
  return {
    temperature,
    pressure,
    density: pressure / (GAS_CONSTANT * temperature),
    soundSpeed: Math.sqrt(HEAT_RATIO * GAS_CONSTANT * temperature),
    viscosity: (1.458e-6 * temperature ** 1.5) / (temperature + 110.4),
  };
}

/** What a speed makes of the air: SI units. */
export interface FlowState extends Air {
  /** m/s */ speed: number;
  /** Pa */ dynamicPressure: number;
  mach: number;
  /** Reynolds number per metre of chord, 1/m */ reynoldsPerMetre: number;
}

/**
 * Air moving past at a speed.
 * @param speed m/s, > 0. @param altitude m.
 * @throws InvalidInput `speed-range` for a speed that is not positive and finite.
 */
export function flowState(speed: number, altitude: number, offset = 0): FlowState {
  if (!(speed > 0) || !Number.isFinite(speed)) {
    throw new InvalidInput(
      'speed-range',
      `A speed must be greater than zero; ${speed} m/s is not.`,
      undefined,
      'speed',
    );
  }
  const air = standardAir(altitude, offset);
  return {
    ...air,
    speed,
    dynamicPressure: 0.5 * air.density * speed * speed,
    mach: speed / air.soundSpeed,
    reynoldsPerMetre: (air.density * speed) / air.viscosity,
  };
}
