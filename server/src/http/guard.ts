import { timingSafeEqual } from 'node:crypto';
import { parseCookie } from 'cookie';
import type { Request, RequestHandler } from 'express';
import type { Logger } from 'pino';
import { isLoopback, type Config } from '../config';
import { HttpError } from './errors';

const COOKIE = 'veldtwind_token';

const same = (a: string, b: string) => {
  const x = Buffer.from(a);
  const y = Buffer.from(b);
  return x.length === y.length && timingSafeEqual(x, y);
};

/** Wrong tokens that an address may give before it must wait, and how long it waits, growing, s. */
const FREE_GUESSES = 5;
const LONGEST_WAIT = 60;
const MOST_ADDRESSES = 1000;

/** Slows down whoever guesses tokens: after a few wrong ones an address waits twice as long with each. */
class Guesses {
  private readonly by = new Map<string, { wrong: number; until: number; last: string }>();

  /** Seconds that an address must still wait. */
  wait(address: string): number {
    return Math.max(0, Math.ceil(((this.by.get(address)?.until ?? 0) - Date.now()) / 1000));
  }
  /** The same again is no further guess: a page that still has the cookie of an older token may not lock its user out. */
  wrong(address: string, given: string): void {
    if (this.by.get(address)?.last === given) return;
    const wrong = (this.by.get(address)?.wrong ?? 0) + 1;
    const seconds = wrong <= FREE_GUESSES ? 0 : Math.min(LONGEST_WAIT, 2 ** (wrong - FREE_GUESSES));
    this.by.delete(address);
    this.by.set(address, { wrong, until: Date.now() + 1000 * seconds, last: given });
    // The oldest are forgotten first.
    if (this.by.size > MOST_ADDRESSES) this.by.delete(this.by.keys().next().value!);
  }
  right(address: string): void {
    this.by.delete(address);
  }
}

/** The path of a request as an address on this server, whatever it begins with. */
const ownPath = (req: Request) => `/${req.path.replace(/^[/\\]+/, '')}`;

/**
 * Demands the access token, when there is one: as a bearer header, or once in the address, which leaves a cookie. Refused requests are logged, the
 * token never is.
 */
export function accessGuard(config: Pick<Config, 'token'>, log: Pick<Logger, 'warn'>): RequestHandler {
  const guesses = new Guesses();
  return (req, res, next) => {
    const { token } = config;
    if (!token) return next();
    const address = req.socket.remoteAddress ?? '';
    const wait = guesses.wait(address);
    if (wait > 0) {
      res.setHeader('Retry-After', String(wait));
      throw new HttpError(429, 'token-guesses', 'Too many wrong access tokens.', `Wait ${wait} s.`);
    }
    const inAddress = req.method === 'GET' && typeof req.query.token === 'string' ? req.query.token : undefined;
    const given = [
      inAddress,
      /^Bearer (.+)$/.exec(req.headers.authorization ?? '')?.[1],
      parseCookie(req.headers.cookie ?? '')[COOKIE],
    ].filter((t) => t !== undefined);
    if (given.some((t) => same(t, token))) {
      guesses.right(address);
      if (inAddress === undefined) return next();
      // Lax, so that a link on another page leads in; what changes something must come from this origin in any case.
      res.cookie(COOKIE, token, { httpOnly: true, sameSite: 'lax', path: '/', secure: req.secure });
      return res.redirect(ownPath(req));
    }
    if (given.length > 0) guesses.wrong(address, given.join(' '));
    log.warn(
      { address, method: req.method, path: req.path, given: given.length > 0 },
      'refused: no valid access token',
    );
    throw new HttpError(
      401,
      'token-needed',
      'This server asks for an access token.',
      'Open the address with ?token=… once, or send it as a bearer token.',
    );
  };
}

const hostOf = (value: string): { name: string; port: string } | undefined => {
  try {
    const url = new URL(value.includes('://') ? value : `http://${value}`);
    return { name: url.hostname.replace(/^\[|\]$/g, ''), port: url.port };
  } catch {
    return undefined;
  }
};

/** Whether an origin is this server, as the request names it; the names of the loopback are one. */
function isOwn(origin: string, host: string): boolean {
  const [a, b] = [hostOf(origin), hostOf(host)];
  return Boolean(a && b && a.port === b.port && (a.name === b.name || (isLoopback(a.name) && isLoopback(b.name))));
}

const SAFE = new Set(['GET', 'HEAD', 'OPTIONS']);

/**
 * Refuses what another site's page asks: a foreign Host (a rebound name) on the loopback, and everything that changes something, or asks the API from
 * a script, from another origin. Clients that are no browsers send none of these headers.
 */
export function originGuard(config: Pick<Config, 'host'>, log: Pick<Logger, 'warn'>): RequestHandler {
  return (req, _res, next) => {
    const { host = '', origin } = req.headers;
    const refuse = (status: number, code: string, message: string, hint?: string): never => {
      log.warn({ method: req.method, path: req.path, origin, host }, `refused: ${code}`);
      throw new HttpError(status, code, message, hint);
    };
    if (isLoopback(config.host) && host && !isLoopback(hostOf(host)?.name ?? ''))
      refuse(421, 'foreign-host', 'This server answers on the loopback address only.', 'Open it as http://127.0.0.1.');
    const site = req.headers['sec-fetch-site'];
    const foreignSite = site !== undefined && site !== 'same-origin' && site !== 'none';
    const foreignOrigin = origin !== undefined && !isOwn(origin, host);
    const changes = !SAFE.has(req.method);
    const scripted = req.path.startsWith('/api') && req.headers['sec-fetch-mode'] !== 'navigate';
    if ((changes && (foreignOrigin || foreignSite)) || (scripted && (foreignOrigin || site === 'cross-site')))
      refuse(403, 'foreign-origin', 'Requests from other sites are not answered.');
    next();
  };
}
