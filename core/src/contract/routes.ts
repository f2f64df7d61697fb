import { z } from 'zod';
import { partKey } from '../project';
import * as p from './people';
import * as s from './schemas';

/** A route: what is asked, what is answered. Server, API description, web client and tests are made from it. */
export interface Route {
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  /** With `{name}` where a parameter stands. */
  path: string;
  summary: string;
  /** Who may ask for it, where the server knows people by name. */
  access: p.Access;
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
  health: route({
    access: 'signed-in',
    method: 'GET',
    path: '/health',
    summary: 'Whether the server is well',
    reply: s.health,
  }),
  openapi: route({ access: 'signed-in', method: 'GET', path: '/openapi.json', summary: 'This document' }),
  listProjects: route({
    access: 'signed-in',
    method: 'GET',
    path: '/projects',
    summary: 'All projects, newest first',
    reply: z.object({ projects: z.array(s.projectRow) }),
  }),
  createProject: route({
    access: 'signed-in',
    method: 'POST',
    path: '/projects',
    summary: 'A new project: empty, the demo, or from a document',
    body: s.newProject,
    largest: 64 * MB,
    reply: s.projectState,
    status: 201,
  }),
  openProject: route({
    access: 'read',
    method: 'GET',
    path: '/projects/{id}',
    summary:
      'A project with its document; with points=packed, lists of points are the text between their outermost brackets',
    params: { id },
    query: s.openQuery,
    reply: s.projectState,
  }),
  renameProject: route({
    access: 'edit',
    method: 'PATCH',
    path: '/projects/{id}',
    summary: 'Renames a project',
    params: { id },
    body: s.renameProject,
    reply: s.projectRow,
  }),
  removeProject: route({
    access: 'own',
    method: 'DELETE',
    path: '/projects/{id}',
    summary: 'Removes a project with its history',
    params: { id },
    status: 204,
  }),
  exportProject: route({
    access: 'read',
    method: 'GET',
    path: '/projects/{id}/file',
    summary: 'The whole project as one open file: a zip of JSON and CSV, with originals, history and kept results',
    params: { id },
    download: PROJECT_FILE_TYPE,
  }),
  importProject: route({
    access: 'signed-in',
    method: 'POST',
    path: '/projects/file',
    summary: 'A new project from such a file',
    upload: PROJECT_FILE_TYPE,
    reply: s.importedProject,
    status: 201,
  }),
  readPart: route({
    access: 'read',
    method: 'GET',
    path: '/projects/{id}/parts/{key}',
    summary:
      'One part: brief, section:ID, candidate:ID with all that belongs to it, surface:CANDIDATE.ID, or original:ID, the text a section was read from',
    params: { id, key: partKey },
  }),
  changesSince: route({
    access: 'read',
    method: 'GET',
    path: '/projects/{id}/changes',
    summary: 'What brings a client from a version to the current one',
    params: { id },
    query: s.sinceQuery,
    reply: s.catching,
  }),
  edit: route({
    access: 'edit',
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
    access: 'edit',
    method: 'POST',
    path: '/projects/{id}/undo',
    summary: 'Takes back the last edit',
    params: { id },
    body: s.stepRequest,
    reply: s.applied,
    stale: true,
  }),
  redo: route({
    access: 'edit',
    method: 'POST',
    path: '/projects/{id}/redo',
    summary: 'Does the last edit taken back again',
    params: { id },
    body: s.stepRequest,
    reply: s.applied,
    stale: true,
  }),
  history: route({
    access: 'read',
    method: 'GET',
    path: '/projects/{id}/history',
    summary: 'The edits, newest first',
    params: { id },
    query: s.historyQuery,
    reply: z.object({ edits: z.array(s.historyEntry) }),
  }),
  listVersions: route({
    access: 'read',
    method: 'GET',
    path: '/projects/{id}/versions',
    summary: 'States of the project that are kept by name, newest first',
    params: { id },
    reply: z.object({ versions: z.array(s.keptVersion) }),
  }),
  keepVersion: route({
    access: 'edit',
    method: 'POST',
    path: '/projects/{id}/versions',
    summary: 'Keeps the project as it stands under a name',
    params: { id },
    body: z.object({ name: z.string().trim().min(1).max(100) }),
    reply: s.keptVersion,
    status: 201,
  }),
  restoreVersion: route({
    access: 'edit',
    method: 'POST',
    path: '/projects/{id}/versions/{kept}/restore',
    summary: 'Goes back to a kept version, as an edit that can be undone',
    params: { id, kept: id },
    body: s.stepRequest,
    reply: s.applied,
    stale: true,
  }),
  forgetVersion: route({
    access: 'edit',
    method: 'DELETE',
    path: '/projects/{id}/versions/{kept}',
    summary: 'Forgets a kept version; the project stays as it is',
    params: { id, kept: id },
    status: 204,
  }),
  exportAirframe: route({
    access: 'read',
    method: 'GET',
    path: '/projects/{id}/candidates/{candidate}/file',
    summary:
      'A candidate’s airframe as STL, OBJ, GLB, STEP, DXF, SVG or CSV; what the engineer should know of it in the header x-veldtwind-notes',
    params: { id, candidate: id },
    query: s.airframeFile,
    download: 'application/octet-stream',
  }),
  listRuns: route({
    access: 'read',
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
    access: 'edit',
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
    access: 'read',
    method: 'GET',
    path: '/projects/{id}/curves/file',
    summary: 'Curves as one open file: a zip of JSON and CSV with every point and every distribution',
    params: { id },
    query: s.someCurves,
    download: PROJECT_FILE_TYPE,
  }),
  importCurves: route({
    access: 'edit',
    method: 'POST',
    path: '/projects/{id}/curves/file',
    summary: 'Takes the curves of such a file into the project, as a run that is finished',
    params: { id },
    upload: PROJECT_FILE_TYPE,
    status: 201,
    reply: s.importedCurves,
  }),
  closeIn: route({
    access: 'edit',
    method: 'POST',
    path: '/projects/{id}/runs/close-in',
    summary: 'Tries the unsolved stretches of curves again, in smaller steps',
    params: { id },
    body: z.object({ curves: z.array(z.number().int()).max(10_000).optional() }),
    status: 201,
    reply: s.runRow,
  }),
  estimateRun: route({
    access: 'read',
    method: 'POST',
    path: '/projects/{id}/runs/estimate',
    summary: 'How many points a plan has, how many are known, and about how long the rest takes',
    params: { id },
    body: s.newRun.pick({ plan: true }),
    largest: 16 * MB,
    reply: s.runEstimate,
  }),
  changeRun: route({
    access: 'edit',
    method: 'PATCH',
    path: '/projects/{id}/runs/{run}',
    summary: 'Lets a run go on, rest or end, or changes its priority',
    params: { id, run: id },
    body: s.runChange,
    reply: s.runRow,
  }),
  removeRun: route({
    access: 'edit',
    method: 'DELETE',
    path: '/projects/{id}/runs/{run}',
    summary: 'Removes a run, with the curves that only it asked for',
    params: { id, run: id },
    status: 204,
  }),
  listCurves: route({
    access: 'read',
    method: 'GET',
    path: '/projects/{id}/curves',
    summary: "Curves that the project's runs asked for, with their facts",
    params: { id },
    query: s.someCurves,
    reply: z.object({ curves: z.array(s.curveReply) }),
  }),
  curvePoints: route({
    access: 'read',
    method: 'GET',
    path: '/projects/{id}/points',
    summary: 'The points of some curves, in order',
    params: { id },
    query: s.pointsQuery,
    reply: s.pointsReply,
  }),
  storedPoint: route({
    access: 'read',
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
    access: 'read',
    method: 'GET',
    path: '/projects/{id}/events',
    summary: 'Server-sent events of one project: changed, renamed, removed',
    params: { id },
    events: s.EVENTS,
  }),
  allEvents: route({
    access: 'signed-in',
    method: 'GET',
    path: '/events',
    summary: 'Server-sent events of all projects, for a browser that has several open',
    events: s.EVENTS,
  }),
  compute: route({
    access: 'signed-in',
    method: 'POST',
    path: '/results/{kind}',
    summary: 'An analysis, from what is kept or computed now in a thread of its own',
    params: { kind: z.string().regex(/^[a-z][a-z-]{0,40}$/, 'is not a kind of analysis') },
    body: z.unknown(),
    largest: 8 * MB,
    reply: s.computedReply,
  }),
  result: route({
    access: 'signed-in',
    method: 'GET',
    path: '/results/{key}',
    summary: 'A kept result',
    params: { key: s.keyOfResultText },
    reply: s.resultReply,
  }),
  preferences: route({
    access: 'signed-in',
    method: 'GET',
    path: '/preferences',
    summary: 'What the user chose for the interface',
  }),
  setPreference: route({
    access: 'signed-in',
    method: 'PUT',
    path: '/preferences/{key}',
    summary: 'Sets one preference',
    params: { key: s.preferenceKey },
    body: s.preferenceValue,
    reply: z.object({ key: z.string(), value: z.unknown() }),
  }),
  me: route({ access: 'anybody', method: 'GET', path: '/me', summary: 'Who asks, and what they may do', reply: p.me }),
  renameMe: route({
    access: 'signed-in',
    method: 'PATCH',
    path: '/me',
    summary: 'Changes the name that others see',
    body: z.object({ name: p.personName }),
    reply: p.person,
  }),
  signIn: route({
    access: 'anybody',
    method: 'POST',
    path: '/sign-in',
    summary: 'Begins a session with the server’s access token or a person’s own',
    body: z.object({ token: z.string().min(1).max(200) }),
    reply: p.person,
  }),
  signOut: route({
    access: 'signed-in',
    method: 'POST',
    path: '/sign-out',
    summary: 'Ends this session',
    body: z.object({}),
    status: 204,
  }),
  join: route({
    access: 'anybody',
    method: 'POST',
    path: '/join',
    summary: 'Takes up an invitation, once: makes a person and a session, or adds a role to whoever is signed in',
    body: z.object({ code: z.string().min(1).max(200), name: p.personName.optional() }),
    reply: z.object({ person: p.person, project: z.string().nullable() }),
  }),
  makeToken: route({
    access: 'signed-in',
    method: 'POST',
    path: '/me/token',
    summary: 'A new token of one’s own, told once; the one before ends',
    body: z.object({}),
    reply: z.object({ token: z.string() }),
    status: 201,
  }),
  withdrawToken: route({
    access: 'signed-in',
    method: 'DELETE',
    path: '/me/token',
    summary: 'Ends one’s own token',
    status: 204,
  }),
  sessions: route({
    access: 'signed-in',
    method: 'GET',
    path: '/me/sessions',
    summary: 'One’s own sessions, last used first',
    reply: z.object({ sessions: z.array(p.session) }),
  }),
  endSession: route({
    access: 'signed-in',
    method: 'DELETE',
    path: '/me/sessions/{session}',
    summary: 'Ends one of one’s own sessions',
    params: { session: id },
    status: 204,
  }),
  listPeople: route({
    access: 'server',
    method: 'GET',
    path: '/people',
    summary: 'All people of this server, with their roles, and invitations without a project',
    reply: z.object({
      people: z.array(p.person.extend({ roles: z.record(z.string(), p.role), sessions: z.array(p.session) })),
      invitations: z.array(p.invitation),
    }),
  }),
  endPerson: route({
    access: 'server',
    method: 'DELETE',
    path: '/people/{person}',
    summary: 'Ends a person’s access: token, sessions and roles; the name stays on what they did',
    params: { person: id },
    status: 204,
  }),
  endTheirSession: route({
    access: 'server',
    method: 'DELETE',
    path: '/people/{person}/sessions/{session}',
    summary: 'Ends somebody’s session',
    params: { person: id, session: id },
    status: 204,
  }),
  endTheirToken: route({
    access: 'server',
    method: 'DELETE',
    path: '/people/{person}/token',
    summary: 'Ends somebody’s token',
    params: { person: id },
    status: 204,
  }),
  inviteToServer: route({
    access: 'server',
    method: 'POST',
    path: '/invitations',
    summary: 'An invitation to the server without a project',
    body: p.newInvitation.pick({ note: true }),
    reply: p.madeInvitation,
    status: 201,
  }),
  withdrawServerInvitation: route({
    access: 'server',
    method: 'DELETE',
    path: '/invitations/{invitation}',
    summary: 'Withdraws such an invitation',
    params: { invitation: id },
    status: 204,
  }),
  team: route({
    access: 'read',
    method: 'GET',
    path: '/projects/{id}/people',
    summary: 'Who has a role in a project; its owners see the invitations too',
    params: { id },
    reply: z.object({ people: z.array(p.teamMember), invitations: z.array(p.invitation) }),
  }),
  setRole: route({
    access: 'own',
    method: 'PUT',
    path: '/projects/{id}/people/{person}',
    summary: 'Gives somebody a role in a project',
    params: { id, person: id },
    body: z.object({ role: p.role }),
    reply: z.object({ people: z.array(p.teamMember) }),
  }),
  dropRole: route({
    access: 'read',
    method: 'DELETE',
    path: '/projects/{id}/people/{person}',
    summary: 'Takes a role back; one’s own without being an owner',
    params: { id, person: id },
    status: 204,
  }),
  invite: route({
    access: 'own',
    method: 'POST',
    path: '/projects/{id}/invitations',
    summary: 'An invitation to a project: a link with a code that works once',
    params: { id },
    body: p.newInvitation,
    reply: p.madeInvitation,
    status: 201,
  }),
  withdrawInvitation: route({
    access: 'own',
    method: 'DELETE',
    path: '/projects/{id}/invitations/{invitation}',
    summary: 'Withdraws an invitation',
    params: { id, invitation: id },
    status: 204,
  }),
  presence: route({
    access: 'read',
    method: 'POST',
    path: '/projects/{id}/presence',
    summary: 'Says where one is in a project, and hears who else is there',
    params: { id },
    body: p.presence,
    reply: z.object({ people: z.array(p.someone) }),
  }),
  comments: route({
    access: 'read',
    method: 'GET',
    path: '/projects/{id}/comments',
    summary: 'Comments on a project, oldest first',
    params: { id },
    reply: z.object({ comments: z.array(p.comment) }),
  }),
  addComment: route({
    access: 'comment',
    method: 'POST',
    path: '/projects/{id}/comments',
    summary: 'Comments on a view of a project',
    params: { id },
    body: p.newComment,
    reply: p.comment,
    status: 201,
  }),
  settleComment: route({
    access: 'comment',
    method: 'PATCH',
    path: '/projects/{id}/comments/{comment}',
    summary: 'Marks a comment as done, or as open again',
    params: { id, comment: id },
    body: z.object({ done: z.boolean() }),
    reply: p.comment,
  }),
  removeComment: route({
    access: 'comment',
    method: 'DELETE',
    path: '/projects/{id}/comments/{comment}',
    summary: 'Removes a comment of one’s own; owners remove any',
    params: { id, comment: id },
    status: 204,
  }),
  audit: route({
    access: 'server',
    method: 'GET',
    path: '/audit',
    summary: 'What people did beside edits, newest first',
    query: z.object({ most: z.coerce.number().int().min(1).max(1000).default(200) }),
    reply: z.object({ entries: z.array(p.auditRow) }),
  }),
  auditFile: route({
    access: 'server',
    method: 'GET',
    path: '/audit/file',
    summary: 'The whole audit log as CSV',
    download: 'text/csv',
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
