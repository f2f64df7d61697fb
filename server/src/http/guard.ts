import type { Request, RequestHandler } from 'express';
import type { Logger } from 'pino';
import { isLoopback, type Config } from '../config';
import { addressOf, type Identities } from '../people/identity';
import { HttpError } from './errors';

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

/** What a page needs to sign in or to take up an invitation; none of it tells anything of a project. */
const OPEN = /^\/(join|sign-in|assets\/.*|favicon\.[a-z]+|api\/v1\/(me|join|sign-in))$/;
/** Where a secret is given in the body: what is wrong there counts as a guess. */
const TRIES = /^\/api\/v1\/(join|sign-in)$/;

/**
 * Finds out who asks: by the server's token or a person's own, as a bearer header or once in the address, which begins a session; by a session's
 * cookie; or by the header of a proxy in front. Others get no further than the page to sign in. Refused requests are logged, secrets never are.
 * @param named whether the server knows people by name; everybody may do everything otherwise.
 */
export function accessGuard(identities: Identities, named: boolean, log: Pick<Logger, 'warn'>): RequestHandler {
  const guesses = new Guesses();
  return (req, res, next) => {
    if (!named) return next();
    const address = addressOf(req);
    const { given, inAddress, ...asking } = identities.of(req);
    res.locals.asking = asking;
    // Whoever is in without a token is no guesser, though others may guess from the same address: that of a proxy.
    const letIn = asking.person !== null && given.length === 0;
    const wait = letIn ? 0 : guesses.wait(address);
    if (wait > 0) {
      res.setHeader('Retry-After', String(wait));
      throw new HttpError(429, 'token-guesses', 'Too many wrong access tokens.', `Wait ${wait} s.`);
    }
    if (asking.person) {
      if (given.length > 0) guesses.right(address);
      if (inAddress === undefined) return next();
      identities.begin(asking.person, req, res);
      return res.redirect(ownPath(req));
    }
    if (given.length > 0) guesses.wrong(address, given.join(' '));
    if (TRIES.test(req.path))
      res.on('finish', () => {
        if (res.statusCode >= 400) guesses.wrong(address, `${Date.now()} ${Math.random()}`);
      });
    if (OPEN.test(req.path)) return next();
    log.warn(
      { address, method: req.method, path: req.path, given: given.length > 0 },
      'refused: no valid access token',
    );
    if (req.method === 'GET' && !req.path.startsWith('/api') && req.accepts(['json', 'html']) === 'html')
      return res.redirect(`/sign-in?to=${encodeURIComponent(`/${req.originalUrl.replace(/^[/\\]+/, '')}`)}`);
    throw new HttpError(
      401,
      'token-needed',
      'This server asks for an access token.',
      'Sign in at /sign-in, open the address with ?token=… once, or send it as a bearer token.',
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
