import { massProperties } from '@veldtwind/core/balance';
import { referenceOf, type Point3, type SectionLookup } from '@veldtwind/core/airframe';
import { flowState, GRAVITY } from '@veldtwind/core/atmosphere';
import type { readCandidateFile } from '@veldtwind/core/candidate';
import { keptMeanLine } from '@veldtwind/core/lift';
import {
  gathered,
  ownSpeeds,
  stallSpeedsExpected,
  SteadyAircraft,
  steadySweep,
  sweepFor,
  type Aircraft,
  type GlideFacts,
  type OwnSpeeds,
  type SteadyResult,
} from '@veldtwind/core/flight';
import { polarNeeds, type LatticeSpread, type PolarNeed, type SectionPolars } from '@veldtwind/core/lift';
import { isSolved } from '@veldtwind/core/section-flow';
import { solveSweeps } from '@veldtwind/runs/solve-sweeps';
import { ThreadBackend } from '@veldtwind/runs/threads';

type Candidate = ReturnType<typeof readCandidateFile>['candidate'];

/** What a lift sweep with polars is asked for; SI, rad. */
export interface ViscousRequest {
  candidate: Candidate;
  lookup: SectionLookup;
  alphas: number[];
  beta: number;
  speed: number;
  altitude: number;
  ncrit: number;
  spread: LatticeSpread;
  about?: Point3;
  /** False to see what the lift of bodies does. */ bodiesLift?: boolean;
}

/** A sweep with polars, the facts of its glide, and the polars that were computed for it. */
export interface ViscousAnswer {
  result: SteadyResult;
  glide: GlideFacts | null;
  /** At its own Reynolds number. */ stall: OwnSpeeds['stall'];
  mass: number | null;
  polars: { section: string; flap: PolarNeed['flap']; reynolds: number; solved: number; points: number }[];
}

/** How often the progress is told, ms. */
const TOLD_EVERY = 1000;

/** Computes the polars that a shape needs at its speeds, beside each other on all cores. */
export async function computePolars(
  candidate: Candidate,
  lookup: SectionLookup,
  speeds: number[],
  altitude: number,
  ncrit: number,
  spread?: LatticeSpread,
): Promise<{ polars: SectionPolars[]; computed: ViscousAnswer['polars'] }> {
  const flows = speeds.map((v) => flowState(v, altitude));
  const needs = polarNeeds(
    candidate.surfaces,
    flows.map((f) => f.reynoldsPerMetre),
    spread,
  );
  const sweeps = needs.map((n) => sweepFor(n, lookup, { ncrit, mach: Math.max(...flows.map((f) => f.mach)) }));
  const backend = new ThreadBackend();
  let told = Date.now();
  try {
    const solved = await solveSweeps(sweeps, backend, (done, of) => {
      if (Date.now() - told < TOLD_EVERY) return;
      told = Date.now();
      process.stderr.write(`polars: ${done} of ${of} points\n`);
    });
    return {
      polars: gathered(needs.map((need, i) => ({ need, points: solved[i].points }))),
      computed: needs.map((n, i) => ({
        section: n.section,
        flap: n.flap,
        reynolds: n.reynolds,
        solved: solved[i].points.filter(isSolved).length,
        points: sweeps[i].values.length,
      })),
    };
  } finally {
    await backend.close();
  }
}

/** Lift and drag with the sections' polars; polars are computed first. @throws as the sweep. */
export async function viscousLift(request: ViscousRequest): Promise<ViscousAnswer> {
  const { candidate, lookup, alphas, beta, speed, altitude, ncrit, spread, about, bodiesLift } = request;
  const mass = massProperties(candidate.massItems);
  const { density } = flowState(speed, altitude);
  const { area } = candidate.reference ?? referenceOf(candidate.surfaces);
  // The stall has a Reynolds number of its own.
  const speeds = [speed, ...stallSpeedsExpected((mass?.mass ?? 0) * GRAVITY, area, density)];
  const { polars, computed } = await computePolars(candidate, lookup, speeds, altitude, ncrit, spread);
  const aircraft: Aircraft = {
    surfaces: candidate.surfaces,
    bodies: candidate.bodies,
    reference: candidate.reference,
    drag: candidate.drag,
    about,
    mass: mass?.mass ?? 0,
    altitude,
    polars,
    spread,
    bodiesLift,
    engine: candidate.engine,
  };
  const lineOf = (key: string) => keptMeanLine(lookup(key));
  const flown = new SteadyAircraft(aircraft, speed, lookup, lineOf);
  const result = steadySweep(aircraft, speed, { kind: 'alpha', alphas, beta }, lookup, lineOf, flown);
  const greatest = result.alphaCLmax === null ? null : { alpha: result.alphaCLmax };
  const own = mass && beta === 0 ? ownSpeeds(flown, result.points, greatest, speed) : null;
  return { result, mass: mass?.mass ?? null, glide: own?.glide ?? null, stall: own?.stall ?? null, polars: computed };
}
