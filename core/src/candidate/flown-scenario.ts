import { THRUST, type AutopilotSettings, type Chain } from '../control';
import { pushes } from '../propulsion';
import { InvalidInput } from '../numerics';
import type { CandidatePart, ScenarioPart } from '../project';
import type { Channel, Scenario } from '../simulation';

/** Gains of the throttle that holds a speed, per m/s and per m: gentle for any aircraft. */
const SPEED_HOLD = { kp: 0.08, ki: 0.02 };

/** Names of a candidate's controls by id, each once: as derivatives and flights have them. */
export function controlNames(candidate: Pick<CandidatePart, 'surfaces'>): Record<string, string> {
  const out: Record<string, string> = {};
  const seen = new Set<string>();
  for (const c of candidate.surfaces.flatMap((s) => s.controls ?? [])) {
    const name = c.name || c.id;
    out[c.id] = seen.has(name) ? c.id : name;
    seen.add(name);
  }
  return out;
}

/** A chain of loops as a flight computes it. */
function channelOf(chain: Chain, to: string, wanted: ScenarioPart['loops']['wanted'], wayPoints: boolean): Channel {
  const outer = chain.laws[chain.laws.length - 1].from;
  // Without way-points it holds what is there at the start.
  const value = wanted[outer] === 'waypoints' && !wayPoints ? undefined : wanted[outer];
  return {
    name: chain.name,
    to,
    loops: chain.laws,
    ...(value === 'waypoints' ? { follow: 'waypoints' } : value === undefined ? {} : { reference: value }),
  };
}

/** A scenario with the engine of the candidate where it names none itself. */
export const withOwnEngine = (scenario: Scenario, { engine }: Pick<CandidatePart, 'engine'>): Scenario =>
  engine && !scenario.engine && !scenario.propeller ? { ...scenario, engine } : scenario;

/**
 * The scenario as a candidate flies it: with its own loops and the movers of its controls, where it is to.
 * @throws InvalidInput `control-missing` for a chain whose control is not there any more.
 */
export function flownScenario(
  part: Pick<ScenarioPart, 'scenario' | 'loops'>,
  candidate: Pick<CandidatePart, 'surfaces' | 'autopilot' | 'engine'>,
): Scenario {
  const { loops } = part;
  const scenario = withOwnEngine(part.scenario, candidate);
  if (!loops.on) return scenario;
  const settings: AutopilotSettings | undefined = candidate.autopilot;
  const names = controlNames(candidate);
  const [pushing, steering] = [true, false].map((k) => (settings?.chains ?? []).filter((c) => (c.to === THRUST) === k));
  const channels: Channel[] = steering.map((chain) => {
    const to = names[chain.to];
    if (to === undefined)
      throw new InvalidInput(
        'control-missing',
        `The chain ${chain.name} moves a control that is not there any more.`,
        'Choose its control in Control.',
      );
    return channelOf(chain, to, loops.wanted, scenario.waypoints.length > 0);
  });
  // A chain on the thrust needs an engine that the scenario has; else nothing pushes.
  const powered = scenario.propeller !== undefined || pushes(scenario.engine);
  if (pushing.length > 0 && powered) {
    const [chain] = pushing;
    const lag = chain.mover && 'timeConstant' in chain.mover ? chain.mover.timeConstant : 0;
    channels.push({ ...channelOf(chain, 'throttle', loops.wanted, false), thrust: { lag } });
  } else if (loops.throttle && powered)
    channels.push({
      name: 'Speed',
      to: 'throttle',
      loops: [{ from: 'V', ...SPEED_HOLD, kd: 0, sign: 1 }],
      ...(loops.wanted.V === undefined || loops.wanted.V === 'waypoints' ? {} : { reference: loops.wanted.V }),
    });
  if (channels.length === 0) return scenario;
  const movers = Object.fromEntries(steering.flatMap((c) => (c.mover ? [[names[c.to], c.mover]] : [])));
  return {
    ...scenario,
    actuators: { ...movers, ...scenario.actuators },
    autopilot: {
      step: settings?.step ?? 0.02,
      delay: settings?.delay ?? 0,
      sensorLag: settings?.sensorLag ?? 0,
      from: loops.from,
      channels,
    },
  };
}
