import type { AircraftModel, Modelled, Performance, PerformanceLimits } from '../candidate';
import { DEG } from '../numerics';
import { displayUnit } from '../units';
import type { Made, Response } from './responses';
import { LIMIT_QUANTITIES, PERFORMANCE_QUANTITIES } from './performance';

/** A number of the model as it is told: in the unit that it names. */
export interface ModelQuantity {
  id: string;
  name: string;
  symbol: string;
  unit: string;
  value: number | null;
  method: AircraftModel['method'];
  /** `fresh`, or `failed` with the reason. */ status: 'fresh' | 'failed';
  reason?: string;
  /** What is not to be relied on without a look. */ doubts?: string[];
}

const HEADLINES: readonly {
  id: string;
  name: string;
  symbol: string;
  unit: string;
  by?: number;
  of: (m: AircraftModel) => Modelled;
}[] = [
  { id: 'balance.staticMargin', name: 'static margin', symbol: 'static margin', unit: '', of: (m) => m.staticMargin },
  { id: 'balance.neutralPoint', name: 'neutral point', symbol: 'x_np', unit: 'm', of: (m) => m.neutralPoint },
  {
    id: 'balance.trimAngle',
    name: 'trim angle, controls as they stand',
    symbol: 'α trim',
    unit: '°',
    by: DEG,
    of: (m) => m.trimAngle,
  },
  {
    id: 'balance.pitchSlope',
    name: 'pitch slope',
    symbol: 'dCm/dα',
    unit: '1/°',
    by: 1 / DEG,
    of: (m) => m.pitchSlope,
  },
  {
    id: 'motion.levelAngle',
    name: 'angle of attack in level flight',
    symbol: 'α',
    unit: '°',
    by: DEG,
    of: (m) => m.levelAngle,
  },
  { id: 'lift.slope', name: 'lift slope at α = 0', symbol: 'dCL/dα', unit: '1/rad', of: (m) => m.liftSlope },
  {
    id: 'lift.spanEfficiency',
    name: 'span efficiency in level flight',
    symbol: 'e',
    unit: '',
    of: (m) => m.spanEfficiency,
  },
  {
    id: 'lift.heaviestMass',
    name: 'heaviest mass at the speed',
    symbol: 'm max',
    unit: 'kg',
    of: (m) => m.heaviestMass,
  },
  {
    id: 'drag.coefficient',
    name: 'drag coefficient in level flight',
    symbol: 'CD',
    unit: '',
    of: (m) => m.dragCoefficient,
  },
];

/** `short period, real 2` as part of an id. */
const camel = (name: string) => name.toLowerCase().replace(/[^a-z0-9]+(.)/g, (_, c: string) => c.toUpperCase());

/** The numbers of a model, each once, with the method that made them; modes are damping ratios and frequencies in Hz. */
export function modelQuantities(m: AircraftModel): ModelQuantity[] {
  const doubts = m.motion?.doubts.length ? { doubts: m.motion.doubts } : {};
  const headlines = HEADLINES.map(({ id, name, symbol, unit, by = 1, of }): ModelQuantity => {
    const found = of(m);
    return 'value' in found
      ? { id, name, symbol, unit, value: found.value * by, method: m.method, status: 'fresh', ...doubts }
      : { id, name, symbol, unit, value: null, method: m.method, status: 'failed', reason: found.missing };
  });
  const modes = (m.motion?.modes ?? []).flatMap((mode): ModelQuantity[] => {
    const of = { method: m.method, status: 'fresh' as const, ...doubts };
    const id = `motion.${camel(mode.name)}`;
    return [
      {
        id: `${id}.damping`,
        name: `${mode.name}: damping ratio`,
        symbol: 'ζ',
        unit: '',
        value: mode.dampingRatio,
        ...of,
      },
      {
        id: `${id}.frequency`,
        name: `${mode.name}: frequency`,
        symbol: 'f',
        unit: 'Hz',
        value: mode.frequencyHz,
        ...of,
      },
    ];
  });
  return [...headlines, ...modes];
}

/** The quantities of performance that a model tells. */
const PERFORMANCE = [...PERFORMANCE_QUANTITIES, ...LIMIT_QUANTITIES];

/** A quantity of performance as a model tells it: SI, or the unit that the quantity names. */
const told = ({ id, name, symbol, dimension, per }: (typeof PERFORMANCE)[number]) => {
  const unit = displayUnit(dimension, 'metric');
  return { id, name, symbol, unit: per ?? ('unit' in unit && unit.unit ? unit.unit : unit.symbol) };
};

/** What was made of an aircraft's performance. */
interface MadePerformance {
  performance: Performance;
  limits: PerformanceLimits;
}

/** Why a quantity of performance is not there, by its id. */
export function whyMissing(id: string, { performance, limits }: MadePerformance): string {
  const { stall, climb } = performance;
  const { range, takeOff, landing } = limits;
  if (/range|endurance/.test(id))
    return 'missing' in range ? range.missing : 'Full thrust holds no level flight at any speed.';
  if (/stall|heaviest/i.test(id) && 'missing' in stall) return stall.missing;
  if (/takeOff/.test(id) && !takeOff.ok) return takeOff.reason;
  if (/landing/.test(id) && !landing.ok) return landing.reason;
  if (!climb.best && /climb|fastest|ceiling|turn/i.test(id)) return 'It has no engine.';
  if (/ceiling/i.test(id))
    return climb.best!.rate > 0
      ? 'It still climbs at 20 km.'
      : 'It does not climb at this altitude: that is above its ceiling.';
  return 'It lies outside of the speeds that are looked at.';
}

/** Why a response of a candidate is not there; undefined where it is only not made yet. */
export function whyNone(q: Response, made: Made): string | undefined {
  const { performance, limits, loops, strength } = made;
  switch (q.by) {
    case 'performance':
    case 'limits':
      return performance && limits ? whyMissing(q.id, { performance, limits }) : undefined;
    case 'loops':
      if (!loops) return undefined;
      return loops.length > 0 ? 'A loop cannot be told, or has no such margin.' : 'It has no control loops.';
    case 'strength':
      if (!strength) return undefined;
      return strength.surfaces.length > 0 ? 'No member carries load.' : 'No surface has a structure.';
    default:
      return made[q.by] ? 'There is none in this state.' : undefined;
  }
}

/** Performance and its limits as quantities; what is not there says why. */
export function performanceQuantities(of: MadePerformance, method: AircraftModel['method']): ModelQuantity[] {
  const { performance, limits } = of;
  const given = (q: (typeof PERFORMANCE)[number], value: number | null): ModelQuantity =>
    value === null
      ? { ...told(q), value, method, status: 'failed', reason: whyMissing(q.id, of) }
      : { ...told(q), value, method, status: 'fresh' };
  return [
    ...PERFORMANCE_QUANTITIES.map((q) => given(q as never, q.of(performance))),
    ...LIMIT_QUANTITIES.map((q) => given(q as never, q.of(limits))),
  ];
}

/** The same where the method has none of them. */
export const missingPerformance = (reason: string): ModelQuantity[] =>
  PERFORMANCE.map((q) => ({ ...told(q), value: null, method: 'panels', status: 'failed', reason }));
