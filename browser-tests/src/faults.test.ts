import { TestServer } from './harness';
import { breakThings } from './faults/rig';
import { Tester } from './faults/tester';

// The whole, half an hour of two seeds, is npm run bench -- --faults; its figures are in docs/security.md.
describe('a server that is broken in every way', () => {
  it('loses nothing that was acknowledged, leaves nobody waiting, and no page says “Saved” of what is not', async () => {
    const { testers, page, runs, faults } = await breakThings(24, 20261130, 2);
    expect({ lost: testers.lost, stuck: testers.stuck, failures: testers.failures }).toEqual({
      lost: [],
      stuck: [],
      failures: [],
    });
    expect({ lost: page.lost, stuck: page.stuck, wrong: page.wrongSaved }).toEqual({ lost: [], stuck: [], wrong: [] });
    expect(runs.stuck).toEqual([]);
    expect(Object.keys(faults).length).toBeGreaterThan(0);
    expect(testers.edits).toBeGreaterThan(3);
  }, 240_000);

  it('is seen through where it does lose something', async () => {
    const server = new TestServer();
    await server.start();
    try {
      const tester = new Tester(() => server.base, 'tester', 3);
      await tester.begin();
      await tester.check();
      expect(tester.tested.lost).toEqual([]);
      const [{ id }] = (await server.call<{ projects: { id: string }[] }>('GET', '/projects')).projects;
      const { version, document } = await server.call<{ version: number; document: { brief: object } }>(
        'GET',
        `/projects/${id}`,
      );
      await server.call('POST', `/projects/${id}/edits`, {
        baseVersion: version,
        label: 'Behind its back',
        changes: [{ part: 'brief', value: { ...document.brief, speed: 55 } }],
      });
      await tester.check();
      expect(tester.tested.lost.join(' ')).toMatch(/version 1, must be 0.*brief is not as it was acknowledged/);
    } finally {
      await server.stop();
    }
  });
});
