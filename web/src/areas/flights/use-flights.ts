import { computed } from 'vue';
import { toast } from 'vue-sonner';
import { flownScenario, tableSpeed } from '@veldtwind/core/candidate';
import { massProperties } from '@veldtwind/core/balance';
import { VeldtwindError } from '@veldtwind/core/numerics';
import { KEPT_PLACES, MOST_KEPT_FLIGHTS, type KeptFlight, type ScenarioPart } from '@veldtwind/core/project';
import { pushes } from '@veldtwind/core/propulsion';
import { resultKey } from '@veldtwind/core/results';
import { newId } from '@/lib/ids';
import { useLive } from '@/lib/live';
import { useCandidateMotion } from '@/store/candidate-motion';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { lanes } from '@/worker/lane';
import { thinned } from './columns';
import { fromTemplate, type TemplateId } from './templates';

/** The scenario that is looked at, how the candidate that is worked on flies it, and the flights that are kept. */
export function useFlights() {
  const project = useProject();
  const workbench = useWorkbench();
  const preferences = usePreferences();
  const active = computed(() => workbench.active);
  const list = computed(() => Object.values(project.document.scenarios).sort((a, b) => a.name.localeCompare(b.name)));
  const key = computed(() => `scenario-${(project.id ?? '').slice(0, 8)}`);
  const part = computed<ScenarioPart | null>(
    () => list.value.find((s) => s.id === preferences.get<string>(key.value, '')) ?? list.value[0] ?? null,
  );
  const choose = (id: string) => preferences.set(key.value, id);
  const flown = computed(() => {
    if (!part.value || !active.value) return null;
    try {
      return { scenario: flownScenario(part.value, active.value), why: '' };
    } catch (error) {
      if (!(error instanceof VeldtwindError)) throw error;
      return { scenario: null, why: `${error.message} ${error.hint ?? ''}` };
    }
  });
  const speed = computed(() =>
    part.value ? Math.min(400, tableSpeed(part.value.scenario, project.brief.speed)) : project.brief.speed,
  );
  const loading = () => part.value?.loading;
  const { input, needs, missing, withPolars, polars } = useCandidateMotion(() => speed.value, loading, 'flight');
  const tables = useLive(lanes.flight, 'flight-tables', () => (part.value ? input() : null));
  const ground = useLive(lanes.skins, 'flight-ground', () => {
    const of = part.value?.scenario.groundEffect ? input() : null;
    return of && { ...of, polars: null };
  });
  /** The tables that are flown: those read from a file, with the masses of the candidate, or its own. */
  const flownTables = computed(() => {
    const own = tables.value.value;
    const read = part.value?.tables?.tables;
    const flown = own && read ? { ...read, massItems: own.massItems } : own;
    if (!flown || !part.value?.scenario.groundEffect) return flown;
    return ground.value.value ? { ...flown, ground: ground.value.value } : null;
  });
  const flightInput = () => {
    const t = flownTables.value;
    if (!t || !flown.value?.scenario || !active.value) return null;
    const shares = loading() === undefined ? {} : (active.value.loadings?.[loading()!] ?? {});
    return { scenario: flown.value.scenario, tables: t, massItems: t.massItems, loading: shares };
  };
  const run = useLive(lanes.control, 'flight', flightInput);
  const flight = computed(() => (part.value ? run.value.value : null));
  const failure = computed(() =>
    flown.value?.why
      ? { message: flown.value.why }
      : (tables.failure.value ?? ground.failure.value ?? run.failure.value),
  );
  const stale = computed(() => tables.stale.value || ground.stale.value || run.stale.value);
  const print = computed(() =>
    flown.value?.scenario && active.value
      ? resultKey('flight', 0, [
          flown.value.scenario,
          active.value.surfaces,
          active.value.bodies,
          active.value.massItems,
          loading() ?? '',
          ...(part.value?.tables ? [part.value.tables] : []),
        ])
      : '',
  );

  const edit = (label: string, change: (s: ScenarioPart) => void) =>
    project.edit(label, ((draft: { scenarios: Record<string, ScenarioPart> }) => {
      const s = draft.scenarios[part.value?.id ?? ''];
      if (s) change(s);
    }) as never);
  const show = (change: (s: ScenarioPart) => void) =>
    project.show(((draft: { scenarios: Record<string, ScenarioPart> }) => {
      const s = draft.scenarios[part.value?.id ?? ''];
      if (s) change(s);
    }) as never);
  function put(made: ScenarioPart, label: string): void {
    project.edit(label, ((draft: { scenarios: Record<string, ScenarioPart> }) => {
      draft.scenarios[made.id] = made;
    }) as never);
    choose(made.id);
  }
  /** The control that pitches most, by name: for a first scenario. */
  function add(kind: TemplateId): void {
    const c = active.value;
    if (!c) return;
    const controls = c.surfaces
      .filter((s) => s.role === 'tailplane' || s.role === 'foreplane')
      .concat(c.surfaces)
      .flatMap((s) => s.controls ?? [])
      .filter((k) => k.kind === 'symmetric');
    const mass = massProperties(c.massItems);
    const made = fromTemplate(kind, newId(), project.brief, {
      pitch: controls[0]?.name ?? null,
      x: mass?.centre.x ?? 0,
      z: mass?.centre.z ?? 0,
      weight: 9.81 * (mass?.mass ?? 1),
      engine: pushes(c.engine),
      span: Math.max(0.3, ...c.surfaces.map((s) => 2 * s.bays.reduce((sum, b) => sum + b.span, 0))),
    });
    put(made, `New scenario: ${made.name}`);
  }
  function remove(): void {
    const id = part.value?.id;
    if (!id) return;
    project.edit(`Remove ${part.value!.name}`, ((draft: { scenarios: Record<string, unknown> }) => {
      delete draft.scenarios[id];
    }) as never);
  }
  const keptName = computed(() => {
    const c = active.value;
    return c ? `${c.letter} ${c.name}${loading() === undefined ? '' : `, ${loading()}`}` : '';
  });
  /** Whether one of this candidate and loading is kept already. */
  const keptBefore = computed(() => Boolean(part.value?.kept.some((k) => k.name === keptName.value)));
  /** Keeps the flight, beside the others or in the place of one of the same candidate and loading. */
  function keep(overwrite: boolean): void {
    const f = flight.value;
    const c = active.value;
    if (!f || !c) return;
    const places = thinned(f.series[0].length, KEPT_PLACES);
    const s = f.summary;
    const round = (v: number) => Number(v.toPrecision(6));
    const made: KeptFlight = {
      id: newId(),
      name: keptName.value,
      letter: c.letter,
      at: new Date().toISOString(),
      print: print.value.slice(0, 80),
      range: round(s.range),
      time: round(s.time),
      greatestHeight: round(s.greatestHeight),
      greatestSpeed: round(s.greatestSpeed),
      greatestLoadFactor: round(s.greatestLoadFactor),
      ended: s.reason.slice(0, 200),
      columns: f.columns,
      series: f.series.map((v) => places.map((i) => round(v[i]))),
    };
    edit(overwrite ? 'Flight kept in place of the last' : 'Flight kept', (p) => {
      const same = p.kept.findLastIndex((k) => k.name === made.name);
      if (overwrite && same >= 0) p.kept.splice(same, 1, made);
      else p.kept.push(made);
      if (p.kept.length > MOST_KEPT_FLIGHTS) p.kept.shift();
    });
    toast.success('The flight is kept.');
  }
  return {
    active,
    list,
    part,
    choose,
    flown,
    speed,
    needs,
    missing,
    withPolars,
    polars,
    tables,
    flownTables,
    run,
    flight,
    flightInput,
    failure,
    stale,
    print,
    edit,
    show,
    put,
    add,
    remove,
    keep,
    keptBefore,
  };
}
