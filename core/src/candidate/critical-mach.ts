import { z } from 'zod';
import { MOST_SURFACES, surfaceSchema, type LiftingSurface, type SectionLookup } from '../airframe';
import { finiteNumber } from '../limits';
import { buildLattice, DEFAULT_LATTICE, deflectionsOf, keptMeanLine, stripSections, type StripShare } from '../lift';
import { flappedOutline } from '../polar';
import { analysis } from '../results';
import { criticalMach, InviscidSection } from '../section-flow';
import { sectionSource, type SectionSource } from '../shaping';
import { sectionLookup } from './section-lookup';

/** Where a strip stands, and its lift coefficient in the state that is asked about. */
export interface StripLift {
  surface: string;
  /** Share of the half span. */ station: number;
  cl: number;
}

/** At which Mach number of flight sonic speed is first reached on a strip. */
export interface StripCritical extends StripLift {
  /** Of flight, 0 to 1; 1 where nothing on the section is faster than the stream. */ mach: number;
  /** Angle between the quarter-chord line and a line across the stream, rad. */ sweep: number;
  /** In the flow normal to that line. */ normal: { cl: number; mach: number; cpMin: number };
}

const STEPS = 6;
/** Places of a strip along the span that are the same. */
const SAME = 1e-6;

/** The least pressure of a section at a lift coefficient, incompressible; solved once for all angles. */
class LeastPressure {
  private readonly section: InviscidSection;
  private readonly a: number;
  private readonly b: number;

  /** @param cosSweep the cut normal to the span is thicker by its inverse than that along the stream. */
  constructor(source: SectionSource, flap: StripShare['flap'], cosSweep: number) {
    const { outline } = flappedOutline(source, flap && { x: flap.hinge, y: 0.5, angleDeg: flap.angleDeg });
    this.section = new InviscidSection({ ...outline, y: outline.y.map((v) => v / cosSweep) });
    // Lift is a sum of that of two streams.
    this.a = this.section.at(0).cl;
    this.b = (this.section.at(0.1).cl - this.a * Math.cos(0.1)) / Math.sin(0.1);
  }

  at(cl: number): number {
    const size = Math.hypot(this.a, this.b);
    const alpha = Math.asin(Math.max(-1, Math.min(1, cl / size))) - Math.atan2(this.a, this.b);
    const { cp } = this.section.at(Math.max(-0.5, Math.min(0.5, alpha)));
    let least = 0;
    for (const v of cp) least = Math.min(least, v);
    return least;
  }
}

/**
 * Critical Mach numbers of strips at the lift that they carry: sonic speed in the flow normal to the quarter-chord line, by Kármán–Tsien from the section's
 * pressures without viscosity; the lift coefficient is held and its incompressible counterpart falls with the Mach number; the section
 * across the span is thicker and more cambered by the inverse of the sweep's cosine than the one along the stream.
 * @param surfaces where they stand. @param strips of the right sides and of surfaces that stand once. @returns those of `strips` that the airframe has.
 * @source NACA TN-1006, 1946; simple sweep: NACA TR-863, 1947.
 */
export function criticalMachs(
  surfaces: readonly LiftingSurface[],
  lookup: SectionLookup,
  strips: readonly StripLift[],
): StripCritical[] {
  const lineOf = (key: string) => keptMeanLine(lookup(key));
  const lattice = buildLattice([...surfaces], lineOf, DEFAULT_LATTICE);
  const cut = stripSections(surfaces, lattice, lineOf, DEFAULT_LATTICE.spacing, deflectionsOf(surfaces), false);
  const ready = new Map<string, LeastPressure>();
  const pressureOf = ({ section, flap }: StripShare, cosSweep: number) => {
    const cos = Math.round(cosSweep * 1000) / 1000;
    const key = JSON.stringify([section, flap, cos]);
    let made = ready.get(key);
    if (!made) ready.set(key, (made = new LeastPressure(lookup(section), flap, cos)));
    return made;
  };
  return strips.flatMap((strip) => {
    const own = cut.find((s) => surfaces[s.surface].id === strip.surface && Math.abs(s.station - strip.station) < SAME);
    if (!own) return [];
    const { cosSweep, shares } = own;
    const cl = strip.cl / cosSweep ** 2;
    const total = shares.reduce((sum, s) => sum + s.weight, 0);
    const pressures = shares.map((s) => pressureOf(s, cosSweep));
    let mach = 0.5;
    let cpMin = 0;
    for (let k = 0; k < STEPS; k++) {
      const plain = cl * Math.sqrt(1 - Math.min(0.99, mach) ** 2);
      cpMin = shares.reduce((sum, s, i) => sum + (s.weight / total) * pressures[i].at(plain), 0);
      mach = criticalMach(cpMin);
    }
    return [{ ...strip, mach: Math.min(1, mach / cosSweep), sweep: Math.acos(cosSweep), normal: { cl, mach, cpMin } }];
  });
}

/** What the critical Mach numbers of strips depend on. */
export interface CriticalCase {
  surfaces: LiftingSurface[];
  sections: Record<string, SectionSource>;
  strips: StripLift[];
}

/** Critical Mach numbers of a candidate's strips in one state. */
export const critical = analysis({
  version: 2,
  input: z.object({
    surfaces: z.array(surfaceSchema).min(1).max(MOST_SURFACES),
    sections: z.record(z.string(), sectionSource),
    strips: z
      .array(z.object({ surface: z.string(), station: finiteNumber, cl: finiteNumber.min(-20).max(20) }))
      .max(2000),
  }) as unknown as z.ZodType<CriticalCase>,
  run: ({ surfaces, sections, strips }: CriticalCase): StripCritical[] =>
    criticalMachs(surfaces, sectionLookup(sections), strips),
});
