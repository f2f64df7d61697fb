import { crossings, planformOf, referenceSurface, standingIn } from '../airframe';
import {
  angleForLift,
  type ComparedQuantity,
  type Evaluation,
  type MethodName,
  type ModelMethod,
  type TrimmedStall,
} from '../candidate';
import { DEG } from '../numerics';
import {
  awaitsPolars,
  requirementKey,
  type Band,
  type BriefPart,
  type CandidatePart,
  type Requirement,
} from '../project';
import { responseOf, valueOf, whyNone, type Made, type MadeBy } from '../quantities';
import type { Dimension } from '../units';

/** A number of a finding, as stored: SI, degrees, fractions. */
export interface FindingNumber {
  value: number;
  dimension: Dimension;
  digits?: number;
  /** What stands for a unit where the dimension has none. */ per?: string;
}

/** What would mend a finding: solved for, it becomes an edit. */
export interface Fix {
  code: 'tail-incidence';
  surfaceId: string;
  targetDeg: number;
}

/** Where the evidence of a finding is: an area, and the figure or row in it that is marked. */
export interface Evidence {
  area:
    | 'brief'
    | 'sections'
    | 'airframe'
    | 'lift'
    | 'balance'
    | 'performance'
    | 'structure'
    | 'motion'
    | 'control'
    | 'drag';
  mark?: string;
}

/** Everything that can be found, by code, with the numbers and names that its words need. */
export interface FindingFacts {
  'no-wing': object;
  problem: { message: string; doubtful: boolean };
  crossing: { first: string; second: string };
  'no-centre': object;
  'trim-angle': { trim: FindingNumber };
  'trim-unstable': object;
  'trim-speed': { speed: FindingNumber; wanted: FindingNumber };
  'trim-lift': object;
  'no-trim': { from: FindingNumber; to: FindingNumber };
  'static-margin': { margin: FindingNumber; method: ModelMethod };
  'stall-speed': { speed: FindingNumber; by: 'lift' | 'travel' };
  'pitch-slope': { slope: FindingNumber };
  requirement: {
    name: string;
    /** Speed that it is asked for at. */ at?: FindingNumber;
    value: FindingNumber | null;
    reason?: string | undefined;
    weight: Requirement['weight'];
  };
  mass: { sum: FindingNumber; wanted: FindingNumber };
  span: { span: FindingNumber };
  'lift-needed': { CL: FindingNumber; alpha: FindingNumber; method: ModelMethod };
  'lift-not-reached': { CL: FindingNumber };
  'trim-control': { control: string; needed: FindingNumber; limit: FindingNumber; speed: FindingNumber };
  'mode-grows': { mode: string; doubles: FindingNumber };
  'mode-damping': { mode: string; damping: FindingNumber };
  'mode-level': { mode: string; level: number; says: string };
  'modes-level': { level: number };
  'methods-differ': {
    pairs: {
      quantity: ComparedQuantity;
      first: FindingNumber;
      second: FindingNumber;
      methods: [MethodName, MethodName];
    }[];
  };
  'member-fails': {
    surface: string;
    member: string;
    reserve: FindingNumber;
    mode: string;
    place: FindingNumber;
    case: string;
    thicker: { label: string; from: FindingNumber; to: FindingNumber }[];
  };
  'surface-holds': { surface: string; reserve: FindingNumber };
  diverges: { surface: string; speed: FindingNumber; clear: FindingNumber };
  'control-reverses': { control: string; speed: FindingNumber; clear: FindingNumber };
  'loop-grows': { loop: string };
  'loop-margin': { loop: string; phase?: FindingNumber; gain?: FindingNumber; band: Band };
  'loops-keep': { count: number };
  'loop-fails': { loop: string; message: string };
  'loops-stale': { chains: string[] };
}
export type FindingCode = keyof FindingFacts;

/** One thing that was found, as data; its words are made where it is read, in the reader's units. */
export type Finding = {
  [Code in FindingCode]: {
    code: Code;
    /** One of its kind in a list. */
    id: string;
    /** `inside` a band, `outside` it, `missing` something that is needed, or a `fact` without a band. */
    state: 'inside' | 'outside' | 'missing' | 'fact';
    facts: FindingFacts[Code];
    /** The band it was held against, as stored. */
    band?: Band;
    evidence: Evidence;
    fix?: Fix;
  };
}[FindingCode];

/** Masses that differ by less are the same. */
const MASS_TOLERANCE = 0.01;

/** Whether a value lies in a band; undefined when the band is open. */
export function inBand(value: number, band: Band): boolean | undefined {
  if (band.min === null && band.max === null) return undefined;
  return (band.min === null || value >= band.min - 1e-12) && (band.max === null || value <= band.max + 1e-12);
}

/** The state of a value held against a band. */
export const held = (value: number, band: Band): 'inside' | 'outside' | 'fact' => {
  const inside = inBand(value, band);
  return inside === undefined ? 'fact' : inside ? 'inside' : 'outside';
};

export const number = (value: number, dimension: Dimension, digits?: number): FindingNumber => ({
  value,
  dimension,
  digits,
});

/** All findings of a candidate, what is wrong or missing first. */
export function findingsOf(brief: BriefPart, candidate: CandidatePart, evaluation: Evaluation): Finding[] {
  const found: Finding[] = [...presence(candidate, evaluation), ...balanceFindings(brief, candidate, evaluation)];
  const { curve, mass, design } = evaluation;
  if (mass && Math.abs(mass.mass / brief.mass - 1) > MASS_TOLERANCE) {
    found.push({
      code: 'mass',
      id: 'mass',
      state: 'outside',
      facts: { sum: number(mass.mass, 'mass'), wanted: number(brief.mass, 'mass') },
      evidence: { area: 'balance', mark: 'mass' },
    });
  }
  if (candidate.surfaces.length > 0 && brief.spanLimit !== null && !evaluation.problems.some((p) => p.path)) {
    const { span } = planformOf(referenceSurface(candidate.surfaces));
    const band = { min: null, max: brief.spanLimit };
    found.push({
      code: 'span',
      id: 'span',
      state: held(span, band),
      facts: { span: number(span, 'length') },
      band,
      evidence: { area: 'airframe', mark: 'span' },
    });
  }
  if (curve && design?.CL) {
    const needed = angleForLift({ points: curve.points.filter((p) => p.status !== 'unsolved') }, design.CL);
    const CL = number(design.CL, 'plain');
    const evidence: Evidence = { area: 'lift', mark: 'lift-first' };
    found.push(
      needed === null
        ? { code: 'lift-not-reached', id: 'lift-needed', state: 'outside', facts: { CL }, evidence }
        : {
            code: 'lift-needed',
            id: 'lift-needed',
            state: 'fact',
            facts: { CL, alpha: number(needed * DEG, 'angle', 1), method: evaluation.method },
            evidence,
          },
    );
  }
  return worstFirst(found);
}

/** The slowest level flight in trim, held against the brief. */
export function stallFindings(brief: BriefPart, stall: Pick<TrimmedStall, 'speed' | 'by'>): Finding[] {
  const band = { min: null, max: brief.stallSpeed };
  return [
    {
      code: 'stall-speed',
      id: 'stall-speed',
      state: held(stall.speed, band),
      facts: { speed: number(stall.speed, 'speed', 1), by: stall.by },
      band,
      evidence: { area: 'performance', mark: 'performance.stallSpeed' },
    },
  ];
}

/** Where a quantity is looked at. */
const AREA_OF: Record<MadeBy, Evidence['area']> = {
  evaluation: 'balance',
  motion: 'motion',
  performance: 'performance',
  limits: 'performance',
  drag: 'drag',
  loops: 'control',
  strength: 'structure',
  asymmetry: 'balance',
};

/**
 * The requirements of a brief that can be told, held against what was made of a candidate. One whose quantity is not made yet is left out; one that cannot be
 * there is missing.
 */
export function requirementFindings(brief: Pick<BriefPart, 'requirements' | 'assumptions'>, made: Made): Finding[] {
  const { performance } = made;
  // What only viscosity tells comes with the polars.
  const waits = performance !== null && awaitsPolars(performance.method, brief.assumptions.method);
  return brief.requirements.flatMap((r): Finding[] => {
    const q = responseOf(r.quantity);
    if (!q || made[q.by] === null || (r.min === null && r.max === null)) return [];
    const point = q.at && r.speed !== undefined ? performance?.at.find((p) => p.speed === r.speed) : undefined;
    if (q.at && r.speed !== undefined && !point) return [];
    const value = valueOf(q, made, r.speed);
    if (value === null && waits) return [];
    const band = { min: r.min, max: r.max };
    return [
      {
        code: 'requirement',
        id: `requirement-${requirementKey(r)}`,
        state: value === null ? 'missing' : held(value, band),
        facts: {
          name: q.name,
          ...(r.speed !== undefined && q.at && { at: { value: r.speed, dimension: 'speed' as const } }),
          value: value === null ? null : { value, dimension: q.dimension, digits: q.digits, per: q.per },
          ...(value === null && {
            reason: point?.reason ?? whyNone(q, made),
          }),
          weight: r.weight,
        },
        band,
        evidence: { area: AREA_OF[q.by], ...((!q.at || q.id.startsWith('performance.')) && { mark: q.id }) },
      },
    ];
  });
}

const ORDER = { missing: 0, outside: 1, inside: 2, fact: 3 };
/** What a finding may not be told as held beside: failures of the same matter, by their codes. */
export const SAME_MATTER: Partial<Record<FindingCode, readonly FindingCode[]>> = {
  'trim-angle': ['trim-unstable', 'trim-lift'],
  'static-margin': ['trim-unstable'],
  'pitch-slope': ['trim-unstable'],
  'modes-level': ['mode-grows', 'mode-damping', 'mode-level'],
  'loops-keep': ['loop-grows', 'loop-margin', 'loop-fails', 'loops-stale'],
};

/** What is missing, what is outside, and the rest; nothing is told as held beside a failure of the same matter. */
export function worstFirst(found: readonly Finding[]): Finding[] {
  const failed = new Set(found.filter((f) => f.state === 'outside').map((f) => f.code));
  const told = found.filter(
    (f) => f.code !== 'modes-level' || !SAME_MATTER['modes-level']!.some((code) => failed.has(code)),
  );
  return told
    .map((f) =>
      f.state === 'inside' && SAME_MATTER[f.code]?.some((code) => failed.has(code))
        ? ({ ...f, state: 'fact' } as Finding)
        : f,
    )
    .sort((a, b) => ORDER[a.state] - ORDER[b.state]);
}

/** What is there, what is missing, and what cannot be computed. */
function presence(candidate: CandidatePart, evaluation: Evaluation): Finding[] {
  const found: Finding[] = [];
  if (candidate.surfaces.length === 0)
    found.push({ code: 'no-wing', id: 'no-wing', state: 'missing', facts: {}, evidence: { area: 'airframe' } });
  for (const p of evaluation.problems) {
    // A flow that is doubtful is there all the same.
    const doubtful = p.code.endsWith('-doubtful');
    found.push({
      code: 'problem',
      id: `problem-${p.code}`,
      state: doubtful ? 'fact' : 'missing',
      facts: { message: p.message, doubtful },
      evidence: { area: p.code.startsWith('mass') ? 'balance' : 'airframe' },
    });
  }
  for (const { a, b } of placedCrossings(candidate)) {
    const name = (id: string) => candidate.surfaces.find((s) => s.id === id)?.name ?? id;
    found.push({
      code: 'crossing',
      id: `crossing-${a}-${b}`,
      state: 'outside',
      facts: { first: name(a), second: name(b) },
      evidence: { area: 'airframe' },
    });
  }
  if (!evaluation.mass) {
    found.push({
      code: 'no-centre',
      id: 'no-centre',
      state: 'missing',
      facts: {},
      evidence: { area: 'balance', mark: 'mass-items' },
    });
  }
  return found;
}

/** Surfaces that pass through each other; none where they cannot be placed, which is told already. */
function placedCrossings(candidate: CandidatePart) {
  try {
    return crossings(standingIn(candidate).surfaces);
  } catch {
    return [];
  }
}

/** Trim, margin and slope against the brief. */
function balanceFindings(brief: BriefPart, candidate: CandidatePart, evaluation: Evaluation): Finding[] {
  const { balance, lift } = evaluation;
  if (!balance || !lift) return [];
  const found: Finding[] = [];
  const trim = balance.trims[0];
  const tail = candidate.surfaces.find((s) => s.role === 'tailplane');
  const band = brief.bands.trimAngleDeg;
  const target = band.min !== null && band.max !== null ? (band.min + band.max) / 2 : (band.min ?? band.max);
  const fix: { fix?: Fix } =
    tail && target !== null ? { fix: { code: 'tail-incidence', surfaceId: tail.id, targetDeg: target } } : {};
  const evidence: Evidence = { area: 'balance', mark: 'balance-cm' };
  if (!trim) {
    found.push({
      code: 'no-trim',
      id: 'trim-angle',
      state: 'outside',
      facts: { from: number(candidate.sweep.fromDeg, 'angle', 0), to: number(candidate.sweep.toDeg, 'angle', 0) },
      evidence,
      ...fix,
    });
  } else {
    const value = trim.alpha * DEG;
    const state = held(value, band);
    found.push({
      code: 'trim-angle',
      id: 'trim-angle',
      state,
      facts: { trim: number(value, 'angle', 1) },
      band,
      evidence,
      ...(state === 'outside' ? fix : {}),
    });
    if (!trim.stable) found.push({ code: 'trim-unstable', id: 'trim-unstable', state: 'outside', facts: {}, evidence });
    else if (trim.speed !== null) {
      found.push({
        code: 'trim-speed',
        id: 'trim-speed',
        state: 'fact',
        facts: { speed: number(trim.speed, 'speed'), wanted: number(brief.speed, 'speed') },
        evidence: { area: 'balance', mark: 'trim-speed' },
      });
    } else found.push({ code: 'trim-lift', id: 'trim-lift', state: 'outside', facts: {}, evidence, ...fix });
  }
  found.push({
    code: 'static-margin',
    id: 'static-margin',
    // A brief may allow an unstable aircraft; without that one is none that is wanted.
    state:
      balance.staticMargin < 0 && !((brief.bands.staticMargin.min ?? 0) < 0)
        ? 'outside'
        : held(balance.staticMargin, brief.bands.staticMargin),
    facts: { margin: number(balance.staticMargin, 'ratio', 1), method: evaluation.method },
    band: brief.bands.staticMargin,
    evidence: { area: 'balance', mark: 'static-margin' },
  });
  const slope = balance.pitchSlope / DEG;
  found.push({
    code: 'pitch-slope',
    id: 'pitch-slope',
    state: held(slope, brief.bands.pitchSlopePerDeg),
    facts: { slope: number(slope, 'plain', 4) },
    band: brief.bands.pitchSlopePerDeg,
    evidence: { area: 'balance', mark: 'pitch-slope' },
  });
  return found;
}
