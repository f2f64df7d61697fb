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

/** The server did not answer at all. */
export class Unreachable extends Error {}

/** This tab's name, so that it knows its own changes when they come back. */
export const TAB = (() => {
  const known = sessionStorage.getItem('veldtwind-tab');
  if (known) return known;
  const made = crypto.randomUUID();
  sessionStorage.setItem('veldtwind-tab', made);
  return made;
})();

/** Calls the API. @throws ApiError, Unreachable. */
export async function api<T>(method: string, path: string, body?: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api/v1${path}`, {
      method,
      headers: { 'x-veldtwind-tab': TAB, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
  } catch {
    throw new Unreachable('The server does not answer.');
  }
  if (response.status === 204) return undefined as T;
  const reply: unknown = await response.json().catch(() => null);
  if (!response.ok) {
    const error = (reply as { error?: { code: string; message: string; hint?: string } } | null)?.error;
    if (!error) throw new Unreachable(`The server answered ${response.status} without a reason.`);
    throw new ApiError(response.status, error.code, error.message, error.hint, reply);
  }
  return reply as T;
}
