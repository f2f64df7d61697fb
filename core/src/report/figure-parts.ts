import type { FigureSpec } from '../figures';
import { METHOD_FACTS } from '../quantities';
import type { Band } from '../project';
import type { ReportContext, Subject } from './context';

/** A figure with its words, or why there is none. */
export type MadeFigure = { title: string; caption: string; figure: FigureSpec } | { missing: string };
export type FigureMaker = (context: ReportContext, of: readonly Subject[]) => MadeFigure;
export type Place = [number, number] | null;
export const bare = (x: FigureSpec['x'], y: FigureSpec['y']): FigureSpec => ({
  x,
  y,
  series: [],
  bands: [],
  marks: [],
});
export const methodsOf = (of: readonly Subject[]): string =>
  [...new Set(of.flatMap((s) => (s.made.evaluation ? [METHOD_FACTS[s.made.evaluation.method].name] : [])))].join('; ');
export const whyNone = (of: readonly Subject[], part: keyof Subject['reasons']): string =>
  of
    .map((s) => s.reasons[part] && `${s.candidate.letter}: ${s.reasons[part]}`)
    .filter(Boolean)
    .join(' ') || 'There is no candidate to show.';
export const sentences = (list: readonly (string | null | undefined | false)[]): string =>
  list.filter(Boolean).join(' ');
export const bandOf = (axis: 'x' | 'y', band: Band, scale: number, name: string): FigureSpec['bands'] =>
  band.min === null && band.max === null
    ? []
    : [
        {
          axis,
          from: band.min === null ? null : band.min * scale,
          to: band.max === null ? null : band.max * scale,
          name,
        },
      ];
