import { LRUCache } from 'lru-cache';
import { z } from 'zod';
import { analysis } from '../results';
import {
  meanLine,
  resample,
  sectionMoments,
  smoothnessOf,
  SurfaceSpline,
  type SectionFacts,
  type SectionMoments,
  type Smoothness,
} from '../section';
import { DEFAULT_SPREAD, panelNodes, panelQuality, type PanelSpread } from '../section-flow';
import { fitClassShape } from './class-shape';
import type { SpeedReport } from './inverse/speed-solution';
import { surfaceSpeeds } from './inverse/surface-speeds';
import { sectionSource, type FoundDisplacement, type SectionSource } from './schema';
import { sourceFacts, sourceOutline } from './source';

/** Points of an outline that is drawn or measured. */
const DRAWN_POINTS = 241;
const CARD_POINTS = 61;

/** What the drawing of a section needs: its outline in chords, facts, and thickness and camber along the chord. */
export interface SectionView {
  x: Float64Array;
  y: Float64Array;
  facts: SectionFacts;
  line: { x: Float64Array; camber: Float64Array; thickness: Float64Array };
}

/** A section with everything that is known of its shape. */
export interface SectionDetail extends SectionView {
  moments: SectionMoments;
  smoothness: Smoothness;
}

/** A recipe while it changes: the section as it is, and what its inverse steps found. */
export interface ShapedView {
  view: SectionView;
  found: { index: number; displacement: FoundDisplacement; report?: SpeedReport }[];
}

/** Panels on a section, and how far they leave it. */
export interface PanelView {
  x: Float64Array;
  y: Float64Array;
  /** Panel lengths, chords, and angles between neighbours, rad. */
  length: Float64Array;
  angle: Float64Array;
  /** Greatest distance of each panel from the outline, chords. */
  leaves: Float64Array;
  nose: number;
}

/** What a card and a row of the library show of a section. */
export interface SectionSummary {
  facts: SectionFacts;
  /** Chords. */
  perimeter: number;
  centroid: { x: number; y: number };
  /** x, y of the points of a small outline. */
  outline: Float32Array;
}

/** A summary, or why the section cannot be made. */
export type SummaryResult = { ok: true; summary: SectionSummary } | { ok: false; failure: string };

/** Keeps what was made from a source until others push it out. */
export function kept<T extends object, S extends object = SectionSource>(
  most: number,
  make: (source: S) => T,
): (source: S) => T {
  const cache = new LRUCache<string, T>({ max: most });
  return (source) => {
    const key = JSON.stringify(source);
    let value = cache.get(key);
    if (!value) cache.set(key, (value = make(source)));
    return value;
  };
}

const viewOf = (source: SectionSource, outline = sourceOutline(source, DRAWN_POINTS)): SectionView => ({
  ...outline,
  facts: sourceFacts(source, outline),
  line: meanLine(new SurfaceSpline(outline)),
});
const keptView = kept(300, (source) => viewOf(source));

/** The shape of a section as it is drawn. @throws InvalidInput where the source cannot be a section. */
export const sectionView = analysis({
  version: 1,
  input: z.object({ source: sectionSource }),
  run: ({ source }): SectionView => keptView(source),
});

/** A section with its moments and how smooth it is. @throws InvalidInput where the source cannot be a section. */
export const sectionDetail = analysis({
  version: 1,
  input: z.object({ source: sectionSource }),
  run: ({ source }): SectionDetail => {
    const view = keptView(source);
    const spline = new SurfaceSpline(view);
    return { ...view, moments: sectionMoments(view, spline), smoothness: smoothnessOf(view, spline) };
  },
});

/** Facts and a small outline of many sections. */
export const sectionSummaries = analysis({
  version: 4,
  input: z.object({ sources: z.array(sectionSource) }),
  run: ({ sources }): SummaryResult[] => sources.map(summaryOf),
});

function summaryOf(source: SectionSource): SummaryResult {
  try {
    const outline = sourceOutline(source, 121);
    const spline = new SurfaceSpline(outline);
    const few = resample(outline, CARD_POINTS, spline);
    const { perimeter, centroid } = sectionMoments(outline, spline);
    const drawn = new Float32Array(2 * CARD_POINTS);
    few.x.forEach((x, i) => {
      drawn[2 * i] = x;
      drawn[2 * i + 1] = few.y[i];
    });
    return { ok: true, summary: { facts: sourceFacts(source, outline), perimeter, centroid, outline: drawn } };
  } catch (error) {
    return { ok: false, failure: (error as Error).message };
  }
}

/** How far an inverse step has come: which step, which iteration, and the speed difference that is left. */
export interface ShapingDetail {
  index: number;
  left: number;
}

/** A recipe's result with what its designs to a speed found. @throws InvalidInput at `steps.K.FIELD` where a step cannot be done. */
export const shapedSection = analysis({
  version: 1,
  input: z.object({ source: sectionSource }),
  run: ({ source }, { report }): ShapedView => {
    const found: ShapedView['found'] = [];
    const outline = sourceOutline(source, DRAWN_POINTS, {
      report: (index, f) => found.push({ index, ...f }),
      progress:
        report &&
        ((index, iteration, left) =>
          report({ done: iteration, of: NaN, detail: { index, left } satisfies ShapingDetail })),
    });
    return { view: viewOf(source, outline), found };
  },
});

/** The class/shape fit of a section. */
export const classShapeFit = analysis({
  version: 1,
  input: z.object({ source: sectionSource, order: z.number().int().min(1).max(20) }),
  run: ({ source, order }) => fitClassShape(sourceOutline(source, DRAWN_POINTS), order),
});

/** Speeds along both surfaces without viscosity. @param alpha rad. */
export const sectionSpeeds = analysis({
  version: 1,
  input: z.object({ source: sectionSource, alpha: z.number().min(-0.8).max(0.8) }),
  run: ({ source, alpha }) => surfaceSpeeds(sourceOutline(source, DRAWN_POINTS), alpha),
});

/** How panels are spread, as it is given. */
export const panelSpread: z.ZodType<PanelSpread> = z.object({
  panels: z.number().int().min(20).max(1000),
  trailingEdge: z.number().min(0).max(20),
  nose: z.number().min(0).max(20),
  stretch: z
    .object({ from: z.number().min(0).max(1), to: z.number().min(0).max(1), density: z.number().positive().max(100) })
    .optional(),
});

/** Panels of a section and their quality. */
export const sectionPanels = analysis({
  version: 1,
  input: z.object({ source: sectionSource, spread: panelSpread.default(DEFAULT_SPREAD) }),
  run: ({ source, spread }): PanelView => {
    const spline = new SurfaceSpline(sourceOutline(source, DRAWN_POINTS));
    const nodes = panelNodes({ x: new Float64Array(), y: new Float64Array() }, spread, spline);
    return {
      x: nodes.x,
      y: nodes.y,
      ...panelQuality(nodes, spline),
      nose: nodes.s.findIndex((v) => v >= nodes.nose - 1e-9),
    };
  },
});
