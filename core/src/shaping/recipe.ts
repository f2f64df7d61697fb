import { fingerprint, InvalidInput, RAD, VeldtwindError } from '../numerics';
import { checkOutline, type Outline } from '../section';
import { designStretch, designWhole, smoothSpeed, type SpeedDesign } from './inverse/speed-design';
import { displaced, displacementBetween } from './inverse/found';
import type { SpeedReport } from './inverse/speed-solution';
import { stretchTarget, wholeTarget } from './inverse/target';
import { limitBroken, shownValue, type FieldLimit } from '../limits';
import { limitsOf } from './limits';
import type { FoundDisplacement, ShapingStep } from './schema';
import { Shape } from './shape';
import {
  mixShapes,
  moveCamberCrest,
  moveThicknessCrest,
  scaleCamber,
  scaleThickness,
  setCamber,
  setEdgeGap,
  setNoseRadius,
  setThickness,
} from './steps/frame-steps';
import { bump, smoothStretch } from './steps/local-steps';
import { rotate, scale, squareUp, turnHinge } from './steps/outline-steps';

/** What came of an inverse step; `report` is missing where it was found before. */
export interface Found {
  displacement: FoundDisplacement;
  report?: SpeedReport;
}

/** How a recipe gets at what is outside it. */
export interface RecipeContext {
  /** The shape of the other section of a mix step. */
  other: (step: Extract<ShapingStep, { kind: 'mix' }>) => Shape;
  /** What the source is, so that what a design to a speed found is known again. */
  identity: string;
  /** Told what every inverse step found. */
  report?: (index: number, found: Found) => void;
  /** Progress of an inverse step; throwing stops. */
  progress?: (index: number, iteration: number, left: number) => void;
}

/** Inverse steps cost far more than all others; what they found is kept. */
const KEPT = 60;
const kept = new Map<string, Found>();

type SpeedStep = Extract<ShapingStep, { kind: 'target-speed' | 'smooth-speed' | 'whole-speed' }>;

/** Fingerprint of an inverse step: its source, the steps before it and its own numbers. */
function fingerprintOf(identity: string, before: readonly ShapingStep[], step: SpeedStep): string {
  const plain = (s: ShapingStep) => ({ ...s, id: undefined, found: undefined });
  return fingerprint(JSON.stringify([identity, before.filter((s) => !s.off).map(plain), plain(step)]));
}

function designed(
  shape: Shape,
  steps: readonly ShapingStep[],
  index: number,
  context: RecipeContext,
  make: (shape: Shape) => SpeedDesign,
): Shape {
  const step = steps[index] as SpeedStep;
  const of = fingerprintOf(context.identity, steps.slice(0, index), step);
  const base = shape.dense();
  let known = kept.get(of);
  if (!known && step.found?.of === of) known = { displacement: step.found };
  if (!known) {
    const design = make(base);
    known = { displacement: displacementBetween(base, design.outline, of), report: design.report };
    if (kept.size >= KEPT) kept.delete(kept.keys().next().value!);
    kept.set(of, known);
  }
  context.report?.(index, known);
  return Shape.ofOutline(displaced(base, known.displacement));
}

function apply(shape: Shape, steps: readonly ShapingStep[], index: number, context: RecipeContext): Shape {
  const step = steps[index];
  const progress = context.progress && ((k: number, left: number) => context.progress!(index, k, left));
  switch (step.kind) {
    case 'set-thickness':
      return setThickness(shape, step.to);
    case 'scale-thickness':
      return scaleThickness(shape, step.by);
    case 'set-camber':
      return setCamber(shape, step.to);
    case 'scale-camber':
      return scaleCamber(shape, step.by);
    case 'thickness-crest':
      return moveThicknessCrest(shape, step.to);
    case 'camber-crest':
      return moveCamberCrest(shape, step.to);
    case 'nose-radius':
      return setNoseRadius(shape, step.to, step.blend);
    case 'edge-gap':
      return setEdgeGap(shape, step.to, step.blend, step.upper);
    case 'hinge':
      return turnHinge(shape, step);
    case 'square-up':
      return squareUp(shape);
    case 'rotate':
      return rotate(shape, step.angleDeg, step.x, step.y);
    case 'scale':
      return scale(shape, step.by);
    case 'mix':
      return step.fraction === 0 ? shape : mixShapes(shape, context.other(step), step.fraction);
    case 'smooth':
      return smoothStretch(shape, step);
    case 'bump':
      return bump(shape, step);
    case 'target-speed': {
      const stretch = { surface: step.surface, from: step.from, to: step.to, alpha: step.angleDeg * RAD };
      return designed(shape, steps, index, context, (base) =>
        designStretch(base, stretch, stretchTarget(step.target), progress),
      );
    }
    case 'smooth-speed': {
      const stretch = { surface: step.surface, from: step.from, to: step.to, alpha: step.angleDeg * RAD };
      return designed(shape, steps, index, context, (base) =>
        smoothSpeed(base, stretch, step.strength, step.times, progress),
      );
    }
    case 'whole-speed': {
      const target = wholeTarget(step.upper, step.lower);
      const front = Math.min(...[...step.upper, ...step.lower].map((p) => p[0]));
      const base = step.gap === undefined ? shape : setEdgeGap(shape, step.gap, 1);
      return designed(base, steps, index, context, (s) => designWhole(s, step.angleDeg * RAD, target, front, progress));
    }
  }
}

/** Refuses a step whose numbers lie outside their limits. @throws InvalidInput `step-limit` with the nearest value that works. */
export function checkStep(step: ShapingStep, path = ''): void {
  for (const [field, limit] of Object.entries(limitsOf(step.kind))) {
    const value = (step as unknown as Record<string, number | undefined>)[field];
    if (value === undefined && (limit as FieldLimit).optional) continue;
    const broken = limitBroken(limit, value ?? NaN);
    if (broken) {
      const [message, nearest] = broken.message.split('. ');
      throw new InvalidInput('step-limit', `${message}.`, `${nearest ?? 'Give a number'}.`, `${path}${field}`);
    }
  }
}

/** Slimmest section that counts as one, chords. */
const SLIMMEST = 0.002;

function checkShape(shape: Shape): void {
  checkOutline(shape.outline);
  const { y } = shape.outline;
  let low = Infinity;
  let high = -Infinity;
  for (const v of y) [low, high] = [Math.min(low, v), Math.max(high, v)];
  if (high - low < SLIMMEST)
    throw new InvalidInput('section-flat', 'Nothing would be left of the thickness.', 'Take less away.');
}

/**
 * Applies shaping steps to an outline, in order, always from the source: what a step changed, a later step can change back exactly.
 * Steps that are off are left out.
 * @param base the source; it stays as it is.
 * @returns the outline after the last step.
 * @throws InvalidInput with the path `steps.INDEX.FIELD`: `step-limit` for a number outside its limits, `step-crossing` where the surfaces would
 * cross (with the nearest value that works, when there is one), and those of the steps themselves.
 */
export function applySteps(base: Shape, steps: readonly ShapingStep[], context: RecipeContext): Outline {
  let shape = base;
  let before = shape;
  steps.forEach((step, index) => {
    if (step.off) return;
    const path = `steps.${index}.`;
    checkStep(step, path);
    before = shape;
    try {
      shape = apply(shape, steps, index, context);
      checkShape(shape);
    } catch (error) {
      if (!(error instanceof VeldtwindError)) throw error;
      const nearest = error.code.startsWith('section-') ? nearestWorking(before, step, context) : undefined;
      const field = nearest?.field ?? error.path;
      throw new InvalidInput(
        error.code.startsWith('section-') ? 'step-crossing' : error.code,
        `Step ${index + 1}: ${error.message}`,
        nearest ? `Nearest that works: ${nearest.text}.` : error.hint,
        `steps.${index}${field ? `.${field}` : ''}`,
      );
    }
  });
  return shape.outline;
}

/** Seeks, from the value that changes nothing, the last one before the surfaces cross. */
function nearestWorking(
  shape: Shape,
  step: ShapingStep,
  context: RecipeContext,
): { field: string; text: string } | undefined {
  if (step.kind.endsWith('-speed')) return undefined;
  const entry = Object.entries(limitsOf(step.kind)).find(([, limit]) => limit.neutral !== undefined);
  if (!entry) return undefined;
  const [field, limit] = entry;
  const wanted = (step as unknown as Record<string, number>)[field];
  const works = (value: number) => {
    try {
      checkShape(apply(shape, [{ ...step, [field]: value } as ShapingStep], 0, { other: context.other, identity: '' }));
      return true;
    } catch {
      return false;
    }
  };
  let good = limit.neutral!;
  let bad = wanted;
  if (!works(good)) return undefined;
  for (let k = 0; k < 14; k++) {
    const middle = 0.5 * (good + bad);
    if (works(middle)) good = middle;
    else bad = middle;
  }
  // Rounded toward the value that changes nothing, so that the number shown works as well.
  const size = 10 ** (Math.floor(Math.log10(Math.abs(wanted - limit.neutral!) || 1)) - 2);
  const toward = wanted > limit.neutral! ? Math.floor : Math.ceil;
  const shown = limit.neutral! + toward((good - limit.neutral!) / size) * size;
  return { field, text: shownValue(limit, shown) };
}
