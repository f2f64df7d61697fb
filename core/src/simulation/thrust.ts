import { massProperties, type Loading, type MassItem } from '../balance';
import { InvalidInput, RAD } from '../numerics';
import { pushes, Thruster, type Engine } from '../propulsion';
import type { Vector } from './attitude';
import { impulseOf, valueOf, type Scenario } from './scenario';
import type { Jet, MassState, Push, Vehicle } from './vehicle';

/** The engine of a scenario: its own, its propeller, or none. */
export function engineOf({ engine, propeller }: Pick<Scenario, 'engine' | 'propeller'>): Engine | null {
  if (engine) return pushes(engine) ? engine : null;
  if (!propeller) return null;
  const { throttle: _, ...rest } = propeller;
  return { kind: 'propeller', ...rest };
}

const direction = (pitchDeg: number, yawDeg: number): Vector => {
  const [p, y] = [pitchDeg * RAD, yawDeg * RAD];
  return [Math.cos(p) * Math.cos(y), Math.cos(p) * Math.sin(y), -Math.sin(p)];
};
const times = (v: Vector, k: number): Vector => [v[0] * k, v[1] * k, v[2] * k];

/** The thrusts of a scenario, and the mass that they leave. */
export function propulsionOf(
  scenario: Pick<Scenario, 'engine' | 'propeller' | 'boosts'>,
  items: readonly MassItem[],
  loading: Loading,
): {
  massAt: (t: number) => MassState;
  pushes: Vehicle['pushes'];
  /** What the throttle works; null of a glider. */ thruster: Thruster | null;
  /** Gas that leaves while something burns. */ jets: (t: number) => Jet[];
  /** Instants at which a thrust has a bend, s. */ bends: number[];
  /** Ends of burning, s. */ burnOuts: { name: string; t: number }[];
} {
  const { boosts } = scenario;
  const engine = engineOf(scenario);
  const thruster = engine && new Thruster(engine);
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
  const tilt = engine && pushes(engine) ? direction(engine.pitchDeg, engine.yawDeg) : null;
  return {
    thruster,
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
    pushes: (t, air, density, throttle) => {
      const out: Push[] = [];
      if (engine && pushes(engine) && throttle !== 0) {
        const there = { speed: air.speed, density };
        out.push({ force: times(tilt!, thruster!.thrust(throttle, there)), at: engine.position });
        const side = thruster!.sideways(throttle, there);
        if (side) {
          // The stream comes from below and from the right; the blades push up and to the left.
          const [up, right] = [air.alpha + engine.pitchDeg * RAD, air.beta - engine.yawDeg * RAD];
          const moment = times(tilt!, side.torque);
          out.push({ force: [0, -side.forcePerAngle * right, -side.forcePerAngle * up], at: engine.position, moment });
        }
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
