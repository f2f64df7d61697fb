import { GRAVITY } from '../atmosphere';
import type { Point3 } from '../airframe';
import { InvalidInput, interpolate, rootsOver } from '../numerics';
import type { LiftResult } from '../lift';

/** A thing with a mass and a place. */
export interface MassItem {
  id: string;
  name: string;
  /** kg */ mass: number;
  /** m */ position: Point3;
}

/** Total mass and centre of gravity; null while there is no mass. */
export interface MassProperties {
  /** kg */ mass: number;
  /** m */ centre: Point3;
}

/**
 * Mass and centre of gravity of a list of items.
 * @returns null when there is no item with a mass: the centre of gravity is then not known, and not zero.
 * @throws InvalidInput `mass-range` for a mass that is negative or not a number, `mass-place` for a place that is none.
 */
export function massProperties(items: readonly MassItem[]): MassProperties | null {
  let mass = 0;
  const centre = { x: 0, y: 0, z: 0 };
  items.forEach((item, i) => {
    if (!(item.mass >= 0) || !Number.isFinite(item.mass)) {
      throw new InvalidInput(
        'mass-range',
        `The mass of ${item.name || `item ${i + 1}`} is ${item.mass} kg; it must be zero or more.`,
        'Give a mass in kilograms.',
        `massItems.${i}.mass`,
      );
    }
    for (const key of ['x', 'y', 'z'] as const) {
      if (!Number.isFinite(item.position[key])) {
        throw new InvalidInput(
          'mass-place',
          `The place of ${item.name || `item ${i + 1}`} along ${key} is not a number.`,
          'Give a length in metres.',
          `massItems.${i}.position.${key}`,
        );
      }
      centre[key] += item.mass * item.position[key];
    }
    mass += item.mass;
  });
  if (mass === 0) return null;
  return { mass, centre: { x: centre.x / mass, y: centre.y / mass, z: centre.z / mass } };
}

/** A trimmed state: no pitching moment about the centre of gravity. */
export interface Trim {
  /** rad */ alpha: number;
  CL: number;
  /** Speed at which the lift there carries the weight, m/s; null when the lift is not upward. */
  speed: number | null;
  stable: boolean;
}

/** Static longitudinal balance. */
export interface Balance {
  /** (x of the neutral point − x of the centre of gravity) over the mean aerodynamic chord. */
  staticMargin: number;
  /** m */ neutralPoint: number;
  /** dCm/dα about the centre of gravity, per rad. */
  pitchSlope: number;
  /** All angles inside the sweep at which Cm is zero, the one nearest zero first. */
  trims: Trim[];
}

/**
 * Balance from a lift analysis whose moment reference is the centre of gravity.
 * @param lift two or more points at increasing angles. @param mass kg. @param density kg/m³.
 * @source Etkin and Reid, Dynamics of Flight, 3rd ed., 1996, chapter 2.
 */
export function balanceOf(lift: LiftResult, mass: number, density: number): Balance {
  const alphas = lift.points.map((p) => p.alpha);
  const table = { Cm: lift.points.map((p) => p.Cm), CL: lift.points.map((p) => p.CL) };
  const at = (key: 'Cm' | 'CL', alpha: number) => interpolate(alphas, table[key], alpha);
  const roots = alphas.length < 2 ? [] : rootsOver((a) => at('Cm', a), alphas);
  const trims = roots
    .map((alpha): Trim => {
      const CL = at('CL', alpha);
      const h = 1e-4;
      return {
        alpha,
        CL,
        speed: CL > 0 ? Math.sqrt((2 * mass * GRAVITY) / (density * lift.reference.area * CL)) : null,
        stable: at('Cm', Math.min(alphas[alphas.length - 1], alpha + h)) - at('Cm', Math.max(alphas[0], alpha - h)) < 0,
      };
    })
    .sort((a, b) => Math.abs(a.alpha) - Math.abs(b.alpha));
  return {
    staticMargin: (lift.neutralPoint - lift.momentReference.x) / lift.reference.chord,
    neutralPoint: lift.neutralPoint,
    pitchSlope: lift.momentSlope,
    trims,
  };
}
