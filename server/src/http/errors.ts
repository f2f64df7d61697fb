import type { ErrorRequestHandler, RequestHandler } from 'express';
import type { Logger } from 'pino';
import { z } from 'zod';
import { refusalOf } from '@veldtwind/core/limits';
import { FailedComputation, VeldtwindError } from '@veldtwind/core/numerics';
import { Cancelled } from '@veldtwind/core/results';
import { NotFound, StaleVersion } from '@veldtwind/store/projects';
import { storageError, type StoreHealth } from './trouble';

export class HttpError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly hint?: string,
  ) {
    super(message);
  }
}

export const notFound: RequestHandler = (req) => {
  throw new HttpError(
    404,
    'not-found',
    `There is nothing at ${req.method} ${req.path}.`,
    'The API is described at /api/v1/openapi.json.',
  );
};

/** Turns whatever was thrown into the one shape; what is not foreseen is logged and answered without its details. */
export function errorHandler(log: Logger, health: StoreHealth): ErrorRequestHandler {
  return (error: unknown, _req, res, next) => {
    if (res.headersSent) {
      // A file that breaks off while it is sent.
      log.error({ err: error }, 'a reply broke off');
      return next(error);
    }
    const send = (
      status: number,
      code: string,
      message: string,
      more: { path?: string; hint?: string } = {},
      extra = {},
    ) => res.status(status).json({ error: { code, message, ...more }, ...extra });
    if (error instanceof StaleVersion) {
      return send(
        409,
        'stale-version',
        error.message,
        { hint: 'Take up what changed since, and make the edit on it again.' },
        { current: error.current },
      );
    }
    // Whoever asked is gone.
    if (error instanceof Cancelled) return send(503, 'cancelled', 'The computation was ended.');
    if (error instanceof NotFound) return send(404, 'not-found', error.message);
    if (error instanceof HttpError) return send(error.status, error.code, error.message, { hint: error.hint });
    if (error instanceof VeldtwindError) {
      return send(error instanceof FailedComputation ? 422 : 400, error.code, error.message, {
        path: error.path,
        hint: error.hint,
      });
    }
    if (error instanceof z.ZodError) {
      const { message, path, hint } = refusalOf(error, 'The request');
      return send(400, 'invalid', message, { path, hint });
    }
    const status = (error as { status?: unknown }).status;
    if (typeof status === 'number' && status >= 400 && status < 500) {
      const type = (error as { type?: string }).type ?? '';
      if (type === 'entity.too.large')
        return send(413, 'too-large', 'The request is larger than this route takes.', { hint: 'Send less at once.' });
      if (type === 'entity.parse.failed')
        return send(400, 'json', 'The request is not JSON.', { hint: 'Check its syntax.' });
      return send(status, 'bad-request', 'The request cannot be understood.');
    }
    const storage = storageError(error);
    if (storage) {
      health.failed(storage);
      log.error({ code: storage.code }, storage.message);
      return send(storage.status, storage.code, storage.message, { hint: storage.hint });
    }
    log.error({ err: error }, 'unforeseen error');
    return send(500, 'internal', 'Something went wrong inside the server; nothing was changed.', {
      hint: 'The log has the details.',
    });
  };
}
