import { InvalidInput } from '../numerics';
import type { MassItem } from './balance';

/** A symmetric tensor of inertia; off the diagonal stand −∫xy dm and so on, kg m². */
export interface InertiaTensor {
  xx: number;
  yy: number;
  zz: number;
  xy: number;
  xz: number;
  yz: number;
}

const none = (): InertiaTensor => ({ xx: 0, yy: 0, zz: 0, xy: 0, xz: 0, yz: 0 });

/** The tensor of a point mass at (x, y, z) about the origin. @source the theorem of parallel axes. */
export const pointInertia = (mass: number, x: number, y: number, z: number): InertiaTensor => ({
  xx: mass * (y * y + z * z),
  yy: mass * (x * x + z * z),
  zz: mass * (x * x + y * y),
  xy: -mass * x * y,
  xz: -mass * x * z,
  yz: -mass * y * z,
});

const KEYS = ['xx', 'yy', 'zz', 'xy', 'xz', 'yz'] as const;
export function addInertia(to: InertiaTensor, from: InertiaTensor, times = 1): InertiaTensor {
  for (const k of KEYS) to[k] += times * from[k];
  return to;
}

/**
 * The tensor of an item about its own centre. A rod reaches over its size as over a diagonal; box and plate have it as their edges; a cylinder lies along x,
 * size.y being its diameter.
 * @throws InvalidInput `mass-inertia` for moments that no body has.
 */
export function ownInertia(item: MassItem): InertiaTensor {
  if (item.inertia) {
    const { Ixx, Iyy, Izz, Ixy = 0, Ixz = 0, Iyz = 0 } = item.inertia;
    const made = { xx: Ixx, yy: Iyy, zz: Izz, xy: -Ixy, xz: -Ixz, yz: -Iyz };
    checkInertia(made, item.name);
    return made;
  }
  const { x = 0, y = 0, z = 0 } = item.size ?? {};
  const m = item.mass;
  switch (item.shape ?? 'point') {
    // Those spread over a part get their inertia from its shape, in placedItems; without it they are points.
    case 'point':
    case 'skin':
    case 'volume':
    case 'area':
      return none();
    case 'rod':
      return addInertia(none(), pointInertia(m / 12, x, y, z));
    case 'box':
    case 'plate':
      return {
        ...none(),
        xx: (m / 12) * (y * y + z * z),
        yy: (m / 12) * (x * x + z * z),
        zz: (m / 12) * (x * x + y * y),
      };
    case 'cylinder': {
      const across = (m / 4) * (y / 2) ** 2 + (m / 12) * x * x;
      return { ...none(), xx: (m / 2) * (y / 2) ** 2, yy: across, zz: across };
    }
  }
}

/** Principal moments, in rising order: the roots of the tensor's characteristic equation. @source closed form for symmetric 3 × 3 matrices. */
export function principalMoments(t: InertiaTensor): [number, number, number] {
  const off = t.xy ** 2 + t.xz ** 2 + t.yz ** 2;
  const mean = (t.xx + t.yy + t.zz) / 3;
  const spread = (t.xx - mean) ** 2 + (t.yy - mean) ** 2 + (t.zz - mean) ** 2 + 2 * off;
  const p = Math.sqrt(spread / 6);
  if (p < 1e-15 * Math.max(1, Math.abs(mean))) return [mean, mean, mean];
  const b = [t.xx - mean, t.yy - mean, t.zz - mean].map((v) => v / p);
  const [xy, xz, yz] = [t.xy / p, t.xz / p, t.yz / p];
  const det = b[0] * (b[1] * b[2] - yz * yz) - xy * (xy * b[2] - yz * xz) + xz * (xy * yz - b[1] * xz);
  const angle = Math.acos(Math.max(-1, Math.min(1, det / 2))) / 3;
  const at = (k: number) => mean + 2 * p * Math.cos(angle + (2 * Math.PI * k) / 3);
  return [at(0), at(1), at(2)].sort((u, v) => u - v) as [number, number, number];
}

/** Refuses a tensor that no body has. @throws InvalidInput `mass-inertia`. */
export function checkInertia(t: InertiaTensor, name: string): void {
  const [a, b, c] = principalMoments(t);
  const refuse = (why: string): never => {
    throw new InvalidInput(
      'mass-inertia',
      `The inertia of ${name || 'an item'} cannot be: ${why}.`,
      'Check the reference point (its own centre) and the sign of the products (∫xy dm).',
      'massItems',
    );
  };
  // Of a thin rod the closed form of the roots keeps half of the digits.
  const tiny = 1e-7 * Math.max(1e-12, Math.abs(c));
  if (!(a >= -tiny)) refuse('a principal moment is negative');
  if (c > a + b + tiny) refuse('one principal moment is greater than the sum of the two others');
}
