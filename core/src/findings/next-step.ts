import type { MassItem } from '../balance';
import type { Evaluation } from '../candidate';
import { freeId } from '../limits';
import type { BriefPart, CandidatePart } from '../project';
import { isQuick, responseOf } from '../quantities';
import { displayUnit, formatQuantity, type UnitSet } from '../units';
import type { Finding } from './findings';
import { findingWords } from './words';

/** The next sensible step of a project. */
export type NextStep =
  | { code: 'sections' | 'wing' | 'masses' }
  | {
      code: 'payload';
      /** What would stand for the mass that is not placed. */ item: MassItem;
      /** Whether it reaches the margin that is meant; else it lies as near to that place as the aircraft goes. */ balances: boolean;
    }
  | {
      code: 'move-mass';
      /** Where it gives the margin. */ item: { id: string; name: string };
      x: number;
      from: number;
      finding: Finding;
    }
  | { code: 'solve' | 'see'; finding: Finding }
  | { code: 'improve'; finding: Finding; quantity: string }
  | { code: 'resume-polars'; runs: number };

/** Static margin that is meant where the brief has no band for it. */
const USUAL_MARGIN = 0.1;
/** Masses beyond this share of the brief's count as not placed. */
const UNPLACED = 0.02;

/** The quantity of a finding for which studies tell what changes it; null where they do not. */
export function quantityOf(f: Finding): string | null {
  const q = responseOf(f.id) ?? responseOf(f.evidence.mark ?? '');
  return q && isQuick(q) ? q.id : null;
}

/** From the foremost to the rearmost point where something can be put, m: within the bodies, else along the roots of the surfaces. */
function roomOf(candidate: CandidatePart): [number, number] {
  const bodies = candidate.bodies.flatMap((b) => b.stations.map((s) => b.position.x + s.x));
  const roots = candidate.surfaces.flatMap((s) => [s.position.x, s.position.x + s.stations[0].chord]);
  const places = bodies.length > 0 ? bodies : roots;
  return [Math.min(...places), Math.max(...places)];
}

/** Static margin that is meant: the middle of the brief's band. */
function meantMargin({ min, max }: BriefPart['bands']['staticMargin']): number {
  return min !== null && max !== null ? (min + max) / 2 : (min ?? max ?? USUAL_MARGIN);
}

/** The item that goes the least way, within the aircraft, to the margin that is meant; null where none can. */
function movable(
  brief: BriefPart,
  candidate: CandidatePart,
  evaluation: Evaluation,
  finding: Finding,
): NextStep | null {
  const { mass, balance, lift } = evaluation;
  if (!mass || !balance || !lift) return null;
  const centre = balance.neutralPoint - meantMargin(brief.bands.staticMargin) * lift.reference.chord;
  const moment = (centre - mass.centre.x) * mass.mass;
  const [fore, aft] = roomOf(candidate);
  const [best] = candidate.massItems
    .filter((m) => m.part === undefined && m.mass > 0)
    .map((m) => ({ m, x: m.position.x + moment / (m.mirrored ? 2 * m.mass : m.mass) }))
    .filter(({ x }) => x >= fore && x <= aft)
    .sort((a, b) => Math.abs(a.x - a.m.position.x) - Math.abs(b.x - b.m.position.x));
  return best
    ? {
        code: 'move-mass',
        item: { id: best.m.id, name: best.m.name },
        x: Number(best.x.toFixed(4)),
        from: best.m.position.x,
        finding,
      }
    : null;
}

/** The mass that the brief has beyond the items, where it gives the static margin that is meant; null where nothing is left to place. */
function unplaced(brief: BriefPart, candidate: CandidatePart, evaluation: Evaluation): NextStep | null {
  const { mass, balance, lift } = evaluation;
  if (!mass || !balance || !lift) return null;
  const rest = brief.mass - mass.mass;
  if (rest < UNPLACED * brief.mass) return null;
  const centre = balance.neutralPoint - meantMargin(brief.bands.staticMargin) * lift.reference.chord;
  const wanted = (brief.mass * centre - mass.mass * mass.centre.x) / rest;
  const [fore, aft] = roomOf(candidate);
  const x = Math.min(aft, Math.max(fore, wanted));
  const item: MassItem = {
    id: freeId('payload', (id) => candidate.massItems.some((m) => m.id === id)),
    name: 'Payload',
    mass: Number(rest.toPrecision(6)),
    position: { x: Number(x.toFixed(4)), y: 0, z: Number(mass.centre.z.toFixed(4)) },
    group: 'Payload',
  };
  return { code: 'payload', item, balances: Math.abs(x - wanted) < 1e-9 };
}

/**
 * What is sensible next: what is missing first, then what does not hold, then what waits. Null where all is well.
 * @param findings of the candidate, worst first. @param paused runs of polars that a person paused.
 */
export function nextStep(of: {
  sections: number;
  brief: BriefPart;
  candidate: CandidatePart | undefined;
  evaluation: Evaluation | null;
  findings: readonly Finding[];
  paused: number;
}): NextStep | null {
  const { candidate, evaluation, findings } = of;
  if (of.sections === 0) return { code: 'sections' };
  if (!candidate || candidate.surfaces.length === 0) return { code: 'wing' };
  if (!evaluation) return null;
  const problem = findings.find((f) => f.code === 'problem' && f.state === 'missing');
  if (problem) return { code: 'see', finding: problem };
  if (candidate.massItems.length === 0 && !evaluation.mass) return { code: 'masses' };
  const payload = unplaced(of.brief, candidate, evaluation);
  if (payload) return payload;
  // What is only wished for is told among the findings.
  const failing = findings.filter(
    (f) => f.state === 'outside' && !(f.code === 'requirement' && f.facts.weight === 'wish'),
  );
  const margin = failing.find((f) => f.code === 'static-margin');
  const moved = margin && movable(of.brief, candidate, evaluation, margin);
  if (moved) return moved;
  const [solvable] = failing.filter((f) => f.fix);
  if (solvable) return { code: 'solve', finding: solvable };
  for (const finding of failing) {
    const quantity = quantityOf(finding);
    if (quantity !== null) return { code: 'improve', finding, quantity };
  }
  if (failing.length > 0) return { code: 'see', finding: failing[0] };
  if (of.paused > 0) return { code: 'resume-polars', runs: of.paused };
  const doubt = findings.find((f) => f.state === 'missing' || (f.code === 'problem' && f.facts.doubtful));
  return doubt ? { code: 'see', finding: doubt } : null;
}

/** A step in words: why, and what the button does. */
export function nextStepWords(step: NextStep, set: UnitSet): { why: string; does: string } {
  const q = (value: number, dimension: 'mass' | 'length') =>
    `${formatQuantity(value, dimension, set)} ${displayUnit(dimension, set).symbol}`;
  switch (step.code) {
    case 'sections':
      return { why: 'The project has no section yet', does: 'Choose sections' };
    case 'wing':
      return { why: 'The aircraft has no wing yet', does: 'Draw a wing' };
    case 'masses':
      return { why: 'The centre of gravity is not known', does: 'Estimate the structure' };
    case 'payload':
      return {
        why: `${q(step.item.mass, 'mass')} of the brief’s mass is not placed${step.balances ? '' : '; no place balances it'}`,
        does: `Place it at x = ${q(step.item.position.x, 'length')}`,
      };
    case 'move-mass':
      return {
        why: findingWords(step.finding, set).headline,
        does: `Move ${step.item.name} to x = ${q(step.x, 'length')}`,
      };
    case 'solve':
      return { why: findingWords(step.finding, set).headline, does: 'Solve for tail incidence' };
    case 'improve':
      return { why: findingWords(step.finding, set).headline, does: 'See what changes it' };
    case 'see':
      return { why: findingWords(step.finding, set).headline, does: 'Look at it' };
    case 'resume-polars':
      return { why: 'Polars are paused', does: 'Resume' };
  }
}
