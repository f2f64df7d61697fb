import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { redisUrl } from '@veldtwind/runs/queue/choose-backend';

/** How the server runs, from the environment. */
export interface Config {
  host: string;
  port: number;
  /** Path of the database file. */
  database: string;
  /** Demanded from every request when set; required on any address but the loopback. */
  token: string | null;
  /** Header in which a proxy in front of the server names who asks; believed from this machine only. */
  proxyHeader?: string;
  /** Folder of the built interface; null serves the API alone. */
  web: string | null;
  logLevel: string;
  /** False where no polars are computed that nobody asked for. */ automaticPolars?: boolean;
  /** Address of Redis where workers take the runs' tasks; solved in threads of the server without. */
  redis?: string;
  /** Certificate and key, PEM; plain HTTP without. */
  tls?: { cert: Buffer; key: Buffer };
}

const LOOPBACK = new Set(['127.0.0.1', '::1', 'localhost']);

export const isLoopback = (host: string) => LOOPBACK.has(host);

/** Certificate and key from the files that are named. @throws Error with what to set. */
function tlsOf(env: NodeJS.ProcessEnv): Pick<Config, 'tls'> {
  const { VELDTWIND_CERT: cert, VELDTWIND_KEY: key } = env;
  if (!cert && !key) return {};
  if (!cert || !key)
    throw new Error('For HTTPS set both VELDTWIND_CERT and VELDTWIND_KEY, the paths of two PEM files.');
  const read = (name: string, path: string) => {
    try {
      return readFileSync(path);
    } catch (error) {
      throw new Error(`${name}: ${path} cannot be read (${(error as NodeJS.ErrnoException).code}).`, { cause: error });
    }
  };
  return { tls: { cert: read('VELDTWIND_CERT', cert), key: read('VELDTWIND_KEY', key) } };
}

/** Whether polars are computed by themselves. @throws Error with what to set. */
function automaticOf(env: NodeJS.ProcessEnv): boolean {
  const set = env.VELDTWIND_AUTOMATIC_POLARS?.trim() || 'on';
  if (set !== 'on' && set !== 'off') throw new Error(`VELDTWIND_AUTOMATIC_POLARS is ${set}: give on or off.`);
  return set === 'on';
}

/** Reads the configuration. @throws Error with what to set when it cannot be used. */
export function readConfig(env: NodeJS.ProcessEnv, root: string): Config {
  const port = Number(env.VELDTWIND_PORT ?? 4410);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new Error(`VELDTWIND_PORT is ${env.VELDTWIND_PORT}: give a number from 0 to 65535.`);
  const host = env.VELDTWIND_HOST ?? '127.0.0.1';
  const token = env.VELDTWIND_TOKEN?.trim() || null;
  if (!isLoopback(host) && (!token || token.length < 16)) {
    throw new Error(
      `On ${host} others can reach this server: set VELDTWIND_TOKEN to an access token of 16 characters or more.`,
    );
  }
  const proxyHeader = env.VELDTWIND_PROXY_HEADER?.trim().toLowerCase();
  if (proxyHeader && !/^[a-z][a-z0-9-]{0,60}$/.test(proxyHeader))
    throw new Error(`VELDTWIND_PROXY_HEADER is ${proxyHeader}: give the name of a header, as x-remote-user.`);
  const redis = redisUrl(env);
  return {
    ...tlsOf(env),
    ...(redis ? { redis } : {}),
    ...(proxyHeader ? { proxyHeader } : {}),
    host,
    port,
    database: resolve(env.VELDTWIND_DATABASE ?? resolve(root, 'data/veldtwind.sqlite')),
    token,
    web: env.VELDTWIND_API_ONLY ? null : resolve(root, 'web/dist'),
    logLevel: env.VELDTWIND_LOG ?? 'info',
    automaticPolars: automaticOf(env),
  };
}
