import { DEG } from '../numerics';
import type { AirframeLoads } from '../lift';
import { METHOD_FACTS, responseOf, valueOf } from '../quantities';
import { axisOf, said, scaleOf, type ReportContext, type Subject } from './context';
import { bandOf, bare, methodsOf, sentences, whyNone, type FigureMaker, type Place } from './figure-parts';

/** A coefficient over the angle of attack. */
const overAngle =
  (key: 'CL' | 'Cm', title: string, says: (c: ReportContext, s: Subject) => string | null | undefined): FigureMaker =>
  (c, of) => {
    const there = of.filter((s) => s.made.evaluation?.curve);
    if (there.length === 0) return { missing: whyNone(of, 'evaluation') };
    const figure = bare({ name: 'α', unit: '°' }, { name: key, unit: '', zero: true });
    for (const s of there) {
      const points = s.made.evaluation!.curve!.points;
      figure.series.push({
        name: s.candidate.letter,
        style: s.candidate.style,
        points: points.map((p): Place => (p.status === 'unsolved' ? null : [p.alpha * DEG, p[key]])),
      });
      const trim = s.made.evaluation!.balance?.trims[0];
      if (trim)
        figure.marks.push({
          x: trim.alpha * DEG,
          y: key === 'CL' ? trim.CL : 0,
          name: `trim ${s.candidate.letter}`,
          style: s.candidate.style,
        });
    }
    if (key === 'Cm') figure.bands.push(...bandOf('x', c.document.brief.bands.trimAngleDeg, 1, 'trim required'));
    figure.method = methodsOf(there);
    return { title, caption: sentences(there.map((s) => says(c, s))), figure };
  };

const liftCurve = overAngle('CL', 'Lift curve of the whole aircraft', (_, s) => {
  const { curve, design } = s.made.evaluation!;
  if (curve?.liftSlope == null) return null;
  const needed = design?.CL;
  return `${s.candidate.letter}: ${curve.liftSlope.toFixed(2)} per radian at α = 0${needed ? `; level flight at the design point needs CL ${needed.toFixed(3)}` : ''}${curve.greatestLift === null ? '' : `; greatest CL ${curve.greatestLift.toFixed(2)}`}.`;
});

const momentCurve = overAngle('Cm', 'Pitching moment about the centre of gravity', (c, s) => {
  const trim = s.made.evaluation!.balance?.trims[0];
  return trim
    ? `${s.candidate.letter} has no pitching moment at ${said(trim.alpha * DEG, 'angle', c.units)}, controls as they stand.`
    : `${s.candidate.letter}: the moment has no zero within the angles of the sweep.`;
});

/** Between two points of a sweep, shares of the second one: circulations go straight with the angle. */
function between(points: readonly AirframeLoads[], alpha: number): [AirframeLoads, AirframeLoads, number] {
  const i = Math.max(
    1,
    points.findIndex((p) => p.alpha >= alpha),
  );
  const [a, b] = [points[Math.min(i, points.length - 1) - 1] ?? points[0], points[Math.min(i, points.length - 1)]];
  return [a, b, a.alpha === b.alpha ? 0 : (alpha - a.alpha) / (b.alpha - a.alpha)];
}

/** Strips of the first surface at an angle, along y. */
function loadAt(points: readonly AirframeLoads[], alpha: number): { y: number; chord: number; cl: number }[] {
  const [a, b, t] = between(points, alpha);
  const wing = a.strips[0]?.id;
  return a.strips
    .map((s, i) => ({ id: s.id, y: s.y, chord: s.chord, cl: s.cl + t * (b.strips[i].cl - s.cl) }))
    .filter((s) => s.id === wing)
    .sort((p, q) => p.y - q.y);
}
const spanLoad: FigureMaker = (c, of) => {
  const figure = bare(
    { name: 'y', unit: axisOf({ symbol: 'y', dimension: 'length' }, c.units).unit },
    { name: 'cl c/c̄', unit: '', zero: true },
  );
  const length = scaleOf('length', c.units);
  const told: string[] = [];
  for (const s of of) {
    const { evaluation, motion } = s.made;
    const points = evaluation?.lift?.points;
    if (!points?.length) continue;
    const alpha = motion?.trim.alpha ?? 0;
    const strips = loadAt(points, alpha);
    const chord = evaluation!.lift!.reference.chord;
    figure.series.push({
      name: s.candidate.letter,
      style: s.candidate.style,
      points: strips.map((t): Place => [t.y * length, (t.cl * t.chord) / chord]),
    });
    const efficiency = valueOf(responseOf('lift.spanEfficiency')!, s.made);
    const top = strips.reduce((a, b) => (b.cl > a.cl ? b : a), strips[0]);
    if (top)
      told.push(
        `${s.candidate.letter} at ${said(alpha * DEG, 'angle', c.units, 1)}: greatest local lift coefficient ${top.cl.toFixed(2)} at y = ${said(Math.abs(top.y), 'length', c.units)}${efficiency === null ? '' : `; span efficiency ${efficiency.toFixed(3)}`}.`,
      );
  }
  if (figure.series.length === 0) return { missing: whyNone(of, 'evaluation') };
  figure.method = METHOD_FACTS.lattice.name;
  return { title: 'Span load of the wing in level flight', caption: told.join(' '), figure };
};

export const LIFT_FIGURES = { 'lift-curve': liftCurve, 'moment-curve': momentCurve, 'span-load': spanLoad };
