import { LRUCache } from 'lru-cache';
import { InvalidInput, rootsOver } from '../numerics';
import {
  checkOutline,
  designationOutline,
  outlineFromPairs,
  readDesignation,
  resample,
  sectionFacts,
  SurfaceSpline,
  type MeanLine,
  type Outline,
  type SectionFacts,
} from '../section';
import { classShapeOutline } from './class-shape';
import { applySteps, type RecipeContext } from './recipe';
import type { SectionSource } from './schema';
import { Shape } from './shape';
import { squareUp } from './steps/outline-steps';
import { mixShapes } from './steps/frame-steps';

/** Shapes of sources that steps start from or mix in; a value that is dragged needs the same ones again and again. */
const kept = new LRUCache<string, Shape>({ max: 32 });

function shapeOf(source: SectionSource, count: number, depth: number): Shape {
  const key = JSON.stringify([count, source]);
  let shape = kept.get(key);
  if (!shape) {
    shape = Shape.ofOutline(sourceOutline(source, count, {}, depth));
    kept.set(key, shape);
  }
  return shape;
}

/** How deep mixes of mixes may go. */
export const DEEPEST_MIX = 8;

export const DEFAULT_POINTS = 161;

/**
 * The outline of a source.
 * @param count points, for a source that is a formula or a drawn curve.
 * @param watch told about the inverse steps of a recipe.
 * @throws InvalidInput when the source cannot be a section, or a step of its recipe cannot be done.
 */
export function sourceOutline(
  source: SectionSource,
  count = DEFAULT_POINTS,
  watch: Pick<RecipeContext, 'report' | 'progress'> = {},
  depth = 0,
): Outline {
  if (depth > DEEPEST_MIX) {
    throw new InvalidInput(
      'mix-depth',
      `The mixes of this section go more than ${DEEPEST_MIX} deep.`,
      'Mix sections that are not mixes of mixes themselves.',
    );
  }
  switch (source.kind) {
    case 'designation':
      return designationOutline(source.designation, source.trailingEdge, count);
    case 'coordinates': {
      const outline = outlineFromPairs(source.points);
      checkOutline(outline);
      return outline;
    }
    case 'drawn': {
      const outline = outlineFromPairs(source.points);
      const curve = resample(outline, count);
      checkOutline(curve);
      return curve;
    }
    case 'class-shape': {
      const outline = classShapeOutline(source, count);
      checkOutline(outline);
      return outline;
    }
    case 'mix': {
      const a = shapeOf(source.a, count, depth + 1);
      if (source.fraction === 0) return a.outline;
      const { outline } = mixShapes(a, shapeOf(source.b, count, depth + 1), source.fraction);
      checkOutline(outline);
      return outline;
    }
    case 'recipe':
      return applySteps(shapeOf(source.source, count, depth), source.steps, {
        ...watch,
        identity: JSON.stringify(source.source),
        other: (step) => shapeOf(step.other, count, depth + 1),
      });
  }
}

/** Chord lines that are this far from level, or chords from 1, are measured along themselves. */
const LEVEL = 0.009;

/**
 * Facts of a source; a formula's camber and nose radius are its own closed forms, everything else comes from the spline. A section that was
 * turned or made larger is measured along its own chord line.
 */
export function sourceFacts(source: SectionSource, outline = sourceOutline(source, 241)): SectionFacts {
  const n = outline.x.length;
  const spline = new SurfaceSpline(outline);
  const dx = 0.5 * (outline.x[0] + outline.x[n - 1]) - spline.x(spline.nose);
  const dy = 0.5 * (outline.y[0] + outline.y[n - 1]) - spline.y(spline.nose);
  const level = Math.abs(dy / dx) < LEVEL && Math.abs(Math.hypot(dx, dy) - 1) < 0.01;
  const facts = level ? sectionFacts(outline, spline) : sectionFacts(squareUp(Shape.ofOutline(outline)).outline);
  if (source.kind !== 'designation') return facts;
  const formula = readDesignation(source.designation, source.trailingEdge);
  return { ...facts, camber: formula.camber ?? meanLineCrest(formula.meanLine), noseRadius: formula.form.noseRadius };
}

function meanLineCrest(line: MeanLine): { max: number; at: number } {
  const points = Array.from({ length: 201 }, (_, i) => i / 200);
  let best = { max: 0, at: 0 };
  for (const at of rootsOver((x) => line.slope(x), points)) {
    const max = line.ordinate(at);
    if (Math.abs(max) > Math.abs(best.max)) best = { max, at };
  }
  return best;
}
