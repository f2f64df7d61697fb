import { rootBetween } from '../numerics';

/** An electric motor with its battery; an ideal controller between them. */
export interface Motor {
  /** Revolutions a minute and volt. */ kv: number;
  /** Ω */ resistance: number;
  /** A, at any speed. */ idleCurrent: number;
  battery: { /** V */ voltage: number; /** Ω */ resistance: number };
}

/** Coefficients of a propeller over its advance ratio, rising. */
export interface PropellerTable {
  J: number[];
  CT: number[];
  CP: number[];
}

/** What a motor and its propeller come to. */
export interface MotorState {
  /** N */ thrust: number;
  /** Revolutions a second. */ rps: number;
  /** A, of the motor. */ current: number;
  /** W, of the shaft and out of the battery. */ shaftPower: number;
  batteryPower: number;
  /** Power of the thrust over that out of the battery; 0 at rest. */ efficiency: number;
}

/** A value between the points of a table; beyond them its ends go on. */
export const valueAt = (x: readonly number[], y: readonly number[], value: number): number => {
  const last = x.length - 1;
  let i = 0;
  while (i < last - 1 && value > x[i + 1]) i++;
  return y[i] + ((y[i + 1] - y[i]) / (x[i + 1] - x[i])) * (value - x[i]);
};

/**
 * Speed of turning at which motor and propeller have the same torque.
 *
 * With a share τ of the battery's voltage on the motor, I = (τ U − E)/(R + τ² R_b) and E = 60 n/k_v; torque (I − I₀) 60/(2π k_v) against C_P ρ n² D⁵/(2π).
 * @param share of the voltage, 0 to 1. @param speed m/s. @param density kg/m³.
 * @source any textbook of electric drives: a direct-current motor with constant flux.
 */
export function motorState(
  motor: Motor,
  propeller: PropellerTable & { diameter: number },
  share: number,
  speed: number,
  density: number,
): MotorState {
  const { kv, resistance, idleCurrent, battery } = motor;
  const { diameter: D } = propeller;
  const v = Math.max(0, speed);
  const none = { thrust: 0, rps: 0, current: 0, shaftPower: 0, batteryPower: 0, efficiency: 0 };
  if (!(share > 0)) return none;
  const currentAt = (n: number) =>
    (share * battery.voltage - (60 * n) / kv) / (resistance + share * share * battery.resistance);
  const coefficient = (key: 'CT' | 'CP', n: number) => valueAt(propeller.J, propeller[key], v / (n * D));
  const spare = (n: number) =>
    ((currentAt(n) - idleCurrent) * 60) / (2 * Math.PI * kv) -
    (coefficient('CP', n) * density * n * n * D ** 5) / (2 * Math.PI);
  const free = (share * battery.voltage * kv) / 60;
  // So slow that the table's end is far behind, the propeller would turn like a mill: it is held.
  const least = Math.max(1e-3 * free, v / (D * (2 * propeller.J[propeller.J.length - 1] + 0.5)));
  if (!(least < 2 * free) || spare(least) <= 0) return none;
  let most = free;
  while (spare(most) > 0 && most < 4 * free) most *= 1.2;
  if (spare(most) > 0) return none;
  const rps = rootBetween(spare, least, most, 1e-12);
  const current = currentAt(rps);
  const thrust = coefficient('CT', rps) * density * rps * rps * D ** 4;
  const batteryPower = battery.voltage * share * current;
  return {
    thrust,
    rps,
    current,
    shaftPower: coefficient('CP', rps) * density * rps ** 3 * D ** 5,
    batteryPower,
    efficiency: batteryPower > 0 ? (thrust * v) / batteryPower : 0,
  };
}
