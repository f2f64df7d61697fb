import { timingSafeEqual } from 'node:crypto';
import { parse as parseCookie } from 'cookie';
import type { Request, Response } from 'express';
import type { Person } from '@veldtwind/contract';
import type { PeopleStore } from '@veldtwind/store/people';
import { isLoopback, type Config } from '../config';

/** The cookie of a session, and that of the time before there were any: it held the server's token itself. */
export const SESSION_COOKIE = 'veldtwind_session';
const TOKEN_COOKIE = 'veldtwind_token';

/** Who asks. */
export interface Asking {
  person: Person | null;
  session: string | null;
}
const NOBODY: Asking = { person: null, session: null };

const same = (a: string, b: string) => {
  const [x, y] = [Buffer.from(a), Buffer.from(b)];
  return x.length === y.length && timingSafeEqual(x, y);
};

export const addressOf = (req: Request): string => req.socket.remoteAddress ?? '';
const isLocal = (address: string) => isLoopback(address) || address === '::ffff:127.0.0.1';

/** Whether a server knows people by name: where a token is asked for, or a proxy in front of it lets them in. */
export const knowsNames = (config: Pick<Config, 'token' | 'proxyHeader'>): boolean =>
  Boolean(config.token ?? config.proxyHeader);

/** Tells by what a request brings who asks: the server's token, a person's own, a session, or a proxy's header. */
export class Identities {
  constructor(
    private readonly config: Pick<Config, 'token' | 'proxyHeader'>,
    private readonly people: PeopleStore,
  ) {}

  /** Whose token it is; null for none that is known. */
  ofToken(token: string): Person | null {
    if (this.config.token && same(token, this.config.token)) return this.people.owner();
    const found = this.people.byToken(token);
    return found;
  }

  /** What a request shows of who asks, as it came; the first that holds counts. @returns null person where none holds; `given` what was tried. */
  of(req: Request): Asking & { given: string[]; inAddress?: string } {
    const inAddress = req.method === 'GET' && typeof req.query.token === 'string' ? req.query.token : undefined;
    const cookies = parseCookie(req.headers.cookie ?? '');
    const bearer = /^Bearer (.+)$/.exec(req.headers.authorization ?? '')?.[1];
    const tokens = [inAddress, bearer, cookies[TOKEN_COOKIE]].filter((t) => t !== undefined);
    for (const token of tokens) {
      const person = this.ofToken(token);
      if (person) return { person, session: null, given: tokens, inAddress };
    }
    const key = cookies[SESSION_COOKIE];
    const bySession = key === undefined ? null : this.people.bySession(key, addressOf(req));
    if (bySession) return { ...bySession, given: tokens, inAddress };
    // A header is believed only where nobody but a proxy on this machine can have sent it.
    const name = this.config.proxyHeader ? req.get(this.config.proxyHeader)?.trim().slice(0, 60) : undefined;
    if (name && isLocal(addressOf(req))) return { person: this.people.byProxy(name), session: null, given: tokens };
    return { ...NOBODY, given: [...tokens, ...(key === undefined ? [] : [key])], inAddress };
  }

  /** Begins a session: its cookie goes with the reply. */
  begin(person: Person, req: Request, res: Response): void {
    const key = this.people.startSession(person.id, req.get('user-agent') ?? '', addressOf(req));
    // Lax, so that a link on another page leads in; what changes something must come from this origin in any case.
    res.cookie(SESSION_COOKIE, key, {
      httpOnly: true,
      sameSite: 'lax',
      path: '/',
      secure: req.secure,
      maxAge: 60 * 24 * 3600 * 1000,
    });
  }

  end(res: Response): void {
    for (const name of [SESSION_COOKIE, TOKEN_COOKIE]) res.clearCookie(name, { path: '/' });
  }
}

/** Who asks, as the guard found it. */
export const askingOf = (res: Pick<Response, 'locals'>): Asking => (res.locals as { asking?: Asking }).asking ?? NOBODY;
export const personOf = (res: Pick<Response, 'locals'>): Person | null => askingOf(res).person;
