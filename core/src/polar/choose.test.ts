import { choose, type Candidate, type Criterion } from '.';

const curve = (section: string, name: string, clMax: number | null, cdMin: number): Candidate => ({
  section,
  curve: name,
  facts: { clMax, cdMin },
});
const criteria: Criterion[] = [
  { fact: 'clMax', way: 'least', value: 1.2, weight: 1 },
  { fact: 'cdMin', way: 'most', value: 0.01, weight: 3 },
];

describe('choosing', () => {
  const list = [
    curve('A', 'root', 1.5, 0.008),
    curve('A', 'tip', 1.3, 0.0095),
    curve('B', 'root', 1.4, 0.007),
    curve('B', 'tip', 1.25, 0.009),
    curve('C', 'root', 1.6, 0.006),
    curve('C', 'tip', 1.1, 0.012),
    curve('D', 'root', null, 0.007),
  ];
  const verdicts = choose(list, criteria);
  it('keeps what meets every limit on every curve, best first', () => {
    expect(verdicts.map((v) => v.section)).toEqual(['B', 'A', 'D', 'C']);
    // A has the better lift, B the better drag, which counts three times.
    expect(verdicts[0].score).toBeCloseTo(0.75, 12);
    expect(verdicts[1].score).toBeCloseTo(0.25, 12);
  });
  it('says for each rejection which curve, which criterion, and the value', () => {
    expect(verdicts[3].rejections).toEqual([
      { curve: 'tip', criterion: criteria[0], value: 1.1 },
      { curve: 'tip', criterion: criteria[1], value: 0.012 },
    ]);
    expect(verdicts[2].rejections).toEqual([{ curve: 'root', criterion: criteria[0], value: null }]);
    expect(verdicts[2].score).toBeNull();
  });
  it('without criteria, with one section, with equal ones, and with none', () => {
    expect(choose(list, []).every((v) => v.score === 1)).toBe(true);
    expect(choose(list.slice(0, 2), criteria)[0].score).toBe(1);
    expect(choose([curve('A', 'x', 1.3, 0.008), curve('B', 'x', 1.3, 0.008)], criteria).map((v) => v.score)).toEqual([
      1, 1,
    ]);
    expect(choose([], criteria)).toEqual([]);
  });
});
