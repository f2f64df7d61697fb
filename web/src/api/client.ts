import {
  pathOf,
  ROUTES,
  TAB_HEADER,
  type BodyOf,
  type ErrorReply,
  type ParamsOf,
  type QueryOf,
  type ReplyOf,
  type RouteName,
} from '@veldtwind/contract';
import { newId } from '@/lib/ids';

/** The API's error, as data. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly hint?: string,
    readonly body?: unknown,
  ) {
    super(message);
  }
}

/** The server did not answer at all, or not as itself. */
export class Unreachable extends Error {}

/** This page's name, new with every load, so that it knows its own changes when they come back and no other page has the same. */
export const TAB = newId();

type Without<T> = T extends undefined ? unknown : T;
/** What a call gives beside its route's name. */
export interface CallOptions<N extends RouteName> {
  params?: ParamsOf<N>;
  query?: Partial<Without<QueryOf<N>>>;
  body?: BodyOf<N>;
  /** Sent also when the page is being left; at most 64 kB. */ last?: boolean;
}

/** The address of a route, for links. */
export const addressOf = <N extends RouteName>(name: N, params: ParamsOf<N>): string =>
  `/api/v1${pathOf(name, params as Record<string, string>)}`;

/** Sends a file to a route, as it is read from the disk. @throws ApiError, Unreachable. */
export const upload = <N extends RouteName>(name: N, file: Blob, params = {} as ParamsOf<N>): Promise<ReplyOf<N>> =>
  ask(name, addressOf(name, params), (ROUTES[name] as { upload?: string }).upload, file);

/** Calls a route of the API. @throws ApiError, Unreachable. */
export async function call<N extends RouteName>(name: N, options: CallOptions<N> = {}): Promise<ReplyOf<N>> {
  const query = new URLSearchParams((options.query ?? {}) as Record<string, string>).toString();
  const path = `/api/v1${pathOf(name, options.params as Record<string, string>)}${query ? `?${query}` : ''}`;
  const body = options.body === undefined ? undefined : JSON.stringify(options.body);
  return ask(name, path, body === undefined ? undefined : 'application/json', body, options.last);
}

/** Fetches a file that a route makes, with what it says of it. @throws ApiError, Unreachable. */
export async function downloadFile<N extends RouteName>(
  name: N,
  options: { params: ParamsOf<N>; query?: Record<string, string> },
): Promise<{ blob: Blob; notes: string[] }> {
  const query = new URLSearchParams(options.query ?? {}).toString();
  let response: Response;
  try {
    response = await fetch(`${addressOf(name, options.params)}${query ? `?${query}` : ''}`, {
      headers: { [TAB_HEADER]: TAB },
    });
  } catch {
    throw new Unreachable('The server does not answer.');
  }
  if (!response.ok) {
    const error = ((await response.json().catch(() => null)) as Partial<ErrorReply> | null)?.error;
    if (!error) throw new Unreachable(`The server answered ${response.status} without a reason.`);
    throw new ApiError(response.status, error.code, error.message, error.hint);
  }
  const said = response.headers.get('x-veldtwind-notes');
  return { blob: await response.blob(), notes: said ? (JSON.parse(decodeURIComponent(said)) as string[]) : [] };
}

async function ask<N extends RouteName>(
  name: N,
  path: string,
  type: string | undefined,
  body: BodyInit | undefined,
  last = false,
): Promise<ReplyOf<N>> {
  let response: Response;
  try {
    response = await fetch(path, {
      method: ROUTES[name].method,
      headers: { [TAB_HEADER]: TAB, ...(type === undefined ? {} : { 'content-type': type }) },
      body,
      keepalive: last,
    });
  } catch {
    throw new Unreachable('The server does not answer.');
  }
  if (response.status === 204) return undefined as ReplyOf<N>;
  const reply: unknown = await response.json().catch(() => null);
  if (!response.ok) {
    const error = (reply as Partial<ErrorReply> | null)?.error;
    if (!error) throw new Unreachable(`The server answered ${response.status} without a reason.`);
    throw new ApiError(response.status, error.code, error.message, error.hint, reply);
  }
  return reply as ReplyOf<N>;
}
