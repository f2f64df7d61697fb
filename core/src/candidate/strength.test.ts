import type { SectionSource } from '../shaping';
import { MATERIALS, tube, type Spar, type SurfaceStructure } from '../structure';
import { massProperties } from '../balance';
import type { CandidatePart } from '../project';
import { withPlacedMass } from './placed-mass';
import { strengthOf, thickEnough, type StrengthSettings } from './strength';
import { madeTailed } from './testing/made-tailed';

const source: SectionSource = { kind: 'designation', designation: '0012', trailingEdge: 'sharp' };
const lookup = () => source;
const SETTINGS: StrengthSettings = {
  cruise: 25,
  diveRatio: 1.4,
  positive: 3.8,
  negative: -1.5,
  altitude: 0,
  axis: 0.25,
  polars: null,
  safetyFactor: 1.5,
};
/** Slower, gusts load it less: what holds then fits the sections. */
const CALM = { ...SETTINGS, cruise: 15 };
const spar = (more: Partial<Spar> = {}): Spar => ({
  id: 'main',
  name: 'Main spar',
  kind: 'tube',
  material: 'carbon-rod',
  at: 0.35,
  from: 0,
  to: 1,
  width: 0.03,
  wall: 1.5e-3,
  ...more,
});
/** The wing of the made-up aircraft with a structure; its chord is even where asked. */
function built(structure: Partial<SurfaceStructure>, more: object = {}): CandidatePart {
  const c = madeTailed();
  return {
    ...c,
    surfaces: c.surfaces.map((s, i) => (i === 0 ? { ...s, ...more, structure: { spars: [], ...structure } } : s)),
  };
}

describe('strength of a built wing', () => {
  it('on one tube is M R/I at the root, and bends by the integral of its moment', () => {
    const { surfaces, loads } = strengthOf(built({ spars: [spar()] }), lookup, SETTINGS);
    const [wing] = surfaces;
    const { I } = tube(0.03, 1.5e-3);
    const { y } = loads.cases[0].surfaces[wing.id];
    const bendings = loads.cases.filter((c) => c.alpha !== null).map((c) => Math.abs(c.surfaces[wing.id].bending[0]));
    const [member] = wing.members;
    expect(member.worst!.place).toBe(0);
    expect(Math.abs(member.worst!.stress) / ((Math.max(...bendings) * 0.015) / I)).toBeCloseTo(1, 6);
    expect(member.worst!.reserve).toBeCloseTo(member.worst!.allowable / (1.5 * Math.abs(member.worst!.stress)) - 1, 9);
    const bent = loads.cases.find((c) => c.name === wing.bentMost)!.surfaces[wing.id];
    // Tip deflection: ∫ M (L − y)/EI dy by trapezia, many of them.
    const L = y[y.length - 1];
    let sum = 0;
    for (let i = 1; i < y.length; i++)
      sum += 0.5 * (y[i] - y[i - 1]) * (bent.bending[i] * (L - y[i]) + bent.bending[i - 1] * (L - y[i - 1]));
    expect(wing.tipDeflection / (sum / (MATERIALS['carbon-rod'].modulus * I))).toBeCloseTo(1, 2);
  });
  it('finds divergence of an even wing on a tube behind the quarter chord at the closed form', () => {
    const even = { stations: [0, 1].map(() => ({ chord: 0.5, twistDeg: 0, section: 's' })) };
    const { surfaces } = strengthOf(built({ spars: [spar({ at: 0.4 })] }, even), lookup, SETTINGS);
    const GJ = 2 * MATERIALS['carbon-rod'].shearModulus * tube(0.03, 1.5e-3).I;
    const q = (Math.PI ** 2 * GJ) / (4 * 2.5 ** 2 * 0.5 * (0.15 * 0.5) * 2 * Math.PI);
    expect(surfaces[0].divergenceSpeed! / Math.sqrt((2 * q) / 1.225)).toBeCloseTo(1, 2);
    const ahead = strengthOf(built({ spars: [spar({ at: 0.2 })] }, even), lookup, SETTINGS);
    expect(ahead.surfaces[0].divergenceSpeed).toBeNull();
  });
  it('finds the frequency of an even wing that is all mass and tube', () => {
    const even = { stations: [0, 1].map(() => ({ chord: 0.5, twistDeg: 0, section: 's' })) };
    const { surfaces } = strengthOf(built({ spars: [spar()] }, even), lookup, SETTINGS);
    const { I, area } = tube(0.03, 1.5e-3);
    const perMetre = 1550 * area;
    const exact = (3.516 / (2 * Math.PI)) * Math.sqrt((120e9 * I) / (perMetre * 2.5 ** 4));
    expect(surfaces[0].frequencies.bending! / exact).toBeCloseTo(1, 2);
  });
  it('is relieved by its own mass, which the aircraft has', () => {
    const light = built({ spars: [spar({ weighed: 0.1 })] });
    const heavy = built({ spars: [spar({ weighed: 6 })] });
    expect(massProperties(withPlacedMass(heavy, lookup).massItems)!.mass).toBeCloseTo(26, 9);
    // Placed twice, it is there once.
    const placed = withPlacedMass(withPlacedMass(heavy, lookup), lookup);
    expect(massProperties(placed.massItems)!.mass).toBeCloseTo(26, 9);
    const root = (c: CandidatePart) => {
      const one = strengthOf(c, lookup, SETTINGS).loads.cases.find((k) => k.name === 'manoeuvre at cruise')!;
      return one.surfaces[c.surfaces[0].id].bending[0];
    };
    // Mass of the wing along its span costs it little: the lift that carries it is where it lies.
    expect(root(heavy) / root(light)).toBeLessThan(1.1);
    const { members } = strengthOf(heavy, lookup, SETTINGS).surfaces[0];
    expect(members[0].mass).toBe(6);
    expect(members[0].weighed).toBe(true);
  });
  it('says what would hold, and that holds', () => {
    const weak = built({
      spars: [spar({ kind: 'i', material: 'spruce', width: 0.03, cap: 2e-3, web: 8e-4, webMaterial: 'birch-plywood' })],
      skin: { material: 'birch-plywood-45', thickness: 6e-4, to: 0.35 },
      ribs: { material: 'balsa-light', thickness: 3e-3, spacing: 0.12 },
    });
    const before = strengthOf(weak, lookup, CALM).surfaces[0];
    const failing = before.members.filter((m) => m.worst && m.worst.reserve < 0);
    expect(failing.length).toBeGreaterThan(0);
    expect(before.members.find((m) => m.member === 'ribs')!.worst).toBeNull();
    const thicker = failing[0].worst!.thicker!;
    const changed = structuredClone(weak);
    for (const t of thicker) {
      const [, group, id, key] = t.path.split('.');
      const own = changed.surfaces[0].structure!;
      if (group === 'skin') own.skin!.thickness = t.to;
      else (own.spars.find((s) => s.id === id) as unknown as Record<string, number>)[key] = t.to;
    }
    const after = strengthOf(changed, lookup, CALM).surfaces[0];
    // The loads moved a little with the mass.
    for (const m of after.members) if (m.worst) expect(m.worst.reserve).toBeGreaterThan(-0.04);
  });
  it('takes off what is not needed: all members just hold at the least mass', () => {
    const stout = built({ spars: [spar({ kind: 'i', material: 'spruce', width: 0.04, cap: 12e-3, web: 6e-3 })] });
    const out = thickEnough(stout, stout.surfaces[0].id, lookup, CALM);
    expect(out.holds).toBe(true);
    expect(out.mass).toBeLessThan(0.95 * out.before);
    const own = { ...stout.surfaces[0], structure: out.surface.structure };
    const after = strengthOf({ ...stout, surfaces: [own, stout.surfaces[1]] }, lookup, CALM).surfaces[0];
    const reserves = after.members.flatMap((m) => (m.worst ? [m.worst.reserve] : []));
    expect(Math.min(...reserves)).toBeGreaterThan(-0.02);
    expect(Math.min(...reserves)).toBeLessThan(0.05);
  });
  it('refuses a surface of nothing, a spar that ends too soon or leaves the skin, and knows a bare tip', () => {
    const refused = (c: CandidatePart) => () => strengthOf(c, lookup, SETTINGS);
    expect(refused(madeTailed())).toThrow(expect.objectContaining({ code: 'no-structure' }));
    expect(refused(built({ spars: [spar({ to: 0.5 })] }))).toThrow(expect.objectContaining({ code: 'no-structure' }));
    expect(refused(built({ spars: [spar({ width: 0.2 })] }))).toThrow(
      expect.objectContaining({ code: 'spar-outside' }),
    );
    expect(strengthOf(built({ spars: [spar({ to: 0.95 })] }), lookup, SETTINGS).surfaces[0].bareFrom).toBeLessThan(
      2.45,
    );
  });
});
