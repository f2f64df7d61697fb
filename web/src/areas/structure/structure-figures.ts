import type { Strength, SurfaceStrength } from '@veldtwind/core/candidate';
import { displayUnit, type UnitSet } from '@veldtwind/core/units';
import type { AxisSpec, ChartBand, ChartMark, ChartSeries } from '@/lib/chart-model';
import { seriesStyle, type SeriesStyle } from '@/lib/series-style';

/** What can be drawn along the span. */
export const SPAN_FIGURES = [
  { id: 'bending', name: 'Bending' },
  { id: 'shear', name: 'Shear' },
  { id: 'torsion', name: 'Torsion' },
  { id: 'reserve', name: 'Reserve' },
  { id: 'deflection', name: 'Deflection' },
  { id: 'twist', name: 'Twist' },
  { id: 'stiffness', name: 'Stiffness' },
] as const;
export type SpanFigure = (typeof SPAN_FIGURES)[number]['id'];

interface Drawn {
  title: string;
  subtitle: string;
  series: ChartSeries[];
  y: AxisSpec;
  bands?: ChartBand[];
  marks?: ChartMark[];
  digits: [number, number];
}

const BOLD: SeriesStyle = { ...seriesStyle(0), width: 2.2 };

/** The member that has least in hand, where it has. */
function least(of: SurfaceStrength, at: (y: number) => number): ChartMark[] {
  const all = of.members.flatMap((m) => (m.worst ? [{ name: m.name, ...m.worst }] : []));
  if (all.length === 0) return [];
  const m = all.reduce((a, b) => (b.reserve < a.reserve ? b : a));
  return [
    {
      x: at(m.place),
      y: 100 * Math.min(3, m.reserve),
      text: `${m.name}: ${m.mode}`,
      colour: m.reserve < 0 ? 'var(--clay)' : 'var(--soft)',
    },
  ];
}

/** A figure along the half span of a surface. */
export function spanFigure(which: SpanFigure, all: Strength, of: SurfaceStrength, units: UnitSet): Drawn {
  const length = displayUnit('length', units);
  const at = (y: number) => y * length.scale;
  const along = (label: string, value: (p: SurfaceStrength['places'][number]) => number | null, style = BOLD) => ({
    id: label,
    label,
    style,
    markers: false,
    points: of.places.flatMap((p) => {
      const v = value(p);
      return v === null || !Number.isFinite(v) ? [] : [{ x: at(p.y), y: v, tag: p.y }];
    }),
  });
  if (which === 'bending' || which === 'shear' || which === 'torsion') {
    const unit = displayUnit(which === 'shear' ? 'force' : 'moment', units);
    const cases = all.loads.cases.filter((c) => c.surfaces[of.id]);
    const lines = cases.map((c) => c.surfaces[of.id]);
    const end = (id: string, label: string, pick: (...v: number[]) => number): ChartSeries => ({
      id,
      label,
      style: BOLD,
      markers: false,
      points: lines[0].y.map((y, i) => ({
        x: at(y),
        y: pick(...lines.map((l) => l[which][i])) * unit.scale,
        tag: y,
      })),
    });
    return {
      title: { bending: 'Bending moment', shear: 'Shear force', torsion: 'Torsion about the quarter chord' }[which],
      subtitle: 'limit loads of all cases, with their greatest and least at each place',
      series: [
        ...cases.map((c, k): ChartSeries => ({
          id: `${c.name} ${c.loading ?? ''}`,
          label: '',
          style: { colour: 'var(--faint)', dash: '', marker: 'disc', width: 1 },
          markers: false,
          reference: true,
          points: lines[k].y.map((y, i) => ({ x: at(y), y: lines[k][which][i] * unit.scale, tag: y })),
        })),
        end('greatest', 'greatest', Math.max),
        end('least', 'least', Math.min),
      ],
      y: { name: which === 'shear' ? 'shear' : which, unit: unit.symbol, zero: true },
      digits: [2, 1],
    };
  }
  if (which === 'reserve')
    return {
      title: 'Reserve of the members',
      subtitle: `share left of the ultimate load, ${all.safetyFactor} × limit; below 0 it fails; shown up to 300 %`,
      series: of.members
        .filter((m) => m.worst)
        .map((m, i) =>
          along(
            m.name,
            (p) => {
              const r = p.reserves[m.member];
              return r === null || r === undefined ? null : 100 * Math.min(3, r);
            },
            { ...seriesStyle(i), width: 1.8 },
          ),
        ),
      y: { name: 'reserve', unit: '%', zero: true },
      bands: [{ axis: 'y', from: 0, to: null, label: '' }],
      marks: least(of, at),
      digits: [2, 0],
    };
  if (which === 'stiffness')
    return {
      title: 'Stiffness',
      subtitle: 'EI in bending and GJ in torsion',
      series: [along('EI', (p) => p.EI), along('GJ', (p) => p.GJ, { ...seriesStyle(1), width: 2 })],
      y: { name: 'stiffness', unit: 'N m²', scale: 'log' },
      digits: [2, 1],
    };
  const unit = which === 'deflection' ? displayUnit('thickness', units) : { symbol: '°', scale: 1 };
  return {
    title: which === 'deflection' ? 'Deflection' : 'Twist',
    subtitle: `limit load, ${of.bentMost}`,
    series: [along(which, (p) => (which === 'deflection' ? p.deflection * unit.scale : p.twistDeg))],
    y: { name: which === 'deflection' ? 'deflection, up' : 'twist, nose-up', unit: unit.symbol, zero: true },
    digits: [2, which === 'deflection' ? 1 : 2],
  };
}
