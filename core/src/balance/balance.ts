import { GRAVITY } from '../atmosphere';
import type { Point3 } from '../airframe';
import { InvalidInput, interpolate, rootsOver } from '../numerics';
import type { LiftResult } from '../lift';
import type { MASS_SHAPES } from './limits';
import { addInertia, ownInertia, pointInertia, type InertiaTensor } from './inertia';

/** What a mass item is like. */
export type MassShape = (typeof MASS_SHAPES)[number];

/** A thing with a mass and a place. */
export interface MassItem {
  id: string;
  name: string;
  /** kg */ mass: number;
  /** Of its centre, m. */ position: Point3;
  shape?: MassShape;
  /** Id of a surface or a body that it is spread over, by its shape: the skin where none is given. */ part?: string;
  /** Lengths along the axes, m; of a cylinder its length along x and its diameter as y. */
  size?: { x?: number; y?: number; z?: number };
  /** About its own centre, kg m²; products as ∫xy dm. Instead of shape and size. */
  inertia?: { Ixx: number; Iyy: number; Izz: number; Ixy?: number; Ixz?: number; Iyz?: number };
  /** Stands on the left as well, with the same mass. */ mirrored?: boolean;
  /** What it belongs to: items of one group are told together. */ group?: string;
}

/** How much of each item is there, by id: 0 leaves it out; 1 where it is not named. */
export type Loading = Readonly<Record<string, number>>;

/** Total mass and centre of gravity; null while there is no mass. */
export interface MassProperties {
  /** kg */ mass: number;
  /** m */ centre: Point3;
  /** About the centre, in the airframe's axes. */ inertia: InertiaTensor;
}

/** Nearer to the plane of symmetry a mirrored item would lie on its image, m. */
const ON_PLANE = 1e-6;

/**
 * Mass, centre of gravity and inertia of a list of items.
 * @param loading how much of each is there. @returns null when there is no item with a mass: the centre of gravity is then not known, and not zero.
 * @throws InvalidInput `mass-range` for a mass that is negative or not a number, `mass-place` for a place that is none, `mass-mirror`, `mass-inertia`.
 */
export function massProperties(items: readonly MassItem[], loading: Loading = {}): MassProperties | null {
  const all: { item: MassItem; mass: number; y: number; side: 1 | -1 }[] = [];
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
    }
    if (item.mirrored && Math.abs(item.position.y) < ON_PLANE)
      throw new InvalidInput(
        'mass-mirror',
        `${item.name || `Item ${i + 1}`} is mirrored and lies in the plane of symmetry: it would lie on its own image.`,
        'Let it stand once, or move it to the side.',
        `massItems.${i}.position.y`,
      );
    const share = loading[item.id] ?? 1;
    for (const side of item.mirrored ? ([1, -1] as const) : ([1] as const))
      all.push({ item, mass: share * item.mass, y: side * item.position.y, side });
  });
  for (const { item, mass: m, y } of all) {
    centre.x += m * item.position.x;
    centre.y += m * y;
    centre.z += m * item.position.z;
    mass += m;
  }
  if (mass === 0) return null;
  const at = { x: centre.x / mass, y: centre.y / mass, z: centre.z / mass };
  const inertia: InertiaTensor = { xx: 0, yy: 0, zz: 0, xy: 0, xz: 0, yz: 0 };
  for (const { item, mass: m, y, side } of all) {
    if (m === 0) continue;
    const own = ownInertia(item);
    // Products with y change sign in the mirror.
    const seen = side < 0 ? { ...own, xy: -own.xy, yz: -own.yz } : own;
    addInertia(inertia, seen, m / item.mass);
    addInertia(inertia, pointInertia(m, item.position.x - at.x, y - at.y, item.position.z - at.z));
  }
  return { mass, centre: at, inertia };
}

/** Masses and centres of groups of items, in the order of their first items; items without one are left out. */
export function groupProperties(
  items: readonly MassItem[],
  loading: Loading = {},
): { group: string; items: number; properties: MassProperties | null }[] {
  const names = [...new Set(items.flatMap((i) => (i.group ? [i.group] : [])))];
  return names.map((group) => {
    const own = items.filter((i) => i.group === group);
    return { group, items: own.length, properties: massProperties(own, loading) };
  });
}

/** A trimmed state: no pitching moment about the centre of gravity. */
export interface Trim {
  /** rad */ alpha: number;
  CL: number;
  /** Speed at which the lift there carries the weight, m/s; null when the lift is not upward. */
  speed: number | null;
  stable: boolean;
}

/** Static longitudinal balance of the whole aircraft; margin, neutral point and slopes in the trim of level flight. */
export interface Balance {
  /** (x of the neutral point − x of the centre of gravity) over the mean aerodynamic chord. */
  staticMargin: number;
  /** m */ neutralPoint: number;
  /** dCm/dα about the centre of gravity, per rad. */
  pitchSlope: number;
  /** dCL/dα, per rad. */
  liftSlope: number;
  /** What these belong to: level flight at a speed, m/s, in trim; α = 0 where it does not carry the weight. Angles in rad. */
  state: {
    at: 'level' | 'zero';
    alpha: number;
    speed: number | null;
    controls: Record<string, number>;
    reason?: string;
  };
  /** All angles inside the sweep at which Cm is zero, the one nearest zero first. */
  trims: Trim[];
}

/**
 * Angles without a moment, from a lift analysis whose moment reference is the centre of gravity; controls as they stand there. The one nearest zero first.
 * @param lift two or more points at increasing angles. @param mass kg. @param density kg/m³.
 * @source Etkin and Reid, Dynamics of Flight, 3rd ed., 1996, chapter 2.
 */
export function trimsOf(lift: LiftResult, mass: number, density: number): Trim[] {
  const alphas = lift.points.map((p) => p.alpha);
  const table = { Cm: lift.points.map((p) => p.Cm), CL: lift.points.map((p) => p.CL) };
  const at = (key: 'Cm' | 'CL', alpha: number) => interpolate(alphas, table[key], alpha);
  const roots = alphas.length < 2 ? [] : rootsOver((a) => at('Cm', a), alphas);
  return roots
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
}
