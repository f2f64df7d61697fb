import { soak } from './soak';

// The whole, an hour's work in ten minutes, is npm run bench -- --soak; its figures are in docs/security.md.
it('two browsers at work for half a minute leave no error behind, and every edit is somewhere', async () => {
  const { actions, edits, errors, pageFirst, pageLast } = await soak(30, 2);
  expect(errors).toEqual([]);
  expect(actions).toBeGreaterThan(12);
  expect(edits).toBeGreaterThan(3);
  expect(pageLast).toBeLessThan(3 * pageFirst);
});
