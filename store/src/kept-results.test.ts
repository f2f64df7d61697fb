import { freshProject } from '@veldtwind/core/project';
import { KeptResults, LARGEST_KEPT } from './kept-results';
import { openDatabase } from './open';
import { ProjectStore } from './projects';

const db = openDatabase(':memory:');
const projects = new ProjectStore(db);
const [a, b] = ['a', 'b'].map((name) => projects.create(name, freshProject()).id);
afterAll(() => db.close());

const at = (seconds: number) => new Date(1e12 + 1000 * seconds);
const bytes = (n: number, of = 1) => Buffer.alloc(n, of);

describe('results that pages keep', () => {
  it('are given back to their own project, byte by byte, and to no other', () => {
    const kept = new KeptResults(db);
    kept.put(a, 'k1', 'motion', Buffer.from([0, 255, 7]));
    expect(kept.get(a, 'k1')).toEqual(Buffer.from([0, 255, 7]));
    expect(kept.get(b, 'k1')).toBeUndefined();
    expect(kept.keys(b)).toEqual([]);
  });
  it('go when there is no room, the longest unused first', () => {
    const kept = new KeptResults(db, 300);
    kept.put(b, 'x', 'lift', bytes(100), at(1));
    kept.put(b, 'y', 'lift', bytes(100), at(2));
    kept.put(b, 'z', 'lift', bytes(100), at(3));
    kept.get(b, 'x', at(200));
    kept.put(b, 'w', 'lift', bytes(100), at(300));
    expect(kept.keys(b)).toEqual(['w', 'x', 'z']);
    // The other project has a budget of its own.
    expect(kept.keys(a)).toEqual(['k1']);
  });
  it('are replaced under one key, and refused where they are too large', () => {
    const kept = new KeptResults(db);
    kept.put(a, 'k1', 'motion', bytes(10, 9));
    expect(kept.get(a, 'k1')).toEqual(bytes(10, 9));
    expect(() => kept.put(a, 'k2', 'motion', bytes(LARGEST_KEPT + 1))).toThrow(/4 MB/);
    expect(kept.keys(a)).toEqual(['k1']);
  });
  it('go with their project', () => {
    projects.remove(a);
    expect(new KeptResults(db).keys(a)).toEqual([]);
  });
});
