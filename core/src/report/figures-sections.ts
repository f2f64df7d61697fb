import { DEG } from '../numerics';
import type { SectionPolars } from '../lift';
import { sourceOutline } from '../shaping';
import { scaleOf, axisOf, type ReportContext, type Subject } from './context';
import { bare, sentences, type FigureMaker } from './figure-parts';

/** Keys of the sections that candidates' stations use, in the order in which they are met. */
export const sectionsOf = (of: readonly Subject[]): string[] => [
  ...new Set(of.flatMap((s) => s.candidate.surfaces.flatMap((v) => v.stations.map((t) => t.section)))),
];
export const sectionName = (c: ReportContext, key: string): string =>
  c.document.sections[key]?.name ?? key.replace(/^naca:/, 'NACA ').replace(/:sharp$/, ', sharp');

const shapes: FigureMaker = (c, of) => {
  const keys = sectionsOf(of);
  if (keys.length === 0) return { missing: 'No station has a section.' };
  const figure = bare({ name: 'x/c', unit: '' }, { name: 'y/c', unit: '' });
  figure.equal = true;
  keys.forEach((key, i) => {
    const outline = sourceOutline(c.lookup(key));
    figure.series.push({
      name: sectionName(c, key),
      style: i,
      closed: true,
      points: Array.from(outline.x, (x, k): [number, number] => [x, outline.y[k]]),
    });
  });
  return {
    title: 'Sections of the surfaces',
    caption: sentences([`${keys.map((k) => sectionName(c, k)).join(', ')}.`]),
    figure,
  };
};

/** Polars of sections without a flap, each at the Reynolds number in the middle of those that are there. */
function polarsOf(of: readonly Subject[]): { key: string; curve: SectionPolars['curves'][number] }[] {
  const found = new Map<string, SectionPolars>();
  for (const s of of)
    for (const p of s.polars.level ?? []) if (!p.flap && !found.has(p.section)) found.set(p.section, p);
  return [...found].flatMap(([key, p]) => {
    const curve = [...p.curves].sort((a, b) => a.reynolds - b.reynolds)[Math.floor(p.curves.length / 2)];
    return curve ? [{ key, curve }] : [];
  });
}

type Column = 'alpha' | 'cl' | 'cd' | 'cm';
const NAMES: Record<Column, { name: string; unit: string; zero?: boolean }> = {
  alpha: { name: 'α', unit: '°' },
  cl: { name: 'cl', unit: '', zero: true },
  cd: { name: 'cd', unit: '', zero: true },
  cm: { name: 'cm', unit: '', zero: true },
};
const ofPolar =
  (x: Column, y: Column, title: string, says: (curve: SectionPolars['curves'][number]) => string): FigureMaker =>
  (c, of) => {
    const polars = polarsOf(of);
    if (polars.length === 0)
      return { missing: 'The polars of the sections are not computed yet, or the method does without them.' };
    const figure = bare(NAMES[x], NAMES[y]);
    const keys = sectionsOf(of);
    const at = (curve: SectionPolars['curves'][number], k: Column, i: number) =>
      curve[k][i] * (k === 'alpha' ? DEG : 1);
    for (const { key, curve } of polars)
      figure.series.push({
        name: sectionName(c, key),
        style: Math.max(0, keys.indexOf(key)),
        points: curve.alpha.map((_, i): [number, number] => [at(curve, x, i), at(curve, y, i)]),
      });
    figure.method = 'panels with boundary layer';
    return {
      title,
      caption: polars
        .map(
          ({ key, curve }) =>
            `${sectionName(c, key)} at Re ${(1000 * Math.round(curve.reynolds / 1000)).toLocaleString('en-GB').replaceAll(',', ' ')}: ${says(curve)}.`,
        )
        .join(' '),
      figure,
    };
  };
const drag = ofPolar('cd', 'cl', 'Drag polars of the sections', (p) => `least cd ${Math.min(...p.cd).toFixed(4)}`);
const lift = ofPolar(
  'alpha',
  'cl',
  'Lift curves of the sections',
  (p) => `greatest cl ${Math.max(...p.cl).toFixed(2)}`,
);
const moment = ofPolar(
  'cl',
  'cm',
  'Moment of the sections about their quarter chord',
  (p) => `cm ${Math.min(...p.cm).toFixed(3)} to ${Math.max(...p.cm).toFixed(3)}`,
);

/** Kept flights: height over the way flown. */
const flightPath: FigureMaker = (c, of) => {
  const length = scaleOf('length', c.units);
  const unit = axisOf({ symbol: 'x', dimension: 'length' }, c.units).unit;
  const figure = bare({ name: 'distance', unit, zero: true }, { name: 'height', unit, zero: true });
  const letters = new Map(of.map((s) => [s.candidate.letter, s.candidate.style]));
  const told: string[] = [];
  for (const { kept } of Object.values(c.document.scenarios))
    for (const f of kept) {
      const [x, y, h] = ['x', 'y', 'height'].map((name) => f.columns.indexOf(name));
      if (x < 0 || h < 0 || !letters.has(f.letter)) continue;
      figure.series.push({
        name: f.name,
        style: letters.get(f.letter)!,
        points: f.series[x].map((v, i): [number, number] => [
          Math.hypot(v - f.series[x][0], y < 0 ? 0 : f.series[y][i] - f.series[y][0]) * length,
          f.series[h][i] * length,
        ]),
      });
      told.push(`${f.name}: ${f.range.toFixed(0)} m in ${f.time.toFixed(1)} s.`);
    }
  return figure.series.length === 0
    ? { missing: 'No flight is kept: keep one in Flights.' }
    : { title: 'Kept flights', caption: told.join(' '), figure };
};

export const SECTION_FIGURES = {
  'section-shapes': shapes,
  'section-drag': drag,
  'section-lift': lift,
  'section-moment': moment,
  'flight-path': flightPath,
};
