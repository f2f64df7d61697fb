import { surfaceSchema } from '../airframe';
import { massItemSchema } from '../balance';
import { motion, motionChangePath, type MotionInput } from '.';

const surface = (id: string, role: string, x: number, chord: number, span: number, more: object = {}) =>
  surfaceSchema.parse({
    id,
    name: id,
    role,
    plane: 'horizontal',
    mirrored: true,
    position: { x, y: 0, z: 0.1 },
    incidenceDeg: role === 'tailplane' ? -1 : 2,
    stations: [chord, 0.8 * chord].map((c) => ({ chord: c, twistDeg: 0, section: 'naca:0012' })),
    bays: [{ span: span / 2, sweepDeg: 0, dihedralDeg: 3 }],
    ...more,
  });
const item = (id: string, mass: number, x: number, more: object = {}) =>
  massItemSchema.parse({ id, name: id, mass, position: { x, y: 0, z: 0 }, ...more });
const input = {
  candidate: {
    surfaces: [
      surface('wing', 'wing', 0, 0.4, 3),
      surface('tail', 'tailplane', 1.6, 0.25, 0.9),
      surface('fin', 'fin', 1.6, 0.3, 0.8, { plane: 'vertical', mirrored: false, incidenceDeg: 0 }),
    ],
    bodies: [],
    massItems: [
      item('hull', 8, 0.06, { shape: 'box', size: { x: 1, y: 0.2, z: 0.2 } }),
      item('skin', 2, 0, { part: 'wing', shape: 'area' }),
    ],
    reference: null,
  },
  sections: {},
  speed: 20,
  altitude: 0,
  polars: null,
} as unknown as MotionInput;
const modes = async (change: string) => motionChangePath.run({ of: input, change }, {});

describe('roots while something changes', () => {
  it('passes through what there is, and goes the way that it must', async () => {
    const now = await motion.run(input, {});
    const path = await modes('centre');
    expect(path).toHaveLength(9);
    const fast = (list: { name: string; re: number; im: number }[]) =>
      Math.max(...list.filter((m) => m.name.startsWith('short period')).map((m) => Math.hypot(m.re, m.im)));
    expect(fast(path[4].modes)).toBeCloseTo(fast(now.modes), 9);
    // Farther ahead it is stiffer.
    expect(fast(path[8].modes)).toBeGreaterThan(fast(path[4].modes));
    const dutch = (list: { name: string; im: number }[]) => list.find((m) => m.name === 'Dutch roll')!.im;
    const fin = await modes('fin-area');
    expect(dutch(fin[8].modes)).toBeGreaterThan(dutch(fin[0].modes));
    const high = await modes('altitude');
    expect(high[8].label).toBe('5000 m');
    expect(dutch(high[8].modes)).toBeLessThan(dutch(high[0].modes));
  });
});
