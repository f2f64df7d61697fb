import { computed, ref, watch } from 'vue';
import { toast } from 'vue-sonner';
import { FIT_PARAMETERS, type FitParameter } from '@veldtwind/core/candidate';
import { VeldtwindError } from '@veldtwind/core/numerics';
import { readObservedPath } from '@veldtwind/core/observed';
import { OBSERVED_PLACES } from '@veldtwind/core/project';
import { useLive } from '@/lib/live';
import { usePreferences } from '@/store/preferences';
import { lanes } from '@/worker/lane';
import { thinned } from './columns';
import type { useFlights } from './use-flights';

const MOST_NOTES = 12;

/** An observed flight of the scenario, and numbers of the throw that are fitted to it. */
export function useObserved(flights: ReturnType<typeof useFlights>) {
  const preferences = usePreferences();
  const observed = computed(() => flights.part.value?.observed ?? null);
  const fit = computed({
    // Earlier versions kept it with the browser.
    get: () => observed.value?.fit ?? preferences.get<FitParameter[]>('flight-fit', ['speed', 'elevation', 'drag']),
    set: (v) =>
      flights.edit('What is fitted', (s) => {
        if (s.observed) s.observed.fit = v;
      }),
  });
  const toggle = (id: FitParameter) => {
    const on = fit.value.includes(id) ? fit.value.filter((f) => f !== id) : [...fit.value, id];
    if (on.length > 0) fit.value = (Object.keys(FIT_PARAMETERS) as FitParameter[]).filter((k) => on.includes(k));
  };
  /** Which figure is looked at. */
  const picture = ref<'flown' | 'observed'>('flown');
  watch(observed, (o) => o === null && (picture.value = 'flown'));
  const live = useLive(
    lanes.fit,
    'flight-fit',
    () => {
      const [o, tables, part] = [observed.value, flights.flownTables.value, flights.part.value];
      if (!o || !tables || !part) return null;
      const { ground, launch } = part.scenario;
      const shares = part.loading === undefined ? {} : (flights.active.value?.loadings?.[part.loading] ?? {});
      return {
        observed: { t: o.t, x: o.x, height: o.height },
        tables,
        settings: { fit: fit.value, altitude: ground + launch.height, loading: shares },
      };
    },
    true,
  );
  async function read(file: File): Promise<void> {
    try {
      if (file.size > 8e6) throw new Error('The file is larger than 8 MB: leave out rows.');
      const path = readObservedPath(await file.text());
      const places = thinned(path.t.length, OBSERVED_PLACES);
      const of = (list: readonly number[]) => places.map((i) => list[i]);
      const gaps = path.gaps.map((g) => `gap of ${g.length.toFixed(2)} s at ${g.at.toFixed(2)} s`);
      flights.edit(`Observed flight ${file.name}`, (s) => {
        s.observed = {
          name: file.name.slice(0, 120),
          t: of(path.t),
          x: of(path.x),
          height: of(path.height),
          notes: [...path.notes, ...gaps].slice(0, MOST_NOTES).map((n) => n.slice(0, 400)),
        };
      });
      picture.value = 'observed';
    } catch (error) {
      const said = error instanceof VeldtwindError ? `${error.message} ${error.hint ?? ''}` : (error as Error).message;
      toast.error('The flight was not read', { description: said, duration: 8000 });
    }
  }
  const remove = () => flights.edit('Remove the observed flight', (s) => delete s.observed);
  /** The launch of the scenario as it was fitted, its wind too. */
  function take(): void {
    const found = live.value.value;
    if (!found) return;
    const of = (id: FitParameter) => found.parameters.find((p) => p.id === id)?.value;
    flights.edit('Launch as observed', (s) => {
      const { launch } = s.scenario;
      const [speed, elevation, wind] = [of('speed'), of('elevation'), of('wind')];
      s.scenario.launch = {
        kind: 'hand',
        bankDeg: 0,
        alphaDeg: 0,
        betaDeg: 0,
        spin: { p: 0, q: 0, r: 0 },
        headingDeg: launch.headingDeg,
        height: launch.height,
        speed: Number((speed ?? ('speed' in launch ? launch.speed : 10)).toPrecision(4)),
        elevationDeg: Number((elevation ?? ('elevationDeg' in launch ? launch.elevationDeg : 0)).toFixed(2)),
      };
      if (wind !== undefined)
        s.scenario.wind = {
          up: 0,
          speed: Number(Math.abs(wind).toPrecision(3)),
          fromDeg: ((launch.headingDeg + (wind > 0 ? 0 : 180) + 180) % 360) - 180,
        };
    });
  }
  return { observed, fit, toggle, picture, live, read, remove, take };
}
export type Observed = ReturnType<typeof useObserved>;
