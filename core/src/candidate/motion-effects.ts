import { z } from 'zod';
import { planformOf, referenceSurface, type LiftingSurface } from '../airframe';
import { GRAVITY } from '../atmosphere';
import { keptMeanLine } from '../lift';
import {
  airframeCase,
  airframeDerivatives,
  eigenvalueSlopes,
  modesOf,
  motionOf,
  trimLevel,
  type LinearSystem,
  type MotionCase,
} from '../motion';
import { FailedComputation, InvalidInput } from '../numerics';
import { flowState } from '../atmosphere';
import { analysis } from '../results';
import { loadedMass, motion, motionSource, type MotionInput, type MovingCandidate } from './motion';
import { sectionLookup } from './section-lookup';

/** A change that may help a mode. */
export interface ChangeEffect {
  id: string;
  /** What is changed by how much, such as `Fin area +10 %`. */ label: string;
  /** Change of each mode's eigenvalue, 1/s and rad/s, by the mode's name. */
  modes: Record<string, { re: number; im: number }>;
}

interface Change {
  id: string;
  label: string;
  /** The candidate changed by a share of the step; null where it has nothing of the kind. */
  shape?: (c: MovingCandidate, k: number) => MovingCandidate | null;
  /** The case changed, where no shape does. */
  of?: (c: MotionCase, k: number) => MotionCase;
}

const withSurfaces = (
  c: MovingCandidate,
  picked: (s: LiftingSurface) => boolean,
  edit: (s: LiftingSurface) => LiftingSurface,
): MovingCandidate | null =>
  c.surfaces.some(picked) ? { ...c, surfaces: c.surfaces.map((s) => (picked(s) ? edit(s) : s)) } : null;
/** A surface with so many times its area, its shape kept. */
const grown = (s: LiftingSurface, times: number): LiftingSurface => {
  const k = Math.sqrt(times);
  return {
    ...s,
    stations: s.stations.map((t) => ({ ...t, chord: k * t.chord })),
    bays: s.bays.map((b) => ({ ...b, span: k * b.span })),
  };
};
const isTail = (s: LiftingSurface) => s.role === 'tailplane' || s.role === 'foreplane';
const isFin = (s: LiftingSurface) => s.role === 'fin' || s.plane === 'vertical';
const wingOf = (c: MovingCandidate) => referenceSurface(c.surfaces).id;

const CHANGES: Change[] = [
  {
    id: 'tail-arm',
    label: 'Tail arm +10 %',
    shape: (c, k) => {
      const quarter = planformOf(referenceSurface(c.surfaces)).quarterChord;
      return withSurfaces(
        c,
        (s) => s.role === 'tailplane' || isFin(s),
        (s) => ({
          ...s,
          position: { ...s.position, x: s.position.x + 0.1 * k * (planformOf(s).quarterChord - quarter) },
        }),
      );
    },
  },
  { id: 'tail-area', label: 'Tail area +10 %', shape: (c, k) => withSurfaces(c, isTail, (s) => grown(s, 1 + 0.1 * k)) },
  { id: 'fin-area', label: 'Fin area +10 %', shape: (c, k) => withSurfaces(c, isFin, (s) => grown(s, 1 + 0.1 * k)) },
  {
    id: 'dihedral',
    label: 'Wing dihedral +1°',
    shape: (c, k) =>
      withSurfaces(
        c,
        (s) => s.id === wingOf(c),
        (s) => ({
          ...s,
          bays: s.bays.map((b) => ({ ...b, dihedralDeg: b.dihedralDeg + (b.dihedralRelative ? 0 : k) })),
        }),
      ),
  },
  {
    id: 'sweep',
    label: 'Wing sweep +2°',
    shape: (c, k) =>
      withSurfaces(
        c,
        (s) => s.id === wingOf(c),
        (s) => ({
          ...s,
          bays: s.bays.map((b) => ({ ...b, sweepDeg: b.sweepDeg + 2 * k })),
        }),
      ),
  },
  {
    id: 'centre',
    label: 'Centre of gravity 2 % of the chord ahead',
    shape: (c, k) => {
      const step = 0.02 * k * planformOf(referenceSurface(c.surfaces)).mac.chord;
      return {
        ...c,
        massItems: c.massItems.map((m) => ({ ...m, position: { ...m.position, x: m.position.x - step } })),
      };
    },
  },
  { id: 'roll-inertia', label: 'Ixx +10 %', of: (c, k) => ({ ...c, Ixx: c.Ixx * (1 + 0.1 * k) }) },
  { id: 'pitch-inertia', label: 'Iyy +10 %', of: (c, k) => ({ ...c, Iyy: c.Iyy * (1 + 0.1 * k) }) },
  { id: 'yaw-inertia', label: 'Izz +10 %', of: (c, k) => ({ ...c, Izz: c.Izz * (1 + 0.1 * k) }) },
];

/** Share of a change over which the matrices are differenced. */
const SHARE = 0.25;

/**
 * What changes of the shape and of the masses do to every mode: exact derivatives of the eigenvalues, the matrices differenced; a change counts whole.
 * @throws as {@link motion}'s run.
 */
export function motionEffects(input: MotionInput): ChangeEffect[] {
  const { sections, speed, altitude, loading, polars } = input;
  const lookup = sectionLookup(sections);
  const lineOf = (key: string) => keptMeanLine(lookup(key));
  const flow = flowState(speed, altitude);
  const caseOf = (candidate: MovingCandidate): MotionCase => {
    const mass = loadedMass(candidate, loading);
    const source = motionSource(candidate, lookup, lineOf, mass, speed, altitude, polars);
    const trim = trimLevel(source, flow, mass.mass * GRAVITY);
    return airframeCase(source, mass, trim, airframeDerivatives(source, trim, flow), flow);
  };
  const base = caseOf(input.candidate);
  const { matrices } = motionOf(base);
  const names = modesOf(matrices.longitudinal, matrices.lateral, speed);
  const out: ChangeEffect[] = [];
  for (const change of CHANGES) {
    try {
      const at = (k: number) => {
        if (change.of) return motionOf(change.of(base, k)).matrices;
        const shaped = change.shape!(input.candidate, k);
        return shaped && motionOf(caseOf(shaped)).matrices;
      };
      const [up, down] = [at(SHARE), at(-SHARE)];
      if (!up || !down) continue;
      const modes: ChangeEffect['modes'] = {};
      for (const key of ['longitudinal', 'lateral'] as const)
        for (const { re, im, slope } of slopes(matrices[key], up[key], down[key])) {
          const mode = names.find((m) => Math.abs(m.re - re) < 1e-9 && Math.abs(m.im - im) < 1e-9);
          if (mode) modes[mode.name] = slope;
        }
      out.push({ id: change.id, label: change.label, modes });
    } catch (error) {
      // A change that cannot be made says nothing about the others.
      if (!(error instanceof FailedComputation) && !(error instanceof InvalidInput)) throw error;
    }
  }
  return out;
}

function slopes(base: LinearSystem, up: LinearSystem, down: LinearSystem) {
  const dA = base.A.map((row, i) => row.map((_, j) => (up.A[i][j] - down.A[i][j]) / (2 * SHARE)));
  return eigenvalueSlopes(base.A, dA);
}

/** What helps which mode of a candidate most. */
export const motionEffectsOf = analysis({
  version: 1,
  input: z.object({ of: motion.input as z.ZodType<MotionInput> }),
  run: ({ of }: { of: MotionInput }): ChangeEffect[] => motionEffects(of),
});
