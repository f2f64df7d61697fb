import { sourceOutline, type SectionSource } from '../shaping';
import { effectsOf } from './effects';
import {
  gridOf,
  halfway,
  limitOfNumber,
  memberName,
  memberSource,
  memberSteps,
  recipeNumbers,
  uniqueMembers,
} from './family';
import { costOf, nextTries, type Tried } from './search';

const base: SectionSource = { kind: 'designation', designation: '4415', trailingEdge: 'published' };
const thicknessOf = (source: SectionSource) => {
  const { x, y } = sourceOutline(source, 241);
  const near = Array.from(x, (v, i) => ({ v, y: y[i] }))
    .filter((p) => Math.abs(p.v - 0.3) < 0.02)
    .map((p) => p.y);
  return Math.max(...near) - Math.min(...near);
};

describe('a family', () => {
  const numbers = [
    { id: 'thickness', values: [0.1, 0.12, 0.14] },
    { id: 'camber', values: [0.02, 0.04] },
  ];
  it('has a member for every combination, with a name that says its numbers', () => {
    const members = gridOf(numbers);
    expect(members).toHaveLength(6);
    expect(members[1]).toEqual([0.1, 0.04]);
    expect(memberName('Karoo 14', numbers, members[1])).toBe('Karoo 14, t 10, f 4');
    expect(halfway([0.1, 0.04], [0.12, 0.02])).toEqual([0.11, 0.03]);
    expect(uniqueMembers([...members, [0.1, 0.04], [0.1 + 1e-9, 0.04]])).toHaveLength(6);
    expect(() => gridOf(Array.from({ length: 4 }, () => ({ id: 'camber', values: [1, 2, 3, 4, 5, 6, 7] })))).toThrow(
      /2401/,
    );
  });
  it('members have the numbers that they are named for, whatever order they are given in', () => {
    const thin = memberSource(base, numbers, [0.1, 0.04]);
    const thick = memberSource(base, numbers, [0.14, 0.04]);
    expect(thicknessOf(thin)).toBeCloseTo(0.1, 2);
    expect(thicknessOf(thick)).toBeCloseTo(0.14, 2);
    expect(memberSource(base, [numbers[1], numbers[0]], [0.04, 0.1])).toEqual(thin);
    expect(memberSteps(numbers, [0.1, 0.04])).toEqual([
      { kind: 'set-camber', to: 0.04 },
      { kind: 'set-thickness', to: 0.1 },
    ]);
  });
  it('varies numbers of a recipe where they stand, and says when one is gone', () => {
    const made: SectionSource = {
      kind: 'recipe',
      source: base,
      steps: [
        { kind: 'bump', surface: 'upper', at: 0.3, height: 0.002, width: 0.3 },
        { kind: 'set-thickness', to: 0.12 },
      ],
    };
    expect(recipeNumbers(made).map((n) => n.id)).toEqual([
      'steps.0.at',
      'steps.0.height',
      'steps.0.width',
      'steps.1.to',
    ]);
    const member = memberSource(made, [{ id: 'steps.0.height' }, { id: 'camber' }], [0.004, 0.03]);
    expect(member).toMatchObject({ steps: [{ height: 0.004 }, { to: 0.12 }, { kind: 'set-camber', to: 0.03 }] });
    expect(limitOfNumber(made, 'steps.0.height')).toBeDefined();
    expect(limitOfNumber(made, 'thickness')).toMatchObject({ max: 0.6 });
    expect(() => memberSource(base, [{ id: 'steps.0.height' }], [0.004])).toThrow(/no number/);
    expect(memberName('Karoo 14', [{ id: 'steps.0.height' }], [0.004])).toBe('Karoo 14, s1 height 0.004');
  });
});

describe('effects of numbers on a fact', () => {
  it('are those of a linear function, over the whole range of each number', () => {
    const members = gridOf([
      { id: 'thickness', values: [0.1, 0.12, 0.16] },
      { id: 'camber', values: [0, 0.04] },
    ]);
    const e = effectsOf(
      members,
      members.map(([t, f]) => 3 + 10 * t - 5 * f),
    )!;
    expect(e.over[0]).toBeCloseTo(0.6, 10);
    expect(e.over[1]).toBeCloseTo(-0.2, 10);
    expect(e.explained).toBeCloseTo(1, 10);
  });
  it('leave out members without the fact, and say nothing where they cannot tell', () => {
    expect(effectsOf([[1], [2], [3]], [1, null, 3])!.over[0]).toBeCloseTo(2);
    expect(effectsOf([[1], [2]], [1, null])).toBeNull();
    expect(
      effectsOf(
        [
          [1, 1],
          [2, 2],
          [3, 3],
        ],
        [1, 2, 3],
      ),
    ).toBeNull();
    expect(effectsOf([], [])).toBeNull();
    const curved = effectsOf([[-1], [0], [1]], [1, 0, 1])!;
    expect(curved.explained).toBeLessThan(1e-9);
  });
});

describe('a search', () => {
  const bounds: [number, number][] = [
    [0.08, 0.2],
    [0, 0.06],
    [0.2, 0.5],
  ];
  /** A bowl, tilted, with a ripple. */
  const bowl = ([t, f, x]: number[]) =>
    ((t - 0.13) / 0.12) ** 2 + ((f - 0.035) / 0.06) ** 2 + ((x - 0.41) / 0.3) ** 2 + 0.02 * Math.sin(60 * t);
  it('finds the least of a function in far fewer tries than a grid needs, and tries nothing twice', () => {
    const tried: Tried[] = [];
    while (tried.length < 60)
      tried.push(...nextTries(bounds, tried, 4).map((member) => ({ member, cost: bowl(member) })));
    expect(new Set(tried.map((t) => t.member.join())).size).toBe(tried.length);
    for (const { member } of tried)
      member.forEach((v, i) => {
        expect(v).toBeGreaterThanOrEqual(bounds[i][0] - 1e-9);
        expect(v).toBeLessThanOrEqual(bounds[i][1] + 1e-9);
      });
    const best = tried.reduce((a, b) => (a.cost < b.cost ? a : b));
    let least = Infinity;
    for (let i = 0; i <= 60; i++)
      for (let j = 0; j <= 60; j++)
        for (let k = 0; k <= 60; k++) least = Math.min(least, bowl([0.08 + 0.002 * i, 0.001 * j, 0.2 + 0.005 * k]));
    expect(best.cost - least).toBeLessThan(0.005);
  });
  it('depends on its tries alone, and goes on over tries that failed', () => {
    const tried: Tried[] = nextTries(bounds, [], 8).map((member, i) => ({
      member,
      cost: i % 3 ? bowl(member) : Infinity,
    }));
    expect(nextTries(bounds, tried, 4)).toEqual(nextTries(bounds, structuredClone(tried), 4));
    expect(nextTries(bounds, tried, 4)).toHaveLength(4);
    expect(nextTries([], [], 4)).toEqual([]);
  });
  it('counts broken limits before anything else, by the worst curve', () => {
    const criteria = [
      { fact: 'cl-max', way: 'least' as const, value: 1.2, weight: 0 },
      { fact: 'cd-min', way: 'most' as const, value: 0.01, weight: 1 },
    ];
    const at = (...facts: Record<string, number | null>[]) =>
      costOf(
        facts.map((f) => ({ facts: f })),
        criteria,
      );
    expect(at({ 'cl-max': 1.3, 'cd-min': 0.008 })).toBeCloseTo(-0.2);
    expect(at({ 'cl-max': 1.3, 'cd-min': 0.008 }, { 'cl-max': 1.08, 'cd-min': 0.006 })).toBeCloseTo(1 - 0.2);
    expect(at({ 'cl-max': null, 'cd-min': 0.006 })).toBeGreaterThan(5);
    expect(at()).toBeGreaterThan(5);
  });
});
