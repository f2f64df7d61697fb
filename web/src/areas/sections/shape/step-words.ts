import { newId } from '@/lib/ids';
import type { SavedStep, StepKind } from '@veldtwind/core/shaping';
import type { SectionFacts } from '@veldtwind/core/section';

/** Names of the shaping steps, in the order in which they are offered. */
export const STEP_NAMES: Record<StepKind, string> = {
  'set-thickness': 'Set the thickness',
  'scale-thickness': 'Scale the thickness',
  'thickness-crest': 'Move the thickness crest',
  'set-camber': 'Set the camber',
  'scale-camber': 'Scale the camber',
  'camber-crest': 'Move the camber crest',
  'nose-radius': 'Nose radius',
  'edge-gap': 'Trailing-edge gap',
  hinge: 'Turn a hinge',
  bump: 'Raise a bump',
  smooth: 'Smooth a stretch',
  mix: 'Mix with another section',
  'square-up': 'Square up to the chord line',
  rotate: 'Rotate',
  scale: 'Scale',
  'smooth-speed': 'Smooth the speed',
  'target-speed': 'Shape to a speed',
  'whole-speed': 'Whole shape from a speed',
};

/** A new step that starts from the section as it is, so that adding it changes as little as may be. */
export function freshStep(kind: StepKind, facts: SectionFacts, other: string, alphaDeg: number): SavedStep {
  const id = newId().slice(0, 8);
  const round = (v: number, d = 4) => Number(v.toFixed(d));
  const angleDeg = Math.max(-15, Math.min(15, round(alphaDeg, 2)));
  switch (kind) {
    case 'set-thickness':
      return { kind, id, to: round(facts.thickness.max) };
    case 'scale-thickness':
    case 'scale-camber':
    case 'scale':
      return { kind, id, by: 1 };
    case 'thickness-crest':
      return { kind, id, to: round(facts.thickness.at, 3) };
    case 'set-camber':
      return { kind, id, to: round(facts.camber.max) };
    case 'camber-crest':
      return { kind, id, to: round(facts.camber.at, 3) || 0.4 };
    case 'nose-radius':
      return { kind, id, to: round(facts.noseRadius), blend: 0.25 };
    case 'edge-gap':
      return { kind, id, to: round(facts.trailingEdge.gap), blend: 0.6, upper: 0.5 };
    case 'hinge':
      return { kind, id, x: 0.75, height: 0.5, angleDeg: 5, joint: 0.012 };
    case 'bump':
      return { kind, id, surface: 'upper', at: 0.3, height: 0.003, width: 0.3 };
    case 'smooth':
      return { kind, id, surface: 'upper', from: 0.1, to: 0.9, strength: 1, bound: 0.002 };
    case 'mix':
      return { kind, id, with: other, fraction: 0.5 };
    case 'square-up':
      return { kind, id };
    case 'rotate':
      return { kind, id, angleDeg: 0, x: 0.25, y: 0 };
    case 'smooth-speed':
      return { kind, id, surface: 'upper', from: 0.1, to: 0.8, angleDeg, strength: 1, times: 1 };
    case 'target-speed':
      return { kind, id, surface: 'upper', from: 0.1, to: 0.8, angleDeg, target: [] };
    case 'whole-speed':
      return { kind, id, angleDeg, upper: [], lower: [] };
  }
}
