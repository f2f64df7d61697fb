import { massProperties, type Loading, type MassItem } from '../balance';
import { InvalidInput } from '../numerics';
import type { Vector } from './attitude';
import { impulseOf, valueOf, type Scenario } from './scenario';
import type { Jet, MassState, Push } from './vehicle';

const RAD = Math.PI / 180;

/**
 * Thrust of a propeller of a shaft power: the ideal propeller's of the power that its efficiency leaves.
 * @param density kg/m³. @returns N. @source Glauert, in Durand, Aerodynamic Theory IV, 1935, division L: P = T (V/2 + √(V²/4 + T/(2ρA))).
 */
export function propellerThrust(power: number, diameter: number, density: number, speed: number): number {
  if (!(power > 0)) return 0;
  const v = Math.max(0, speed);
  const disc = (Math.PI * diameter * diameter) / 4;
  // T = 2ρA w (V + w), P = T (V + w): a cubic for the speed w that is added at the disc, which rises with w.
  let w = Math.cbrt(power / (2 * density * disc));
  for (let i = 0; i < 60; i++) {
    const f = 2 * density * disc * w * (v + w) ** 2 - power;
    const slope = 2 * density * disc * (v + w) * (v + 3 * w);
    const next = Math.max(0, w - f / slope);
    if (Math.abs(next - w) < 1e-14 * (1 + w)) return power / (v + next);
    w = next;
  }
  return power / (v + w);
}

/** The shaft power that a thrust needs, by the same propeller. @param thrust N, 0 or more. */
export function propellerPower(thrust: number, diameter: number, density: number, speed: number): number {
  const v = Math.max(0, speed);
  const disc = (Math.PI * diameter * diameter) / 4;
  return thrust * (0.5 * v + Math.sqrt(0.25 * v * v + thrust / (2 * density * disc)));
}

const direction = (pitchDeg: number, yawDeg: number): Vector => {
  const [p, y] = [pitchDeg * RAD, yawDeg * RAD];
  return [Math.cos(p) * Math.cos(y), Math.cos(p) * Math.sin(y), -Math.sin(p)];
};
const times = (v: Vector, k: number): Vector => [v[0] * k, v[1] * k, v[2] * k];

/** The thrusts of a scenario, and the mass that they leave. */
export function propulsionOf(
  scenario: Pick<Scenario, 'propeller' | 'boosts'>,
  items: readonly MassItem[],
  loading: Loading,
): {
  massAt: (t: number) => MassState;
  pushes: (t: number, speed: number, density: number, throttle: number) => Push[];
  /** Gas that leaves while something burns. */ jets: (t: number) => Jet[];
  /** Instants at which a thrust has a bend, s. */ bends: number[];
  /** Ends of burning, s. */ burnOuts: { name: string; t: number }[];
} {
  const { propeller, boosts } = scenario;
  const lines = boosts.map((b) => ({
    ...b,
    total: impulseOf(b.thrust),
    along: direction(b.pitchDeg, b.yawDeg),
    end: b.start + b.thrust[b.thrust.length - 1][0],
  }));
  const extra = boosts.flatMap((b, i): MassItem[] =>
    b.propellant
      ? [{ id: `propellant-${i}`, name: b.name, mass: b.propellant.mass, position: b.propellant.position }]
      : [],
  );
  const burning = boosts.flatMap((b, i) => {
    if (b.propellant) return [{ line: i, id: `propellant-${i}` }];
    if (b.item === undefined) return [];
    const item = items.find((m) => m.id === b.item) ?? items.find((m) => m.name === b.item);
    if (!item)
      throw new InvalidInput(
        'boost-item',
        `There is no mass item "${b.item}" to burn.`,
        items.length ? `There are ${items.map((m) => m.name || m.id).join(', ')}.` : 'The candidate has no mass items.',
        `boosts.${i}.item`,
      );
    return [{ line: i, id: item.id }];
  });
  const all = [...items, ...extra];
  const made = (left: Record<string, number>): MassState => {
    const mass = massProperties(all, { ...loading, ...left });
    if (!mass)
      throw new InvalidInput(
        'no-mass',
        'Nothing is left that has a mass: it cannot fly.',
        'Give mass items in Balance first; not all of them can burn.',
        'massItems',
      );
    return mass;
  };
  let key = '';
  let last: MassState | null = null;
  const tilt = propeller && direction(propeller.pitchDeg, propeller.yawDeg);
  return {
    bends: lines.flatMap((b) => b.thrust.map(([t]) => b.start + t)),
    burnOuts: lines.map((b) => ({ name: b.name, t: b.end })),
    jets: (t) =>
      burning.flatMap(({ line, id }) => {
        const b = lines[line];
        const share = t < b.start || t > b.end ? 0 : valueOf(b.thrust, t - b.start, 0) / b.total;
        const item = all.find((m) => m.id === id)!;
        const flow = share * item.mass * (item.mirrored ? 2 : 1) * (loading[id] ?? 1);
        return flow > 0 ? [{ flow, at: b.position }] : [];
      }),
    massAt: (t) => {
      const left: Record<string, number> = {};
      for (const { line, id } of burning) {
        const b = lines[line];
        const burnt = impulseOf(b.thrust, t - b.start) / b.total;
        left[id] = (loading[id] ?? 1) * (1 - Math.max(0, Math.min(1, burnt)));
      }
      const now = Object.values(left).join();
      if (!last || now !== key) [last, key] = [made(left), now];
      return last;
    },
    pushes: (t, speed, density, throttle) => {
      const out: Push[] = [];
      // Beyond none and full it goes on, so that a trim that is not there is still found and can be told.
      if (propeller && throttle !== 0) {
        const power = Math.abs(throttle) * propeller.power * propeller.efficiency;
        const thrust = Math.sign(throttle) * propellerThrust(power, propeller.diameter, density, speed);
        out.push({ force: times(tilt!, thrust), at: propeller.position });
      }
      for (const b of lines) {
        if (t < b.start || t > b.end) continue;
        const thrust = valueOf(b.thrust, t - b.start, 0);
        if (thrust > 0) out.push({ force: times(b.along, thrust), at: b.position });
      }
      return out;
    },
  };
}
