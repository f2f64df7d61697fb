import { timingSafeEqual } from 'node:crypto';
import type { RequestHandler } from 'express';
import { isLoopback, type Config } from '../config';
import { HttpError } from './errors';

const COOKIE = 'veldtwind_token';

const same = (a: string, b: string) => {
  const x = Buffer.from(a);
  const y = Buffer.from(b);
  return x.length === y.length && timingSafeEqual(x, y);
};

/** Demands the access token, when there is one: as a bearer header, or once in the address, which leaves a cookie. */
export function accessGuard(config: Pick<Config, 'token'>): RequestHandler {
  return (req, res, next) => {
    const { token } = config;
    if (!token) return next();
    const bearer = /^Bearer (.+)$/.exec(req.headers.authorization ?? '')?.[1];
    const cookie = (req.headers.cookie ?? '')
      .split(/;\s*/)
      .find((c) => c.startsWith(`${COOKIE}=`))
      ?.slice(COOKIE.length + 1);
    const inAddress = req.method === 'GET' && typeof req.query.token === 'string' ? req.query.token : undefined;
    if (inAddress && same(inAddress, token)) {
      res.cookie(COOKIE, token, { httpOnly: true, sameSite: 'strict', path: '/' });
      return res.redirect(req.path);
    }
    if ((bearer && same(bearer, token)) || (cookie && same(decodeURIComponent(cookie), token))) return next();
    throw new HttpError(
      401,
      'token-needed',
      'This server asks for an access token.',
      'Open the address with ?token=… once, or send it as a bearer token.',
    );
  };
}

/** On the loopback, refuses requests that another site's page makes: a foreign Host (rebound name) or a foreign Origin. */
export function originGuard(config: Pick<Config, 'host'>): RequestHandler {
  return (req, _res, next) => {
    const name = (value: string) => {
      try {
        return new URL(value.includes('://') ? value : `http://${value}`).hostname.replace(/^\[|\]$/g, '');
      } catch {
        return '';
      }
    };
    if (isLoopback(config.host) && req.headers.host && !isLoopback(name(req.headers.host))) {
      throw new HttpError(
        421,
        'foreign-host',
        'This server answers on the loopback address only.',
        'Open it as http://127.0.0.1.',
      );
    }
    const origin = req.headers.origin;
    if (
      origin &&
      origin !== 'null' &&
      req.headers.host &&
      new URL(origin).host !== req.headers.host &&
      !(isLoopback(name(origin)) && isLoopback(name(req.headers.host)))
    ) {
      throw new HttpError(403, 'foreign-origin', 'Requests from other sites are not answered.');
    }
    next();
  };
}
