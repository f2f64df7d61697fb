import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue';
import { footprint, scatterSchema, shareInside, type Scatter, type ScatterLine } from '@veldtwind/core/simulation';
import { fingerprint } from '@veldtwind/core/numerics';
import { failureOf } from '@/lib/live';
import { GivenUp, Lane } from '@/worker/lane';
import type { useFlights } from './use-flights';

/** Runs that a worker is given at once: few, so that progress is seen and all end together. */
const BLOCK = 4;
/** Long scatters are kept now and then, so that a reload does not lose them, ms. */
const KEEP_EVERY = 10_000;

/** Many flights of a scenario with scatter, on as many workers as there are cores. */
export function useScatter(flights: ReturnType<typeof useFlights>) {
  const settings = computed<Scatter>(
    () =>
      flights.part.value?.scatter ??
      scatterSchema.parse({ speed: 1, elevationDeg: 2, headingDeg: 2, mass: 0.02, drag: 0.1, slopes: 0.1 }),
  );
  const lines = shallowRef<ScatterLine[]>([]);
  const made = ref('');
  /** What was flown before, also before a reload, as far as it belongs to what is there now. */
  const kept = computed<ScatterLine[]>(() => {
    const thrown = flights.part.value?.thrown;
    return thrown?.print === keyPrint.value
      ? thrown.lines.map(([run, x, y, time, greatestHeight, greatestLoadFactor, ended]) => ({
          run,
          x,
          y,
          time,
          greatestHeight,
          greatestLoadFactor,
          ended: ended as ScatterLine['ended'],
        }))
      : [];
  });
  const running = ref(false);
  const why = ref('');
  let workers: Lane[] = [];
  let jobs: { cancel: () => void }[] = [];
  /** Limits only judge what was flown: it is the same flight without them. */
  const drawn = computed(() => ({ ...settings.value, limits: undefined }));
  const key = computed(() => `${flights.print.value}|${JSON.stringify(drawn.value)}`);
  const inside = computed(() => {
    const [limits, f] = [settings.value.limits, flights.flight.value];
    if (!limits || !f || shown.value.length === 0) return null;
    const last = (name: string) => f.series[f.columns.indexOf(name)].at(-1)!;
    return shareInside(shown.value, limits, { x: last('x'), y: last('y') });
  });
  const keyPrint = computed(() => fingerprint(key.value));
  /** Runs that belong to what is there now. */
  const shown = computed(() =>
    running.value || (made.value === key.value && lines.value.length > 0) ? lines.value : kept.value,
  );
  const stale = computed(
    () => !running.value && shown.value.length === 0 && (lines.value.length > 0 || Boolean(flights.part.value?.thrown)),
  );
  /** Whether some were flown and some are left: they go on from there. */
  const unfinished = computed(
    () => !running.value && shown.value.length > 0 && shown.value.length < settings.value.runs,
  );
  function keep(): void {
    if (made.value !== key.value || lines.value.length === 0) return;
    const round = (v: number) => Number(v.toPrecision(6));
    const thrown = {
      print: keyPrint.value,
      lines: lines.value.map((l): [number, number, number, number, number, number, string] => [
        l.run,
        round(l.x),
        round(l.y),
        round(l.time),
        round(l.greatestHeight),
        round(l.greatestLoadFactor),
        l.ended,
      ]),
    };
    flights.edit(`${lines.value.length} throws flown`, (p) => (p.thrown = thrown));
  }

  async function start(): Promise<void> {
    const flight = flights.flightInput();
    if (!flight || running.value) return;
    why.value = '';
    lines.value = unfinished.value ? shown.value : [];
    running.value = true;
    made.value = key.value;
    const flownAlready = new Set(lines.value.map((l) => l.run));
    const scatter = JSON.parse(JSON.stringify(settings.value)) as Scatter;
    const cores = Math.max(1, Math.min(8, navigator.hardwareConcurrency || 2));
    while (workers.length < cores) workers.push(new Lane());
    let next = 0;
    let keptAt = Date.now();
    const work = async (lane: Lane): Promise<void> => {
      while (running.value && next < scatter.runs) {
        const from = next;
        const to = Math.min(scatter.runs, from + BLOCK);
        next = to;
        const left = Array.from({ length: to - from }, (_, i) => from + i).some((run) => !flownAlready.has(run));
        if (!left) continue;
        const job = lane.run('flight-scatter', { flight, scatter, from, to });
        jobs.push(job);
        const done = await job;
        jobs = jobs.filter((j) => j !== job);
        if (running.value)
          lines.value = [...lines.value, ...done.filter((l) => !flownAlready.has(l.run))].sort((a, b) => a.run - b.run);
        if (running.value && Date.now() - keptAt > KEEP_EVERY) {
          keptAt = Date.now();
          keep();
        }
      }
    };
    try {
      await Promise.all(workers.map(work));
    } catch (error) {
      if (!(error instanceof GivenUp)) why.value = failureOf(error).message;
    }
    if (running.value) {
      running.value = false;
      keep();
    }
  }
  function stop(): void {
    const was = running.value;
    running.value = false;
    if (was) keep();
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
    unfinished,
    why,
    start,
    stop,
    change,
    inside,
    ellipse: computed(() => footprint(shown.value)),
  };
}
