import { soak } from './soak';

// The whole, an hour's work in ten minutes, is npm run bench -- --soak; its figures are in docs/security.md.
it('two browsers at work leave no error behind, and every edit is somewhere', async () => {
  const { edits, errors, pageFirst, pageLast } = await soak(30, 2, { actions: 12, editing: 4 });
  expect(errors).toEqual([]);
  expect(edits).toBeGreaterThan(3);
  expect(pageLast).toBeLessThan(3 * pageFirst);
}, 180_000);
