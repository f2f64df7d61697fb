import { gridSize, MOST_TRIES } from '@veldtwind/core/studies';
import type { StudyRow } from '@veldtwind/store/studies';
import { HttpError } from '../http/errors';
import { personOf } from '../people/identity';
import type { ApiParts } from './handlers';
import { JsonText, type Handlers } from './router';

type StudyRoutes = 'listStudies' | 'startStudy' | 'readStudy' | 'changeStudy' | 'removeStudy';

/** What the routes of studies do. */
export function studyHandlers(p: ApiParts): Pick<Handlers, StudyRoutes> {
  const { studies, runner, projects } = p;
  const studyOf = (project: string, id: string): StudyRow => {
    const study = studies.row(id);
    if (study?.projectId !== project) throw new HttpError(404, 'not-found', 'There is no such study in this project.');
    return study;
  };
  return {
    listStudies: ({ params }) => {
      projects.row(params.id);
      return { studies: studies.list(params.id) };
    },
    startStudy: ({ params, body, res }) => {
      projects.row(params.id);
      const { plan } = body.input;
      const planned = plan.kind === 'grid' ? gridSize(plan.variables) : (plan.budget ?? 0);
      if (planned > MOST_TRIES)
        throw new HttpError(
          422,
          'many-tries',
          `The plan asks for ${planned} tries; ${MOST_TRIES} are the most.`,
          'Give fewer steps or a smaller budget.',
        );
      const made = studies.add(
        {
          projectId: params.id,
          candidate: body.candidate,
          name: body.name,
          kind: plan.kind,
          by: personOf(res)?.name ?? null,
        },
        JSON.stringify(body.input),
      );
      p.health.wrote();
      p.events.send(params.id, 'studies', { study: made });
      runner.next();
      return made;
    },
    readStudy: ({ params, query }) => {
      const study = studyOf(params.id, params.study);
      const input = studies.input(study.id);
      const asked = JSON.parse(input ?? '{}') as { plan?: unknown; polars?: unknown };
      const plan = JSON.stringify(asked.plan ?? null);
      const method = asked.polars ? 'polars' : 'lattice';
      const tries = studies.tries(study.id, query.from).join();
      return new JsonText(
        `{"study":${JSON.stringify(study)},"plan":${plan},"method":"${method}","result":${studies.result(study.id) ?? 'null'},"tries":[${tries}]}`,
      );
    },
    changeStudy: ({ params, body }) => {
      const study = studyOf(params.id, params.study);
      if (study.state === 'finished')
        throw new HttpError(409, 'study-finished', 'The study has come to its end already.');
      return runner.setState(study.id, body.state);
    },
    removeStudy: ({ params }) => {
      runner.remove(studyOf(params.id, params.study).id);
    },
  };
}
