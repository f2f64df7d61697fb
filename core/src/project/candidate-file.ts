import { z } from 'zod';
import { sectionSource } from '../shaping';
import { candidatePart } from './parts';

/** A candidate by itself, with the sections that it uses: the file that the command line reads and writes. See docs/candidate-file.md. */
export const candidateFile = z.object({
  format: z.literal('veldtwind-candidate'),
  // Version 2 has bodies; version 1 goes on being read.
  version: z.union([z.literal(1), z.literal(2)]),
  candidate: candidatePart.partial({
    id: true,
    letter: true,
    note: true,
    style: true,
    massItems: true,
    bodies: true,
    reference: true,
    sweep: true,
  }),
  sections: z.record(z.string(), sectionSource).optional(),
});
export type CandidateFile = z.infer<typeof candidateFile>;
