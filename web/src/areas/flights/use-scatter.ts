import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue';
import { footprint, scatterSchema, type Scatter, type ScatterLine } from '@veldtwind/core/simulation';
import { failureOf } from '@/lib/live';
import { GivenUp, Lane } from '@/worker/lane';
import type { useFlights } from './use-flights';

/** Runs that a worker is given at once: few, so that progress is seen and all end together. */
const BLOCK = 4;

/** Many flights of a scenario with scatter, on as many workers as there are cores. */
export function useScatter(flights: ReturnType<typeof useFlights>) {
  const settings = computed<Scatter>(
    () =>
      flights.part.value?.scatter ??
      scatterSchema.parse({ speed: 1, elevationDeg: 2, headingDeg: 2, mass: 0.02, drag: 0.1, slopes: 0.1 }),
  );
  const lines = shallowRef<ScatterLine[]>([]);
  const made = ref('');
  const running = ref(false);
  const why = ref('');
  let workers: Lane[] = [];
  let jobs: { cancel: () => void }[] = [];
  const key = computed(() => `${flights.print.value}|${JSON.stringify(settings.value)}`);
  /** Runs that belong to what is there now. */
  const shown = computed(() => (made.value === key.value || running.value ? lines.value : []));
  const stale = computed(() => lines.value.length > 0 && made.value !== key.value && !running.value);

  async function start(): Promise<void> {
    const flight = flights.flightInput();
    if (!flight || running.value) return;
    running.value = true;
    why.value = '';
    lines.value = [];
    made.value = key.value;
    const scatter = JSON.parse(JSON.stringify(settings.value)) as Scatter;
    const cores = Math.max(1, Math.min(8, navigator.hardwareConcurrency || 2));
    while (workers.length < cores) workers.push(new Lane());
    let next = 0;
    const work = async (lane: Lane): Promise<void> => {
      while (running.value && next < scatter.runs) {
        const from = next;
        const to = Math.min(scatter.runs, from + BLOCK);
        next = to;
        const job = lane.run('flight-scatter', { flight, scatter, from, to });
        jobs.push(job);
        const done = await job;
        jobs = jobs.filter((j) => j !== job);
        if (running.value) lines.value = [...lines.value, ...done].sort((a, b) => a.run - b.run);
      }
    };
    try {
      await Promise.all(workers.map(work));
    } catch (error) {
      if (!(error instanceof GivenUp)) why.value = failureOf(error).message;
    }
    running.value = false;
  }
  function stop(): void {
    running.value = false;
    for (const j of jobs) j.cancel();
    jobs = [];
  }
  watch(
    () => flights.part.value?.id,
    () => {
      stop();
      lines.value = [];
    },
  );
  onScopeDispose(() => {
    stop();
    for (const w of workers) w.restart();
    workers = [];
  });
  const change = (label: string, edit: (s: Scatter) => void) =>
    flights.edit(label, (p) => {
      const next = JSON.parse(JSON.stringify(settings.value)) as Scatter;
      edit(next);
      p.scatter = next;
    });
  return {
    settings,
    lines: shown,
    running,
    stale,
    why,
    start,
    stop,
    change,
    ellipse: computed(() => footprint(shown.value)),
  };
}
