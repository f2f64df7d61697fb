import { InvalidInput, rootBetween } from '../numerics';

/** Friction of a flat plate with a turbulent layer from its front edge, by name. */
export const FRICTION_LAWS = {
  'log-power': {
    name: 'logarithm to the 2.58',
    source: '0.455/(log₁₀Re)^2.58; NACA TM-1218, 1949, cited from memory',
    range: [1e5, 1e9],
  },
  'fifth-root': { name: 'fifth root', source: '0.074/Re^0.2; NACA TM-611, 1931, cited from memory', range: [5e5, 1e7] },
  'log-square': {
    name: 'logarithm squared',
    source: '0.075/(log₁₀Re − 2)²; the ship model tanks’ correlation line of 1957, cited from memory',
    range: [1e5, 1e10],
  },
  'implicit-log': {
    name: 'implicit logarithm',
    source: '0.242/√cf = log₁₀(Re·cf); Trans. Soc. Nav. Arch. Mar. Eng. 40, 1932, cited from memory',
    range: [1e5, 1e10],
  },
} as const;
export type FrictionLaw = keyof typeof FRICTION_LAWS;
export const FRICTION_LAW_NAMES = Object.keys(FRICTION_LAWS) as FrictionLaw[];

/** Below, logarithms of the laws lose their meaning. */
const LEAST_REYNOLDS = 1000;

/** Friction coefficient of a turbulent plate, on its wetted area. @throws InvalidInput `reynolds-range` below 1 000. */
export function turbulentFriction(law: FrictionLaw, reynolds: number): number {
  if (!(reynolds >= LEAST_REYNOLDS) || !Number.isFinite(reynolds))
    throw new InvalidInput(
      'reynolds-range',
      `Friction laws hold from a Reynolds number of ${LEAST_REYNOLDS}; ${Number(reynolds.toPrecision(3))} is below.`,
      'Raise the speed.',
      'speed',
    );
  const log = Math.log10(reynolds);
  switch (law) {
    case 'log-power':
      return 0.455 / log ** 2.58;
    case 'fifth-root':
      return 0.074 / reynolds ** 0.2;
    case 'log-square':
      return 0.075 / (log - 2) ** 2;
    case 'implicit-log':
      return rootBetween((cf) => 0.242 / Math.sqrt(cf) - Math.log10(reynolds * cf), 1e-4, 0.2, 1e-15);
  }
}

/** Friction coefficient of a laminar plate, on its wetted area. @source similarity solution, NACA TM-1256, 1950. */
export const laminarFriction = (reynolds: number): number => 1.328 / Math.sqrt(reynolds);

/**
 * Friction of a plate whose layer is laminar over a share of its length: the turbulent plate, less what its front part would have had, with the laminar
 * friction there. Roughness limits the Reynolds number from which friction falls no further.
 * @param roughness height of sand grains, m; 0 is smooth. @param mach lowers it for the warm layer.
 * @source laminar part: NACA TM-1218, 1949; roughness: 38.21 (L/k)^1.053; warm layer: (1 + 0.144 M²)^−0.65; all cited from memory.
 */
export function plateFriction(
  law: FrictionLaw,
  reynolds: number,
  laminarShare = 0,
  { roughness = 0, length = 1, mach = 0 }: { roughness?: number; length?: number; mach?: number } = {},
): number {
  const effective = roughness > 0 ? Math.min(reynolds, 38.21 * (length / roughness) ** 1.053) : reynolds;
  const warm = (1 + 0.144 * mach * mach) ** -0.65;
  const whole = warm * turbulentFriction(law, effective);
  if (laminarShare <= 0) return whole;
  const front = laminarShare * reynolds;
  if (laminarShare >= 1) return laminarFriction(reynolds);
  // Friction is no less than that of a plate which is laminar throughout.
  const turbulent = front >= LEAST_REYNOLDS ? warm * turbulentFriction(law, Math.min(front, effective)) : 0;
  return Math.max(
    laminarFriction(reynolds),
    whole - laminarShare * Math.max(0, turbulent - laminarFriction(Math.max(1, front))),
  );
}
