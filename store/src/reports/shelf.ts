import type { PolarShelf } from '@veldtwind/core/candidate';
import type { ViscousPoint } from '@veldtwind/core/section-flow';
import type { Db } from '../open';
import { RunStore } from '../runs';

/** Curves of a project in its database, for as long as that is open. */
export function projectShelf(db: Db, projectId: string): PolarShelf {
  const runs = new RunStore(db);
  const points = new Map<number, readonly ViscousPoint[]>();
  const curves = runs.curves(projectId).map(({ id, key, version, input }) => ({ id, key, version, input }));
  return {
    curves: () => curves,
    points(id) {
      let own = points.get(id);
      if (!own) points.set(id, (own = runs.points(id).map((p) => p.point)));
      return own;
    },
  };
}
