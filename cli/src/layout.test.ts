import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { vw } from './testing/vw';

const folder = mkdtempSync(join(tmpdir(), 'layout-'));

describe('vw layout', () => {
  it('lists the layouts', async () => {
    const { code, out } = await vw('layout', '--json');
    expect(code).toBe(0);
    const { layouts } = JSON.parse(out) as { layouts: { id: string }[] };
    expect(layouts.map((l) => l.id)).toEqual(expect.arrayContaining(['tailed', 'glider', 'canard', 'swept-wing']));
    expect((await vw('layout')).out).toMatch(/twin-boom .*\n/);
  });
  it('writes a candidate file that the other commands read, with the same static margin', async () => {
    const path = join(folder, 'a.json');
    const made = await vw(
      ...'layout --layout twin-boom --mass 18 --speed 25 --altitude 400 --span 4 --power 1500'.split(' '),
      '--out',
      path,
      '--json',
    );
    expect(made.err).toBe('');
    const { found, assumed } = JSON.parse(made.out) as { found: { staticMargin: number }; assumed: string[] };
    expect(assumed.length).toBeGreaterThan(3);
    const told = await vw('balance', '--airframe', path, '--speed', '25', '--altitude', '400', '--json');
    expect(told.code).toBe(0);
    const margin = /"staticMargin":([\d.e-]+)/.exec(told.out)!;
    expect(Number(margin[1])).toBeCloseTo(found.staticMargin, 9);
    expect(found.staticMargin).toBeCloseTo(0.12, 2);
  });
  it.each([
    [['--layout', 'rocket'], /no layout "rocket"/],
    [['--layout', 'tailed', '--span', '0.5'], /too small[\s\S]*Allow/],
    [['--layout', 'tailed', '--thrust', '50'], /takes a power/],
    [['--layout', 'glider', '--power', '50'], /takes neither power nor thrust/],
    [['--layout', 'tailed', '--mass', 'NaN'], /mass/],
    [['--layout', 'tailed', '--mass', '-3'], /[Mm]ass/],
    [['--layout', 'tailed', '--out', '/no/such/folder/a.json'], /cannot be written/],
  ])('refuses %p', async (args, why) => {
    const { code, out, err } = await vw('layout', ...args);
    expect([code, out]).toEqual([1, '']);
    expect(err).toMatch(why);
    expect(err).not.toMatch(/unforeseen/);
  });
});
