import { clearLabels, massPoints } from './mass-points';

const item = (id: string, mass: number, y = 0, mirrored?: boolean) => ({
  id,
  name: id,
  mass,
  position: { x: 1, y, z: 0.1 },
  ...(mirrored && { mirrored }),
});

describe('mass items as points', () => {
  it('has the heaviest first, and the mirror image of those on both sides', () => {
    const points = massPoints([item('servo', 0.5, 0.8, true), item('battery', 2)], 'metric');
    expect(points.map((p) => [p.key, p.y, p.share])).toEqual([
      ['battery', 0, 1],
      ['servo', 0.8, 0.25],
      ['servo-mirrored', -0.8, 0.25],
    ]);
    expect(points[0].text).toBe('battery, 2.00 kg');
  });
  it('is empty without items, and finite where none has a mass', () => {
    expect(massPoints([], 'metric')).toEqual([]);
    expect(massPoints([item('none', 0)], 'metric')[0].share).toBe(0);
  });
});

describe('labels that keep clear of each other', () => {
  const at = (l: { x: number; y: number }) => ({ ...l, width: 40 });
  it('leaves out what would lie on one that counts more, up to a number of them', () => {
    const labels = [
      { x: 0, y: 0 },
      { x: 20, y: 5 },
      { x: 50, y: 5 },
      { x: 0, y: 20 },
    ];
    expect(clearLabels(labels, at, 9)).toEqual([labels[0], labels[2], labels[3]]);
    expect(clearLabels(labels, at, 2)).toHaveLength(2);
  });
});
