import { earlierShape, shapeText, type SectionSource } from '.';

const plain: SectionSource = { kind: 'designation', designation: '4415', trailingEdge: 'sharp' };
type Recipe = Extract<SectionSource, { kind: 'recipe' }>;
const recipe = (...steps: Recipe['steps']): SectionSource => ({ kind: 'recipe', source: plain, steps });
const thin: Recipe['steps'][number] = { id: 'a', kind: 'set-thickness', to: 0.12 };
const bent: Recipe['steps'][number] = { id: 'b', kind: 'set-camber', to: 0.03 };
const round: Recipe['steps'][number] = { id: 'c', kind: 'nose-radius', to: 0.02, blend: 0.2 };

describe('shapes of one section', () => {
  it('are the same whatever their steps are called, and with steps that are left out', () => {
    expect(shapeText(recipe(thin, bent))).toBe(shapeText(recipe({ ...thin, id: 'x' }, { ...round, off: true }, bent)));
    expect(shapeText(recipe())).toBe(shapeText(plain));
    expect(shapeText(recipe(thin))).not.toBe(shapeText(recipe({ ...thin, to: 0.121 })));
  });
  it('tell the step before which a section was as it was', () => {
    const now = recipe(thin, { ...round, off: true }, bent, round);
    expect(earlierShape(recipe(thin, bent), now)).toEqual({ kind: 'before-step', step: 4 });
    expect(earlierShape(recipe(thin), now)).toEqual({ kind: 'before-step', step: 3 });
    expect(earlierShape(plain, now)).toEqual({ kind: 'before-step', step: 1 });
    expect(earlierShape(recipe(bent), now)).toEqual({ kind: 'other' });
    expect(earlierShape(now, recipe(thin, bent, round))).toEqual({ kind: 'same' });
    expect(earlierShape(recipe(thin), plain)).toEqual({ kind: 'other' });
  });
  it('looks into what is mixed', () => {
    const mixed = (b: SectionSource): SectionSource => ({ kind: 'mix', a: plain, b, fraction: 0.5 });
    expect(shapeText(mixed(recipe({ ...thin, id: 'y' })))).toBe(shapeText(mixed(recipe(thin))));
    expect(earlierShape(mixed(plain), mixed(recipe(thin)))).toEqual({ kind: 'other' });
  });
});
