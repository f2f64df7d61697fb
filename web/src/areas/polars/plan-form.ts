import { designPoint, type DesignBrief, type DesignCandidate } from '@veldtwind/core/candidate';

/** A run plan as it is typed; the engineer's own, kept between visits. */
export interface PlanForm {
  /** Ids of sections that are chosen. */
  sections: string[];
  reynolds: string;
  mach: number;
  fromDeg: number;
  toDeg: number;
  stepDeg: number;
  kind: 'fixed-re' | 'fixed-lift';
  criticalAmplification: number;
  tripTop: number | null;
  tripBottom: number | null;
  grain: number | null;
}

export const PLAN_DEFAULTS: PlanForm = {
  sections: [],
  reynolds: '200 k, 500 k, 1 M',
  mach: 0,
  fromDeg: -6,
  toDeg: 14,
  stepDeg: 1,
  kind: 'fixed-re',
  criticalAmplification: 9,
  tripTop: null,
  tripBottom: null,
  grain: null,
};

const FACTOR: Record<string, number> = { '': 1, k: 1e3, m: 1e6 };

/** Reads Reynolds numbers as they are written: `200 k, 1.5 M, 3e6`. @returns the numbers, or what is wrong. */
export function readReynolds(text: string): number[] | string {
  const words = text
    .split(/[,;\n]+/)
    .map((w) => w.trim())
    .filter(Boolean);
  if (words.length === 0) return 'Type at least one Reynolds number, such as 500 k.';
  const out: number[] = [];
  for (const word of words) {
    const match = /^([\d.]+(?:e[+-]?\d+)?)\s*([km]?)$/i.exec(word.replaceAll('\u202f', ''));
    const value = match ? Number(match[1]) * FACTOR[match[2].toLowerCase()] : NaN;
    if (!(value >= 1000 && value <= 1e9))
      return `“${word}” is no Reynolds number from 1 000 to 10⁹. Write 300 k, 1.5 M or 3e6.`;
    out.push(Math.round(value));
  }
  return [...new Set(out)].sort((a, b) => a - b);
}

/** Angles of a plan, degrees; both ends included. @returns the angles, or what is wrong. */
export function planAngles({ fromDeg, toDeg, stepDeg }: PlanForm): number[] | string {
  if (!(toDeg >= fromDeg)) return 'The last angle lies before the first.';
  if (!(stepDeg > 0)) return 'The step must be greater than zero.';
  const n = Math.floor((toDeg - fromDeg) / stepDeg + 1e-9);
  if (n >= 2000) return 'A sweep has at most 2 000 angles: use a wider step.';
  return Array.from({ length: n + 1 }, (_, i) => Number((fromDeg + i * stepDeg).toFixed(6)));
}

/** Reynolds numbers that the aircraft flies at by its brief: tip, mean and root chord at the brief's speed, rounded to two digits. */
export function asFlown(brief: DesignBrief, candidate: DesignCandidate | null | undefined): number[] {
  const re = candidate ? designPoint(brief, candidate).reynolds : null;
  if (!re) return [];
  const round = (v: number) => Number(v.toPrecision(2));
  return [...new Set([re.tip, re.mean, re.root].map(round))].sort((a, b) => a - b);
}

/** A length of time as it is said. */
export function duration(seconds: number): string {
  if (seconds < 1.5) return 'a second';
  if (seconds < 90) return `${Math.round(seconds)} s`;
  if (seconds < 5400) return `${Math.round(seconds / 60)} min`;
  return `${(seconds / 3600).toFixed(1)} h`;
}
