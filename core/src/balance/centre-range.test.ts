import { madeWing } from '../lift/viscous/testing/made-polar';
import { sectionLookup, wholeBalance } from '../candidate';
import { meanLineOf, type Body } from '../airframe';
import { RAD } from '../numerics';
import {
  centreRange,
  type CentreBands,
  estimatedItems,
  groupProperties,
  massProperties,
  partContent,
  placedItems,
} from '.';

const lookup = sectionLookup({ s: { kind: 'designation', designation: '0012', trailingEdge: 'sharp' } });
const surfaces = [
  { ...madeWing(6, 0.5, 0.5), id: 'wing', name: 'Wing' },
  {
    ...madeWing(1.6, 0.3, 0.3),
    id: 'tail',
    name: 'Tail',
    role: 'tailplane' as const,
    position: { x: 2, y: 0, z: 0.2 },
    incidenceDeg: -3,
  },
];
/** About a place: the lift, and margin and slope as the lattice has them in level flight at 25 m/s. */
const about = (x: number) => {
  const mass = { mass: 60, centre: { x, y: 0, z: 0.05 }, inertia: { xx: 1, yy: 1, zz: 1, xy: 0, xz: 0, yz: 0 } };
  const alphas = Array.from({ length: 17 }, (_, i) => (i - 4) * RAD);
  return wholeBalance({ surfaces, alphas, about: mass.centre }, (key) => meanLineOf(lookup(key)), mass, {
    speed: 25,
    altitude: 0,
  });
};
const open = { min: null, max: null };

describe('where the centre of gravity may lie', () => {
  const { lift, balance } = about(0.3);
  const range = (bands: CentreBands, words?: Parameters<typeof centreRange>[3]) =>
    centreRange(lift, balance.centres, bands, words);
  it('is bounded so that the analysis about its ends has the bands’ values', () => {
    const bands = { staticMargin: { min: 0.06, max: 0.3 }, trimAngleDeg: open, pitchSlopePerDeg: open };
    const { forward, aft } = range(bands, (b, v) => `${b} ${v}`);
    expect([forward!.by, aft!.by]).toEqual(['staticMargin 0.3', 'staticMargin 0.06']);
    expect(about(forward!.x).balance.staticMargin).toBeCloseTo(0.3, 3);
    expect(about(aft!.x).balance.staticMargin).toBeCloseTo(0.06, 3);
    const slopes = range({ ...bands, staticMargin: open, pitchSlopePerDeg: { min: -0.03, max: -0.01 } });
    expect(about(slopes.forward!.x).balance.pitchSlope * RAD).toBeCloseTo(-0.03, 4);
    expect(about(slopes.aft!.x).balance.pitchSlope * RAD).toBeCloseTo(-0.01, 4);
    const trims = range({ ...bands, staticMargin: open, trimAngleDeg: { min: 2, max: 6 } });
    expect(about(trims.forward!.x).balance.trims[0].alpha / RAD).toBeCloseTo(2, 2);
    expect(about(trims.aft!.x).balance.trims[0].alpha / RAD).toBeCloseTo(6, 2);
  });
  it('takes the tightest of several, names it, and says when nothing is left', () => {
    const two = { staticMargin: { min: 0.05, max: null }, trimAngleDeg: { min: null, max: 3 }, pitchSlopePerDeg: open };
    const single = range({ ...two, staticMargin: open }).aft!.x;
    const margin = range({ ...two, trimAngleDeg: open }).aft!.x;
    expect(range(two).aft!.x).toBe(Math.min(single, margin));
    const none = range({ ...two, staticMargin: { min: 0.3, max: 0.1 } as never });
    expect(none.empty).toBe(true);
    expect(range({ staticMargin: open, trimAngleDeg: open, pitchSlopePerDeg: open })).toEqual({
      forward: null,
      aft: null,
      empty: false,
    });
  });
});

describe('an estimate of the structure', () => {
  const bodies: Body[] = [
    {
      id: 'pod',
      name: 'Pod',
      mirrored: false,
      loft: 'straight',
      position: { x: -0.5, y: 0, z: 0 },
      stations: [
        { x: 0, width: 0.2, height: 0.2, z: 0, shape: 'ellipse', corner: 0 },
        { x: 2, width: 0.2, height: 0.2, z: 0, shape: 'ellipse', corner: 0 },
      ],
    } as unknown as Body,
  ];
  it('weighs skins by their area, solids by their volume, ribs by how far they stand apart', () => {
    const items = estimatedItems(surfaces, bodies, lookup, { skin: 0.8, solid: 30, rib: 2, ribSpacing: 0.2 });
    const of = (id: string) => items.find((i) => i.id === `estimate-${id}`)!.mass;
    const volume = partContent('wing', 'volume', surfaces, bodies, lookup)!;
    expect(of('wing-skin') / (0.8 * partContent('wing', 'skin', surfaces, bodies, lookup)!)).toBeCloseTo(1, 3);
    expect(of('wing-solid') / (30 * volume)).toBeCloseTo(1, 3);
    // A rectangular wing: every rib has the area of the section, volume over span.
    expect(of('wing-ribs') / (((2 * volume) / 6) * (6 / 0.2))).toBeCloseTo(1, 3);
    // A tube: its wall and its two ends.
    expect(of('pod-skin') / (0.8 * (Math.PI * 0.2 * 2 + 2 * Math.PI * 0.01))).toBeCloseTo(1, 2);
    const all = massProperties(placedItems(items, surfaces, bodies, lookup))!;
    expect(all.mass).toBeCloseTo(
      items.reduce((s, i) => s + i.mass, 0),
      9,
    );
    expect(all.centre.y).toBeCloseTo(0, 9);
    const [group] = groupProperties(placedItems(items, surfaces, bodies, lookup));
    expect([group.group, group.items]).toEqual(['Structure', items.length]);
    expect(group.properties!.mass).toBeCloseTo(all.mass, 9);
  });
  it('leaves out what has no density, and refuses nothing at all', () => {
    const items = estimatedItems(surfaces, bodies, lookup, { skin: 0.5, solid: 0, rib: 0, ribSpacing: 0 });
    expect(items.map((i) => i.shape)).toEqual(['skin', 'skin', 'skin']);
    expect(() => estimatedItems(surfaces, bodies, lookup, { skin: 0, solid: 0, rib: 1, ribSpacing: 0 })).toThrow(
      /No density/,
    );
  });
});
