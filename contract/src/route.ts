import { z } from 'zod';
import type { Access } from './people';
import type { EVENTS } from './schemas';

/** A route: what is asked, what is answered. Server, API description, web client and tests are made from it. */
export interface Route {
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  /** With `{name}` where a parameter stands. */
  path: string;
  summary: string;
  /** Who may ask for it, where the server knows people by name. */
  access: Access;
  /** What every parameter of the path must be. */
  params?: Readonly<Record<string, z.ZodType>>;
  query?: z.ZodObject;
  body?: z.ZodType;
  /** Bytes that a request may have; 1 MB without. */
  largest?: number;
  reply?: z.ZodType;
  status?: 200 | 201 | 204;
  /** May answer 409 with what changed meanwhile. */
  stale?: true;
  /** Media type of a file that is sent as it is, and read as it comes, of any size. */
  upload?: string;
  /** Media type of a file that is answered, as it is made. */
  download?: string;
  /** Server-sent events instead of one reply. */
  events?: typeof EVENTS;
}
/** A route as it is written down: its own types are kept. */
export const route = <R extends Route>(r: R): R => r;

/** An id in a path. */
export const id = z.string().min(1).max(64);
