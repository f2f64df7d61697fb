import { designPoint, type DesignBrief, type DesignCandidate } from '@veldtwind/core/candidate';
import { CONDITION_LIMITS, type RunPlan } from '@veldtwind/core/polar';
import { numberList } from '@veldtwind/core/limits';
import { VeldtwindError } from '@veldtwind/core/numerics';
import { amplificationOfTurbulence, DEFAULT_SPREAD } from '@veldtwind/core/section-flow';
import type { BriefPart } from '@veldtwind/core/project';
import { formatNumber, shownDecimalMark } from '@veldtwind/core/units';

/** A run plan as it is typed; the engineer's own, kept between visits. */
export interface PlanForm {
  /** Ids of sections that are chosen. */
  sections: string[];
  reynolds: string;
  mach: string;
  swept: 'alpha' | 'cl';
  fromDeg: number;
  toDeg: number;
  stepDeg: number;
  fromLift: number;
  toLift: number;
  stepLift: number;
  /** Angles or lift coefficients one by one and in ranges, in place of the three numbers; empty where those count. */
  list: string;
  kind: RunPlan['sweep'];
  criticalAmplification: number;
  /** Per cent; takes the place of the critical amplification. */
  turbulence: number | null;
  tripTop: number | null;
  tripBottom: number | null;
  grain: number | null;
  /** Deflections in degrees, positive down; empty without a flap. */
  flaps: string;
  hingeX: number;
  hingeY: number;
}

export const PLAN_DEFAULTS: PlanForm = {
  sections: [],
  reynolds: '200 k, 500 k, 1 M',
  mach: '0',
  swept: 'alpha',
  fromDeg: -6,
  toDeg: 14,
  stepDeg: 1,
  fromLift: -0.2,
  toLift: 1.2,
  stepLift: 0.1,
  list: '',
  kind: 'fixed-re',
  criticalAmplification: 9,
  turbulence: null,
  tripTop: null,
  tripBottom: null,
  grain: null,
  flaps: '',
  hingeX: 0.75,
  hingeY: 0.5,
};

const FACTOR: Record<string, number> = { '': 1, k: 1e3, m: 1e6 };
const wordsOf = (text: string) =>
  text
    .replaceAll('−', '-')
    .replaceAll('\u202f', '')
    // Where decimals have a comma, one between two digits is no end of a word.
    .replace(/(\d),(?=\d)/g, shownDecimalMark() === 'comma' ? '$1.' : '$1,')
    .split(/[,;\n]+/)
    .map((w) => w.trim())
    .filter(Boolean);

/** Reads Reynolds numbers as they are written: `200 k, 1.5 M, 3e6`. @returns the numbers, or what is wrong. */
export function readReynolds(text: string): number[] | string {
  const words = wordsOf(text);
  if (words.length === 0) return 'Type at least one Reynolds number, such as 500 k.';
  const out: number[] = [];
  for (const word of words) {
    const match = /^([\d.]+(?:e[+-]?\d+)?)\s*([km]?)$/i.exec(word);
    const value = match ? Number(match[1]) * FACTOR[match[2].toLowerCase()] : NaN;
    if (!(value >= 1000 && value <= 1e9))
      return `“${word}” is no Reynolds number from 1 000 to 10⁹. Write 300 k, 1.5 M or 3e6.`;
    out.push(Math.round(value));
  }
  return [...new Set(out)].sort((a, b) => a - b);
}

/** Reads a list of numbers within limits. @param what one of them is called. @returns the numbers, or what is wrong. */
export function readList(text: string, what: string, min: number, max: number): number[] | string {
  const out: number[] = [];
  for (const word of wordsOf(text)) {
    const value = Number(word.replace(/°$/, ''));
    if (!(value >= min && value <= max)) return `“${word}” is no ${what} from ${min} to ${max}.`;
    out.push(value);
  }
  return [...new Set(out)].sort((a, b) => a - b);
}

/** Values from one to another, both ends included. @returns the values, or what is wrong. */
function spaced(from: number, to: number, step: number, what: string): number[] | string {
  if (!(to >= from)) return `The last ${what} lies before the first.`;
  if (!(step > 0)) return 'The step must be greater than zero.';
  const n = Math.floor((to - from) / step + 1e-9);
  if (n >= 2000) return `A sweep has at most 2 000 points: use a wider step.`;
  return Array.from({ length: n + 1 }, (_, i) => Number((from + i * step).toFixed(6)));
}

/** What runs along the curves of a plan: degrees or lift coefficients. @returns the values, or what is wrong. */
export function planValues(f: PlanForm): number[] | string {
  const alpha = f.swept === 'alpha';
  if (f.list.trim() === '')
    return alpha
      ? spaced(f.fromDeg, f.toDeg, f.stepDeg, 'angle')
      : spaced(f.fromLift, f.toLift, f.stepLift, 'lift coefficient');
  const limit = alpha ? CONDITION_LIMITS.alphaDeg : CONDITION_LIMITS.cl;
  try {
    const values = numberList(f.list, alpha ? 'angles' : 'lift coefficients');
    const out = values.find((v) => v < limit.min || v > limit.max);
    if (out !== undefined)
      return `${alpha ? 'Angles' : 'Lift coefficients'} lie from ${limit.min} to ${limit.max}; ${out} does not.`;
    return [...new Set(values)].sort((a, b) => a - b);
  } catch (error) {
    if (error instanceof VeldtwindError) return `${error.message} ${error.hint ?? ''}`.trim();
    throw error;
  }
}

/** Reynolds numbers from one to another, by equal steps or equal ratios, rounded to three digits. */
export function spacedReynolds(from: number, to: number, count: number, ratios: boolean): number[] {
  const n = Math.max(2, Math.round(count));
  return [
    ...new Set(
      Array.from({ length: n }, (_, i) => {
        const t = i / (n - 1);
        return Number((ratios ? from * (to / from) ** t : from + (to - from) * t).toPrecision(3));
      }),
    ),
  ];
}

/** Where in its flight an aircraft's Reynolds numbers are meant, and what it flies there by its brief. */
export interface Flown {
  at: 'stall' | 'climb' | 'cruise';
  reynolds: number[];
}

/** Reynolds numbers that the aircraft flies at by its brief: tip, mean and root chord at each speed that is set, rounded to two digits. */
export function asFlown(
  brief: DesignBrief & Pick<BriefPart, 'climbSpeed' | 'stallSpeed'>,
  candidate: DesignCandidate | null | undefined,
): Flown[] {
  const round = (v: number) => Number(v.toPrecision(2));
  return (
    [
      ['stall', brief.stallSpeed],
      ['climb', brief.climbSpeed],
      ['cruise', brief.speed],
    ] as const
  ).flatMap(([at, speed]) => {
    if (!candidate || speed === null) return [];
    const re = designPoint({ ...brief, speed }, candidate).reynolds;
    return re ? [{ at, reynolds: [...new Set([re.tip, re.mean, re.root].map(round))].sort((a, b) => a - b) }] : [];
  });
}

/** A section of a plan: its name and what it is made of. */
export type PlannedSection = Omit<RunPlan['sections'][number], 'flap'>;

/** The plan that a form asks for. @returns the plan, or what is wrong. */
export function planOf(f: PlanForm, sections: readonly PlannedSection[]): RunPlan | string {
  if (sections.length === 0) return 'Choose at least one section.';
  const reynolds = readReynolds(f.reynolds);
  if (typeof reynolds === 'string') return reynolds;
  const { min, max } = CONDITION_LIMITS.mach;
  const mach = readList(f.mach, 'Mach number', min, max);
  if (typeof mach === 'string') return mach;
  const values = planValues(f);
  if (typeof values === 'string') return values;
  const flaps = readList(f.flaps, 'flap angle', -60, 60);
  if (typeof flaps === 'string') return flaps;
  if (f.kind === 'fixed-lift' && f.swept === 'cl' && values.some((v) => v <= 0))
    return 'Where the lift force is held, the lift coefficients must be above zero.';
  const settings =
    flaps.length === 0 ? [null] : flaps.map((a) => (a === 0 ? null : { x: f.hingeX, y: f.hingeY, angleDeg: a }));
  return {
    sections: sections.flatMap((s) => settings.map((flap) => ({ ...s, flap }))),
    reynolds,
    mach: mach.length ? mach : [0],
    sweep: f.kind,
    ...(f.swept === 'alpha' ? { alphas: values } : { lifts: values }),
    conditions: {
      ...(f.turbulence === null
        ? { criticalAmplification: f.criticalAmplification }
        : { criticalAmplification: amplificationOfTurbulence(f.turbulence), turbulence: f.turbulence }),
      ...(f.tripTop === null ? {} : { tripTop: f.tripTop }),
      ...(f.tripBottom === null ? {} : { tripBottom: f.tripBottom }),
      ...(f.grain === null ? {} : { grain: f.grain }),
    },
    spread: DEFAULT_SPREAD,
  };
}

/** A length of time as it is said. */
export function duration(seconds: number): string {
  if (seconds < 1.5) return 'a second';
  if (seconds < 90) return `${Math.round(seconds)} s`;
  if (seconds < 5400) return `${Math.round(seconds / 60)} min`;
  return `${formatNumber(seconds / 3600, 1)} h`;
}
