import { rightPoles } from './slow-roots';

type Poles = [number, number][];
const fast: Poles = [
  [-4, 3],
  [-4, -3],
];

describe('slow roots of a closed loop', () => {
  it('are left only where they were there before and no gain moves them to the left', () => {
    const before: Poles = [...fast, [0.02, 0]];
    const same = rightPoles([...fast, [0.02, 0]], before, () => [...fast, [0.02, 0]]);
    expect(same).toEqual({ unstable: 0, left: [[0.02, 0]] });
    // A loop that only slows it, and that would hold it with more gain, is not done.
    expect(rightPoles([...fast, [0.01, 0]], before, () => [...fast, [-0.3, 0]]).unstable).toBe(1);
    // One that makes it worse, or brings one that was not there, is not stable.
    expect(rightPoles([...fast, [0.03, 0]], before, () => [...fast, [0.03, 0]]).unstable).toBe(1);
    expect(rightPoles([...fast, [0.02, 0]], fast, () => [...fast, [0.02, 0]]).unstable).toBe(1);
    expect(
      rightPoles([...fast, [0.02, 0], [0.01, 0]], before, () => [
        [0.02, 0],
        [0.01, 0],
      ]).unstable,
    ).toBe(2);
  });
  it('are left to loops outside that bring them to the left, and to no others', () => {
    const own: Poles = [...fast, [0.01, 0]];
    const held: Poles = [...fast, [-0.2, 0]];
    expect(
      rightPoles(
        own,
        fast,
        () => own,
        () => held,
      ),
    ).toEqual({ unstable: 0, left: [[0.01, 0]] });
    expect(
      rightPoles(
        own,
        fast,
        () => own,
        () => [...fast, [0.001, 0]],
      ).unstable,
    ).toBe(1);
    expect(
      rightPoles(
        [...own, [0.5, 0]],
        fast,
        () => own,
        () => held,
      ).unstable,
    ).toBe(1);
  });
  it('are no excuse for what grows fast', () => {
    const before: Poles = [...fast, [0.06, 0]];
    expect(rightPoles(before, before, () => before)).toEqual({ unstable: 1, left: [] });
    expect(
      rightPoles(
        [
          [0.01, 5],
          [0.01, -5],
        ],
        fast,
        () => fast,
      ).unstable,
    ).toBe(2);
    expect(rightPoles(fast, fast, () => fast)).toEqual({ unstable: 0, left: [] });
  });
});
