import { polar } from '@veldtwind/core/polar';
import { stateBytes, stateOf, type SolvedState } from '@veldtwind/core/section-flow';

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
