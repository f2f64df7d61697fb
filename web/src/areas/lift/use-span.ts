import { computed, type ComputedRef } from 'vue';
import { referenceSurface, type LiftingSurface } from '@veldtwind/core/airframe';
import { ellipseOf, ellipticLoad, type EllipseFit, type StripLoad, type StripState } from '@veldtwind/core/lift';
import { inUnit, type LiftPoint, type LoadedStrip, type Quantity } from '@veldtwind/core/quantities';
import { formatNumber } from '@veldtwind/core/units';
import type { ChartMark, ChartSeries } from '@/lib/chart-model';
import { METHODS, stateBetween, WEIGHT, type Answered } from '@/lib/lift-series';
import { seriesStyle } from '@/lib/series-style';
import { usePreferences } from '@/store/preferences';
import { useWorkbench } from '@/store/workbench';

interface Looked {
  answers: ComputedRef<Answered[]>;
  /** The fullest of the candidate that is worked on, with its state that is looked at. */
  best: ComputedRef<Answered | null>;
  point: ComputedRef<LiftPoint['point'] | null>;
  wing: ComputedRef<LiftingSurface | null>;
  quantity: ComputedRef<Quantity<LoadedStrip>>;
  stateNear: (a: Answered) => LiftPoint['point'] | null;
}

/** What runs along the span, with the ellipse or the local maximum to compare with. */
export function useSpan({ answers, best, point, wing, quantity, stateNear }: Looked) {
  const workbench = useWorkbench();
  const preferences = usePreferences();
  const isLoad = computed(() => quantity.value.id === 'load');
  const series = computed<ChartSeries[]>(() => {
    const out: ChartSeries[] = [];
    const q = quantity.value;
    const several = new Set(answers.value.map((a) => a.method)).size > 1;
    const firstOf = new Map<string, Answered>();
    for (const a of answers.value) if (!firstOf.has(a.candidate.id)) firstOf.set(a.candidate.id, a);
    for (const a of answers.value) {
      const main = a.candidate.id === workbench.active?.id;
      const surface = main ? wing.value : referenceSurface(a.candidate.surfaces);
      // Skins are computed at few angles: their load is that between them.
      const p = a.method === 'skins' && point.value ? stateBetween(a.points, point.value.alpha) : stateNear(a);
      if (!surface || !p) continue;
      const list = stripsOf(p, surface.id);
      const meanChord = a.reference.area / a.reference.span;
      const ellipse = ellipseOf(
        list.map((s) => s.strip),
        meanChord,
      );
      const style = seriesStyle(a.candidate.style);
      const points = list.flatMap(({ strip, state }, i) => {
        const y = q.of({ strip, state, meanChord, aboveEllipse: ellipse.differences[i] });
        const x = Math.abs(strip.station);
        const status = state && state.stalled !== 0 ? ('doubtful' as const) : undefined;
        return y === null ? [] : [{ x, y: inUnit(q, y, preferences.units), tag: x, status }];
      });
      if (points.length === 0) continue;
      const fullest = firstOf.get(a.candidate.id) === a;
      const { letter, name } = a.candidate;
      const whole = several && name ? `${letter} ${METHODS[a.method].word}` : `${letter} ${name}`.trim();
      // Beside its ellipse the letter has to do: the number counts.
      const short = isLoad.value && fullest && firstOf.size > 1 && !several ? letter : whole;
      out.push({
        id: `${a.candidate.id}-${a.method}`,
        label: isLoad.value && fullest ? short + offBy(ellipse) : whole,
        style: several ? { ...style, width: WEIGHT[a.method] } : style,
        markers: list.some((s) => s.state?.stalled),
        points,
      });
      if (isLoad.value && fullest) out.push(elliptic(a.candidate, ellipse, firstOf.size > 1));
      if (main && q.id === 'cl' && a.method === 'polars') out.push(limit(a.candidate.id, list));
    }
    return out;
  });
  const marks = computed<ChartMark[]>(() => {
    const [p, w] = [point.value, wing.value];
    if (!p || !w || quantity.value.id !== 'cl') return [];
    const list = stripsOf(p, w.id);
    const top = list.reduce<(typeof list)[number] | null>((b, s) => (!b || s.strip.cl > b.strip.cl ? s : b), null);
    if (!top) return [];
    const text = `greatest local cl ${formatNumber(top.strip.cl, 2)}`;
    return [{ x: Math.abs(top.strip.station), y: top.strip.cl, text, colour: 'var(--clay)' }];
  });
  /** The curve of the surface that is worked on, found in the fullest way. */
  const ownSeries = computed(
    () => series.value.find((s) => best.value && s.id === `${best.value.candidate.id}-${best.value.method}`) ?? null,
  );
  return { series, marks, own: ownSeries };
}

/** Strips of one surface's right side, with what their sections do. */
function stripsOf(p: LiftPoint['point'], surface: string): { strip: StripLoad; state?: StripState }[] {
  return p.strips.flatMap((strip, i) =>
    strip.id === surface && strip.station >= 0 ? [{ strip, state: p.states?.[i] }] : [],
  );
}
/** How far a load is off its ellipse, as it follows a name. */
const offBy = ({ deviation }: EllipseFit) => (deviation === null ? '' : `, Δ ${formatNumber(100 * deviation, 1)} %`);
/** The ellipse that carries what a surface carries; of several it has the colour of its candidate and no name. */
function elliptic(of: Answered['candidate'], { CL }: EllipseFit, several: boolean): ChartSeries {
  return {
    id: `${of.id}-elliptic`,
    label: several ? '' : 'elliptic',
    reference: true,
    style: { colour: several ? seriesStyle(of.style).colour : 'var(--soft)', dash: '3 3', marker: 'disc', width: 1 },
    points: Array.from({ length: 61 }, (_, i) => {
      const x = Math.sin((i / 60) * (Math.PI / 2));
      return { x, y: ellipticLoad(CL, x) };
    }),
  };
}
/** The greatest lift of the sections along the span. */
const limit = (id: string, list: { strip: StripLoad; state?: StripState }[]): ChartSeries => ({
  id: `${id}-limit`,
  label: 'local maximum',
  reference: true,
  style: { colour: 'var(--clay)', dash: '3 3', marker: 'disc' },
  points: list.flatMap(({ strip, state }) =>
    state && Number.isFinite(state.clMax) ? [{ x: Math.abs(strip.station), y: state.clMax }] : [],
  ),
});
