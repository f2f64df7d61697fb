import { z } from 'zod';
import { finiteNumber } from '../limits';
import { keptMeanLine } from '../lift';
import { lateralTrim, type LateralTrim } from '../motion';
import { analysis } from '../results';
import { standing } from '../airframe';
import { flowState } from '../atmosphere';
import { RAD } from '../numerics';
import { airframeMotion, motion, type MotionInput, type MovingCandidate } from './motion';
import { controlNames } from './flown-scenario';
import { sectionLookup } from './section-lookup';
import { travelsOf } from './travels';

/** What a steady sideslip of a candidate depends on. */
export interface LateralInput {
  of: MotionInput;
  /** Wind across the path from the right, m/s, which the aircraft meets with its wings nearly level. */ crosswind: number;
  /** Body axes, N m: of an engine out, of unequal wings. */ rollMoment: number;
  yawMoment: number;
}

/** Limits of a candidate's controls by the name that its derivatives have, rad. */
export function controlLimits(candidate: Pick<MovingCandidate, 'surfaces'>): Record<string, [number, number]> {
  const names = controlNames(candidate);
  return Object.fromEntries(
    candidate.surfaces
      .flatMap((s) => s.controls ?? [])
      .map((c): [string, [number, number]] => {
        const [least, greatest] = c.limitsDeg ?? [-25, 25];
        return [names[c.id], [least * RAD, greatest * RAD]];
      }),
  );
}

/** Bank and controls that hold a candidate straight in a crosswind and with moments from elsewhere. @throws as its motion, and {@link lateralTrim}. */
export const lateral = analysis({
  version: 4,
  input: z.object({
    of: motion.input as z.ZodType<MotionInput>,
    crosswind: finiteNumber.min(-200).max(200),
    rollMoment: finiteNumber.min(-1e9).max(1e9),
    yawMoment: finiteNumber.min(-1e9).max(1e9),
  }) as unknown as z.ZodType<LateralInput>,
  run: ({
    of,
    crosswind,
    rollMoment,
    yawMoment,
  }: LateralInput): LateralTrim & { sideslip: number; mostCrosswind: number | null } => {
    const { candidate, sections, ...rest } = of;
    const lookup = sectionLookup(sections);
    const { case: moving } = airframeMotion(candidate, lookup, (key) => keptMeanLine(lookup(key)), rest);
    const sideslip = Math.asin(Math.max(-1, Math.min(1, crosswind / rest.speed)));
    const names = controlNames(candidate);
    const { reynoldsPerMetre } = flowState(rest.speed, rest.altitude);
    const travels = travelsOf(standing(candidate.surfaces, candidate.bodies), rest.polars ?? [], reynoldsPerMetre);
    const byName = Object.fromEntries(Object.entries(travels).map(([id, t]) => [names[id], t]));
    const trim = lateralTrim(moving, { sideslip, rollMoment, yawMoment }, controlLimits(candidate), byName);
    return {
      ...trim,
      sideslip,
      mostCrosswind: trim.most && rest.speed * Math.sin(Math.min(Math.PI / 2, Math.abs(trim.most.sideslip))),
    };
  },
});
