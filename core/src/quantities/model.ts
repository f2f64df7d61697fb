import type { AircraftModel, Modelled } from '../candidate';

const DEG = 180 / Math.PI;

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
