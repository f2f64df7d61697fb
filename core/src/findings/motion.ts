import { modelPrint, type AutopilotSettings, type LoopLine } from '../control';
import { handlingLevels, type AircraftClass, type FlightPhase, type Mode, type MotionCase } from '../motion';
import type { BriefPart } from '../project';
import { GRAVITY } from '../atmosphere';
import { DEG } from '../numerics';
import { held, number, worstFirst, type Finding } from './findings';

/** What motion's findings are made of. */
export interface MotionFacts {
  modes: readonly Mode[];
  case: MotionCase;
  class: AircraftClass;
  phase: FlightPhase;
  /** Controls that would have to go beyond their limits to trim, rad. */
  beyond?: readonly { name: string; deflection: number; limit: number }[];
  /** The tail whose incidence can take their place, and the angle that is to be trimmed, rad. */
  tail?: { surfaceId: string; alpha: number };
}

/** Load factor per radian of angle of attack. */
export const loadPerAlpha = ({ derivatives, speed, density, area, mass }: MotionCase): number =>
  (derivatives.CL_alpha * 0.5 * density * speed * speed * area) / (mass * GRAVITY);

/** Modes that grow, that are damped otherwise than the brief wants, and what the public requirements say of them. */
export function motionFindings(brief: BriefPart, of: MotionFacts): Finding[] {
  const evidence = { area: 'motion', mark: 'modes' } as const;
  const found: Finding[] = [];
  const band = brief.bands.dampingRatio;
  const levels = handlingLevels(of.modes, of.class, of.phase, loadPerAlpha(of.case));
  // A slow spiral is allowed: it is told, and is no failure.
  const allowed = (mode: string) => levels.some((l) => l.mode === mode && l.level === 1);
  for (const m of of.modes) {
    if (m.re > 1e-9 && m.timeToDouble !== undefined)
      found.push({
        code: 'mode-grows',
        id: `grows-${m.name}`,
        state: m.timeToDouble > 60 || allowed(m.name) ? 'fact' : 'outside',
        facts: { mode: m.name, doubles: number(m.timeToDouble, 'plain', 1) },
        evidence,
      });
    else if (m.im > 0 && held(m.dampingRatio, band) === 'outside')
      found.push({
        code: 'mode-damping',
        id: `damping-${m.name}`,
        state: 'outside',
        facts: { mode: m.name, damping: number(m.dampingRatio, 'plain', 3) },
        band,
        evidence,
      });
  }
  for (const b of of.beyond ?? [])
    found.push({
      code: 'trim-control',
      id: `trim-control-${b.name}`,
      state: 'outside',
      facts: {
        control: b.name,
        needed: number(b.deflection * DEG, 'angle', 1),
        limit: number(b.limit * DEG, 'angle', 1),
        speed: number(of.case.speed, 'speed'),
      },
      evidence: { area: 'balance', mark: 'balance-cm' },
      // The tail's incidence does what the control cannot.
      ...(of.tail && {
        fix: {
          code: 'tail-incidence',
          surfaceId: of.tail.surfaceId,
          targetDeg: Number((of.tail.alpha * DEG).toFixed(2)),
        },
      }),
    });
  for (const l of levels)
    // What grows without swinging is told as that.
    if (l.level > 1 && !found.some((f) => f.id === `grows-${l.mode}` && f.state === 'outside'))
      found.push({
        code: 'mode-level',
        id: `level-${l.mode}`,
        state: 'outside',
        facts: { mode: l.mode, level: l.level, says: l.says },
        evidence,
      });
  if (of.class !== 'uncrewed' && levels.length > 0 && levels.every((l) => l.level === 1))
    found.push({ code: 'modes-level', id: 'modes-level', state: 'inside', facts: { level: 1 }, evidence });
  return worstFirst(found);
}

/** Loops that grow, or keep less margin than is aimed at, or were tuned for an aircraft that has changed. @param nameOf what a loop measures, in words. */
export function controlFindings(
  settings: AutopilotSettings,
  lines: readonly LoopLine[],
  of: MotionCase,
  nameOf: (from: string) => string,
): Finding[] {
  const evidence = { area: 'control' } as const;
  const found: Finding[] = [];
  const { phaseMarginDeg, gainMarginDb } = settings.aims;
  for (const line of lines) {
    const chain = settings.chains.find((c) => c.id === line.chain);
    if (!chain?.laws[line.loop]) continue;
    const loop = `${nameOf(chain.laws[line.loop].from)} (${chain.name})`;
    const id = `${line.chain}-${line.loop}`;
    if ('failure' in line)
      found.push({
        code: 'loop-fails',
        id: `loop-${id}`,
        state: 'outside',
        facts: { loop, message: line.failure },
        evidence,
      });
    else if (!line.holds)
      found.push({ code: 'loop-grows', id: `loop-${id}`, state: 'outside', facts: { loop }, evidence });
    else if (!line.keeps) {
      const short = line.phaseMarginDeg !== null && Math.abs(line.phaseMarginDeg) < phaseMarginDeg;
      found.push({
        code: 'loop-margin',
        id: `loop-${id}`,
        state: 'outside',
        facts: {
          loop,
          ...(short
            ? { phase: number(Math.abs(line.phaseMarginDeg!), 'angle', 0) }
            : { gain: number(Math.abs(line.gainMarginDb ?? 0), 'plain', 1) }),
          band: { min: short ? phaseMarginDeg : gainMarginDb, max: null },
        },
        evidence,
      });
    }
  }
  if (lines.length > 0 && found.length === 0)
    found.push({ code: 'loops-keep', id: 'loops-keep', state: 'inside', facts: { count: lines.length }, evidence });
  const chains = settings.chains.filter((c) => c.tunedFor && c.tunedFor !== modelPrint(of, c)).map((c) => c.name);
  if (chains.length > 0)
    found.push({ code: 'loops-stale', id: 'loops-stale', state: 'outside', facts: { chains }, evidence });
  return worstFirst(found);
}
