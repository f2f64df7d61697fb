import { z } from 'zod';
import { partKey } from '../project';
import * as s from './schemas';

/** A route: what is asked, what is answered. Server, API description, web client and tests are made from it. */
export interface Route {
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  /** With `{name}` where a parameter stands. */
  path: string;
  summary: string;
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
  events?: typeof s.EVENTS;
}
const route = <R extends Route>(r: R): R => r;

const id = z.string().min(1).max(64);
const MB = 1_000_000;
/** Media type of a project's file. */
export const PROJECT_FILE_TYPE = 'application/zip';

/** Everything that the API answers, by name. */
export const ROUTES = {
  health: route({ method: 'GET', path: '/health', summary: 'Whether the server is well', reply: s.health }),
  openapi: route({ method: 'GET', path: '/openapi.json', summary: 'This document' }),
  listProjects: route({
    method: 'GET',
    path: '/projects',
    summary: 'All projects, newest first',
    reply: z.object({ projects: z.array(s.projectRow) }),
  }),
  createProject: route({
    method: 'POST',
    path: '/projects',
    summary: 'A new project: empty, the demo, or from a document',
    body: s.newProject,
    largest: 64 * MB,
    reply: s.projectState,
    status: 201,
  }),
  openProject: route({
    method: 'GET',
    path: '/projects/{id}',
    summary:
      'A project with its document; with points=packed, lists of points are the text between their outermost brackets',
    params: { id },
    query: s.openQuery,
    reply: s.projectState,
  }),
  renameProject: route({
    method: 'PATCH',
    path: '/projects/{id}',
    summary: 'Renames a project',
    params: { id },
    body: s.renameProject,
    reply: s.projectRow,
  }),
  removeProject: route({
    method: 'DELETE',
    path: '/projects/{id}',
    summary: 'Removes a project with its history',
    params: { id },
    status: 204,
  }),
  exportProject: route({
    method: 'GET',
    path: '/projects/{id}/file',
    summary: 'The whole project as one open file: a zip of JSON and CSV, with originals, history and kept results',
    params: { id },
    download: PROJECT_FILE_TYPE,
  }),
  importProject: route({
    method: 'POST',
    path: '/projects/file',
    summary: 'A new project from such a file',
    upload: PROJECT_FILE_TYPE,
    reply: s.importedProject,
    status: 201,
  }),
  readPart: route({
    method: 'GET',
    path: '/projects/{id}/parts/{key}',
    summary:
      'One part: brief, section:ID, candidate:ID with all that belongs to it, surface:CANDIDATE.ID, or original:ID, the text a section was read from',
    params: { id, key: partKey },
  }),
  changesSince: route({
    method: 'GET',
    path: '/projects/{id}/changes',
    summary: 'What brings a client from a version to the current one',
    params: { id },
    query: s.sinceQuery,
    reply: s.catching,
  }),
  edit: route({
    method: 'POST',
    path: '/projects/{id}/edits',
    summary: 'One edit: some parts set or removed, whole or not at all',
    params: { id },
    body: s.editWithId,
    largest: 64 * MB,
    reply: s.applied,
    stale: true,
  }),
  undo: route({
    method: 'POST',
    path: '/projects/{id}/undo',
    summary: 'Takes back the last edit',
    params: { id },
    body: s.stepRequest,
    reply: s.applied,
    stale: true,
  }),
  redo: route({
    method: 'POST',
    path: '/projects/{id}/redo',
    summary: 'Does the last edit taken back again',
    params: { id },
    body: s.stepRequest,
    reply: s.applied,
    stale: true,
  }),
  history: route({
    method: 'GET',
    path: '/projects/{id}/history',
    summary: 'The edits, newest first',
    params: { id },
    query: s.historyQuery,
    reply: z.object({ edits: z.array(s.historyEntry) }),
  }),
  listVersions: route({
    method: 'GET',
    path: '/projects/{id}/versions',
    summary: 'States of the project that are kept by name, newest first',
    params: { id },
    reply: z.object({ versions: z.array(s.keptVersion) }),
  }),
  keepVersion: route({
    method: 'POST',
    path: '/projects/{id}/versions',
    summary: 'Keeps the project as it stands under a name',
    params: { id },
    body: z.object({ name: z.string().trim().min(1).max(100) }),
    reply: s.keptVersion,
    status: 201,
  }),
  restoreVersion: route({
    method: 'POST',
    path: '/projects/{id}/versions/{kept}/restore',
    summary: 'Goes back to a kept version, as an edit that can be undone',
    params: { id, kept: id },
    body: s.stepRequest,
    reply: s.applied,
    stale: true,
  }),
  forgetVersion: route({
    method: 'DELETE',
    path: '/projects/{id}/versions/{kept}',
    summary: 'Forgets a kept version; the project stays as it is',
    params: { id, kept: id },
    status: 204,
  }),
  exportAirframe: route({
    method: 'GET',
    path: '/projects/{id}/candidates/{candidate}/file',
    summary:
      'A candidate’s airframe as STL, OBJ, GLB, STEP, DXF, SVG or CSV; what the engineer should know of it in the header x-veldtwind-notes',
    params: { id, candidate: id },
    query: s.airframeFile,
    download: 'application/octet-stream',
  }),
  listRuns: route({
    method: 'GET',
    path: '/projects/{id}/runs',
    summary: 'Runs of polars, newest first, with how far they have come',
    params: { id },
    reply: z.object({
      runs: z.array(s.runRow),
      notice: z.string().nullable().describe('Why no run goes on at the moment; null when all is well'),
    }),
  }),
  startRun: route({
    method: 'POST',
    path: '/projects/{id}/runs',
    summary: 'Plans and begins a run: sections × Reynolds numbers × Mach numbers × angles',
    params: { id },
    body: s.newRun,
    largest: 16 * MB,
    reply: s.runRow,
    status: 201,
  }),
  exportCurves: route({
    method: 'GET',
    path: '/projects/{id}/curves/file',
    summary: 'Curves as one open file: a zip of JSON and CSV with every point and every distribution',
    params: { id },
    query: s.someCurves,
    download: PROJECT_FILE_TYPE,
  }),
  importCurves: route({
    method: 'POST',
    path: '/projects/{id}/curves/file',
    summary: 'Takes the curves of such a file into the project, as a run that is finished',
    params: { id },
    upload: PROJECT_FILE_TYPE,
    status: 201,
    reply: s.importedCurves,
  }),
  closeIn: route({
    method: 'POST',
    path: '/projects/{id}/runs/close-in',
    summary: 'Tries the unsolved stretches of curves again, in smaller steps',
    params: { id },
    body: z.object({ curves: z.array(z.number().int()).max(10_000).optional() }),
    status: 201,
    reply: s.runRow,
  }),
  estimateRun: route({
    method: 'POST',
    path: '/projects/{id}/runs/estimate',
    summary: 'How many points a plan has, how many are known, and about how long the rest takes',
    params: { id },
    body: s.newRun.pick({ plan: true }),
    largest: 16 * MB,
    reply: s.runEstimate,
  }),
  changeRun: route({
    method: 'PATCH',
    path: '/projects/{id}/runs/{run}',
    summary: 'Lets a run go on, rest or end, or changes its priority',
    params: { id, run: id },
    body: s.runChange,
    reply: s.runRow,
  }),
  removeRun: route({
    method: 'DELETE',
    path: '/projects/{id}/runs/{run}',
    summary: 'Removes a run, with the curves that only it asked for',
    params: { id, run: id },
    status: 204,
  }),
  listCurves: route({
    method: 'GET',
    path: '/projects/{id}/curves',
    summary: "Curves that the project's runs asked for, with their facts",
    params: { id },
    query: s.someCurves,
    reply: z.object({ curves: z.array(s.curveReply) }),
  }),
  curvePoints: route({
    method: 'GET',
    path: '/projects/{id}/points',
    summary: 'The points of some curves, in order',
    params: { id },
    query: s.pointsQuery,
    reply: s.pointsReply,
  }),
  storedPoint: route({
    method: 'GET',
    path: '/projects/{id}/curves/{curve}/points/{place}',
    summary: 'A point with everything along its surfaces, read from what is stored, without solving',
    params: {
      id,
      curve: z.string().regex(/^\d{1,9}$/, 'is not the number of a curve'),
      place: z.string().regex(/^-?\d{1,12}$/, 'is not a place'),
    },
  }),
  events: route({
    method: 'GET',
    path: '/projects/{id}/events',
    summary: 'Server-sent events of one project: changed, renamed, removed',
    params: { id },
    events: s.EVENTS,
  }),
  allEvents: route({
    method: 'GET',
    path: '/events',
    summary: 'Server-sent events of all projects, for a browser that has several open',
    events: s.EVENTS,
  }),
  compute: route({
    method: 'POST',
    path: '/results/{kind}',
    summary: 'An analysis, from what is kept or computed now in a thread of its own',
    params: { kind: z.string().regex(/^[a-z][a-z-]{0,40}$/, 'is not a kind of analysis') },
    body: z.unknown(),
    largest: 8 * MB,
    reply: s.computedReply,
  }),
  result: route({
    method: 'GET',
    path: '/results/{key}',
    summary: 'A kept result',
    params: { key: s.keyOfResultText },
    reply: s.resultReply,
  }),
  preferences: route({ method: 'GET', path: '/preferences', summary: 'What the user chose for the interface' }),
  setPreference: route({
    method: 'PUT',
    path: '/preferences/{key}',
    summary: 'Sets one preference',
    params: { key: s.preferenceKey },
    body: s.preferenceValue,
    reply: z.object({ key: z.string(), value: z.unknown() }),
  }),
} as const;

/** The name of a route. */
export type RouteName = keyof typeof ROUTES;
type Of<N extends RouteName> = (typeof ROUTES)[N];
type Shape<T> = T extends z.ZodType ? z.output<T> : undefined;
/** Types of what a route is asked and answers. */
export type ParamsOf<N extends RouteName> = Of<N> extends { params: infer P } ? { [K in keyof P]: string } : object;
export type QueryOf<N extends RouteName> = Of<N> extends { query: infer Q } ? Shape<Q> : undefined;
export type BodyOf<N extends RouteName> = Of<N> extends { body: infer B } ? Shape<B> : undefined;
export type ReplyOf<N extends RouteName> = Of<N> extends { reply: infer R } ? Shape<R> : unknown;

/** The path of a route with its parameters in it. */
export function pathOf(name: RouteName, params: Readonly<Record<string, string>> = {}): string {
  return ROUTES[name].path.replace(/\{(\w+)\}/g, (_, key: string) => encodeURIComponent(params[key] ?? ''));
}
