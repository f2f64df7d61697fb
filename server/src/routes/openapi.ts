import { z } from 'zod';
import { projectDocument } from '@veldtwind/core/project';
import { errorReply } from '../http/errors';
import { editWithId, liftRequest, newProject, renameProject, stepRequest } from './api';

const schema = (s: z.ZodType) => z.toJSONSchema(s, { unrepresentable: 'any', io: 'input' });
const json = (s: object) => ({ content: { 'application/json': { schema: s } } });

/** The OpenAPI description, made from the schemas that validate the requests. */
export function openApiDocument(version: string): object {
  const error = { description: 'What went wrong', ...json(schema(errorReply)) };
  const id = { name: 'id', in: 'path', required: true, schema: { type: 'string' } };
  const operation = (
    summary: string,
    more: { body?: z.ZodType; parameters?: object[]; status?: string; reply?: z.ZodType; conflict?: boolean } = {},
  ) => ({
    summary,
    ...(more.parameters ? { parameters: more.parameters } : {}),
    ...(more.body ? { requestBody: { required: true, ...json(schema(more.body)) } } : {}),
    responses: {
      [more.status ?? '200']: { description: 'Done', ...(more.reply ? json(schema(more.reply)) : {}) },
      ...(more.conflict
        ? {
            '409': {
              description: 'The project moved on; the reply holds its current state',
              ...json(schema(errorReply)),
            },
          }
        : {}),
      default: error,
    },
  });
  return {
    openapi: '3.1.0',
    info: { title: 'Veldtwind', version, description: 'Aircraft design from section to stability, on one machine.' },
    servers: [{ url: '/api/v1' }],
    paths: {
      '/health': { get: operation('Whether the server is well') },
      '/openapi.json': { get: operation('This document') },
      '/projects': {
        get: operation('All projects, newest first'),
        post: operation('A new project: empty, the demo, or from a document', { body: newProject, status: '201' }),
      },
      '/projects/{id}': {
        get: operation('A project with its document', {
          parameters: [
            id,
            {
              name: 'points',
              in: 'query',
              description: 'packed: lists of points as the text between their outermost brackets',
              schema: { const: 'packed' },
            },
          ],
          reply: z.object({ id: z.string(), name: z.string(), version: z.number(), document: projectDocument }).loose(),
        }),
        patch: operation('Renames a project', { parameters: [id], body: renameProject }),
        delete: operation('Removes a project with its history', { parameters: [id], status: '204' }),
      },
      '/projects/{id}/parts/{key}': {
        get: operation('One part: brief, section:ID, candidate:ID, or original:ID, the text a section was read from', {
          parameters: [id, { name: 'key', in: 'path', required: true, schema: { type: 'string' } }],
        }),
      },
      '/projects/{id}/edits': {
        post: operation('One edit: some parts set or removed, whole or not at all', {
          parameters: [id],
          body: editWithId,
          conflict: true,
        }),
      },
      '/projects/{id}/undo': {
        post: operation('Takes back the last edit', { parameters: [id], body: stepRequest, conflict: true }),
      },
      '/projects/{id}/redo': {
        post: operation('Does the last edit taken back again', { parameters: [id], body: stepRequest, conflict: true }),
      },
      '/projects/{id}/history': {
        get: operation('The edits, newest first', {
          parameters: [id, { name: 'most', in: 'query', schema: { type: 'integer', minimum: 1, maximum: 1000 } }],
        }),
      },
      '/projects/{id}/events': {
        get: operation('Server-sent events: changed, renamed, removed', { parameters: [id] }),
      },
      '/results/{key}': {
        get: operation('A kept result', {
          parameters: [{ name: 'key', in: 'path', required: true, schema: { type: 'string' } }],
        }),
      },
      '/results/lift': { post: operation('A lift analysis, from what is kept or computed now', { body: liftRequest }) },
      '/preferences': { get: operation('What the user chose for the interface') },
      '/preferences/{key}': {
        put: operation('Sets one preference', {
          parameters: [{ name: 'key', in: 'path', required: true, schema: { type: 'string' } }],
          body: z.object({ value: z.json() }),
        }),
      },
    },
  };
}
