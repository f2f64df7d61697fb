import type { ScaleContinuousNumeric } from 'd3-scale';
import { inject, provide, type ComputedRef, type InjectionKey, type Ref } from 'vue';
import type { ChartSeries } from '@/lib/chart-model';

/** A scale from a quantity to pixels: linear or logarithmic. */
export type PlotScale = ScaleContinuousNumeric<number, number>;

/** What the frame of a plot tells the parts that are drawn in it: they draw from the scales they are given, and know nothing of each other. */
export interface PlotContext {
  /** Room between the axes, px. */
  inner: ComputedRef<{ w: number; h: number }>;
  margin: ComputedRef<{ left: number; right: number; top: number; bottom: number }>;
  x: ComputedRef<PlotScale>;
  y: ComputedRef<PlotScale>;
  /** Id of the clip path of the room between the axes. */
  clip: string;
  /** Whether a place in pixels lies between the axes. */
  inView: (px: number, py: number) => boolean;
  /** How many places of it can be dragged: then it is no mere picture to those who do not see it. */
  handles: Ref<number>;
}

const KEY: InjectionKey<PlotContext> = Symbol('plot');

export const providePlot = (context: PlotContext): void => provide(KEY, context);

/** The plot that a part is drawn in. @throws Error outside of one: a fault of the program. */
export function usePlot(): PlotContext {
  const context = inject(KEY);
  if (!context) throw new Error('A part of a plot stands outside of a plot.');
  return context;
}

/** The points of a series that are numbers. */
export const solvedPoints = (s: ChartSeries) =>
  s.points.filter((p) => p.status !== 'unsolved' && Number.isFinite(p.x) && Number.isFinite(p.y));
