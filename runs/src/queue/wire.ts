import { z } from 'zod';
import { polar } from '@veldtwind/core/polar';
import { stateBytes, stateOf, type SolvedState } from '@veldtwind/core/section-flow';
import type { TaskStep } from '@veldtwind/store/runs';
import type { TaskEnd } from '../backend';

/** Version of what goes over the wire. Workers take only tasks of their own version, and of the same version of the method. */
const WIRE = 1;
export const QUEUE = `veldtwind-sweeps-${WIRE}-${polar.version}`;

/** A task in the queue. */
export interface QueuedSweep {
  /** Whose it is: one server's or one command's. */
  owner: string;
  /** The task, packed. */
  text: string;
}

/** Key that is set for a task that is no longer wanted. */
export const stopKey = (id: string): string => `${QUEUE}-stop-${id}`;

/** A worker's name in the queue: how many tasks it takes beside each other, and which it is. */
export const workerName = (threads: number, id: string): string => `${threads}-${id}`;
export const threadsOf = (name: string): number => Math.max(1, Number.parseInt(name, 10) || 1);

/** A task or a step as text; states are as small as they are in the store. */
export const pack = (value: unknown): string =>
  JSON.stringify(value, (key, v: unknown) =>
    key === 'state' && v !== null && typeof v === 'object'
      ? Buffer.from(stateBytes(v as SolvedState)).toString('base64')
      : v,
  );

/** @throws SyntaxError for what is not JSON. */
export const unpack = <T>(text: string): T =>
  JSON.parse(text, (key, v: unknown) =>
    key === 'state' && typeof v === 'string' ? stateOf(Buffer.from(v, 'base64')) : v,
  ) as T;

/** Longest step that is read, characters: a point with the state of both surfaces has some tens of thousands. */
const MOST_STEP = 4_000_000;
const told = z.object({ seq: z.int().min(0), text: z.string().max(MOST_STEP) });
const step = z.looseObject({
  seq: z.int().min(0),
  outcome: z.looseObject({ index: z.int().min(0) }).optional(),
  point: z
    .looseObject({
      place: z.int(),
      point: z.looseObject({ status: z.enum(['solved', 'doubtful', 'unsolved']), reynolds: z.number() }),
    })
    .optional(),
});
const end = z.union([
  z.object({ how: z.enum(['done', 'stopped']) }),
  z.object({ how: z.enum(['failed', 'lost']), message: z.string().transform((m) => m.slice(0, 2000)) }),
]);

/** A step that a worker tells. @returns nothing for what is no step: the stream is open to everybody who reaches Redis. */
export function stepOf(data: unknown): { seq: number; step: TaskStep } | undefined {
  const message = told.safeParse(data);
  if (!message.success) return undefined;
  try {
    const parsed = step.safeParse(unpack(message.data.text));
    return parsed.success ? { seq: message.data.seq, step: parsed.data as unknown as TaskStep } : undefined;
  } catch {
    return undefined;
  }
}

/** How a worker says that a task ended; nothing for what says nothing. */
export function endOf(data: unknown): TaskEnd | undefined {
  const parsed = end.safeParse(data);
  return parsed.success ? (parsed.data as TaskEnd) : undefined;
}
