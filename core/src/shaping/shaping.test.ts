import {
  camberCrest,
  designationOutline,
  outlineFromPairs,
  pairsFromOutline,
  sectionFacts,
  SurfaceSpline,
  takeApart,
  thicknessCrest,
  type Outline,
} from '../section';
import {
  fitClassShape,
  sectionSource,
  sourceFacts,
  sourceOutline,
  STEP_LIMITS,
  type SectionSource,
  type ShapingStep,
} from '.';

const formula = (designation: string): SectionSource => ({
  kind: 'designation',
  designation,
  trailingEdge: 'published',
});
const shaped = (steps: ShapingStep[], source = formula('4415')): SectionSource => ({ kind: 'recipe', source, steps });
const run = (steps: ShapingStep[], source = formula('4415')) => sourceOutline(shaped(steps, source));
const furthest = (a: Outline, b: Outline) =>
  a.x.reduce((m, x, i) => Math.max(m, Math.hypot(x - b.x[i], a.y[i] - b.y[i])), 0);
const facts = (steps: ShapingStep[], source = formula('4415')) => sourceFacts(shaped(steps, source));
const points = { kind: 'coordinates', points: pairsFromOutline(designationOutline('4415', 'published', 121)) } as const;

describe('taking a section apart', () => {
  it.each(['0012', '4415', '6409', '23012', '23111', '16-309', '0012-34'])('gives %s back to the last digit', (d) => {
    const outline = designationOutline(d);
    const again = sourceOutline(shaped([{ kind: 'scale-thickness', by: 1 }], formula(d)));
    expect(furthest(outline, again)).toBeLessThan(1e-15);
  });
  it('finds thickness and camber that the formula laid off', () => {
    const frame = takeApart(designationOutline('4415', 'published', 241));
    expect(thicknessCrest(frame).max).toBeCloseTo(0.15, 4);
    expect(camberCrest(frame).max).toBeCloseTo(0.04, 5);
    const reflexed = takeApart(designationOutline('23012', 'published', 241));
    expect(camberCrest(reflexed).max).toBeCloseTo(0.01839, 4);
  });
});

describe('a recipe', () => {
  it('is computed from its source: thin, then thick gives the original', () => {
    for (const source of [formula('4415'), points]) {
      const outline = sourceOutline(source);
      const there = run(
        [
          { kind: 'scale-thickness', by: 0.37 },
          { kind: 'scale-camber', by: -0.4 },
        ],
        source,
      );
      expect(furthest(outline, there)).toBeGreaterThan(0.03);
      const back = run(
        [
          { kind: 'scale-thickness', by: 0.37 },
          { kind: 'scale-camber', by: -0.4 },
          { kind: 'scale-camber', by: -2.5 },
          { kind: 'scale-thickness', by: 1 / 0.37 },
        ],
        source,
      );
      expect(furthest(outline, back)).toBeLessThan(1e-9);
    }
  });
  it('sets thickness and camber to what another designation has', () => {
    expect(furthest(run([{ kind: 'set-thickness', to: 0.12 }]), designationOutline('4412'))).toBeLessThan(5e-5);
    expect(furthest(run([{ kind: 'set-camber', to: 0.02 }]), designationOutline('2415'))).toBeLessThan(5e-5);
    const mixed = run([{ kind: 'mix', fraction: 0.5, other: formula('0015') }]);
    expect(furthest(mixed, designationOutline('2415'))).toBeLessThan(5e-5);
  });
  it('moves either crest and leaves the size', () => {
    const moved = facts([
      { kind: 'thickness-crest', to: 0.4 },
      { kind: 'camber-crest', to: 0.5 },
    ]);
    expect(moved.thickness.at).toBeCloseTo(0.4, 3);
    expect(moved.thickness.max).toBeCloseTo(0.15, 3);
    expect(moved.camber.at).toBeCloseTo(0.5, 2);
    expect(moved.camber.max).toBeCloseTo(0.04, 3);
  });
  it('sets nose radius and edge gap', () => {
    expect(facts([{ kind: 'nose-radius', to: 0.012, blend: 0.25 }]).noseRadius).toBeCloseTo(0.012, 3);
    for (const to of [0, 0.004, 0.02]) {
      const made = facts([{ kind: 'edge-gap', to, blend: 0.5 }]);
      expect(made.trailingEdge.gap).toBeCloseTo(to, 6);
      expect(made.thickness.max).toBeCloseTo(0.15, 4);
    }
    const closed = run([{ kind: 'edge-gap', to: 0, blend: 0.5 }]);
    expect(closed.x[0]).toBe(closed.x[160]);
    expect(closed.y[0]).toBe(closed.y[160]);
  });
  it('opens the edge on one surface and leaves the other as it is', () => {
    const plain = run([]);
    const rise = (upper: number) => {
      const made = run([{ kind: 'edge-gap', to: 0.02, blend: 0.5, upper }]);
      return { upper: made.y[0] - plain.y[0], lower: plain.y.at(-1)! - made.y.at(-1)! };
    };
    const opened = 0.02 - (plain.y[0] - plain.y.at(-1)!);
    for (const upper of [0, 0.3, 1]) {
      expect(rise(upper).upper).toBeCloseTo(upper * opened, 3);
      expect(rise(upper).lower).toBeCloseTo((1 - upper) * opened, 3);
    }
    expect(facts([{ kind: 'edge-gap', to: 0, blend: 0.5, upper: 1 }]).trailingEdge.gap).toBeCloseTo(0, 9);
  });
  it('gives a symmetric section a mean line when camber is set', () => {
    const made = facts([{ kind: 'set-camber', to: 0.03 }], formula('0012'));
    expect(made.camber.max).toBeCloseTo(0.03, 4);
    expect(made.camber.at).toBeCloseTo(0.4, 2);
    expect(made.thickness.max).toBeCloseTo(0.12, 3);
  });
  it('turns hinges up and down, any number of them', () => {
    const hinge = (x: number, angleDeg: number): ShapingStep => ({
      kind: 'hinge',
      x,
      height: 0.5,
      angleDeg,
      joint: 0.012,
    });
    const tail = (o: Outline) => o.y[0];
    expect(tail(run([hinge(0.75, 10)]))).toBeLessThan(-0.03);
    expect(tail(run([hinge(0.75, -10)]))).toBeGreaterThan(0.03);
    const two = tail(run([hinge(0.85, 10), hinge(0.7, 10)]));
    expect(two).toBeLessThan(tail(run([hinge(0.7, 10)])));
  });
  it('squares up what was turned and made larger', () => {
    const outline = sourceOutline(shaped([{ kind: 'square-up' }]));
    const turned = run([
      { kind: 'rotate', angleDeg: 12, x: 0.3, y: 0.1 },
      { kind: 'scale', by: 3 },
      { kind: 'square-up' },
    ]);
    expect(furthest(outline, turned)).toBeLessThan(1e-6);
    const rotated = facts([
      { kind: 'rotate', angleDeg: 12, x: 0.3, y: 0.1 },
      { kind: 'scale', by: 3 },
    ]);
    expect(rotated.thickness.max).toBeCloseTo(0.15, 3);
  });
  it('raises a bump where it is told and smooths it away again, never moving a point past the bound', () => {
    const outline = sourceOutline(formula('4415'), 241);
    const bumped = sourceOutline(shaped([{ kind: 'bump', surface: 'upper', at: 0.5, height: 0.003, width: 0.2 }]), 241);
    const spline = new SurfaceSpline(outline);
    const height = (o: Outline) => Math.max(...Array.from(o.y, (y, i) => (Math.abs(o.x[i] - 0.5) < 0.01 ? y : 0)));
    expect(height(bumped) - height(outline)).toBeCloseTo(0.003, 4);
    expect(bumped.y[0]).toBe(outline.y[0]);
    expect(spline.length).toBeGreaterThan(2);
    const rough = {
      ...points,
      points: points.points.map(([x, y], i): [number, number] => [x, y + (i % 2 ? 2e-5 : -2e-5)]),
    };
    const bound = 0.0004;
    const smoothed = run([{ kind: 'smooth', surface: 'upper', from: 0.1, to: 0.9, strength: 1, bound }], rough);
    expect(furthest(smoothed, outlineFromPairs(rough.points))).toBeLessThanOrEqual(bound + 1e-12);
    const wiggle = (o: Outline) => {
      const s = new SurfaceSpline(o);
      let sum = 0;
      for (let k = 20; k < 80; k++) sum += Math.abs(s.curvature((k + 1) * 0.009) - s.curvature(k * 0.009));
      return sum;
    };
    expect(wiggle(smoothed)).toBeLessThan(0.1 * wiggle(outlineFromPairs(rough.points)));
  });
  it('leaves out steps that are off', () => {
    expect(furthest(run([{ kind: 'set-thickness', to: 0.08, off: true }]), sourceOutline(formula('4415')))).toBe(0);
  });
  it('mixes sources, and refuses mixes that go too deep', () => {
    let source: SectionSource = formula('0012');
    const half = sourceOutline({ kind: 'mix', a: formula('4415'), b: formula('0015'), fraction: 0.5 });
    expect(furthest(half, designationOutline('2415'))).toBeLessThan(5e-5);
    for (let k = 0; k < 12; k++) source = { kind: 'mix', a: source, b: formula('4412'), fraction: 0.1 };
    expect(() => sourceOutline(source)).toThrow(/more than 8 deep/);
  });
});

describe('refusals', () => {
  it.each<[string, ShapingStep, RegExp, string]>([
    ['no thickness', { kind: 'set-thickness', to: 0 }, /Nearest that works: 0.5 %/, 'steps.0.to'],
    ['twice the chord', { kind: 'set-thickness', to: 2 }, /Nearest that works: 60 %/, 'steps.0.to'],
    ['a crest at the nose', { kind: 'thickness-crest', to: 0 }, /Nearest that works: 0.05/, 'steps.0.to'],
    ['a crest too far', { kind: 'thickness-crest', to: 0.85 }, /Nearest that works: 0.77/, 'steps.0.to'],
    ['a hinge outside', { kind: 'hinge', x: 1.2, height: 0.5, angleDeg: 5, joint: 0.01 }, /works: 0.98/, 'steps.0.x'],
    [
      'surfaces that cross',
      { kind: 'bump', surface: 'upper', at: 0.8, height: -0.09, width: 0.3 },
      /works: -6/,
      'steps.0.height',
    ],
    ['not a number', { kind: 'scale-camber', by: NaN }, /must be a number/, 'steps.0.by'],
    [
      'a stretch of nothing',
      { kind: 'smooth', surface: 'upper', from: 0.5, to: 0.4, strength: 1, bound: 0.01 },
      /to 0.52/,
      'steps.0.to',
    ],
  ])('say the limit, the nearest value and the field: %s', (_, step, hint, path) => {
    const refusal = () => run([step]);
    expect(refusal).toThrow();
    try {
      refusal();
    } catch (error) {
      const e = error as { message: string; hint: string; path: string };
      expect(`${e.message} ${e.hint}`).toMatch(hint);
      expect(e.path).toBe(path);
    }
  });
  it('name a value that does work', () => {
    const bump = (height: number): ShapingStep => ({ kind: 'bump', surface: 'upper', at: 0.8, height, width: 0.3 });
    try {
      run([bump(-0.09)]);
    } catch (error) {
      const nearest = Number(/works: (-?[\d.]+) %/.exec((error as { hint: string }).hint)![1]) / 100;
      expect(() => run([bump(nearest)])).not.toThrow();
      expect(() => run([bump(nearest * 1.05)])).toThrow();
    }
  });
  it('come from the schema as well, with the same limits', () => {
    const parsed = sectionSource.safeParse(shaped([{ kind: 'set-thickness', to: 3 }]));
    expect(parsed.success).toBe(false);
    expect(JSON.stringify(parsed.error?.issues)).toContain('from 0.5 % to 60 %');
    expect(STEP_LIMITS['set-thickness'].to.max).toBe(0.6);
  });
});

describe('a fit by class and shape functions', () => {
  it('is exact for what it can make, and closer with every order for what it cannot', () => {
    const made = {
      kind: 'class-shape',
      upper: [0.2, 0.25, 0.18],
      lower: [-0.15, -0.05, -0.1],
      edgeUpper: 0.001,
      edgeLower: -0.001,
    } as const;
    const back = fitClassShape(sourceOutline({ ...made, upper: [...made.upper], lower: [...made.lower] }, 201), 2);
    back.source.upper.forEach((v, i) => expect(v).toBeCloseTo(made.upper[i], 2));
    const outline = designationOutline('4415', 'published', 201);
    const errors = [4, 6, 8, 10].map((order) => fitClassShape(outline, order).error.max);
    for (let k = 1; k < 4; k++) expect(errors[k]).toBeLessThan(errors[k - 1]);
    expect(errors[2]).toBeLessThan(3e-4);
    const fitted = sectionFacts(sourceOutline(fitClassShape(outline, 10).source, 201));
    expect(fitted.thickness.max).toBeCloseTo(0.15, 3);
    expect(() => fitClassShape(outline, 40)).toThrow(/Nearest|from 2 to 12/);
  });
});
