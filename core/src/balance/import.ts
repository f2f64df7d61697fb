import type { Point3 } from '../airframe';
import { InvalidInput } from '../numerics';
import { checkInertia, principalMoments, type InertiaTensor } from './inertia';

/** Mass properties as another program prints them. */
export interface GivenMass {
  /** kg */ mass: number;
  /** m, in its axes. */ centre: [number, number, number];
  /** kg m²: Ixx, Iyy, Izz, Ixy, Ixz, Iyz as they were printed. */ inertia: [
    number,
    number,
    number,
    number,
    number,
    number,
  ];
}

/** How given numbers are meant. */
export interface Meaning {
  /** Direction of the given x, y and z in the airframe's axes (x aft, y right, z up). */ axes: AxesId;
  /** What the moments are about. */ about: 'centre' | 'origin';
  /** What the products are: ∫xy dm, or elements of the tensor, −∫xy dm. */ products: 'positive' | 'negative';
}

/** Directions that axes of drawings and of flight mechanics have: signed places of x, y, z. */
export const AXES = {
  'aft-right-up': [1, 2, 3],
  'forward-right-down': [-1, 2, -3],
  'forward-left-up': [-1, -2, 3],
  'aft-left-down': [1, -2, -3],
} as const satisfies Record<string, readonly [number, number, number]>;
export type AxesId = keyof typeof AXES;

/** What comes out for one meaning, and whether it can be and is likely. */
export interface MeantMass {
  meaning: Meaning;
  mass: number;
  centre: Point3;
  /** About the centre, the airframe's axes. */ inertia: InertiaTensor;
  principal: [number, number, number];
  /** Why no body is like that; empty where one can be. */ impossible: string;
  /** Why it is unlikely; empty where nothing speaks against it. */ unlikely: string;
}

const NUMBER = /[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?/g;
const KEYS: [string, RegExp][] = [
  ['mass', /^\s*(?:total\s+)?mass\b/i],
  ['ixx', /^\s*(?:I|L|J)?xx\b/i],
  ['iyy', /^\s*(?:I|L|J)?yy\b/i],
  ['izz', /^\s*(?:I|L|J)?zz\b/i],
  ['ixy', /^\s*(?:I|L|J)?(?:xy|yx)\b/i],
  ['ixz', /^\s*(?:I|L|J)?(?:xz|zx)\b/i],
  ['iyz', /^\s*(?:I|L|J)?(?:yz|zy)\b/i],
  ['x', /^\s*(?:x(?:cg|_cg|c)?|cg_?x)\b/i],
  ['y', /^\s*(?:y(?:cg|_cg|c)?|cg_?y)\b/i],
  ['z', /^\s*(?:z(?:cg|_cg|c)?|cg_?z)\b/i],
];

/**
 * Reads a pasted table: named values, one or several a line (`Ixx = 1.2`), or ten bare numbers in the order mass, x, y, z, Ixx, Iyy, Izz, Ixy, Ixz, Iyz.
 * @throws InvalidInput `mass-table` for what is missing or is no number.
 */
export function readMassTable(text: string): GivenMass {
  const refuse = (why: string): never => {
    throw new InvalidInput(
      'mass-table',
      `The table was not read: ${why}.`,
      'Give mass, x, y, z, Ixx, Iyy, Izz, Ixy, Ixz, Iyz by name, or ten numbers in this order; kg, m, kg m².',
    );
  };
  if (text.length > 100_000) refuse('it is longer than 100 000 characters');
  const found = new Map<string, number>();
  // Names and values one after the other: what stands between two names belongs to the first.
  for (const piece of text.split(/[\n;]|,(?=\s*[A-Za-z])|(?<=\d)\s+(?=[A-Za-z])/)) {
    const key = KEYS.find(([, re]) => re.test(piece))?.[0];
    if (!key) continue;
    const rest = piece.replace(KEYS.find(([k]) => k === key)![1], '');
    const value = rest.match(NUMBER)?.[0];
    if (value === undefined) refuse(`${key} has no number`);
    if (found.has(key) && found.get(key) !== Number(value)) {
      // Both halves of a symmetric matrix may be given; they must agree.
      const other = found.get(key)!;
      if (Math.abs(other - Number(value)) > 1e-6 * Math.max(Math.abs(other), Math.abs(Number(value))))
        refuse(`${key} stands there twice, as ${other} and as ${value}`);
    }
    found.set(key, Number(value));
  }
  let values: number[];
  if (found.size >= 4) {
    const order = ['mass', 'x', 'y', 'z', 'ixx', 'iyy', 'izz', 'ixy', 'ixz', 'iyz'];
    const missing = order.slice(0, 7).filter((k) => !found.has(k));
    if (missing.length > 0) refuse(`${missing.join(', ')} ${missing.length === 1 ? 'is' : 'are'} missing`);
    values = order.map((k) => found.get(k) ?? 0);
  } else {
    values = (text.match(NUMBER) ?? []).map(Number);
    if (values.length !== 10) refuse(`it holds ${values.length} numbers and not ten`);
  }
  if (!values.every(Number.isFinite)) refuse('a value is not a number');
  const [mass, x, y, z, ...inertia] = values;
  if (!(mass > 0)) refuse(`the mass is ${mass}`);
  return { mass, centre: [x, y, z], inertia: inertia as GivenMass['inertia'] };
}

/** What given numbers come to for one meaning. */
export function meant(given: GivenMass, meaning: Meaning, spanOf = Infinity): MeantMass {
  const { mass, centre: c } = given;
  const [Ixx, Iyy, Izz, xy, xz, yz] = given.inertia;
  const k = meaning.products === 'positive' ? -1 : 1;
  // Elements of the tensor in the given axes, about the centre.
  const t = [
    [Ixx, k * xy, k * xz],
    [k * xy, Iyy, k * yz],
    [k * xz, k * yz, Izz],
  ];
  if (meaning.about === 'origin') {
    const r2 = c[0] ** 2 + c[1] ** 2 + c[2] ** 2;
    for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) t[i][j] -= mass * ((i === j ? r2 : 0) - c[i] * c[j]);
  }
  const signs = AXES[meaning.axes].map(Math.sign);
  const at = (i: number, j: number) => signs[i] * signs[j] * t[i][j];
  const inertia: InertiaTensor = {
    xx: at(0, 0),
    yy: at(1, 1),
    zz: at(2, 2),
    xy: at(0, 1),
    xz: at(0, 2),
    yz: at(1, 2),
  };
  const [x, y, z] = c.map((v, i) => signs[i] * v);
  let impossible = '';
  try {
    checkInertia(inertia, 'this reading');
  } catch (error) {
    impossible = (error as Error).message;
  }
  const doubts: string[] = [];
  const size = Math.max(inertia.xx, inertia.yy, inertia.zz);
  if (Math.abs(y) > 0.02 * Math.min(spanOf, 10))
    doubts.push(`the centre lies ${y.toPrecision(3)} m beside the plane of symmetry`);
  if (Math.max(Math.abs(inertia.xy), Math.abs(inertia.yz)) > 0.05 * size) doubts.push('the sides are not alike');
  if (size > mass * spanOf ** 2) doubts.push('the mass would lie farther out than the airframe reaches');
  if (inertia.zz < Math.max(inertia.xx, inertia.yy))
    doubts.push('Izz is not the greatest moment, as it is of most aircraft');
  return {
    meaning,
    mass,
    centre: { x, y, z },
    inertia,
    principal: principalMoments(inertia),
    impossible,
    unlikely: doubts.join('; '),
  };
}

/** Every meaning that given numbers may have, those that can be and that nothing speaks against first. @param spanOf the airframe's greatest length, m. */
export function meanings(given: GivenMass, spanOf = Infinity, near?: Point3): MeantMass[] {
  const all = (Object.keys(AXES) as AxesId[]).flatMap((axes) =>
    (['centre', 'origin'] as const).flatMap((about) =>
      (['positive', 'negative'] as const).map((products) => meant(given, { axes, about, products }, spanOf)),
    ),
  );
  const away = (m: MeantMass) => (near ? Math.hypot(m.centre.x - near.x, m.centre.y - near.y, m.centre.z - near.z) : 0);
  const rank = (m: MeantMass) => (m.impossible ? 1000 : 0) + (m.unlikely ? 10 * m.unlikely.split(';').length : 0);
  return all.sort((a, b) => rank(a) - rank(b) || away(a) - away(b));
}
