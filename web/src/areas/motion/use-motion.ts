import { computed } from 'vue';
import { inputsOfMotion } from '@veldtwind/core/candidate';
import { withSetting } from '@veldtwind/core/project';
import { useLive } from '@/lib/live';
import { useLiveEach } from '@/lib/live-each';
import { useNeededPolars, type NeededPolar } from '@/store/needed-polars';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { lanes } from '@/worker/lane';

/** Speeds of the path that roots take, as shares of the speed. */
const PATH = Array.from({ length: 9 }, (_, i) => 0.7 + (0.7 * i) / 8);

/** Motion of the candidates that are looked at, and the path of the roots of the one that is worked on over speed. */
export function useMotion(
  speed: () => number,
  loadingOf: (id: string) => string | undefined,
  /** What the roots are followed over: the speed, or a change by its id. */
  follow: () => string,
  /** The control setting that each is looked at with; nothing: as drawn. */
  settingOf: (id: string) => string | undefined = () => undefined,
) {
  const project = useProject();
  const workbench = useWorkbench();
  const polars = useNeededPolars();
  const needs = computed(
    () => new Map(workbench.visible.map((c) => [c.id, polars.needed(c, [speed()])] as [string, NeededPolar[]])),
  );
  const missing = (id: string) => (needs.value.get(id) ?? []).filter((n) => !polars.isThere(n));
  /** The document with a candidate's controls in the setting that is looked at. */
  const documentOf = (id: string) => {
    const [candidate, setting] = [project.document.candidates[id], settingOf(id)];
    if (!candidate || !setting) return project.document;
    return {
      ...project.document,
      candidates: { ...project.document.candidates, [id]: withSetting(candidate, setting) },
    };
  };
  const input = (id: string) => {
    const candidate = project.document.candidates[id];
    if (!candidate || candidate.surfaces.length === 0 || candidate.massItems.length === 0) return null;
    if (!polars.listed) return null;
    return inputsOfMotion(documentOf(id), id, speed(), loadingOf(id), polars.forMethod(candidate, [speed()]));
  };
  const answers = useLiveEach(() => workbench.visible.map((c) => c.id), lanes.motion, 'motion', input);
  // Where polars are there the path has them too; at other speeds the nearest Reynolds number stands in.
  const path = useLive(lanes.skins, 'motion-path', () => {
    const id = workbench.active?.id;
    const of = id && follow() === 'speed' ? input(id) : null;
    return of ? { of, speeds: PATH.map((s) => Number((s * speed()).toFixed(2))) } : null;
  });
  const changePath = useLive(lanes.skins, 'motion-change-path', () => {
    const id = workbench.active?.id;
    const of = id && follow() !== 'speed' ? input(id) : null;
    return of ? { of, change: follow() } : null;
  });
  // What changes do follows when values have come to rest: it is many trims.
  const effects = useLive(lanes.aircraft, 'motion-effects', () => {
    const id = workbench.active?.id;
    const of = id ? input(id) : null;
    return of ? { of } : null;
  });
  const methods = useLive(lanes.aircraft, 'motion-methods', () => {
    const id = workbench.active?.id;
    const of = id ? input(id) : null;
    return of?.polars ? { of } : null;
  });
  const flown = useLive(lanes.aircraft, 'motion-flown', () => {
    const id = workbench.active?.id;
    const of = id ? input(id) : null;
    return of ? { of: { ...of, polars: null } } : null;
  });
  /** Quantities that two methods tell. */
  const pairs = computed(() => [methods, flown].flatMap((m) => (!m.failure.value && m.value.value) || []));
  const of = (id: string) => answers.of(id)?.value.value ?? null;
  const failureOf = (id: string) => answers.of(id)?.failure.value ?? null;
  const msOf = (id: string) => answers.of(id)?.ms.value ?? 0;
  return { of, input, documentOf, failureOf, msOf, path, changePath, effects, pairs, needs, missing, polars };
}
