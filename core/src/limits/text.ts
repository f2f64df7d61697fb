import { z } from 'zod';

/** A finite number without further limits. */
export const finiteNumber = z.number().refine(Number.isFinite, 'must be a finite number');

/** Words of at most so many letters. */
export const words = (most: number) => z.string().max(most, `must have at most ${most} letters`);

/** Names that every object has already; a part under one of them could not be told from them. */
const TAKEN = new Set(['constructor', '__proto__', 'prototype']);

/** The id of a part: small letters, digits and dashes. */
export const partId = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{0,63}$/, 'must be small letters, digits and dashes, at most 64')
  .refine((id) => !TAKEN.has(id), 'is a word that is taken');
