import { computed } from 'vue';
import { toast } from 'vue-sonner';
import { inputsOfMotion, type AirframeMotion, type DerivativeEstimate } from '@veldtwind/core/candidate';
import { condensed, readResponseRecord, steadyOf } from '@veldtwind/core/estimation';
import type { FieldLimit } from '@veldtwind/core/limits';
import { DEG, VeldtwindError } from '@veldtwind/core/numerics';
import { BRIEF_LIMITS, CLIMB_LIMIT, RECORD_ROWS, type FlightRecordPart } from '@veldtwind/core/project';
import { newId } from '@/lib/ids';
import { useLive } from '@/lib/live';
import { useNeededPolars } from '@/store/needed-polars';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import { lanes } from '@/worker/lane';

const MOST_NOTES = 12;
const MOST_BYTES = 16e6;
/** Digits that no sensor has. */
const round = (v: number) => Number(v.toPrecision(7));
const clampTo = ({ min, max }: FieldLimit, v: number) => Math.min(max, Math.max(min, v));
type Draft = { flightRecords: Record<string, FlightRecordPart> };

/** Records of flights, and the derivatives that the chosen one tells of the active candidate. @param on whether somebody looks at them. */
export function useRecord(own: () => AirframeMotion | null, speed: () => number, on: () => boolean) {
  const project = useProject();
  const workbench = useWorkbench();
  const preferences = usePreferences();
  const polars = useNeededPolars();
  const list = computed(() => Object.values(project.document.flightRecords));
  const record = computed(() => {
    const id = preferences.get<string>('motion-record', '');
    return list.value.find((r) => r.id === id) ?? list.value[0] ?? null;
  });
  const choose = (id: string) => preferences.set('motion-record', id);
  const live = useLive(
    lanes.fit,
    'derivative-estimate',
    () => {
      const [r, candidate] = [record.value, workbench.active];
      if (!r || !candidate || !on() || !polars.listed) return null;
      if (candidate.surfaces.length === 0 || candidate.massItems.length === 0) return null;
      const of = inputsOfMotion(
        project.document,
        candidate.id,
        r.speed,
        r.loading,
        polars.forMethod(candidate, [r.speed]),
      );
      const { t, outputs, controls, climbDeg, motion, from, to, estimated } = r;
      return {
        of: { ...of, altitude: r.altitude },
        record: { t, outputs, controls },
        climbDeg,
        ...(motion && { motion }),
        ...(estimated && { names: estimated }),
        ...(from !== undefined && { from }),
        ...(to !== undefined && { to }),
      };
    },
    true,
  );
  const found = computed<DerivativeEstimate | null>(() =>
    record.value && !live.failure.value ? (live.value.value ?? null) : null,
  );
  const edit = (label: string, change: (r: FlightRecordPart) => void) => {
    const id = record.value?.id;
    if (id)
      void project.edit(label, ((draft: Draft) => {
        if (draft.flightRecords[id]) change(draft.flightRecords[id]);
      }) as never);
  };
  function remove(): void {
    const r = record.value;
    if (r) void project.edit(`Remove ${r.name}`, ((draft: Draft) => delete draft.flightRecords[r.id]) as never);
  }
  async function read(file: File): Promise<void> {
    try {
      if (file.size > MOST_BYTES) throw new Error('The file is larger than 16 MB: leave out rows or columns.');
      const controls = Object.keys(own()?.derivatives.controls ?? {}).map((name) => ({ id: name, name }));
      const whole = condensed(readResponseRecord(await file.text(), controls), RECORD_ROWS);
      const steady = steadyOf(whole);
      const lists = <K extends string>(of: Partial<Record<K, number[]>>) =>
        Object.fromEntries(Object.entries<number[] | undefined>(of).map(([k, v]) => [k, v!.map(round)]));
      const id = newId();
      const made: FlightRecordPart = {
        id,
        name: file.name.slice(0, 120),
        speed: clampTo(BRIEF_LIMITS.speed, round(steady.speed ?? speed())),
        altitude: project.brief.altitude,
        climbDeg: clampTo(CLIMB_LIMIT, Number(((steady.climb ?? 0) * DEG).toFixed(2))),
        t: whole.t.map(round),
        outputs: lists(whole.outputs),
        controls: lists(whole.controls) as Record<string, number[]>,
        notes: whole.notes.slice(0, MOST_NOTES).map((n) => n.slice(0, 400)),
      };
      await project.edit(
        `Flight record ${file.name}`,
        ((draft: Draft) => void (draft.flightRecords[id] = made)) as never,
      );
      choose(id);
      preferences.set('motion-view', 'record');
    } catch (error) {
      const said = error instanceof VeldtwindError ? `${error.message} ${error.hint ?? ''}` : (error as Error).message;
      toast.error('The record was not read', { description: said, duration: 8000 });
    }
  }
  /** Motion and Control stand on the derivatives that the record decides. */
  function use(): void {
    const [candidate, e] = [workbench.active, found.value];
    if (!candidate || !e) return;
    const decided = e.derivatives.filter((d) => d.decided);
    void project.edit(`Derivatives of ${record.value!.name}`, ((draft: {
      candidates: Record<string, { derivatives?: { overrides: Record<string, number> } }>;
    }) => {
      const c = draft.candidates[candidate.id];
      if (!c) return;
      const overrides = Object.fromEntries(decided.map((d) => [d.name, Number(d.value.toPrecision(6))]));
      c.derivatives = { ...c.derivatives, overrides: { ...c.derivatives?.overrides, ...overrides } };
    }) as never);
    toast.success(`${decided.length} derivatives are set by hand for Motion and Control.`);
  }
  return { list, record, choose, live, found, edit, remove, read, use };
}
export type FlightRecord = ReturnType<typeof useRecord>;
