import { Router, type Request } from 'express';
import { z } from 'zod';
import { analyseLift } from '@veldtwind/core/lift';
import { LIFT_VERSION, sectionLookup } from '@veldtwind/core/candidate';
import { canonicalJson, resultKey } from '@veldtwind/core/result-key';
import { editRequest, freshProject, partKey, projectDocument, surfaceSchema, point3 } from '@veldtwind/core/project';
import { sectionSource } from '@veldtwind/core/shaping';
import type { ProjectStore } from '../db/projects';
import type { PreferenceStore, ResultStore } from '../db/results';
import type { EventHub } from '../http/events';
import { HttpError } from '../http/errors';
import { openApiDocument } from './openapi';

export interface ApiParts {
  projects: ProjectStore;
  results: ResultStore;
  preferences: PreferenceStore;
  events: EventHub;
  /** The demo project's document. */
  demo: () => { name: string; document: unknown };
  version: string;
}

const name = z.string().trim().min(1, 'needs a name').max(80);
export const newProject = z.object({
  name,
  from: z.enum(['empty', 'demo']).optional(),
  document: projectDocument.optional(),
});
export const renameProject = z.object({ name });
export const stepRequest = z.object({ baseVersion: z.number().int().min(0) });
export const editWithId = editRequest.extend({ editId: z.uuid().optional() });
export const historyQuery = z.object({ most: z.coerce.number().int().min(1).max(1000).default(100) });
export const preferenceKey = z.string().regex(/^[a-z][a-z0-9-]{0,40}$/);
export const keyOfResult = z.string().regex(/^[0-9a-f]{32}$/, 'is not the key of a result');
export const liftRequest = z.object({
  surfaces: z.array(surfaceSchema).min(1).max(20),
  alphas: z.array(z.number().min(-0.786).max(0.786)).min(1).max(721),
  about: point3.optional(),
  reference: z
    .object({ area: z.number().positive(), span: z.number().positive(), chord: z.number().positive() })
    .optional(),
  mach: z.number().min(0).max(0.89).optional(),
  beta: z.number().min(-0.6).max(0.6).optional(),
  spread: z
    .object({
      chordwise: z.number().int().min(1).max(40),
      spanwise: z.number().int().min(1).max(200),
      spacing: z.enum(['cosine', 'uniform']),
    })
    .refine((s) => s.chordwise * s.spanwise <= 1600, 'asks for too many panels')
    .optional(),
  wake: z.literal('body').optional(),
  sections: z.record(z.string(), sectionSource),
});

const param = (req: Request, key: string) => String(req.params[key]);

/** The API under /api/v1. */
export function apiRouter(p: ApiParts): Router {
  const api = Router();
  const started = Date.now();

  api.get('/health', (_req, res) => {
    res.json({
      status: 'ok',
      version: p.version,
      uptimeSeconds: Math.round((Date.now() - started) / 1000),
      projects: p.projects.list().length,
    });
  });
  api.get('/openapi.json', (_req, res) => {
    res.json(openApiDocument(p.version));
  });

  api.get('/projects', (_req, res) => {
    res.json({ projects: p.projects.list() });
  });
  api.post('/projects', (req, res) => {
    const body = newProject.parse(req.body);
    const document =
      body.document ?? (body.from === 'demo' ? projectDocument.parse(p.demo().document) : freshProject());
    res.status(201).json(p.projects.create(body.name, document));
  });
  api.get('/projects/:id', (req, res) => {
    res.type('json').send(p.projects.stateText(param(req, 'id'), req.query.points === 'packed'));
  });
  api.get('/projects/:id/parts/:key', (req, res) => {
    res.type('json').send(p.projects.partText(param(req, 'id'), partKey.parse(param(req, 'key'))));
  });
  api.patch('/projects/:id', (req, res) => {
    const row = p.projects.rename(param(req, 'id'), renameProject.parse(req.body).name);
    p.events.send(row.id, 'renamed', { name: row.name });
    res.json(row);
  });
  api.delete('/projects/:id', (req, res) => {
    p.projects.remove(param(req, 'id'));
    p.events.send(param(req, 'id'), 'removed', {});
    res.status(204).end();
  });
  api.get('/projects/:id/history', (req, res) => {
    res.json({ edits: p.projects.history(param(req, 'id'), historyQuery.parse(req.query).most) });
  });
  api.post('/projects/:id/edits', (req, res) => {
    const id = param(req, 'id');
    const body = editWithId.parse(req.body);
    const applied = p.projects.edit(id, body.baseVersion, body.label, body.changes, body.editId);
    p.events.send(id, 'changed', { ...applied, from: req.get('x-veldtwind-tab') ?? null });
    res.json(applied);
  });
  for (const way of ['undo', 'redo'] as const) {
    api.post(`/projects/:id/${way}`, (req, res) => {
      const id = param(req, 'id');
      const applied = p.projects.step(id, stepRequest.parse(req.body).baseVersion, way);
      if (!applied) throw new HttpError(409, `nothing-to-${way}`, `There is nothing to ${way}.`);
      p.events.send(id, 'changed', { ...applied, from: req.get('x-veldtwind-tab') ?? null });
      res.json(applied);
    });
  }
  api.get('/projects/:id/events', (req, res) => {
    p.projects.state(param(req, 'id'));
    p.events.subscribe(param(req, 'id'), res);
  });

  api.get('/results/:key', (req, res) => {
    const output = p.results.get(keyOfResult.parse(param(req, 'key')));
    if (output === undefined)
      throw new HttpError(404, 'not-found', 'There is no result with this key.', 'Ask for it with POST /results/lift.');
    res.json({ key: param(req, 'key'), output });
  });
  api.post('/results/lift', (req, res) => {
    const input = liftRequest.parse(req.body);
    const key = resultKey('lift', LIFT_VERSION, input);
    const known = p.results.get(key);
    if (known !== undefined) return void res.json({ key, computed: false, output: known });
    const { sections, ...lift } = input;
    const output = analyseLift(lift, sectionLookup(sections));
    p.results.put(key, 'lift', LIFT_VERSION, canonicalJson(input), output);
    res.json({ key, computed: true, output });
  });

  api.get('/preferences', (_req, res) => {
    res.json(p.preferences.all());
  });
  api.put('/preferences/:key', (req, res) => {
    const key = preferenceKey.parse(param(req, 'key'));
    const { value } = z.object({ value: z.json() }).parse(req.body);
    if (JSON.stringify(value).length > 20000) throw new HttpError(413, 'too-large', 'A preference is at most 20 kB.');
    p.preferences.put(key, value);
    res.json({ key, value });
  });
  return api;
}
