import { CubicSpline } from '../numerics';
import { meanLine, readDesignation, SurfaceSpline, type MeanLine } from '../section';
import { kept, sourceOutline, type SectionSource } from '../shaping';

/** Looks up what a station's section key means. */
export type SectionLookup = (key: string) => SectionSource;

/** Mean line of a section source, in chords along its chord line; by formula where there is one. */
export function meanLineOf(source: SectionSource): MeanLine {
  if (source.kind === 'designation') return readDesignation(source.designation, source.trailingEdge).meanLine;
  const table = meanLine(new SurfaceSpline(sourceOutline(source)));
  const spline = new CubicSpline(table.x, table.camber, 'natural');
  const first = table.x[0];
  const last = table.x[table.x.length - 1];
  const clamp = (x: number) => Math.min(last, Math.max(first, x));
  // The nose's first hundredth of the line is not well determined; its slope is taken from behind it.
  return { ordinate: (x) => spline.at(clamp(x)), slope: (x) => spline.derivative(Math.max(0.01, clamp(x))) };
}

/** Mean lines by source: a twist or a sweep does not change them. */
export const keptMeanLine = kept(200, meanLineOf);

/** Mean lines of the sections that a lookup knows; each is looked up once. */
export function meanLineCache(lookup: SectionLookup): (key: string) => MeanLine {
  const known = new Map<string, MeanLine>();
  return (key) => {
    let line = known.get(key);
    if (!line) {
      line = keptMeanLine(lookup(key));
      known.set(key, line);
    }
    return line;
  };
}
