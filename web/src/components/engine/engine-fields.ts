import type { FieldLimit } from '@veldtwind/core/limits';
import { engineSchema, type Engine, type EngineKind } from '@veldtwind/core/propulsion';

/** A number of an engine: where it stands, and how it is set. */
export interface EngineField {
  path: readonly string[];
  limit: FieldLimit;
  digits: number;
}
const field = (
  path: string,
  label: string,
  dimension: FieldLimit['dimension'],
  [min, max, step]: [number, number, number],
  digits: number,
  hint?: string,
): EngineField => ({
  path: path.split('.'),
  limit: { label, dimension, min, max, step, ...(hint && { hint }) },
  digits,
});

const LINE = [
  field('position.x', 'Thrust at x', 'length', [-1000, 1000, 0.05], 3),
  field('position.z', 'Thrust at z', 'length', [-1000, 1000, 0.02], 3),
  field('pitchDeg', 'Thrust tilt, upward', 'angle', [-90, 90, 0.5], 1),
];
const POWER = field('power', 'Shaft power, W', 'plain', [1, 1e8, 50], 0);
const DIAMETER = [0.02, 30, 0.01] as [number, number, number];
const DENSITY = field(
  'densityExponent',
  'Density exponent',
  'plain',
  [0, 2, 0.05],
  2,
  'Thrust over that at sea level is the density ratio to this power',
);

const POWER_DENSITY = field(
  'powerDensityExponent',
  'Density exponent',
  'plain',
  [0, 2, 0.05],
  2,
  'Shaft power over that at sea level is the density ratio to this power: 0 for an electric motor, about 1.15 for a naturally aspirated piston engine',
);

/** What an engine of each kind is set by. */
export const ENGINE_FIELDS: Record<EngineKind, readonly EngineField[]> = {
  none: [],
  constant: [field('thrust', 'Full thrust', 'force', [0.01, 1e7, 5], 1), ...LINE],
  power: [
    POWER,
    field('efficiency', 'Propulsive efficiency', 'ratio', [0.01, 1, 0.01], 0, 'Thrust power over shaft power'),
    POWER_DENSITY,
    ...LINE,
  ],
  propeller: [
    POWER,
    field('diameter', 'Diameter', 'length', DIAMETER, 3),
    field(
      'efficiency',
      'Efficiency against the ideal',
      'ratio',
      [0.01, 1, 0.01],
      0,
      'The ideal propeller has losses of its own: thrust power over shaft power is less than this',
    ),
    POWER_DENSITY,
    ...LINE,
  ],
  motor: [
    field('kv', 'Motor kv, rpm/V', 'plain', [1, 20000, 10], 0),
    field('resistance', 'Motor resistance, Ω', 'plain', [0.0005, 50, 0.005], 4),
    field('idleCurrent', 'Idle current, A', 'plain', [0, 200, 0.1], 2),
    field('voltage', 'Battery voltage, V', 'plain', [1, 2000, 0.5], 1, 'Without load'),
    field('batteryResistance', 'Battery resistance, Ω', 'plain', [0, 20, 0.005], 4),
    field('propeller.diameter', 'Propeller diameter', 'length', DIAMETER, 3),
    field('propeller.pitch', 'Propeller pitch', 'length', [0.01, 30, 0.01], 3, 'Advance per turn without slip'),
    field('propeller.blades', 'Blades', 'count', [1, 12, 1], 0),
    field('propeller.solidity', 'Solidity', 'plain', [0.005, 0.6, 0.005], 3, 'Area of the blades over the disc'),
    ...LINE,
  ],
  jet: [
    field('thrust', 'Static thrust at sea level', 'force', [0.01, 1e7, 5], 1),
    field('machLapse', 'Thrust lapse per Mach', 'plain', [0, 3, 0.05], 2),
    DENSITY,
    ...LINE,
  ],
  table: [DENSITY, ...LINE],
};

export const ENGINE_KINDS: { id: EngineKind | ''; name: string }[] = [
  { id: '', name: 'not set' },
  { id: 'none', name: 'none: a glider' },
  { id: 'constant', name: 'constant thrust' },
  { id: 'power', name: 'power and efficiency' },
  { id: 'propeller', name: 'ideal propeller' },
  { id: 'motor', name: 'motor and propeller' },
  { id: 'jet', name: 'jet' },
  { id: 'table', name: 'thrust over speed' },
];

/** An engine of a kind to begin with, its line through a place. @param weight N, that sizes it. */
export function firstEngine(
  kind: EngineKind,
  at: { x: number; y: number; z: number },
  weight: number,
  speed: number,
): Engine {
  const position = { x: Number(at.x.toFixed(3)), y: 0, z: Number(at.z.toFixed(3)) };
  const thrust = Number((0.3 * weight).toPrecision(2));
  const power = Number((0.3 * weight * speed).toPrecision(2));
  const diameter = Number(Math.max(0.2, 0.04 * Math.cbrt(power)).toPrecision(2));
  const voltage = power > 3000 ? 44 : 22;
  const pitch = Number((0.75 * diameter).toPrecision(2));
  // Turns so fast that the blades' way is half as much again as the flight's.
  const kv = Number(((60 * 1.5 * speed) / (pitch * 0.8 * voltage)).toPrecision(2));
  const more: Record<EngineKind, object> = {
    none: {},
    constant: { thrust, position },
    power: { power, position },
    propeller: { power, diameter, position },
    motor: { propeller: { diameter, pitch }, kv, resistance: 0.03, voltage, position },
    jet: { thrust, position },
    table: {
      points: [
        [0, thrust],
        [speed, 0.7 * thrust],
        [2 * speed, 0.2 * thrust],
      ],
      position,
    },
  };
  return engineSchema.parse({ kind, ...more[kind] });
}

/** The value of a field; 0 where the engine does not say it. */
export const valueOf = (engine: Engine, path: readonly string[]): number =>
  (path.reduce<unknown>((v, k) => (v as Record<string, unknown>)[k], engine) as number | undefined) ?? 0;

/** The engine with a field set; what it was made of stays as it is. */
export function withValue(engine: Engine, path: readonly string[], value: number): Engine {
  const copy = structuredClone(engine) as unknown as Record<string, unknown>;
  let at = copy;
  for (const k of path.slice(0, -1)) at = at[k] as Record<string, unknown>;
  at[path[path.length - 1]] = value;
  return engineSchema.parse(copy);
}
