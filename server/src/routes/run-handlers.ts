import { availableParallelism } from 'node:os';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReplyOf } from '@veldtwind/contract';
import { countOf, curvesOf, MANY_POINTS, SECONDS_A_POINT, type RunPlan } from '@veldtwind/core/polar';
import { writeCurveSet } from '@veldtwind/runs/set-file';
import { readCurveSet } from '@veldtwind/store/curve-file';
import { projectFileName } from '@veldtwind/store/project-file/write';
import type { RunRow } from '@veldtwind/store/runs';
import { HttpError } from '../http/errors';
import { spooled } from '../http/spool';
import { personOf } from '../people/identity';
import type { ApiParts } from './handlers';
import { Download, JsonText, type Asked, type Handlers } from './router';

type RunRoutes =
  | 'exportCurves'
  | 'importCurves'
  | 'listRuns'
  | 'startRun'
  | 'closeIn'
  | 'estimateRun'
  | 'changeRun'
  | 'removeRun'
  | 'listCurves'
  | 'curvePoints'
  | 'storedPoint';

/** A list in an object, as JSON piece by piece. */
async function* listed(name: string, items: AsyncIterable<string>): AsyncGenerator<string> {
  let text = `{"${name}":[`;
  let first = true;
  for await (const item of items) {
    text += first ? item : `,${item}`;
    first = false;
    if (text.length < 64_000) continue;
    yield text;
    text = '';
  }
  yield `${text}]}`;
}

/** What the routes of runs and curves do. */
export function runHandlers(p: ApiParts): Pick<Handlers, RunRoutes> {
  const { runs, engine, projects } = p;
  const runOf = (project: string, id: string): RunRow => {
    const run = runs.run(id);
    if (run?.projectId !== project) throw new HttpError(404, 'not-found', 'There is no such run in this project.');
    return run;
  };
  const sign = (run: string, res: Asked<'startRun'>['res']) => {
    const person = personOf(res);
    if (person) runs.sign(run, person.name);
  };
  const estimate = async (plan: RunPlan) => {
    const points = countOf(plan);
    const known = points > MANY_POINTS ? 0 : await runs.knownInSlices(plan);
    return {
      points,
      known,
      sweeps: points > MANY_POINTS ? 0 : curvesOf(plan),
      seconds: ((points - known) * SECONDS_A_POINT) / availableParallelism(),
    };
  };
  return {
    listRuns: ({ params }) => {
      projects.row(params.id);
      return { runs: runs.runs(params.id), notice: engine.notice, automatic: p.automaticPolars };
    },
    startRun: async ({ params, body, res }) => {
      projects.row(params.id);
      const { points, seconds } = await estimate(body.plan);
      if (points > MANY_POINTS && !body.many)
        throw new HttpError(
          422,
          'many-points',
          `The plan asks for ${points} points: about ${Math.ceil(seconds / 60)} minutes.`,
          'Say that so many are meant, or use fewer.',
        );
      const run = await engine.submitInSlices(params.id, body.name, body.plan, body.priority);
      sign(run.id, res);
      p.health.wrote();
      return runs.run(run.id) ?? run;
    },
    exportCurves: ({ params, query }) => {
      const { name } = projects.row(params.id);
      const asked = query.curves?.split(',').map(Number);
      const curves = runs.curves(params.id, asked).filter((c) => c.points > 0);
      if (curves.length === 0)
        throw new HttpError(422, 'no-curves', 'There are no curves to export.', 'Run some first.');
      return new Download(
        projectFileName(name).replace('.veldtwind.zip', '.curves.zip'),
        writeCurveSet(
          runs,
          curves,
          name,
          async (curve, states) =>
            JSON.parse(await p.pool.run('stored-tables', JSON.stringify({ curve, states }))) as (string | null)[],
        ),
      );
    },
    importCurves: async ({ params, req }) => {
      projects.row(params.id);
      const made = await spooled(req, (path) => readCurveSet(p.db, runs, params.id, path));
      p.health.wrote();
      p.events.send(params.id, 'runs', { run: made.run, curves: [] });
      return made;
    },
    closeIn: ({ params, body, res }) => {
      projects.row(params.id);
      const run = engine.closeIn(params.id, body.curves);
      if (!run)
        throw new HttpError(
          422,
          'nothing-unsolved',
          'No curve has an unsolved stretch with a smaller step left to try.',
          'Choose curves with unsolved points beside solved ones.',
        );
      p.health.wrote();
      sign(run.id, res);
      return runs.run(run.id) ?? run;
    },
    estimateRun: ({ params, body }) => {
      projects.row(params.id);
      return estimate(body.plan);
    },
    changeRun: ({ params, body }) => {
      const run = runOf(params.id, params.run);
      if (body.priority !== undefined) engine.setPriority(run.id, body.priority);
      if (body.state !== undefined) {
        if (run.state === 'finished' && !(body.state === 'running' && run.failed > 0))
          throw new HttpError(409, 'run-finished', 'The run has come to its end already.');
        engine.setState(run.id, body.state);
      }
      return runOf(params.id, params.run);
    },
    removeRun: async ({ params }) => {
      await engine.remove(runOf(params.id, params.run).id);
    },
    listCurves: async ({ params, query, res }) => {
      projects.row(params.id);
      const rows = runs.curvesText(params.id, query.curves?.split(',').map(Number));
      res.type('json');
      await pipeline(Readable.from(listed('curves', rows)), res).catch((error: NodeJS.ErrnoException) => {
        if (error.code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
      });
    },
    curvePoints: ({ params, query }) => {
      projects.row(params.id);
      const curves = [...new Set(query.curves.split(',').map(Number))].filter((id) => runs.has(params.id, id));
      return { curves: curves.map((id) => ({ id, points: runs.points(id) })) } as ReplyOf<'curvePoints'>;
    },
    storedPoint: async ({ params }) => {
      projects.row(params.id);
      const curve = runs.has(params.id, Number(params.curve)) ? runs.curve(Number(params.curve)) : undefined;
      const state = curve && runs.stateText(curve.id, Number(params.place));
      if (!curve || state === undefined)
        throw new HttpError(404, 'not-found', 'There is no solved point there that can be read again.');
      return new JsonText(await p.pool.run('stored-point', JSON.stringify({ curve: curve.input, state })));
    },
  };
}
