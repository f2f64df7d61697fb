import { computed, type ComputedRef } from 'vue';
import type { DragBuildUp } from '@veldtwind/core/drag';
import { BRIEF_LIMITS } from '@veldtwind/core/project';
import { DRAG_QUANTITIES, inUnit, quantityIn, unitOf } from '@veldtwind/core/quantities';
import { displayUnit } from '@veldtwind/core/units';
import type { ChartSeries } from '@/lib/chart-model';
import { seriesStyle } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';
import type { CandidateDrag, useDrag } from './use-drag';

/** What drag is told as. */
export const TOLD_AS = (
  [
    ['counts', 'counts', 'drag.zeroLiftCounts'],
    ['coefficient', 'coefficient', 'drag.zeroLiftCoefficient'],
    ['area', 'drag area', 'drag.dragArea'],
    ['force', 'drag', 'drag.zeroLiftForce'],
  ] as const
).map(([id, name, quantity]) => ({ id, name, quantity: quantityIn(DRAG_QUANTITIES, quantity) }));
/** What runs along the curves. */
export const OVER = [
  { id: 'speed', name: 'speed' },
  { id: 'altitude', name: 'altitude' },
] as const;

interface Looked {
  speed: ComputedRef<number>;
  altitude: ComputedRef<number>;
  speeds: ComputedRef<number[]>;
  all: ComputedRef<CandidateDrag[]>;
  /** Of the candidate that is worked on. */ here: ComputedRef<CandidateDrag | undefined>;
  over: ReturnType<typeof useDrag>['over'];
}

/** The curves of drag over speed or altitude, of all candidates or part on part. */
export function useDragCurves({ speed, altitude, speeds, all, here, over }: Looked) {
  const preferences = usePreferences();
  const toldAs = computed(
    () => TOLD_AS.find((q) => q.id === preferences.get<string>('drag-quantity', 'force')) ?? TOLD_AS[3],
  );
  const of = (b: DragBuildUp) => {
    const { quantity } = toldAs.value;
    return inUnit(quantity, quantity.of(b)!, preferences.units);
  };
  const unit = computed(() => unitOf(toldAs.value.quantity, preferences.units));

  const along = computed(() => preferences.get<'speed' | 'altitude'>('drag-over', 'speed'));
  const unitAlong = computed(() => displayUnit(along.value, preferences.units));
  const highest = computed(() => Math.min(BRIEF_LIMITS.altitude.max ?? 20_000, Math.max(3000, 2 * altitude.value)));
  /** States that are drawn: at speeds in one altitude, or in altitudes at one speed. */
  const states = computed(() =>
    along.value === 'speed'
      ? speeds.value.map((v) => ({ at: v, v, h: altitude.value }))
      : Array.from({ length: 25 }, (_, i) => (highest.value * i) / 24).map((h) => ({ at: h, v: speed.value, h })),
  );
  /** Totals of all candidates over speed or altitude, and the parts of the one that is worked on, one on the other. */
  const series = computed<ChartSeries[]>(() => {
    const { scale } = unitAlong.value;
    const totals = all.value.map((d): ChartSeries => {
      const points = states.value.flatMap(({ at, v, h }) => {
        const b = over(d, v, h);
        return b ? [{ x: at * scale, y: of(b), tag: at, status: b.doubtful ? ('doubtful' as const) : undefined }] : [];
      });
      return {
        id: d.candidate.id,
        label: d.candidate.letter,
        style: seriesStyle(d.candidate.style),
        // Doubtful points are seen by their markers.
        markers: points.some((p) => p.status),
        points,
      };
    });
    return stacked.value ? stack(scale) : totals;
  });
  /** What the candidate that is worked on is made of, one on the other. */
  const stacked = computed(() => preferences.get<boolean>('drag-stacked', false));
  function stack(scale: number): ChartSeries[] {
    const d = here.value;
    if (!d?.built) return [];
    const at = states.value.flatMap(({ at: v, v: speedThere, h }) => {
      const b = over(d, speedThere, h);
      return b ? [{ v, b, perArea: of(b) / b.dragArea }] : [];
    });
    const names = [...d.built.parts.map((p) => p.name), ...d.built.allowances.map((a) => a.name)];
    let below = at.map(({ v }) => ({ x: v * scale, y: 0 }));
    return names.map((name, i): ChartSeries => {
      const over = below;
      const points = at.map(({ v, b, perArea }, k) => {
        const own = [...b.parts, ...b.allowances][i].dragArea;
        return { x: v * scale, y: over[k].y + own * perArea, tag: v };
      });
      below = points;
      const { colour } = seriesStyle(i);
      return {
        id: `stack-${i}`,
        label: name,
        style: { colour, dash: '', marker: 'disc', width: 1.2 },
        markers: false,
        points,
        over,
      };
    });
  }
  return { toldAs, unit, along, unitAlong, stacked, series };
}
