import type { LiftingSurface } from '@veldtwind/core/airframe';
import { runAnalysis } from '@veldtwind/core/analysis';
import { sectionLookup } from '@veldtwind/core/candidate';
import {
  analyseLift,
  analyseThick,
  carryOverFactors,
  ControlTravel,
  groundSweep,
  keptMeanLine,
  plainFlapTravel,
} from '@veldtwind/core/lift';
import { RAD } from '@veldtwind/core/numerics';
import { DEFAULT_SPREAD, isSolved } from '@veldtwind/core/section-flow';
import type { AuditRow } from './audit';

const lookup = sectionLookup({});
const wing = (span: number, section: string, dihedralDeg = 0): LiftingSurface => ({
  id: 'wing',
  name: 'wing',
  role: 'wing',
  plane: 'horizontal',
  mirrored: true,
  position: { x: 0, y: 0, z: 0 },
  incidenceDeg: 0,
  stations: [1, 1].map((chord) => ({ chord, twistDeg: 0, section })),
  bays: [{ span: 0.5 * span * Math.cos(dihedralDeg * RAD), sweepDeg: 0, dihedralDeg }],
});

/** V-shaped wings: the lattice against plane flow about a V, the panels against the lattice. */
export function leaning(): AuditRow[] {
  const unit = { area: 1, span: 1, chord: 1 };
  const slope = (dihedral: number) =>
    analyseLift({ surfaces: [wing(0.1, 'naca:0001', dihedral)], alphas: [1 * RAD], reference: unit }, lookup).liftSlope;
  const ratio = (dihedral: number) => {
    const { compared } = analyseThick(
      { surfaces: [wing(4, 'naca:0004', dihedral)], alphas: [-1 * RAD, 1 * RAD] },
      lookup,
    );
    return compared!.panels.liftSlope / compared!.lattice.liftSlope;
  };
  return [
    {
      what: 'Lift of a slender V at 45° over that of the flat wing of its arms',
      other: 'apparent mass of a V by plane vortices',
      // 320 vortices an arm, clustered at both ends; 40 have 0.57736.
      independent: 0.57735,
      ours: slope(45) / slope(0),
      band: 0.002,
      sure: 'five digits',
    },
    {
      what: 'Lift slope by surface panels over the lattice’s, thin V of aspect ratio 4 at 45°',
      other: 'the same of the flat wing',
      independent: ratio(0),
      ours: ratio(45),
      band: 0.03,
      sure: 'thickness does the same to both within a percent',
    },
  ];
}

/** Level flight near the ground, and lift carried over to a body. */
export function nearGround(): AuditRow[] {
  const span = 8;
  const sweep = groundSweep(
    { surfaces: [wing(span, 'naca:0009')], about: { x: 0.25, y: 0, z: 0 } },
    (key) => keptMeanLine(lookup(key)),
    0.5,
    [0.8, 1.6],
  );
  return [
    ...sweep.rows.map((r): AuditRow => ({
      what: `Induced drag at a height of ${r.height! / span} spans, over that of free air`,
      other: '1 − exp(−2.48 (2h/b)^0.768), after NACA TM-77',
      independent: 1 - Math.exp(-2.48 * ((2 * r.height!) / span) ** 0.768),
      ours: r.CDi / sweep.free.CDi,
      band: 0.05,
      absolute: true,
      sure: 'a fit to lifting lines: 0.03',
    })),
    {
      what: 'Lift on a body of a fifth of the half span, over that of the exposed wing',
      other: 'chart 1 of NACA TR-1307',
      independent: 0.28,
      ours: carryOverFactors(0.2).body,
      band: 0.01,
      absolute: true,
      sure: 'read from memory, two digits',
    },
  ];
}

/** Loss of effect of a flap that is turned far: the kept table against section flow on another section. */
export async function turnedFar(): Promise<AuditRow[]> {
  const lift = async (angleDeg: number) => {
    const points = await runAnalysis('polar', {
      source: { kind: 'designation', designation: '2411', trailingEdge: 'published' },
      flap: angleDeg === 0 ? null : { x: 0.75, y: 0.5, angleDeg },
      kind: 'fixed-re',
      spread: DEFAULT_SPREAD,
      conditions: { reynolds: 2e6, tripTop: 0.05, tripBottom: 0.05 },
      alphas: [-2, -1, 0].map((a) => a * RAD),
    });
    const last = points[points.length - 1];
    return isSolved(last) ? last.cl : NaN;
  };
  const [rest, few, many] = await Promise.all([0, 2, 20].map(lift));
  return [
    {
      what: 'Lift of a flap of a quarter at 20°, over ten times that at 2°',
      other: 'section flow of a cambered section, Re 2·10⁶',
      independent: (many - rest) / (10 * (few - rest)),
      ours: new ControlTravel(plainFlapTravel(0.75)).share(20 * RAD),
      band: 0.1,
      absolute: true,
      sure: 'a cambered section loses more than the symmetric one of the table; separated flow by integral methods',
    },
  ];
}
