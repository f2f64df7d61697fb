import { DEG } from '../numerics';
import { quantitiesOf } from './quantity';

/** A moment of a flight: its columns by name, SI, angles in radians. */
export type FlownMoment = Readonly<Record<string, number>>;

const angle = (id: string, name: string, symbol: string, says?: string) => ({
  id: `flown.${id}`,
  symbol,
  name,
  ...(says && { says }),
  dimension: 'angle' as const,
  of: (m: FlownMoment) => (id in m ? m[id] * DEG : null),
});
const turning = (id: string, name: string) => ({ ...angle(id, name, id), dimension: 'plain' as const, per: '°/s' });
const place = (id: string, name: string, says: string) => ({
  id: `flown.${id}`,
  symbol: name,
  name,
  says,
  dimension: 'altitude' as const,
  digits: 1,
  of: (m: FlownMoment) => m[id] ?? null,
});

/** What a flight tells of each moment; `flown.` and the name of its column. */
export const FLOWN_QUANTITIES = quantitiesOf<FlownMoment>([
  place('height', 'height', 'above the ground'),
  {
    id: 'flown.V',
    symbol: 'V',
    name: 'airspeed',
    says: 'true airspeed, in the air that moves',
    dimension: 'speed',
    of: (m) => m.V ?? null,
  },
  angle('alpha', 'angle of attack', 'α'),
  angle('beta', 'sideslip', 'β', 'wind from the right is positive'),
  angle('theta', 'pitch', 'θ', 'nose up is positive'),
  angle('phi', 'bank', 'φ', 'right wing down is positive'),
  angle('psi', 'heading', 'ψ'),
  {
    id: 'flown.loadFactor',
    symbol: 'n',
    name: 'load factor',
    says: 'force of air and thrust over the weight, across the body and up',
    dimension: 'plain',
    digits: 2,
    of: (m) => m.loadFactor ?? null,
  },
  turning('p', 'roll rate'),
  turning('q', 'pitch rate'),
  turning('r', 'yaw rate'),
  place('x', 'north', 'of the place of launch'),
  place('y', 'east', 'of the place of launch'),
  { id: 'flown.thrust', symbol: 'T', name: 'thrust', dimension: 'force', of: (m) => m.thrust ?? null },
  { id: 'flown.mass', symbol: 'm', name: 'mass', dimension: 'mass', of: (m) => m.mass ?? null },
]);

/** What is told of a whole flight. */
export interface FlightFacts {
  /** s */ time: number;
  /** m */ range: number;
  /** m */ greatestHeight: number;
  /** m/s */ greatestSpeed: number;
  greatestLoadFactor: number;
}

/** Facts of a flight from launch to its end. */
export const FLIGHT_QUANTITIES = quantitiesOf<FlightFacts>([
  {
    id: 'flight.time',
    symbol: 'time',
    name: 'flight time',
    dimension: 'plain',
    digits: 2,
    per: 's',
    of: (f) => f.time,
  },
  {
    id: 'flight.range',
    symbol: 'distance',
    name: 'distance flown',
    says: 'over the ground, from the place of launch to the end',
    dimension: 'altitude',
    digits: 1,
    of: (f) => f.range,
  },
  {
    id: 'flight.greatestHeight',
    symbol: 'greatest height',
    name: 'greatest height',
    says: 'above the ground',
    dimension: 'altitude',
    digits: 1,
    of: (f) => f.greatestHeight,
  },
  {
    id: 'flight.greatestSpeed',
    symbol: 'greatest speed',
    name: 'greatest airspeed',
    dimension: 'speed',
    digits: 2,
    of: (f) => f.greatestSpeed,
  },
  {
    id: 'flight.greatestLoadFactor',
    symbol: 'load factor',
    name: 'greatest load factor of the flight',
    says: 'force of air and thrust over the weight, the greatest in size',
    dimension: 'plain',
    digits: 2,
    of: (f) => f.greatestLoadFactor,
  },
]);
