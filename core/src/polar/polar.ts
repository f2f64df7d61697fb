import { z } from 'zod';
import { analysis } from '../results';
import {
  DEFAULT_SPREAD,
  polarPoints,
  ViscousSection,
  type Distributions,
  type PolarRequest,
  type ViscousPoint,
} from '../section-flow';
import { panelSpread, sectionSource } from '../shaping';
import { angle, flapSetting, viscousConditions } from './conditions';
import { flappedOutline } from './section-flow';

/** A polar's input: a section, how it is panelled, and what is swept. */
export const polarInput = z
  .object({
    source: sectionSource,
    flap: flapSetting.nullable().default(null),
    spread: panelSpread.default(DEFAULT_SPREAD),
    kind: z.enum(['fixed-re', 'fixed-lift', 'over-re']),
    conditions: viscousConditions,
    alphas: z.array(angle).min(1).max(2000).optional(),
    lifts: z.array(z.number().min(-5).max(5)).min(1).max(2000).optional(),
    reynolds: z.array(z.number().min(1000).max(1e9)).min(1).max(2000).optional(),
  })
  .refine(
    (p) => (p.alphas === undefined) !== (p.lifts === undefined),
    'needs angles or lift coefficients, one of the two',
  );
export type PolarInput = z.infer<typeof polarInput>;

/** A point as it is solved: its place in the request, and everything along its surfaces. */
export interface PolarStep {
  index: number;
  point: ViscousPoint;
  distributions?: Distributions;
}

/** The points of a sweep, in the order asked for; each is reported as it is solved. */
export const polar = analysis({
  version: 4,
  input: polarInput,
  remote: true,
  run: ({ source, flap, spread, kind, conditions, ...over }: PolarInput, { report, cancelled }): ViscousPoint[] => {
    const { outline, hinge } = flappedOutline(source, flap);
    const request: PolarRequest = { kind, conditions, ...over };
    const of = (over.reynolds ?? over.alphas ?? over.lifts ?? []).length;
    let done = 0;
    return polarPoints(new ViscousSection(outline, spread), request, {
      hinge,
      cancelled,
      onPoint: (index, point, distributions) =>
        report?.({ done: ++done, of, detail: { index, point, distributions } satisfies PolarStep }),
    });
  },
});
