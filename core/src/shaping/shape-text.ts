import type { SectionSource } from './schema';

/**
 * A source as text that is equal for equal shapes: without what steps are called, steps that are left out, and what an inverse step found before.
 */
export function shapeText(source: SectionSource): string {
  return JSON.stringify(plain(source));
}

function plain(source: SectionSource): unknown {
  switch (source.kind) {
    case 'recipe': {
      const steps = source.steps.filter((s) => !s.off).map(plainStep);
      const of = plain(source.source);
      // A recipe without a step is its source.
      return steps.length === 0 ? of : { kind: source.kind, source: of, steps };
    }
    case 'mix':
      return { ...source, a: plain(source.a), b: plain(source.b) };
    default:
      return source;
  }
}

type Steps = Extract<SectionSource, { kind: 'recipe' }>['steps'];
function plainStep(step: Steps[number]): unknown {
  const { id: _id, off: _off, ...rest } = step;
  const bare = 'found' in rest ? (({ found: _found, ...own }) => own)(rest) : rest;
  return 'other' in bare ? { ...bare, other: plain(bare.other) } : bare;
}

/** What a shape that was computed before is to a section as it is now. */
export type EarlierShape =
  | { kind: 'same' }
  /** As the section is before one of its steps, counted from 1 with those that are left out. */
  | { kind: 'before-step'; step: number }
  | { kind: 'other' };

/** Compares a shape with a section as it is now. */
export function earlierShape(earlier: SectionSource, now: SectionSource): EarlierShape {
  const text = shapeText(earlier);
  if (text === shapeText(now)) return { kind: 'same' };
  if (now.kind !== 'recipe') return { kind: 'other' };
  for (let k = 0; k < now.steps.length; k++)
    if (!now.steps[k].off && text === shapeText({ ...now, steps: now.steps.slice(0, k) }))
      return { kind: 'before-step', step: k + 1 };
  return { kind: 'other' };
}
