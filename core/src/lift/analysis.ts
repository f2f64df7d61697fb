import { z } from 'zod';
import {
  bodySchema,
  keptMeanLine,
  MOST_BODIES,
  MOST_SURFACES,
  point3,
  surfaceSchema,
  type SectionLookup,
} from '../airframe';
import { finiteNumber } from '../limits';
import { InvalidInput } from '../numerics';
import { analysis } from '../results';
import { designationKey, sectionSource, type SectionSource } from '../shaping';
import { deflectionsOf } from './controls';
import { flowLines, type FlowLines } from './flow-lines';
import { analyseLift, makeLattice, MOST_ANGLES, type LiftInput, type LiftResult } from './lift-analysis';

/** The sections that a lift input names, complete in themselves. */
export interface LiftCase extends LiftInput {
  sections: Record<string, SectionSource>;
}

/** Looks a section up among those of an input. @throws InvalidInput `section-missing`. */
export const lookupIn =
  (sections: Readonly<Record<string, SectionSource>>): SectionLookup =>
  (key) => {
    if (Object.hasOwn(sections, key)) return sections[key];
    const formula = designationKey(key);
    if (formula) return formula;
    throw new InvalidInput(
      'section-missing',
      `There is no section "${key}".`,
      'Give it among the sections.',
      'sections',
    );
  };

const angleWithin = finiteNumber.min(-0.7854).max(0.7854);

const liftReference = z.object({
  area: finiteNumber.positive(),
  span: finiteNumber.positive(),
  chord: finiteNumber.positive(),
});

/** Panels and angles that one request may ask for. */
const MOST_REMOTE_PANELS = 1600;

export const liftCase: z.ZodType<LiftCase> = z.object({
  surfaces: z.array(surfaceSchema).min(1).max(MOST_SURFACES),
  bodies: z.array(bodySchema).max(MOST_BODIES).optional(),
  alphas: z.array(angleWithin).min(1).max(MOST_ANGLES),
  about: point3.optional(),
  reference: liftReference.optional(),
  mach: z.number().min(0).max(0.89).optional(),
  beta: z.number().min(-0.6).max(0.6).optional(),
  spread: z
    .object({
      chordwise: z.number().int().min(1).max(40),
      spanwise: z.number().int().min(1).max(200),
      spacing: z.enum(['cosine', 'uniform']),
    })
    .refine((s) => s.chordwise * s.spanwise <= MOST_REMOTE_PANELS, 'asks for too many panels')
    .optional(),
  wake: z.enum(['body', 'stream']).optional(),
  ground: z.number().positive().max(1e5).optional(),
  sections: z.record(z.string(), sectionSource),
});

/** Lift, induced drag and moments of an airframe over a list of angles. */
export const lift = analysis({
  version: 4,
  input: liftCase,
  remote: true,
  run: ({ sections, ...input }: LiftCase): LiftResult => {
    const lookup = lookupIn(sections);
    return analyseLift(input, lookup, (key) => keptMeanLine(lookup(key)));
  },
});

/** What lines of the flow depend on; angles and deflections in rad. */
export interface FlowLinesCase {
  surfaces: LiftInput['surfaces'];
  about?: LiftInput['about'];
  reference?: LiftInput['reference'];
  alpha: number;
  beta?: number;
  /** By strip, over speed, m: those of the lattice alone without. */ circulations?: number[];
  sections: Record<string, SectionSource>;
}

/** Lines that the air goes along about an airframe, its controls as they stand. */
export const flowLinesOf = analysis({
  version: 2,
  input: z.object({
    surfaces: z.array(surfaceSchema).min(1).max(MOST_SURFACES),
    about: point3.optional(),
    reference: liftReference.optional(),
    alpha: angleWithin,
    beta: z.number().min(-0.6).max(0.6).optional(),
    circulations: z.array(finiteNumber).max(20_000).optional(),
    sections: z.record(z.string(), sectionSource),
  }) as z.ZodType<FlowLinesCase>,
  run: ({ sections, alpha, beta, circulations, ...input }: FlowLinesCase, context): FlowLines => {
    const lookup = lookupIn(sections);
    const lattice = makeLattice(input, (key) => keptMeanLine(lookup(key)));
    const controls = deflectionsOf(input.surfaces);
    return flowLines(lattice, { alpha, beta, controls }, { circulations, cancelled: context.cancelled });
  },
});

export { keptMeanLine };
