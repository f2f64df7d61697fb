import type { RequestHandler } from 'express';
import { HttpError } from '../http/errors';
import { addressOf, personOf } from './identity';

/** Requests at once, and a second: a page that drags asks some thirty times a second. */
const BURST = 600;
const A_SECOND = 150;
const MOST_KNOWN = 2000;

/** Bounds how much one person asks, so that others are answered. Where nobody has a name nothing is bounded. */
export function paceGuard(named: boolean): RequestHandler {
  const left = new Map<string, { tokens: number; at: number }>();
  return (req, res, next) => {
    if (!named) return next();
    const who = personOf(res)?.id ?? addressOf(req);
    const now = performance.now();
    const before = left.get(who) ?? { tokens: BURST, at: now };
    const tokens = Math.min(BURST, before.tokens + ((now - before.at) / 1000) * A_SECOND) - 1;
    left.delete(who);
    left.set(who, { tokens: Math.max(-1, tokens), at: now });
    if (left.size > MOST_KNOWN) left.delete(left.keys().next().value!);
    if (tokens >= 0) return next();
    res.setHeader('Retry-After', '1');
    throw new HttpError(429, 'too-many', 'You ask more than the server answers to one person.', 'Wait a second.');
  };
}
