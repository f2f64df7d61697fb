import { z } from 'zod';
import { finiteNumber } from '../limits';
import { filterIsThere, hasGain, lawFields, positive } from './law';

const matrix = z.array(z.array(finiteNumber).max(60)).min(1).max(60);
const names = z.array(z.string().min(1).max(60)).min(1).max(60);

/** What moves a control: of second order, or of first. */
export const actuatorSchema = z.union([
  z.strictObject({ naturalFrequency: positive('rad/s'), dampingRatio: positive('') }),
  z.strictObject({ timeConstant: positive('s') }),
]);

/** A loop of a model, with the law of {@link lawFields}. */
export const loopSchema = z
  .object({
    name: z.string().max(60).optional(),
    /** Output that is measured. */ from: z.string(),
    /** Input that it moves; of an outer loop the reference of the loop before, whatever is named. */ to: z
      .string()
      .optional(),
    ...lawFields,
    actuator: actuatorSchema.optional(),
    /** s */ delay: finiteNumber.min(0).max(100).default(0),
  })
  .refine(filterIsThere, {
    message: 'is needed where kd is set: a derivative without one has no bound',
    path: ['filter'],
  })
  .refine(hasGain, { message: 'has no gain: nothing is closed', path: ['kp'] });
export type Loop = z.infer<typeof loopSchema>;

/** A linear model with the loops that are closed about it, inner to outer. */
export const controlModel = z
  .object({
    A: matrix,
    B: matrix,
    C: matrix.optional(),
    D: matrix.optional(),
    states: names,
    inputs: names,
    outputs: names.optional(),
    loops: z.array(loopSchema).max(12).default([]),
  })
  .superRefine((m, context) => {
    const refuse = (path: (string | number)[], message: string) => context.addIssue({ code: 'custom', path, message });
    const [n, k, p] = [m.states.length, m.inputs.length, (m.outputs ?? m.states).length];
    const shape = (key: 'A' | 'B' | 'C' | 'D', rows: number, columns: number) => {
      const value = m[key];
      if (value && (value.length !== rows || value.some((row) => row.length !== columns)))
        refuse([key], `must have ${rows} rows of ${columns} numbers, by the names that are given`);
    };
    shape('A', n, n);
    shape('B', n, k);
    shape('C', p, n);
    shape('D', p, k);
    if (m.outputs && !m.C) refuse(['C'], 'is needed where outputs are named; without both the states are put out');
    m.loops.forEach((l, i) => {
      if (!(m.outputs ?? m.states).includes(l.from))
        refuse(['loops', i, 'from'], `is no output; there are ${(m.outputs ?? m.states).join(', ')}`);
      if (i === 0 && (l.to === undefined || !m.inputs.includes(l.to)))
        refuse(['loops', i, 'to'], `is no input; there are ${m.inputs.join(', ')}`);
    });
  });
export type ControlModel = z.infer<typeof controlModel>;
