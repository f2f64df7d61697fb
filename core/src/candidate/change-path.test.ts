import { surfaceSchema } from '../airframe';
import { massItemSchema } from '../balance';
import { autopilotSchema } from '../control';
import { RAD } from '../numerics';
import {
  beyondLimits,
  controlReach,
  motion,
  motionChangePath,
  motionEnvelope,
  steadyFlight,
  type MotionInput,
} from '.';

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
    // The natural frequency: also of two roots that do not swing.
    const fast = (list: { name: string; re: number; im: number }[]) => {
      const sizes = list.filter((m) => m.name.startsWith('short period')).map((m) => Math.hypot(m.re, m.im));
      return sizes.length === 2 ? Math.sqrt(sizes[0] * sizes[1]) : sizes[0];
    };
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
  it('follows a derivative from nothing to twice what it is', async () => {
    const path = await modes('times-Cm_q');
    expect(path.map((p) => p.label)).toEqual([
      '× 0',
      '× 0.25',
      '× 0.5',
      '× 0.75',
      '× 1',
      '× 1.25',
      '× 1.5',
      '× 1.75',
      '× 2',
    ]);
    const damping = (list: { name: string; re: number }[]) =>
      Math.max(...list.filter((m) => m.name.startsWith('short period')).map((m) => -m.re));
    expect(damping(path[8].modes)).toBeGreaterThan(damping(path[4].modes));
    expect(damping(path[4].modes)).toBeGreaterThan(damping(path[0].modes));
    expect(() => motionChangePath.input.parse({ of: input, change: 'times-controls' })).toThrow();
  });
});

describe('derivatives set by hand', () => {
  it('take the place of those that are computed, which stay to be seen', async () => {
    const now = await motion.run(input, {});
    const candidate = { ...input.candidate, derivatives: { overrides: { Cm_q: 2 * now.derivatives.Cm_q } } };
    const set = await motion.run({ ...input, candidate }, {});
    expect(set.derivatives.Cm_q).toBeCloseTo(2 * now.derivatives.Cm_q, 12);
    expect(set.computed!.Cm_q).toBeCloseTo(now.derivatives.Cm_q, 12);
    expect(set.overridden).toEqual(['Cm_q']);
    expect(set.matrices.longitudinal.A[2][2]).toBeLessThan(now.matrices.longitudinal.A[2][2] - 1);
    // As a path to twice the derivative ends.
    const path = await modes('times-Cm_q');
    const fast = (list: { name: string; re: number }[]) => Math.min(...list.map((m) => m.re));
    expect(fast(set.modes)).toBeCloseTo(fast(path[8].modes), 9);
  });
});

describe('the envelope', () => {
  it('is the motion at each speed of each variant, with the reason where it does not fly', async () => {
    const now = await motion.run(input, {});
    const points = await motionEnvelope.run(
      {
        variants: [
          { label: 'low', of: input },
          { label: 'high', of: { ...input, altitude: 3000 } },
        ],
        speeds: [2, 20, 30],
      },
      {},
    );
    expect(points.map((p) => [p.label, p.speed])).toEqual([
      ['low', 2],
      ['low', 20],
      ['low', 30],
      ['high', 2],
      ['high', 20],
      ['high', 30],
    ]);
    expect(points[0].failure).toMatch(/Level flight at 2.00 m\/s needs/);
    expect(points[1].modes).toEqual(now.modes);
    expect(points[1].alpha).toBeCloseTo(now.trim.alpha, 12);
    expect(points[4].alpha!).toBeGreaterThan(points[1].alpha!);
  });
});

describe('margins over speeds and loadings', () => {
  it('are least with the worst derivative, and told where it does not fly', async () => {
    const elevator = {
      id: 'e',
      name: 'Elevator',
      from: 0,
      to: 1,
      hinge: 0.7,
      kind: 'symmetric',
      deflectionDeg: 0,
      limitsDeg: [-20, 20],
    };
    const of = {
      ...input,
      candidate: {
        ...input.candidate,
        surfaces: input.candidate.surfaces.map((s) => (s.id === 'tail' ? { ...s, controls: [elevator] } : s)),
        loadings: { light: { skin: 0.5 } },
      },
    } as unknown as MotionInput;
    const settings = autopilotSchema.parse({
      chains: [
        { id: 'p', name: 'Pitch', to: 'e', mover: { timeConstant: 0.05 }, laws: [{ from: 'q', kp: 0.4, sign: -1 }] },
      ],
    });
    const input2 = { of, settings, scale: {}, controls: { e: 'Elevator' }, chain: 'p', loop: 0, share: 0.2 };
    const points = await controlReach.run({ ...input2, speeds: [1.5, 15, 25], loadings: [null, 'light'] }, {});
    expect(points).toHaveLength(6);
    expect(points[0].failure).toMatch(/Level flight/);
    for (const p of points.filter((v) => v.as)) {
      expect(Math.abs(p.worst!.phaseMarginDeg!)).toBeLessThanOrEqual(Math.abs(p.as!.phaseMarginDeg!));
      expect(p.as!.stable).toBe(true);
    }
    // The loop's gain goes with the square of the speed.
    expect(points[2].as!.gainMarginDb!).toBeLessThan(points[1].as!.gainMarginDb!);
  });
});

describe('steady flight', () => {
  it('is the level trim without climb and turn; a turn lifts more, a climb needs the weight’s part, a high line pitches down', async () => {
    const now = await motion.run(input, {});
    const level = await steadyFlight.run({ of: input, climbDeg: 0, bankDeg: 0 }, {});
    expect(level.alpha).toBeCloseTo(now.trim.alpha, 9);
    expect(level.loadFactor).toBe(1);
    const turn = await steadyFlight.run({ of: input, climbDeg: 0, bankDeg: 45 }, {});
    expect(turn.loadFactor).toBeCloseTo(Math.SQRT2, 9);
    expect(turn.CL / level.CL).toBeCloseTo(Math.SQRT2, 6);
    const climb = await steadyFlight.run({ of: input, climbDeg: 10, bankDeg: 0 }, {});
    expect(climb.thrust - level.thrust).toBeGreaterThan(0.9 * 10 * 9.80665 * Math.sin(10 * RAD));
    expect(level.manoeuvrePoint).toBeGreaterThan(level.neutralPoint);
    const high = await steadyFlight.run(
      { of: input, climbDeg: 0, bankDeg: 0, thrustLine: { x: 0.1, z: 0.6, tiltDeg: 0 } },
      {},
    );
    // No control trims here: the moment that is left is the thrust's.
    expect(high.Cm).toBeLessThan(level.Cm - 0.01);
    await expect(async () =>
      steadyFlight.run({ of: { ...input, speed: 3 }, climbDeg: 0, bankDeg: 0 }, {}),
    ).rejects.toThrow(/Level flight/);
  });
  it('tells controls that would have to go beyond their limits', () => {
    const surfaces = input.candidate.surfaces.map((s) =>
      s.id === 'tail' ? { ...s, controls: [{ id: 'e', name: 'Elevator', limitsDeg: [-10, 5] }] } : s,
    ) as unknown as MotionInput['candidate']['surfaces'];
    expect(beyondLimits({ surfaces }, { e: -8 * RAD })).toEqual([]);
    expect(beyondLimits({ surfaces }, { e: 7 * RAD })).toEqual([
      { id: 'e', name: 'Elevator', deflection: 7 * RAD, limit: 5 * RAD },
    ]);
  });
});
