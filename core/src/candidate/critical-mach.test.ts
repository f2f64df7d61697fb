import { describe, expect, it } from '@jest/globals';
import type { LiftingSurface } from '../airframe';
import { keptMeanLine, makeLattice } from '../lift';
import { criticalMach, InviscidSection } from '../section-flow';
import { sourceOutline } from '../shaping';
import { criticalMachs, sectionLookup } from '.';

const lookup = sectionLookup({});
const wing = (sweepDeg: number, section = 'naca:0012', span = 20): LiftingSurface => ({
  id: 'wing',
  name: 'wing',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0, y: 0, z: 0 },
  incidenceDeg: 0,
  stations: [1, 1].map((chord) => ({ chord, twistDeg: 0, section })),
  bays: [{ span, sweepDeg, dihedralDeg: 0 }],
});
const stripsOf = (surface: LiftingSurface, cl: number) =>
  makeLattice({ surfaces: [surface] }, (k) => keptMeanLine(lookup(k)))
    .at({ alpha: 0 })
    .strips.map((s) => ({ surface: s.id, station: s.station, cl }));

describe('critical Mach numbers of strips', () => {
  it('are those of the section where nothing is swept and nothing lifts', () => {
    const found = criticalMachs([wing(0)], lookup, stripsOf(wing(0), 0));
    const section = new InviscidSection(
      sourceOutline({ kind: 'designation', designation: '0012', trailingEdge: 'published' }, 241),
    );
    const alone = criticalMach(Math.min(...section.at(0).cp));
    expect(found).toHaveLength(24);
    for (const s of found) expect(s.mach).toBeCloseTo(alone, 2);
    // NACA TR-824's figure for this section without lift is 0.72 to 0.73.
    expect(alone).toBeGreaterThan(0.7);
    expect(alone).toBeLessThan(0.75);
  });

  it('rise with the sweep by one over its cosine less what the thicker cut takes, and fall with lift and thickness', () => {
    const swept = criticalMachs([wing(30)], lookup, stripsOf(wing(30), 0))[10];
    expect(swept.sweep).toBeCloseTo(Math.PI / 6, 3);
    const at = (cl: number, section?: string) => {
      const w = wing(0, section);
      return criticalMachs([w], lookup, stripsOf(w, cl))[10].mach;
    };
    // 12 % over the cosine is 13.86 %.
    const thicker = 0.86 * at(0, 'naca:0014') + 0.14 * at(0, 'naca:0013');
    expect(swept.mach * Math.cos(Math.PI / 6)).toBeCloseTo(thicker, 2);
    expect(swept.mach).toBeGreaterThan(at(0) + 0.08);
    expect(at(0.4)).toBeLessThan(at(0.2));
    expect(at(0.2)).toBeLessThan(at(0));
    expect(at(0, 'naca:0018')).toBeLessThan(at(0, 'naca:0009'));
    // Up and down alike, where the section is.
    expect(at(-0.3)).toBeCloseTo(at(0.3), 3);
  });

  it('leave out strips that are not there', () => {
    expect(criticalMachs([wing(0)], lookup, [{ surface: 'tail', station: 0.5, cl: 0 }])).toEqual([]);
  });
});
