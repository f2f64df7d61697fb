import { massProperties } from '@veldtwind/core/balance';
import { referenceOf, type Point3, type SectionLookup } from '@veldtwind/core/airframe';
import { flowState, GRAVITY } from '@veldtwind/core/atmosphere';
import {
  AircraftPolars,
  polarIsThere,
  type KnownCurve,
  type PolarShelf,
  type readCandidateFile,
} from '@veldtwind/core/candidate';
import {
  ownSpeeds,
  stallSpeedsExpected,
  SteadyAircraft,
  steadySweep,
  type Aircraft,
  type GlideFacts,
  type OwnSpeeds,
  type SteadyResult,
} from '@veldtwind/core/flight';
import { keptMeanLine, type LatticeSpread, type PolarNeed, type SectionPolars } from '@veldtwind/core/lift';
import { CURVE_VERSION, type Sweep } from '@veldtwind/core/polar';
import { isSolved, type ViscousPoint } from '@veldtwind/core/section-flow';
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

/** Curves that are there already, and what is computed now beside them. */
class Shelf implements PolarShelf {
  private list: KnownCurve[];
  private readonly made = new Map<number, readonly ViscousPoint[]>();
  constructor(private readonly known: PolarShelf | null) {
    this.list = [...(known?.curves() ?? [])];
  }
  curves(): readonly KnownCurve[] {
    return this.list;
  }
  points(id: number): readonly ViscousPoint[] | undefined {
    return this.made.get(id) ?? this.known?.points(id);
  }
  put(sweep: Sweep, points: readonly ViscousPoint[]): void {
    const id = -1 - this.made.size;
    this.made.set(id, points);
    this.list = [
      ...this.list.filter((c) => c.key !== sweep.key),
      { id, key: sweep.key, version: CURVE_VERSION, input: sweep.input },
    ];
  }
}

/** The polars that a shape needs at its speeds: those that are there, and the rest computed beside each other on all cores. */
export async function computePolars(
  candidate: Pick<Candidate, 'surfaces'>,
  lookup: SectionLookup,
  speeds: number[],
  altitude: number,
  ncrit: number,
  { spread, known = null }: { spread?: LatticeSpread; known?: PolarShelf | null } = {},
): Promise<{ polars: SectionPolars[]; computed: ViscousAnswer['polars']; shelf: PolarShelf }> {
  const shelf = new Shelf(known);
  const aircraft = new AircraftPolars(shelf);
  const subject = { surfaces: candidate.surfaces, lookup, altitude, ncrit, spread };
  const missing = aircraft.needed(subject, speeds).filter((n) => !polarIsThere(n));
  const backend = new ThreadBackend();
  let told = Date.now();
  try {
    const solved = await solveSweeps(
      missing.map((n) => n.sweep),
      backend,
      (done, of) => {
        if (Date.now() - told < TOLD_EVERY) return;
        told = Date.now();
        process.stderr.write(`polars: ${done} of ${of} points\n`);
      },
    );
    missing.forEach((n, i) => shelf.put(n.sweep, solved[i].points));
    return {
      shelf,
      polars: aircraft.readyTurned(subject, speeds),
      computed: missing.map(({ need: { section, flap, reynolds }, sweep }, i) => ({
        section,
        flap,
        reynolds,
        solved: solved[i].points.filter(isSolved).length,
        points: sweep.values.length,
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
  const { polars, computed } = await computePolars(candidate, lookup, speeds, altitude, ncrit, { spread });
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
