import { z } from 'zod';
import type { Route } from './route';
import { ROUTES } from './routes';
import { errorReply, staleReply } from './schemas';

const schema = (s: z.ZodType, io: 'input' | 'output') => z.toJSONSchema(s, { unrepresentable: 'any', io });
const json = (s: z.ZodType, io: 'input' | 'output') => ({ content: { 'application/json': { schema: schema(s, io) } } });

const BINARY = { type: 'string', format: 'binary' };

function operation(name: string, route: Route): object {
  const parameters = [
    ...Object.entries(route.params ?? {}).map(([key, s]) => ({
      name: key,
      in: 'path',
      required: true,
      schema: schema(s, 'input'),
    })),
    ...Object.entries(route.query?.shape ?? {}).map(([key, s]) => ({
      name: key,
      in: 'query',
      schema: schema(s as z.ZodType, 'input'),
    })),
  ];
  const done = route.events
    ? {
        content: {
          'text/event-stream': { schema: { oneOf: Object.values(route.events).map((e) => schema(e, 'output')) } },
        },
      }
    : route.download
      ? { content: { [route.download]: { schema: BINARY } } }
      : route.reply
        ? json(route.reply, 'output')
        : {};
  return {
    operationId: name,
    summary: route.summary,
    ...(parameters.length > 0 ? { parameters } : {}),
    ...(route.upload ? { requestBody: { required: true, content: { [route.upload]: { schema: BINARY } } } } : {}),
    ...(route.body ? { requestBody: { required: true, ...json(route.body, 'input') } } : {}),
    responses: {
      [route.status ?? 200]: { description: 'Done', ...done },
      ...(route.stale
        ? {
            409: {
              description: 'The project moved on; the reply holds what changed since',
              ...json(staleReply, 'output'),
            },
          }
        : {}),
      default: { description: 'What went wrong', ...json(errorReply, 'output') },
    },
  };
}

/** The OpenAPI description, made from the same table that validates the requests. */
export function openApiDocument(version: string): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const [name, route] of Object.entries(ROUTES) as [string, Route][])
    (paths[route.path] ??= {})[route.method.toLowerCase()] = operation(name, route);
  return {
    openapi: '3.1.0',
    info: { title: 'Veldtwind', version, description: 'Aircraft design from section to stability, on one machine.' },
    servers: [{ url: '/api/v1' }],
    paths,
  };
}
