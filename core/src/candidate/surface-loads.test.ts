import { GRAVITY } from '../atmosphere';
import type { SectionSource } from '../shaping';
import { madePolar } from '../lift/viscous/testing/made-polar';
import { surfaceLoads } from './surface-loads';
import { madeTailed } from './testing/made-tailed';

const source: SectionSource = { kind: 'designation', designation: '0012', trailingEdge: 'sharp' };
const SETTINGS = { cruise: 25, diveRatio: 1.4, positive: 3.8, negative: -1.5, altitude: 0, axis: 0.25, polars: null };
const loads = (more: Parameters<typeof madeTailed>[0] = {}, settings: Partial<typeof SETTINGS> = {}) =>
  surfaceLoads(madeTailed(more), () => source, { ...SETTINGS, ...settings });

describe('loads of surfaces', () => {
  it('carry the weight at the load factor, both halves of wing and tail together', () => {
    const { cases } = loads();
    const one = cases.find((c) => c.name === 'manoeuvre at cruise')!;
    const sum = Object.values(one.surfaces).reduce((s, { shear }) => s + 2 * shear[0], 0);
    expect(sum / (3.8 * 20 * GRAVITY)).toBeGreaterThan(0.98);
    expect(sum / (3.8 * 20 * GRAVITY)).toBeLessThan(1.02);
    // Nothing is left at the tip.
    for (const s of Object.values(one.surfaces)) {
      expect(s.shear[s.shear.length - 1]).toBe(0);
      expect(s.bending[s.bending.length - 1]).toBe(0);
    }
  });
  it('are the worst of the envelope, gusts included, downward ones of the other sign', () => {
    const { worst, cases, envelope } = loads();
    const id = Object.keys(worst)[0];
    const root = worst[id][0];
    expect(root.bending).toBe(Math.max(...cases.map((c) => c.surfaces[id].bending[0])));
    expect(cases.find((c) => c.name === 'manoeuvre down')!.surfaces[id].bending[0]).toBeLessThan(0);
    expect(envelope.greatest).toBeGreaterThanOrEqual(3.8);
    const [a, b] = ['manoeuvre at cruise', 'manoeuvre at dive'].map(
      (n) => cases.find((c) => c.name === n)!.surfaces[id],
    );
    // The same lift has nearly the same bending at any speed.
    expect(b.bending[0] / a.bending[0]).toBeCloseTo(1, 1);
  });
  it('are relieved by what the wing carries, by the closed form of its weight', () => {
    const { massItems } = madeTailed();
    const wing = madeTailed().surfaces[0].id;
    const bare = loads().cases[0].surfaces[wing];
    const all = { ...massItems[0], mass: 16 };
    // Four kilogrammes at 1.5 m on each side: the aircraft weighs the same.
    const tanks = { id: 'tank', name: 'Tank', mass: 2, position: { x: 0.25, y: 1.5, z: 0 }, mirrored: true };
    const relieved = loads({ massItems: [all, tanks] } as never).cases[0].surfaces[wing];
    expect(bare.bending[0] - relieved.bending[0]).toBeCloseTo(3.8 * GRAVITY * 2 * 1.5, 0);
    expect(bare.shear[0] - relieved.shear[0]).toBeCloseTo(3.8 * GRAVITY * 2, 0);
    // Outboard of them nothing changes but the trim.
    const tip = bare.y.findIndex((y) => y > 1.6);
    expect(relieved.bending[tip] / bare.bending[tip]).toBeCloseTo(1, 2);
    const skin = { id: 'skin', name: 'Skin', mass: 4, position: { x: 0, y: 0, z: 0 }, shape: 'skin', part: wing };
    const spread = loads({ massItems: [all, skin] } as never).cases[0].surfaces[wing];
    expect(bare.shear[0] - spread.shear[0]).toBeCloseTo(3.8 * GRAVITY * 2, -0.5);
    expect(spread.bending[0]).toBeLessThan(bare.bending[0]);
  });
  it('end where the wing stalls, by the polars of its sections, and say so', () => {
    const curves = [3e5, 9e5].map((re) => madePolar(re, { slope: 5.6, zero: 0, bends: 7, crest: 11 }));
    const polars = [{ section: 's', flap: null, curves }];
    const { cases } = loads({}, { polars, cruise: 20 } as never);
    const fast = cases.find((c) => c.name === 'manoeuvre at dive')!;
    const slow = cases.find((c) => c.name === 'manoeuvre at cruise')!;
    expect(slow.asked).toBe(3.8);
    expect(slow.loadFactor).toBeLessThan(3.8);
    // The greatest lift grows with the square of the speed.
    const va = cases.find((c) => c.name === 'manoeuvre at manoeuvring speed');
    if (va) expect(va.loadFactor).toBeCloseTo(slow.loadFactor * (va.speed / slow.speed) ** 2, 4);
    expect(fast.loadFactor).toBeGreaterThan(slow.loadFactor);
  });
  it('say which case does not trim, and refuse where none does', () => {
    const slow = loads({}, { cruise: 14, diveRatio: 2.2, positive: 3 });
    expect(slow.cases.find((c) => c.name === 'manoeuvre at cruise')).toMatchObject({
      alpha: null,
      failure: expect.stringContaining('lift coefficient') as string,
    });
    expect(slow.cases.some((c) => c.alpha !== null)).toBe(true);
    expect(() => loads({}, { cruise: 2, diveRatio: 1.1 })).toThrow(/No case/);
    expect(() => loads({ massItems: [] } as never)).toThrow(/no mass/);
  });
});
