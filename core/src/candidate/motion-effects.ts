import { z } from 'zod';
import { planformOf, referenceSurface, type LiftingSurface } from '../airframe';
import { GRAVITY } from '../atmosphere';
import { keptMeanLine } from '../lift';
import {
  airframeCase,
  airframeDerivatives,
  DERIVATIVE_NAMES,
  eigenvalueSlopes,
  modesOf,
  motionOf,
  trimLevel,
  withDerivatives,
  type LinearSystem,
  type Mode,
  type MotionCase,
} from '../motion';
import { FailedComputation, InvalidInput } from '../numerics';
import { flowState } from '../atmosphere';
import { analysis } from '../results';
import { loadedMass, motion, motionSource, type MotionInput, type MovingCandidate } from './motion';
import { withPlacedMass } from './placed-mass';
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

/** Cases of motion of a candidate and of what is made of it, about one state of flight. */
function casesOf(input: MotionInput) {
  const { sections, speed, loading, polars } = input;
  const lookup = sectionLookup(sections);
  const lineOf = (key: string) => keptMeanLine(lookup(key));
  const candidate = withPlacedMass(input.candidate, lookup);
  const caseOf = (of: MovingCandidate, altitude = input.altitude): MotionCase => {
    const flow = flowState(speed, altitude);
    const mass = loadedMass(of, loading);
    const source = motionSource(of, lookup, lineOf, mass, speed, altitude, polars);
    const trim = trimLevel(source, flow, mass.mass * GRAVITY);
    const derivatives = withDerivatives(
      airframeDerivatives(source, trim, flow),
      input.candidate.derivatives?.overrides ?? {},
    );
    return airframeCase(source, mass, trim, derivatives, flow);
  };
  return { candidate, caseOf };
}

/** Changes that roots can be followed over, by id and name. */
export const PATH_CHANGES: readonly { id: string; name: string }[] = [
  { id: 'altitude', name: 'altitude' },
  { id: 'centre', name: 'centre of gravity' },
  { id: 'tail-arm', name: 'tail arm' },
  { id: 'tail-area', name: 'tail area' },
  { id: 'fin-area', name: 'fin area' },
  { id: 'dihedral', name: 'dihedral' },
  { id: 'sweep', name: 'sweep' },
  { id: 'roll-inertia', name: 'Ixx' },
  { id: 'pitch-inertia', name: 'Iyy' },
  { id: 'yaw-inertia', name: 'Izz' },
];
/** A derivative that goes from nothing to twice what it is: its change by the derivative's name. */
const TIMES = 'times-';
const derivativeChange = (id: string): Change | undefined => {
  const name = id.startsWith(TIMES) ? id.slice(TIMES.length) : '';
  if (!DERIVATIVE_NAMES.includes(name)) return undefined;
  return {
    id,
    label: name,
    of: (c, k) => {
      const value = c.derivatives[name as 'Cm_q'];
      return { ...c, derivatives: { ...c.derivatives, [name]: value * (1 + k / 5) } };
    },
  };
};
/** Derivatives that roots can be followed over. */
export const PATH_DERIVATIVES: readonly { id: string; name: string }[] = DERIVATIVE_NAMES.map((n) => ({
  id: `${TIMES}${n}`,
  name: n.replace('_', ' '),
}));

/** So many times its step is each change followed, both ways; altitude in steps of 1 000 m upward. */
const PATH_STEPS = [-5, -3.75, -2.5, -1.25, 0, 1.25, 2.5, 3.75, 5];
const ALTITUDE_STEP = 500;

/** The roots while a shape, the masses or the altitude change: one list of modes a step; none where it does not trim. */
export const motionChangePath = analysis({
  version: 7,
  input: z.object({
    of: motion.input as z.ZodType<MotionInput>,
    change: z
      .string()
      .refine((id) => [...PATH_CHANGES, ...PATH_DERIVATIVES].some((c) => c.id === id), 'is no change that is known'),
  }),
  run: ({ of, change: id }: { of: MotionInput; change: string }): { label: string; modes: Mode[] }[] => {
    const { candidate, caseOf } = casesOf(of);
    const change = CHANGES.find((c) => c.id === id) ?? derivativeChange(id);
    const base = change?.of && caseOf(candidate);
    return PATH_STEPS.map((k) => {
      const label =
        id === 'altitude'
          ? `${of.altitude + ALTITUDE_STEP * (k + 5)} m`
          : id.startsWith(TIMES)
            ? `× ${1 + k / 5}`
            : `${k > 0 ? '+' : ''}${k}`;
      try {
        const made = !change
          ? caseOf(candidate, of.altitude + ALTITUDE_STEP * (k + 5))
          : base
            ? change.of!(base, k)
            : change.shape!(candidate, k);
        if (made === null) return { label, modes: [] };
        return { label, modes: motionOf('surfaces' in made ? caseOf(made) : made).modes };
      } catch (error) {
        if (error instanceof FailedComputation || error instanceof InvalidInput) return { label, modes: [] };
        throw error;
      }
    });
  },
});

/**
 * What changes of the shape and of the masses do to every mode: exact derivatives of the eigenvalues, the matrices differenced; a change counts whole.
 * @throws as {@link motion}'s run.
 */
export function motionEffects(input: MotionInput): ChangeEffect[] {
  const { speed } = input;
  const { candidate, caseOf } = casesOf(input);
  const base = caseOf(candidate);
  const { matrices } = motionOf(base);
  const names = modesOf(matrices.longitudinal, matrices.lateral, speed);
  const out: ChangeEffect[] = [];
  for (const change of CHANGES) {
    try {
      const at = (k: number) => {
        if (change.of) return motionOf(change.of(base, k)).matrices;
        const shaped = change.shape!(candidate, k);
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
  version: 7,
  input: z.object({ of: motion.input as z.ZodType<MotionInput> }),
  run: ({ of }: { of: MotionInput }): ChangeEffect[] => motionEffects(of),
});
