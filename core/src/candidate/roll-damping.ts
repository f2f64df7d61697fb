import { z } from 'zod';
import { keptMeanLine } from '../lift';
import { FailedComputation, RAD } from '../numerics';
import { analysis, Cancelled } from '../results';
import { loadedMass, motion, motionSource, type MotionInput } from './motion';
import { withPlacedMass } from './placed-mass';
import { sectionLookup } from './section-lookup';

/** Rolling moment of a wing that rolls at one angle of attack; body axes. */
export interface RollPoint {
  /** rad */ alpha: number;
  /** Slope of Cl with p·b/2V at no rate, per rad; null where the strips found no balance. */ Cl_p: number | null;
  /** Cl at each of the rates; null as above. */ Cl: (number | null)[];
  /** A part of the wing has stalled without or with the rate: polars past their greatest lift are a guide only. */ doubtful: boolean;
}

/** Roll damping up to and past the stall. */
export interface RollDamping {
  /** p·b/2V, rising from 0. */ rates: number[];
  points: RollPoint[];
  /** First angle at which the wing drives its own roll on, rad; null where none does. */ autorotatesFrom:
    number | null;
  /** The rate at which that roll would settle there: where the moment is nothing again; null where it does not up to the greatest. */ settlesAt:
    number | null;
}

const RATES = [0, 0.02, 0.05, 0.1, 0.15];
const SMALL = 0.005;
const FROM = 0;
const TO = 22;

/**
 * Rolling moment over rate of roll at angles through the stall, each strip with the polar of its section at the angle that the roll gives it. Past the stall the down-going
 * wing lifts less than the other: damping is lost and turns into autorotation.
 * @throws InvalidInput from the mass; FailedComputation `polar-missing`, `no-polars` without polars: without viscosity nothing stalls.
 * @source strips in steady roll: R&M 733, 1921. Doubtful past the stall.
 */
export const rollDamping = analysis({
  version: 2,
  input: z.object({ of: motion.input as z.ZodType<MotionInput> }),
  run: async ({ of }: { of: MotionInput }, context): Promise<RollDamping> => {
    const { candidate: given, sections, speed, altitude, polars, loading } = of;
    if (!polars)
      throw new FailedComputation(
        'no-polars',
        'Roll damping through the stall needs the polars of the sections.',
        'Compute them first.',
      );
    const lookup = sectionLookup(sections);
    const candidate = withPlacedMass(given, lookup);
    const mass = loadedMass(candidate, loading);
    const source = motionSource(candidate, lookup, (key) => keptMeanLine(lookup(key)), mass, speed, altitude, polars);
    const points: RollPoint[] = [];
    for (let deg = FROM; deg <= TO; deg++) {
      if (context.cancelled?.()) throw new Cancelled();
      const alpha = deg * RAD;
      const rates = [SMALL, ...RATES.slice(1)];
      const all = source.all!(
        rates.map((rollRate) => ({ alpha, rollRate })),
        speed,
      ) as (ReturnType<typeof source.at> & { status?: string; stalled?: unknown[] })[];
      const told = all.map((c) => (c.status === 'unsolved' ? null : c.Cl));
      points.push({
        alpha,
        Cl_p: told[0] === null ? null : told[0] / SMALL,
        Cl: [0, ...told.slice(1)],
        doubtful: all.some((c) => (c.stalled?.length ?? 0) > 0),
      });
      context.report?.({ done: deg - FROM + 1, of: TO - FROM + 1 });
      await context.breathe?.();
    }
    const first = points.find((p) => p.Cl.some((v) => v !== null && v > 1e-6) || (p.Cl_p !== null && p.Cl_p > 0));
    return { rates: RATES, points, autorotatesFrom: first?.alpha ?? null, settlesAt: first ? settled(first.Cl) : null };
  },
});

/** Where the driving moment ends: between the last rate that it drives and the next, which it damps. */
function settled(Cl: readonly (number | null)[]): number | null {
  for (let i = Cl.length - 1; i > 0; i--) {
    const [a, b] = [Cl[i - 1], Cl[i]];
    if (a !== null && b !== null && a > 0 && b <= 0) return RATES[i - 1] + (a / (a - b)) * (RATES[i] - RATES[i - 1]);
  }
  return null;
}
