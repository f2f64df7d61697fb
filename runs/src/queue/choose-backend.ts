import { createHash } from 'node:crypto';
import { hostname } from 'node:os';
import { InvalidInput } from '@veldtwind/core/numerics';
import type { Backend } from '../backend';
import { ThreadBackend } from '../threads';
import { QueueBackend } from './queue-backend';

/** The address of Redis that is configured, where one is. @throws InvalidInput for what is no such address. */
export function redisUrl(env: NodeJS.ProcessEnv): string | undefined {
  const url = env.VELDTWIND_REDIS_URL?.trim();
  if (!url) return undefined;
  if (!/^rediss?:\/\/.+|^\//.test(url))
    throw new InvalidInput(
      'redis-url',
      `VELDTWIND_REDIS_URL is "${url.replace(/:[^:@/]*@/, ':…@')}", which is no address of Redis.`,
      'Write redis://host:6379, or leave it out to solve on this machine alone.',
    );
  return url;
}

/** Whoever solves: workers through Redis where it is configured, else threads of this process. @param database whose tasks they are. */
export function chooseBackend(url: string | undefined, database: string, threads?: number): Backend {
  if (!url) return new ThreadBackend(threads);
  const owner = createHash('sha256').update(`${hostname()} ${database}`).digest('hex').slice(0, 12);
  return new QueueBackend(url, owner);
}
