import { DEG } from '../numerics';
import { LEVEL_QUANTITIES, quantityIn } from '../quantities';
import { axisOf, inUnit, said, scaleOf, type ReportContext, type Subject } from './context';
import { bare, methodsOf, sentences, whyNone, type FigureMaker, type Place } from './figure-parts';

const dragPolar: FigureMaker = (c, of) => {
  const there = of.filter((s) => s.made.performance?.points.some((p) => p.trim));
  if (there.length === 0) return { missing: whyNone(of, 'performance') };
  const figure = bare({ name: 'CD in trim', unit: '', zero: true }, { name: 'CL in trim', unit: '', zero: true });
  for (const s of there) {
    figure.series.push({
      name: s.candidate.letter,
      style: s.candidate.style,
      points: s.made.performance!.points.map((p): Place =>
        p.trim && p.status !== 'limited' ? [p.trim.CD, p.trim.CL] : null,
      ),
    });
    const at = s.made.performance!.design.trim;
    if (at) figure.marks.push({ x: at.CD, y: at.CL, name: `design ${s.candidate.letter}`, style: s.candidate.style });
  }
  figure.method = methodsOf(there);
  const caption = sentences(
    there.map((s) => {
      const { bestGlide } = s.made.performance!.glide;
      return (
        bestGlide &&
        `${s.candidate.letter} glides best at ${said(bestGlide.speed, 'speed', c.units)} with a lift-to-drag ratio of ${bestGlide.ratio.toFixed(1)}.`
      );
    }),
  );
  return { title: 'Drag polar in trim', caption, figure };
};

/** A quantity of level flight over speed. */
const overSpeed =
  (id: string, title: string, says: (c: ReportContext, s: Subject) => string | null | undefined): FigureMaker =>
  (c, of) => {
    const q = quantityIn(LEVEL_QUANTITIES, id);
    const there = of.filter((s) => s.made.performance?.points.some((p) => q.of(p) !== null));
    if (there.length === 0)
      return {
        missing: of.some((s) => s.made.performance) ? `No candidate has a ${q.name}.` : whyNone(of, 'performance'),
      };
    const figure = bare(
      { name: 'V', unit: axisOf({ symbol: 'V', dimension: 'speed' }, c.units).unit },
      { ...axisOf(q, c.units), zero: true },
    );
    const scale = scaleOf('speed', c.units);
    for (const s of there) {
      figure.series.push({
        name: s.candidate.letter,
        style: s.candidate.style,
        points: s.made.performance!.points.map((p): Place => {
          const value = q.of(p);
          return value === null || p.status === 'unflyable' ? null : [p.speed * scale, inUnit(q, value, c.units)];
        }),
      });
      const at = q.of(s.made.performance!.design);
      if (at !== null)
        figure.marks.push({
          x: s.made.performance!.design.speed * scale,
          y: inUnit(q, at, c.units),
          name: there.length > 1 ? '' : 'design',
          style: s.candidate.style,
        });
    }
    figure.method = methodsOf(there);
    return { title, caption: sentences(there.map((s) => says(c, s))), figure };
  };

const powerRequired = overSpeed('power-needed', 'Power required in level flight', (c, s) => {
  const power = s.made.performance!.design.power;
  return power === null
    ? null
    : `${s.candidate.letter} needs ${power.toFixed(0)} W at the design speed of ${said(c.document.brief.speed, 'speed', c.units)}.`;
});

const climbRate = overSpeed('climb-rate', 'Rate of climb at full throttle', (c, s) => {
  const best = s.made.performance!.climb.best;
  return (
    best &&
    `${s.candidate.letter} climbs best with ${said(best.rate, 'speed', c.units)} at ${said(best.speed, 'speed', c.units)}.`
  );
});

const sinkRate = overSpeed('level-sink', 'Sink rate without power', (c, s) => {
  const least = s.made.performance!.glide.leastSink;
  return (
    least &&
    `${s.candidate.letter} sinks least at ${said(least.speed, 'speed', c.units)}, with ${said(least.sink, 'speed', c.units, 2)}.`
  );
});

const trimDeflection = overSpeed('trim-deflection', 'Deflection that trims', (c, s) => {
  const own = s.made.performance!.design.trim?.control;
  return (
    own && `${s.candidate.letter}: ${own.name} at ${said(own.deflection * DEG, 'angle', c.units)} at the design speed.`
  );
});

const loadEnvelope: FigureMaker = (c, of) => {
  const there = of.filter((s) => s.made.limits?.loads.manoeuvre.length);
  if (there.length === 0) return { missing: whyNone(of, 'limits') };
  const scale = scaleOf('speed', c.units);
  const figure = bare(
    { name: 'equivalent airspeed', unit: axisOf({ symbol: 'V', dimension: 'speed' }, c.units).unit },
    { name: 'load factor n', unit: '', zero: true },
  );
  for (const s of there) {
    const { manoeuvre, gusts } = s.made.limits!.loads;
    figure.series.push({
      name: s.candidate.letter,
      style: s.candidate.style,
      points: manoeuvre.map((p): Place => [p.speed * scale, p.n]),
    });
    for (const g of gusts)
      figure.series.push({
        name: '',
        style: s.candidate.style,
        faint: true,
        points: [
          [g.speed * scale, g.up],
          [0, 1],
          [g.speed * scale, g.down],
        ],
      });
  }
  const caption = sentences([
    ...there.map((s) => {
      const { greatest, manoeuvring } = s.made.limits!.loads;
      return `${s.candidate.letter}: greatest load factor ${greatest.toFixed(2)}${manoeuvring === null ? '' : `, manoeuvring speed ${said(manoeuvring, 'speed', c.units)}`}.`;
    }),
    'Grey lines are gusts.',
  ]);
  return { title: 'Manoeuvre and gust envelope', caption, figure };
};

const rangeMass: FigureMaker = (c, of) => {
  const there = of.filter((s) => s.made.limits?.payload.some((p) => p.range !== null));
  if (there.length === 0)
    return {
      missing: of.some((s) => s.made.limits) ? 'No candidate has both an engine and an energy.' : whyNone(of, 'limits'),
    };
  const mass = scaleOf('mass', c.units);
  const figure = bare(
    { name: 'mass', unit: axisOf({ symbol: 'm', dimension: 'mass' }, c.units).unit },
    { name: 'range', unit: 'km', zero: true },
  );
  for (const s of there)
    figure.series.push({
      name: s.candidate.letter,
      style: s.candidate.style,
      points: s.made.limits!.payload.map((p): Place => (p.range === null ? null : [p.mass * mass, p.range / 1000])),
    });
  const caption = sentences(
    there.map((s) => {
      const range = s.made.limits!.range;
      return 'missing' in range || !range.bestRange
        ? null
        : `${s.candidate.letter} reaches ${(range.bestRange.range / 1000).toFixed(0)} km at its own mass.`;
    }),
  );
  return { title: 'Range over mass with the same energy', caption, figure };
};

export const PERFORMANCE_FIGURES = {
  'drag-polar': dragPolar,
  'power-required': powerRequired,
  'climb-rate': climbRate,
  'sink-rate': sinkRate,
  'trim-deflection': trimDeflection,
  'load-envelope': loadEnvelope,
  'range-mass': rangeMass,
};
