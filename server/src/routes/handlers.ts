import {
  LONGEST_PREFERENCE,
  openApiDocument,
  TAB_HEADER,
  tabName,
  type Applied,
  type ReplyOf,
} from '@veldtwind/contract';
import { checkedInputOf, keyOfResult, REMOTE_KINDS, versionOf, type AnalysisKind } from '@veldtwind/core/analysis';
import { projectPicture } from '@veldtwind/core/layouts';
import { freshProject, readDocument } from '@veldtwind/core/project';
import { canonicalJson } from '@veldtwind/core/results';
import type { ComputePool } from '../compute/pool';
import type { RunEngine } from '@veldtwind/runs/engine';
import { AnothersStep, type By } from '@veldtwind/store/projects';
import type { RunStore } from '@veldtwind/store/runs';
import type { ReportStore } from '@veldtwind/store/reports/issues';
import type { StudyStore } from '@veldtwind/store/studies';
import type { VersionStore } from '@veldtwind/store/versions';
import { LARGEST_KEPT, type KeptResults } from '@veldtwind/store/kept-results';
import type { PreferenceStore, ResultStore } from '@veldtwind/store/results';
import type { StudyRunner } from '../studies';
import { HttpError } from '../http/errors';
import { lateness } from '../http/lateness';
import { noRoom } from '../http/trouble';
import { spooled } from '../http/spool';
import type { StoreHealth } from '../http/trouble';
import { runHandlers } from './run-handlers';
import { reportHandlers } from './report-handlers';
import { studyHandlers } from './study-handlers';
import { peopleHandlers, type PeopleParts } from '../people/handlers';
import { addressOf, personOf } from '../people/identity';
import { readProjectFile } from '@veldtwind/store/project-file/read';
import { projectFileName, writeProjectFile } from '@veldtwind/store/project-file/write';
import type { Db } from '@veldtwind/store/open';
import { sampleOf, sampleRow, type SampleFile } from './samples';
import { Download, JsonText, type Asked, type Handlers } from './router';

export interface ApiParts extends PeopleParts {
  db: Db;
  versions: VersionStore;
  results: ResultStore;
  kept: KeptResults;
  preferences: PreferenceStore;
  pool: ComputePool;
  runs: RunStore;
  engine: RunEngine;
  studies: StudyStore;
  reports: ReportStore;
  runner: StudyRunner;
  /** Whether polars may be computed that nobody asked for. */ automaticPolars: boolean;
  health: StoreHealth;
  /** The demo project's document. */
  demo: () => { name: string; document: unknown };
  /** The sample aircraft. */
  samples: () => readonly SampleFile[];
  version: string;
}

/** Nesting of a value that is taken; deeper ones say nothing that anyone meant. */
const DEEPEST = 32;
const tooDeep = (value: unknown, left = DEEPEST): boolean =>
  value !== null && typeof value === 'object' && (left === 0 || Object.values(value).some((v) => tooDeep(v, left - 1)));

type Who = Pick<Asked<'createProject'>, 'res' | 'req'>;

/** Who asks, as the history names them. */
const byOf = (res: Asked<'edit'>['res']): By | null => {
  const person = personOf(res);
  return person && { id: person.id, name: person.name };
};

/** Bytes in pieces that a stream takes. */
async function* chunksOf(content: Uint8Array): AsyncGenerator<Uint8Array> {
  for (let i = 0; i < content.length; i += 65536) yield content.subarray(i, i + 65536);
}

/** What every route does. */
export function handlersOf(p: ApiParts): Handlers {
  const started = Date.now();
  const { projects, events } = p;

  /** Tells everybody who has the project open what an edit came to. */
  const told = (
    { req, res, params }: Asked<'edit' | 'undo' | 'redo' | 'restoreVersion'>,
    applied: Applied,
  ): Applied => {
    const from = tabName.safeParse(req.get(TAB_HEADER) ?? '');
    p.health.wrote();
    if (!applied.repeated)
      events.send(params.id, 'changed', {
        ...applied,
        from: from.success && from.data !== '' ? from.data : null,
        by: byOf(res),
      });
    return applied;
  };
  const listenerOf = (res: Asked<'events'>['res']) => {
    const person = personOf(res);
    return { person: person?.id ?? null, mayRead: (project: string) => p.access.mayRead(project, person) };
  };
  const step = (way: 'undo' | 'redo') => (asked: Asked<'undo' | 'redo'>) => {
    const { baseVersion, anothers } = asked.body;
    let applied: Applied | null;
    try {
      applied = projects.step(asked.params.id, baseVersion, way, byOf(asked.res), anothers);
    } catch (error) {
      if (!(error instanceof AnothersStep)) throw error;
      throw new HttpError(409, 'anothers-step', error.message, 'Ask for it once more if you mean theirs.');
    }
    if (!applied) throw new HttpError(409, `nothing-to-${way}`, `There is nothing to ${way}.`);
    return told(asked, applied);
  };

  /** Writes down what somebody did with a whole project, where people have names. */
  const noted = ({ req, res }: Who, action: string, project: string, detail?: string) => {
    const person = personOf(res);
    if (person) p.people.note(person, action, { project, detail, address: addressOf(req) });
  };
  /** Whoever makes a project owns it. */
  const owned = (asked: Who, id: string, how: string) => {
    const person = personOf(asked.res);
    if (person && !person.keeper) p.people.setRole(id, person.id, 'own');
    noted(asked, how, id);
  };

  const counted = { given: 0, kept: 0 };
  return {
    ...peopleHandlers(p),
    health: () => {
      const trouble = p.health.trouble ?? noRoom(p.db.name);
      return {
        status: trouble ? ('failing' as const) : ('ok' as const),
        version: p.version,
        uptimeSeconds: Math.round((Date.now() - started) / 1000),
        projects: projects.list().length,
        results: { ...counted },
        loop: lateness(),
        ...(trouble ? { trouble } : {}),
      };
    },
    openapi: () => openApiDocument(p.version),
    listProjects: ({ res }) => ({
      projects: projects.list().filter((row) => p.access.mayRead(row.id, personOf(res))),
    }),
    createProject: (asked) => {
      const { body } = asked;
      const document =
        body.document !== undefined
          ? readDocument(body.document)
          : body.from === 'demo'
            ? readDocument(p.demo().document)
            : body.from === 'sample'
              ? readDocument(sampleOf(p.samples(), body.sample).document)
              : freshProject();
      const made = projects.create(body.name, document);
      owned(asked, made.id, 'project made');
      return made as ReplyOf<'createProject'>;
    },
    listSamples: () => ({ samples: p.samples().map(sampleRow) }),
    projectPicture: ({ params }) => ({ lines: projectPicture(projects.documentWithoutLibrary(params.id)) }),
    openProject: ({ params, query, res }) =>
      new JsonText(projects.stateText(params.id, query.points === 'packed', byOf(res))),
    renameProject: ({ params, body }) => {
      const row = projects.rename(params.id, body.name);
      events.send(row.id, 'renamed', { name: row.name });
      return row;
    },
    removeProject: async (asked) => {
      const { params } = asked;
      const { name } = projects.row(params.id);
      for (const { id } of p.runs.runs(params.id)) await p.engine.remove(id);
      projects.remove(params.id);
      noted(asked, 'project removed', params.id, name);
      events.send(params.id, 'removed', {});
    },
    exportProject: (asked) => {
      const { params } = asked;
      noted(asked, 'project exported', params.id);
      return new Download(projectFileName(projects.row(params.id).name), writeProjectFile(p.db, params.id));
    },
    listVersions: ({ params }) => ({ versions: p.versions.list(params.id) }),
    keepVersion: ({ params, body, res }) => {
      const made = p.versions.keep(params.id, body.name, byOf(res));
      p.health.wrote();
      return made;
    },
    restoreVersion: (asked) =>
      told(asked, p.versions.restore(asked.params.id, asked.params.kept, asked.body.baseVersion, byOf(asked.res))),
    forgetVersion: ({ params }) => p.versions.remove(params.id, params.kept),
    exportAirframe: async ({ params, query, res }) => {
      const gone = new AbortController();
      res.on('close', () => gone.abort());
      const { name } = projects.row(params.id);
      const made = await p.pool.exportAirframe(
        projects.partText(params.id, `candidate:${params.candidate}`),
        JSON.stringify(projects.sectionsOf(params.id, params.candidate)),
        query,
        gone.signal,
        personOf(res)?.id,
      );
      const file = `${name} ${made.letter} ${made.what}`.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-+|-+$/g, '');
      return new Download(`${file}.${query.as}`, chunksOf(made.content), made.type, made.notes);
    },
    importProject: async (asked) => {
      const made = await spooled(asked.req, (path) => readProjectFile(p.db, path));
      owned(asked, made.id, 'project read from a file');
      p.health.wrote();
      return made;
    },
    readPart: ({ params }) => new JsonText(projects.partText(params.id, params.key)),
    changesSince: ({ params, query, res }) =>
      projects.since(params.id, query.version, byOf(res)) as ReplyOf<'changesSince'>,
    edit: (asked) => {
      const { baseVersion, label, changes, editId } = asked.body;
      return told(asked, projects.edit(asked.params.id, baseVersion, label, changes, editId, byOf(asked.res)));
    },
    undo: step('undo'),
    redo: step('redo'),
    history: ({ params, query }) => ({ edits: projects.history(params.id, query.most) }) as ReplyOf<'history'>,
    ...runHandlers(p),
    ...studyHandlers(p),
    ...reportHandlers(p),
    events: ({ params, res }) => {
      projects.row(params.id);
      events.subscribe(params.id, res, listenerOf(res));
    },
    allEvents: ({ res }) => events.subscribe(null, res, listenerOf(res)),
    compute: async ({ params, body, res }) => {
      if (!REMOTE_KINDS.includes(params.kind as AnalysisKind))
        throw new HttpError(
          404,
          'not-found',
          `There is no analysis "${params.kind}".`,
          `There are: ${REMOTE_KINDS.join(', ')}.`,
        );
      const kind = params.kind as AnalysisKind;
      const input = checkedInputOf(kind, body);
      const key = keyOfResult(kind, input as never);
      const known = p.results.get(key);
      if (known !== undefined) return new JsonText(`{"key":"${key}","computed":false,"output":${known}}`);
      const gone = new AbortController();
      res.on('close', () => gone.abort());
      const text = canonicalJson(input);
      const output = await p.pool.run(kind, text, gone.signal, personOf(res)?.id);
      p.results.put(key, kind, versionOf(kind), text, output);
      return new JsonText(`{"key":"${key}","computed":true,"output":${output}}`);
    },
    result: ({ params }) => {
      const output = p.results.get(params.key);
      if (output === undefined)
        throw new HttpError(404, 'not-found', 'There is no result with this key.', 'Ask for it with POST /results.');
      return new JsonText(`{"key":"${params.key}","output":${output}}`);
    },
    keptKeys: ({ params }) => {
      projects.row(params.id);
      return { keys: p.kept.keys(params.id) };
    },
    keptResult: ({ params }) => {
      projects.row(params.id);
      const bytes = p.kept.get(params.id, params.key);
      if (!bytes)
        throw new HttpError(404, 'not-found', 'There is no result with this key.', 'Compute it; it is kept then.');
      counted.given++;
      return new Download(`${params.key}.bin`, chunksOf(bytes));
    },
    keepResult: async ({ params, req }) => {
      projects.row(params.id);
      const pieces: Buffer[] = [];
      let size = 0;
      for await (const piece of req as AsyncIterable<Buffer>) {
        size += piece.length;
        if (size > LARGEST_KEPT)
          throw new HttpError(413, 'too-large', 'The result is larger than 4 MB.', 'It stays in the page alone.');
        pieces.push(piece);
      }
      p.kept.put(params.id, params.key, params.kind, Buffer.concat(pieces));
      counted.kept++;
    },
    preferences: ({ res }) => p.preferences.all(personOf(res)?.id),
    setPreference: ({ params, body, res }) => {
      if (body.value === undefined) throw new HttpError(400, 'invalid', 'value: is missing.');
      if (tooDeep(body.value)) throw new HttpError(400, 'invalid', `value: is nested more than ${DEEPEST} deep.`);
      if (JSON.stringify(body.value).length > LONGEST_PREFERENCE)
        throw new HttpError(413, 'too-large', 'A preference is at most 20 kB.');
      p.preferences.put(params.key, body.value, personOf(res)?.id);
      return { key: params.key, value: body.value };
    },
  };
}
