import { anglesOf } from '@veldtwind/core/candidate';
import type { SteadySweep } from '@veldtwind/core/flight';
import { FLAP_STEP } from '@veldtwind/core/lift';
import { RAD } from '@veldtwind/core/numerics';
import type { CandidatePart } from '@/lib/types';

/** What runs along the curves of the page; degrees, m/s. */
export interface SweepForm {
  kind: SteadySweep['kind'];
  /** Level flight. */ slowest: number;
  fastest: number;
  /** Sideslip to both sides. */ beta: number;
  /** Held where it does not run: degrees. */ alpha: number;
  control: string;
  /** Wanted lifts. */ leastLift: number;
  mostLift: number;
}

export const SWEEP_KINDS: readonly { id: SteadySweep['kind']; name: string }[] = [
  { id: 'alpha', name: 'angle, one speed' },
  { id: 'carrying', name: 'angle, lift is weight' },
  { id: 'level', name: 'speed, level flight' },
  { id: 'lift', name: 'wanted lift' },
  { id: 'sideslip', name: 'sideslip' },
  { id: 'control', name: 'a control' },
];

/** Axes that a kind of sweep begins with. */
export const FIRST_AXES: Record<
  SteadySweep['kind'],
  { x1: string; y1: string; x2: string; y2: string } & Partial<Record<'x3' | 'y3' | 'x4' | 'y4', string>>
> = {
  alpha: { x1: 'alpha', y1: 'CL', x2: 'alpha', y2: 'Cm' },
  carrying: { x1: 'speed', y1: 'sink', x2: 'speed', y2: 'power' },
  level: { x1: 'speed', y1: 'drag', x2: 'speed', y2: 'power' },
  lift: { x1: 'CD', y1: 'CL', x2: 'CL', y2: 'lift-to-drag', x3: 'CL', y3: 'alpha', x4: 'CL', y4: 'Cm' },
  sideslip: { x1: 'sideslip', y1: 'Cn', x2: 'sideslip', y2: 'Cl', x3: 'sideslip', y3: 'CY', x4: 'sideslip', y4: 'CD' },
  control: {
    x1: 'deflection',
    y1: 'CL',
    x2: 'deflection',
    y2: 'Cm',
    x3: 'deflection',
    y3: 'Cl',
    x4: 'deflection',
    y4: 'CD',
  },
};
/** The quantity that runs. */
export const RUNS: Record<SteadySweep['kind'], string> = {
  alpha: 'alpha',
  carrying: 'alpha',
  level: 'speed',
  lift: 'CL',
  sideslip: 'sideslip',
  control: 'deflection',
};

const spread = (from: number, to: number, count: number) =>
  Array.from({ length: count }, (_, i) => Number((from + ((to - from) * i) / (count - 1)).toPrecision(6)));
const controlsOf = (c: CandidatePart) => c.surfaces.flatMap((s) => s.controls ?? []);
/** The control that is swept: the one chosen, or the first. */
export const sweptControl = (c: CandidatePart, form: SweepForm) =>
  controlsOf(c).find((k) => k.id === form.control) ?? controlsOf(c)[0];

/** The sweep of a candidate; null where it has nothing of the kind. */
export function sweepOf(form: SweepForm, c: CandidatePart): SteadySweep | null {
  const alphas = () => anglesOf(c.sweep).map((a) => a * RAD);
  switch (form.kind) {
    case 'alpha':
      return { kind: 'alpha', alphas: alphas() };
    case 'carrying':
      return { kind: 'carrying', alphas: alphas() };
    case 'level':
      return { kind: 'level', speeds: spread(form.slowest, form.fastest, 25) };
    case 'lift':
      return { kind: 'lift', lifts: spread(form.leastLift, form.mostLift, 17) };
    case 'sideslip':
      return {
        kind: 'sideslip',
        alpha: form.alpha * RAD,
        betas: spread(-form.beta, form.beta, 13).map((b) => b * RAD),
      };
    case 'control': {
      const control = sweptControl(c, form);
      if (!control) return null;
      const [low, high] = control.limitsDeg;
      return {
        kind: 'control',
        alpha: form.alpha * RAD,
        control: control.id,
        deflections: spread(low, high, 13).map((d) => d * RAD),
      };
    }
  }
}

/** Speeds that the polars of a sweep are for. */
export const speedsOf = (form: SweepForm, designSpeed: number): number[] =>
  form.kind === 'level' || form.kind === 'carrying' ? spread(form.slowest, form.fastest, 4) : [designSpeed];

/** Deflections that polars are for besides those that the controls have: the steps over the limits of the one that is swept. */
export function deflectionsFor(form: SweepForm, c: CandidatePart): Record<string, number>[] {
  const control = form.kind === 'control' ? sweptControl(c, form) : undefined;
  if (!control) return [];
  const [low, high] = control.limitsDeg;
  const out: Record<string, number>[] = [];
  for (let d = Math.floor(low / FLAP_STEP) * FLAP_STEP; d < high + FLAP_STEP; d += FLAP_STEP)
    if (d !== 0) out.push({ [control.id]: d * RAD });
  return out;
}
