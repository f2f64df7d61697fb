import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import express, { Router, type Request, type Response } from 'express';
import {
  ROUTES,
  type BodyOf,
  type ParamsOf,
  type QueryOf,
  type ReplyOf,
  type Route,
  type RouteName,
} from '@veldtwind/contract';
import { checkDepth } from '../http/depth';
import { HttpError } from '../http/errors';
import type { AccessRules } from '../people/access';

/** A request after its checks. */
export interface Asked<N extends RouteName> {
  params: ParamsOf<N>;
  query: QueryOf<N>;
  body: BodyOf<N>;
  req: Request;
  res: Response;
}

/** What answers a route: a value, text that is JSON already, or nothing where it writes the response itself. */
export type Handler<N extends RouteName> = (asked: Asked<N>) => Answer<N> | Promise<Answer<N>>;
type Answer<N extends RouteName> = ReplyOf<N> | JsonText | Download | void;

/** JSON that is text already. */
export class JsonText {
  constructor(readonly text: string) {}
}

/** A file that is sent as it is made. */
export class Download {
  constructor(
    readonly name: string,
    readonly source: AsyncIterable<Uint8Array>,
    /** Where it is not the route's own. */ readonly type?: string,
    readonly notes: readonly string[] = [],
  ) {}
}

export type Handlers = { [N in RouteName]: Handler<N> };

const LARGEST = 1_000_000;
/** Notes on a file that one header holds. */
const MOST_NOTES = 30;

/** A router made from the table of routes: every request is parsed up to its route's size and checked before its handler sees it. */
export function routerOf(handlers: Handlers, access: Pick<AccessRules, 'check'>): Router {
  const router = Router();
  for (const [name, route] of Object.entries(ROUTES) as [RouteName, Route][]) {
    const path = route.path.replace(/\{(\w+)\}/g, ':$1');
    const handle = handlers[name] as Handler<RouteName>;
    const method = route.method.toLowerCase() as 'get' | 'post' | 'put' | 'patch' | 'delete';
    const body = route.body
      ? [
          express.json({
            limit: route.largest ?? LARGEST,
            strict: true,
            verify: (_req, _res, bytes) => checkDepth(bytes),
          }),
        ]
      : [];
    // Asked before the body is read: nobody makes the server read what they may not send.
    const allowed = (req: Request, res: Response, next: () => void) => {
      access.check(route.access, typeof req.params.id === 'string' ? req.params.id : undefined, res);
      next();
    };
    router[method](path, allowed, ...body, async (req: Request, res: Response, next) => {
      // Projects are private: nothing on the way keeps a copy.
      res.set('Cache-Control', 'no-store');
      if (route.body && !req.is('application/json'))
        throw new HttpError(
          415,
          'json-needed',
          'The request must be JSON.',
          'Send it with content-type: application/json.',
        );
      if (route.upload && !req.is(route.upload))
        throw new HttpError(
          415,
          'file-needed',
          'The request must be a file.',
          `Send it with content-type: ${route.upload}.`,
        );
      const params: Record<string, unknown> = {};
      for (const [key, schema] of Object.entries(route.params ?? {})) params[key] = schema.parse(req.params[key]);
      const reply = await handle({
        params: params as never,
        query: (route.query ? route.query.parse(req.query) : undefined) as never,
        body: (route.body ? route.body.parse(req.body) : undefined) as never,
        req,
        res,
      });
      if (res.headersSent) return;
      if (route.events) return next();
      res.status(route.status ?? 200);
      if (reply instanceof Download) {
        res.attachment(reply.name).type(reply.type ?? route.download!);
        if (reply.notes.length > 0)
          res.set('x-veldtwind-notes', encodeURIComponent(JSON.stringify(reply.notes.slice(0, MOST_NOTES))));
        // A client that goes away ends the making of it; nobody is left to be told.
        await pipeline(Readable.from(reply.source), res).catch((error: NodeJS.ErrnoException) => {
          if (error.code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
        });
        return;
      }
      if (route.status === 204) res.end();
      else if (reply instanceof JsonText) res.type('json').send(reply.text);
      else res.json(reply);
    });
  }
  return router;
}
