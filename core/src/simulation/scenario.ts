import { z } from 'zod';
import { lawSchema } from '../control';
import { finiteNumber, partId, words } from '../limits';
import { engineSchema, pushes } from '../propulsion';

const number = finiteNumber;
const between = (least: number, greatest: number) => number.min(least).max(greatest);
const above = (what: string) => number.refine((v) => v > 0, `must be greater than 0, ${what}`);
const point = z.strictObject({ x: between(-1e4, 1e4), y: between(-1e4, 1e4), z: between(-1e4, 1e4) });
const heading = between(-360, 360).default(0);
const name = words(60).min(1, 'needs a name');
/** Instants and values that a line goes through. */
const points = z
  .array(z.tuple([between(0, 1e5), number]))
  .min(1)
  .max(2000)
  .refine((list) => list.every(([t], i) => i === 0 || t > list[i - 1][0]), 'must go on in time');

/** How it begins. */
export const launchSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('flight'),
    /** In trim at a speed and a height over the ground. */
    speed: above('m/s').refine((v) => v <= 400, 'must be at most 400 m/s'),
    height: between(0, 3e4),
    headingDeg: heading,
    /** Of a climb; without an engine the glide is found. */ climbDeg: between(-60, 60).default(0),
    /** What is added to the trimmed state. */
    disturbance: z
      .strictObject({
        u: number.default(0),
        v: number.default(0),
        w: number.default(0),
        p: number.default(0),
        q: number.default(0),
        r: number.default(0),
        phiDeg: between(-180, 180).default(0),
        thetaDeg: between(-89, 89).default(0),
      })
      .prefault({}),
  }),
  z.strictObject({
    kind: z.literal('hand'),
    speed: between(0, 400),
    height: between(0, 3e4),
    elevationDeg: between(-90, 90).default(0),
    headingDeg: heading,
    bankDeg: between(-180, 180).default(0),
    alphaDeg: between(-90, 90).default(0),
    betaDeg: between(-90, 90).default(0),
    /** Degrees a second about the body's axes. */
    spin: z.strictObject({ p: number.default(0), q: number.default(0), r: number.default(0) }).prefault({}),
  }),
  z.strictObject({
    kind: z.literal('rail'),
    length: above('m').refine((v) => v <= 500, 'must be at most 500 m'),
    height: between(0, 3e4).default(0),
    elevationDeg: between(-5, 90),
    headingDeg: heading,
    friction: between(0, 1).default(0),
    speed: between(0, 400).default(0),
  }),
]);

/** What a control is told over time, beside its trim; degrees. */
export const inputSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('step'), control: name, at: between(0, 1e5), amountDeg: between(-90, 90) }),
  z.strictObject({
    kind: z.literal('doublet'),
    control: name,
    at: between(0, 1e5),
    /** Of both halves together, s. */ duration: above('s'),
    amountDeg: between(-90, 90),
  }),
  z.strictObject({
    kind: z.literal('sweep'),
    control: name,
    at: between(0, 1e5),
    duration: above('s'),
    amountDeg: between(-90, 90),
    fromHz: above('Hz'),
    toHz: above('Hz'),
  }),
  z.strictObject({ kind: z.literal('points'), control: name, points }),
]);
export type FlightInput = z.infer<typeof inputSchema>;

export const channelSchema = z.strictObject({
  name: words(60).optional(),
  /** A control by name, or the throttle. */ to: name,
  loops: z.array(lawSchema).min(1).max(5),
  /** What it gives the throttle is a change of thrust, N, and comes with a lag, s. */ thrust: z
    .strictObject({ lag: between(0, 30).default(0) })
    .optional(),
  /** Of the outermost loop: what it holds; SI and rad; or degrees; or the next way-point's. Without it what is measured at the start. */
  reference: z.union([number, points]).optional(),
  referenceDeg: z.union([number, points]).optional(),
  follow: z.literal('waypoints').optional(),
});
export type Channel = z.infer<typeof channelSchema>;

const actuator = z.strictObject({
  timeConstant: above('s').optional(),
  naturalFrequency: above('rad/s').optional(),
  dampingRatio: above('').optional(),
  /** Greatest rate, degrees a second. */ rateDeg: above('°/s').optional(),
});

/** A flight to be computed: from the start to the end. */
export const scenarioSchema = z
  .strictObject({
    name: words(80).default(''),
    /** Altitude of the ground, m. */ ground: between(-500, 9000).default(0),
    earth: z
      .discriminatedUnion('shape', [
        z.strictObject({ shape: z.literal('flat') }),
        z.strictObject({
          shape: z.literal('round'),
          /** It turns where a latitude is given. */ latitudeDeg: between(-90, 90).optional(),
        }),
      ])
      .default({ shape: 'flat' }),
    gravity: above('m/s²')
      .refine((v) => v <= 50, 'must be at most 50 m/s²')
      .optional(),
    launch: launchSchema,
    /** Whether the ground below changes the aerodynamics near it. */ groundEffect: z.boolean().optional(),
    /** s */ duration: above('s').refine((v) => v <= 7200, 'must be at most 7200 s'),
    /** Step of what is written down, s. */ record: above('s').default(0.02),
    /** Greatest error of a step, over the size of what is computed. */ tolerance: between(1e-13, 1e-2).default(1e-6),
    wind: z
      .strictObject({
        speed: between(0, 100),
        fromDeg: heading,
        up: between(-50, 50).default(0),
        shear: z.strictObject({ exponent: between(0, 1), height: above('m') }).optional(),
      })
      .optional(),
    gusts: z
      .array(
        z.strictObject({
          axis: z.enum(['along', 'across', 'up']),
          amplitude: between(-100, 100),
          start: between(0, 1e5),
          duration: above('s'),
        }),
      )
      .max(100)
      .default([]),
    turbulence: z
      .strictObject({
        windAt6m: between(0, 60),
        seed: z
          .int()
          .min(0)
          .max(2 ** 31 - 1)
          .default(1),
      })
      .optional(),
    propeller: z
      .strictObject({
        /** Of the shaft, W. */ power: above('W'),
        /** m */ diameter: above('m'),
        /** Share of the ideal propeller's thrust power. */ efficiency: between(0.01, 1).default(0.8),
        position: point,
        /** Upward tilt of the thrust line and its turn to the right. */ pitchDeg: between(-90, 90).default(0),
        yawDeg: between(-180, 180).default(0),
        /** Throttle at the start, 0 to 1; of a trimmed start it is found. */ throttle: between(0, 1).default(0),
      })
      .optional(),
    /** What pushes it; that of the candidate without. Kind `none` lets it glide. */ engine: engineSchema.optional(),
    /** At the start, 0 to 1; of a trimmed start it is found. */ throttle: between(0, 1).optional(),
    boosts: z
      .array(
        z.strictObject({
          name: words(60).default('boost'),
          /** s after the start. */ start: between(0, 1e5).default(0),
          /** Thrust (N) over time since ignition (s). */ thrust: points,
          position: point,
          pitchDeg: between(-90, 90).default(0),
          yawDeg: between(-180, 180).default(0),
          /** What burns away: a mass item of the candidate, or a mass beside them at a place. */
          item: partId.or(name).optional(),
          propellant: z.strictObject({ mass: between(0, 1e5), position: point }).optional(),
        }),
      )
      .max(8)
      .default([]),
    inputs: z.array(inputSchema).max(100).default([]),
    /** By control; those that are not named follow at once. */ actuators: z.record(name, actuator).default({}),
    autopilot: z
      .strictObject({
        /** Of its computing, s. */ step: between(1e-3, 1).default(0.02),
        /** Of each value that it puts out, s. */ delay: between(0, 5).default(0),
        /** Of all that is measured, first order, s. */ sensorLag: between(0, 5).default(0),
        from: between(0, 1e5).default(0),
        channels: z.array(channelSchema).min(1).max(12),
      })
      .optional(),
    waypoints: z
      .array(
        z.strictObject({
          name: words(60).optional(),
          /** North and east of the launch place, m. */ x: between(-1e6, 1e6),
          y: between(-1e6, 1e6),
          height: between(0, 3e4),
          radius: above('m').default(20),
        }),
      )
      .max(200)
      .default([]),
  })
  .superRefine((s, context) => {
    const refuse = (path: (string | number)[], message: string) => context.addIssue({ code: 'custom', path, message });
    if (s.duration / s.record > 200_000)
      refuse(['record'], `would write ${Math.round(s.duration / s.record)} lines; 200 000 are the most`);
    s.autopilot?.channels.forEach((c, i) => {
      const given = [c.reference, c.referenceDeg, c.follow].filter((v) => v !== undefined).length;
      if (given > 1) refuse(['autopilot', 'channels', i, 'reference'], 'is given more than once');
      const outer = c.loops[c.loops.length - 1].from;
      if (c.follow && !['psi', 'course', 'height'].includes(outer))
        refuse(['autopilot', 'channels', i, 'follow'], 'needs psi, course or height in the outermost loop');
      if (c.follow && s.waypoints.length === 0)
        refuse(['autopilot', 'channels', i, 'follow'], 'needs waypoints, and there are none');
      const again = s.autopilot!.channels.findIndex((o) => o.to === c.to);
      if (again !== i) refuse(['autopilot', 'channels', i, 'to'], `is moved by channel ${again + 1} already`);
      if (c.thrust && c.to !== 'throttle')
        refuse(['autopilot', 'channels', i, 'thrust'], 'belongs to the throttle alone');
      if (c.to === 'throttle' && !s.propeller && !pushes(s.engine))
        refuse(['autopilot', 'channels', i, 'to'], 'is the throttle, and there is no engine');
    });
    if (s.engine && s.propeller) refuse(['engine'], 'is given twice: as an engine and as a propeller');
    s.boosts.forEach((b, i) => {
      if (b.thrust.some(([, n]) => n < 0)) refuse(['boosts', i, 'thrust'], 'must not be negative');
      if (b.item !== undefined && b.propellant)
        refuse(['boosts', i, 'propellant'], 'is given twice: as an item and as a mass beside them');
      if ((b.item !== undefined || b.propellant) && !(impulseOf(b.thrust) > 0))
        refuse(['boosts', i, 'thrust'], 'has no impulse, so that nothing burns');
    });
    for (const [key, a] of Object.entries(s.actuators))
      if (a.timeConstant !== undefined && a.naturalFrequency !== undefined)
        refuse(['actuators', key], 'is of first or of second order, not of both');
      else if (a.naturalFrequency !== undefined && a.dampingRatio === undefined)
        refuse(['actuators', key, 'dampingRatio'], 'is needed beside naturalFrequency');
      else if (a.timeConstant === undefined && a.naturalFrequency === undefined)
        refuse(['actuators', key], 'needs timeConstant, or naturalFrequency with dampingRatio');
  });
export type Scenario = z.infer<typeof scenarioSchema>;
export type Launch = Scenario['launch'];

/** ∫ of a line through points, up to a time (s since its own zero). */
export function impulseOf(line: readonly (readonly [number, number])[], until = Infinity): number {
  let sum = 0;
  for (let i = 1; i < line.length; i++) {
    const [t0, a] = line[i - 1];
    const [t1, b] = line[i];
    if (until <= t0) break;
    const t = Math.min(until, t1);
    const at = a + ((b - a) * (t - t0)) / (t1 - t0);
    sum += 0.5 * (a + at) * (t - t0);
  }
  return sum;
}

/** Value of a line through points: as at its ends beyond them, or nothing. */
export function valueOf(line: readonly (readonly [number, number])[], t: number, outside?: number): number {
  const last = line.length - 1;
  if (t < line[0][0]) return outside ?? line[0][1];
  if (t > line[last][0]) return outside ?? line[last][1];
  let i = 0;
  while (i < last - 1 && t > line[i + 1][0]) i++;
  if (last === 0) return line[0][1];
  const [t0, a] = line[i];
  const [t1, b] = line[i + 1];
  return a + ((b - a) * (t - t0)) / (t1 - t0);
}
