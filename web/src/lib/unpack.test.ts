import { freshProject, type ProjectDocument } from '@veldtwind/core/project';
import { unpackPoints } from './unpack';

it('takes packed points apart when they are looked at, and looks the same to everything else', () => {
  const part = (points: unknown) => ({
    id: 's',
    name: 'S',
    source: { kind: 'coordinates', points },
    steps: [],
    tags: [],
    note: '',
  });
  const document = {
    ...freshProject(),
    sections: { s: part('1,0.001],[0.5,-1e-7],[0,0') },
  } as unknown as ProjectDocument;
  const { s } = unpackPoints(document).sections;
  const points = [
    [1, 0.001],
    [0.5, -1e-7],
    [0, 0],
  ];
  expect(JSON.stringify(s)).toBe(JSON.stringify(part(points)));
  expect(s.source).toEqual({ kind: 'coordinates', points });
  // The second look finds the same list.
  const source = s.source as { points: unknown };
  expect(source.points).toBe(source.points);
});
