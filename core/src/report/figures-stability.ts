import { bandWords } from '../findings/words';
import { responseOf } from '../quantities';
import { axisOf, inUnit, said, scaleOf } from './context';
import { bandOf, bare, sentences, whyNone, type FigureMaker, type Place } from './figure-parts';

const marginCentre: FigureMaker = (c, of) => {
  const there = of.filter((s) => s.made.evaluation?.balance?.centres.x.length);
  if (there.length === 0) return { missing: whyNone(of, 'evaluation') };
  const length = scaleOf('length', c.units);
  const q = responseOf('static-margin')!;
  const figure = bare(
    { name: 'x of the centre of gravity', unit: axisOf({ symbol: 'x', dimension: 'length' }, c.units).unit },
    { ...axisOf(q, c.units), zero: true },
  );
  for (const s of there) {
    const { centres, staticMargin } = s.made.evaluation!.balance!;
    figure.series.push({
      name: s.candidate.letter,
      style: s.candidate.style,
      points: centres.x.map((x, i): Place => [x * length, inUnit(q, centres.staticMargin[i], c.units)]),
    });
    const x = s.made.evaluation!.mass?.centre.x;
    if (x !== undefined)
      figure.marks.push({
        x: x * length,
        y: inUnit(q, staticMargin, c.units),
        name: s.candidate.letter,
        style: s.candidate.style,
      });
  }
  const { staticMargin: band } = c.document.brief.bands;
  figure.bands.push(...bandOf('y', band, inUnit(q, 1, c.units), 'required'));
  const words = bandWords(band, q.dimension, c.units);
  const caption = sentences([
    ...there.map(
      (s) =>
        `${s.candidate.letter} has ${said(s.made.evaluation!.balance!.staticMargin, 'ratio', c.units)} where its centre of gravity lies.`,
    ),
    words && `The brief asks for ${words}.`,
  ]);
  return { title: 'Static margin over the centre of gravity', caption, figure };
};

const marginLoading: FigureMaker = (c, of) => {
  const there = of.filter((s) => s.loadings.length > 0 && s.made.motion);
  if (there.length === 0) return { missing: 'No candidate keeps a loading.' };
  const q = responseOf('static-margin')!;
  const mass = scaleOf('mass', c.units);
  const figure = bare(
    { name: 'mass', unit: axisOf({ symbol: 'm', dimension: 'mass' }, c.units).unit },
    { ...axisOf(q, c.units), zero: true },
  );
  const told: string[] = [];
  for (const s of there) {
    const own = s.made.motion!;
    // A loading with all that there is stands for it.
    const whole = s.loadings.some((l) => Math.abs(l.motion.mass.mass / own.mass.mass - 1) < 1e-9);
    const all = [...(whole ? [] : [{ name: 'all items', motion: own }]), ...s.loadings].sort(
      (a, b) => a.motion.mass.mass - b.motion.mass.mass,
    );
    figure.series.push({
      name: s.candidate.letter,
      style: s.candidate.style,
      points: all.map((l): Place => [l.motion.mass.mass * mass, inUnit(q, l.motion.staticMargin, c.units)]),
    });
    for (const l of all)
      figure.marks.push({
        x: l.motion.mass.mass * mass,
        y: inUnit(q, l.motion.staticMargin, c.units),
        name: s === there[0] ? l.name : '',
        style: s.candidate.style,
      });
    const margins = all.map((l) => l.motion.staticMargin);
    const [first, last] = [margins.at(-1)!, margins[0]];
    told.push(
      `${s.candidate.letter}: the static margin goes from ${said(first, 'ratio', c.units)} at ${said(all.at(-1)!.motion.mass.mass, 'mass', c.units)} to ${said(last, 'ratio', c.units)} at ${said(all[0].motion.mass.mass, 'mass', c.units)}.`,
    );
  }
  figure.bands.push(...bandOf('y', c.document.brief.bands.staticMargin, inUnit(q, 1, c.units), 'required'));
  return { title: 'Static margin over the loadings', caption: told.join(' '), figure };
};

const modes: FigureMaker = (_, of) => {
  const there = of.filter((s) => s.made.motion);
  if (there.length === 0) return { missing: whyNone(of, 'motion') };
  const figure = bare(
    { name: 'real part', unit: '1/s', zero: true },
    { name: 'imaginary part', unit: 'rad/s', zero: true },
  );
  for (const s of there) {
    figure.series.push({
      name: s.candidate.letter,
      style: s.candidate.style,
      scattered: true,
      points: s.made.motion!.modes.flatMap((m): Place[] => (m.im > 0 ? [[m.re, m.im], [m.re, -m.im]] : [[m.re, 0]])), // prettier-ignore
    });
    if (s === there[0])
      for (const m of s.made.motion!.modes)
        figure.marks.push({ x: m.re, y: m.im, name: m.name, style: s.candidate.style });
  }
  const caption = sentences(
    there.map((s) => {
      const growing = s.made.motion!.modes.filter((m) => m.re > 0);
      return growing.length === 0
        ? `All modes of ${s.candidate.letter} die out.`
        : `${s.candidate.letter}: ${growing.map((m) => `${m.name} grows${m.timeToDouble ? `, doubling in ${m.timeToDouble.toFixed(1)} s` : ''}`).join('; ')}.`;
    }),
  );
  return { title: 'Modes of motion in level flight', caption, figure };
};

export const STABILITY_FIGURES = { 'margin-centre': marginCentre, 'margin-loading': marginLoading, modes };
