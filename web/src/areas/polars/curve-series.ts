import type { CurveReply } from '@veldtwind/contract';
import { DEG } from '@veldtwind/core/numerics';
import { CURVE_VERSION, pastStall, valueAt } from '@veldtwind/core/polar';
import { inUnit, POLAR_QUANTITIES, quantityIn } from '@veldtwind/core/quantities';
import { isSolved } from '@veldtwind/core/section-flow';
import type { Dimension, UnitSet } from '@veldtwind/core/units';
import type { ChartPoint, ChartSeries } from '@/lib/chart-model';
import { seriesStyle, type SeriesStyle } from '@/lib/series-style';
import type { PlacedPoint } from '@/store/runs';
import type { CurveOwner } from './curve-owners';

/** A point of a curve by its place. */
export interface CurvePlace {
  curve: CurveReply;
  place: number;
}

/** A Reynolds number as it is said: 300 k, 1.5 M. */
export function shortReynolds(re: number): string {
  const digits = (v: number) => String(Number(v.toPrecision(3)));
  return re >= 1e6 ? `${digits(re / 1e6)} M` : `${digits(re / 1e3)} k`;
}

/** What a curve is called beside its section: what tells it from the others. */
export function curveConditions({ input, version }: Pick<CurveReply, 'input' | 'version'>): string {
  const { conditions: c } = input;
  const parts = [
    input.swept === 're' ? 'over Re' : `${shortReynolds(c.reynolds)}${input.kind === 'fixed-lift' ? ' at cl 1' : ''}`,
  ];
  if (input.at) parts.push('cl' in input.at ? `cl ${input.at.cl}` : `${input.at.alphaDeg}°`);
  if (c.mach) parts.push(`M ${c.mach}`);
  if (c.turbulence) parts.push(`Tu ${c.turbulence} %`);
  else if ((c.criticalAmplification ?? 9) !== 9) parts.push(`n ${c.criticalAmplification}`);
  if (c.tripTop !== undefined || c.tripBottom !== undefined) parts.push('tripped');
  if (c.grain) parts.push('rough');
  if (input.flap) parts.push(`flap ${input.flap.angleDeg}°`);
  if (version !== CURVE_VERSION) parts.push(`by method ${version}`);
  return parts.join(', ');
}

/** Width of a line whose section has none of its own. */
const WIDTH = 1.6;
/** Place of the first curve of no section of the project. */
const STRANGE = 24;
/** Share of the section's own colour at the least Reynolds number of a ramp; the rest is ink. */
const DARKEST = 45;

/** Of a shape that the section no longer has. */
const EARLIER_DASH = '1 4';

/**
 * How curves are told apart: colour, dash and marker by section, lighter to darker with the Reynolds number; dotted where the section is of another shape now.
 * @param styleOf the style of a section of the project.
 */
export function curveStyles(
  curves: readonly CurveReply[],
  ownerOf: (c: CurveReply) => CurveOwner,
  styleOf: (section: string) => SeriesStyle,
): Map<number, SeriesStyle> {
  const strange = [...new Set(curves.filter((c) => ownerOf(c).section === null).map((c) => ownerOf(c).key))];
  const ramps = new Map<string, number[]>();
  for (const c of curves) {
    const { key } = ownerOf(c);
    ramps.set(key, [...(ramps.get(key) ?? []), c.input.conditions.reynolds]);
  }
  for (const [key, list] of ramps)
    ramps.set(
      key,
      [...new Set(list)].sort((a, b) => a - b),
    );
  return new Map(
    curves.map((c) => {
      const { key, section, mark } = ownerOf(c);
      // Those of no section of the project begin behind the usual places.
      const own = section === null ? seriesStyle(STRANGE + strange.indexOf(key)) : styleOf(section);
      const style = mark ? { ...own, dash: EARLIER_DASH } : own;
      const ramp = ramps.get(key)!;
      const t = ramp.length < 2 ? 1 : ramp.indexOf(c.input.conditions.reynolds) / (ramp.length - 1);
      const share = Math.round(DARKEST + (100 - DARKEST) * t);
      return [
        c.id,
        {
          ...style,
          colour: share >= 100 ? style.colour : `color-mix(in srgb, ${style.colour} ${share}%, var(--soft))`,
          width: ((own.width ?? WIDTH) / WIDTH) * (mark ? 1 : 1.2 + 0.8 * t),
        },
      ];
    }),
  );
}

/** Times its least drag up to which a curve's drag is what the axis is fitted to. */
const MOST_DRAG = 4;
const DRAG = ['cd', 'pressure-drag', 'cd-counts', 'pressure-counts'];

/** Axes that show one thing of both surfaces in one figure: their quantities, the upper surface first. */
const BOTH_SURFACES: readonly { id: string; symbol: string; name: string; of: readonly [string, string] }[] = [
  {
    id: 'transitions',
    symbol: 'x / c transition',
    name: 'transition on both surfaces',
    of: ['transition-top', 'transition-bottom'],
  },
  {
    id: 'separations',
    symbol: 'x / c separation',
    name: 'separation on both surfaces',
    of: ['separation-top', 'separation-bottom'],
  },
];
/** What an axis of a polar shows: a quantity, or one of both surfaces. */
export interface PolarAxis {
  id: string;
  symbol: string;
  name: string;
  digits?: number;
  dimension: Dimension;
  per?: string;
  of: readonly string[];
}
export const POLAR_AXES: readonly PolarAxis[] = [
  ...POLAR_QUANTITIES.map((q) => ({ ...q, of: [q.id] })),
  ...BOTH_SURFACES.map((b) => ({ ...b, dimension: 'plain' as const, digits: 3 })),
];
/** The axis of an id; lift for one that this program does not know. */
export const polarAxis = (id: string): PolarAxis => POLAR_AXES.find((a) => a.id === id) ?? POLAR_AXES[2];
/** Stands behind the id of a curve of the lower surface. */
const LOWER_MARK = '~lower';
/** The curve that a series is of. */
export const curveOfSeries = (id: string): string => id.replace(LOWER_MARK, '');

/** Curves of one axis over another; of both surfaces the lower one is dashed, and has no name of its own. */
export function axesSeries(x: string, y: string, seriesOf: (x: string, y: string) => ChartSeries[]): ChartSeries[] {
  const [ax, ay] = [polarAxis(x).of, polarAxis(y).of];
  const upper = seriesOf(ax[0], ay[0]);
  if (ax.length === 1 && ay.length === 1) return upper;
  const lower = seriesOf(ax[ax.length - 1], ay[ay.length - 1]).map((s) => ({
    ...s,
    id: `${s.id}${LOWER_MARK}`,
    label: '',
    style: { ...s.style, dash: '6 3' },
  }));
  return [...upper.map((s) => ({ ...s, style: { ...s.style, dash: '' } })), ...lower];
}

/** Curves of one quantity over another. A point's tag is its place, so that it can be opened. */
export function polarSeries(
  curves: readonly CurveReply[],
  points: ReadonlyMap<number, readonly PlacedPoint[]>,
  styles: ReadonlyMap<number, SeriesStyle>,
  x: string,
  y: string,
  units: UnitSet,
  nameOf: (c: CurveReply) => string,
): ChartSeries[] {
  const [qx, qy] = [quantityIn(POLAR_QUANTITIES, x), quantityIn(POLAR_QUANTITIES, y)];
  // Drag past the stall would leave no room for the rest.
  const drag = DRAG.includes(x) || DRAG.includes(y);
  // Beyond the greatest lift, where a curve reaches it; the whole of a curve that does not.
  const stallOf = ({ facts }: CurveReply) => (facts?.clMaxReached ? facts.alphaClMaxDeg : Infinity);
  return curves.map((curve) => ({
    id: String(curve.id),
    label: nameOf(curve),
    style: styles.get(curve.id)!,
    points: (points.get(curve.id) ?? []).flatMap<ChartPoint>(({ place, point }) => {
      const tag = valueAt(curve.input, place);
      // An unsolved point has a place on the axis that is swept, and none elsewhere.
      if (!isSolved(point))
        return x === 'alpha' && curve.input.swept === 'alpha'
          ? [{ x: tag, y: NaN, tag, status: 'unsolved' as const }]
          : [];
      const [vx, vy] = [qx.of(point), qy.of(point)];
      if (vx === null || vy === null) return [];
      const aside =
        drag &&
        (point.cd > MOST_DRAG * (curve.facts?.cdMin ?? Infinity) ||
          pastStall(point) ||
          point.alpha * DEG > (stallOf(curve) ?? Infinity) + 1e-6);
      return [{ x: inUnit(qx, vx, units), y: inUnit(qy, vy, units), tag, status: point.status, aside }];
    }),
  }));
}
