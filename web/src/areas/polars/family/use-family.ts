import { FAMILY } from './family-name';
import { computed, type ComputedRef } from 'vue';
import type { CurveReply } from '@veldtwind/contract';
import {
  costOf,
  gridOf,
  memberKey,
  memberName,
  memberSource,
  sweepsOf,
  uniqueMembers,
  type Member,
  type RunPlan,
} from '@veldtwind/core/polar';
import { resolvedSource, type StudyPart } from '@veldtwind/core/project';
import { CURVE_QUANTITIES, type CurveFacts } from '@veldtwind/core/quantities';
import { DEFAULT_SPREAD } from '@veldtwind/core/section-flow';
import type { SectionSource } from '@veldtwind/core/shaping';
import { useProject } from '@/store/project';
import { useRuns } from '@/store/runs';
import { thicknessOf, useCurveFacts } from '../curve-facts';

/** A member of a family with its curves, by rising Reynolds number. */
export interface FamilyMember {
  key: string;
  member: Member;
  name: string;
  source: SectionSource;
  /** Missing while it was not run. */
  curves: (CurveReply | undefined)[];
  facts: (CurveFacts | null)[];
  /** Whether all its curves are solved as far as they will be. */
  complete: boolean;
  /** By the criteria: less is better. */
  cost: number | null;
  /** From the grid, or beside it. */
  tried: boolean;
}

/** The angles of a study, degrees. */
export function studyAngles({ alpha: { fromDeg, toDeg, stepDeg } }: Pick<StudyPart, 'alpha'>): number[] {
  const n = Math.max(0, Math.floor((toDeg - fromDeg) / stepDeg + 1e-9));
  return Array.from({ length: n + 1 }, (_, i) => Number((fromDeg + i * stepDeg).toFixed(6)));
}

export const familyId = (study: string): string => `${FAMILY}${study}`;

/** The plan that solves some members of a study. */
export function studyPlan(study: StudyPart, members: readonly Pick<FamilyMember, 'name' | 'source'>[]): RunPlan {
  return {
    sections: members.map(({ name, source }) => ({ name, id: familyId(study.id), source, flap: null })),
    reynolds: study.reynolds,
    mach: [study.mach],
    conditions: study.conditions,
    sweep: 'fixed-re',
    alphas: studyAngles(study),
    spread: DEFAULT_SPREAD,
  };
}

/** Keys of sweeps by source and study: fingerprints of large sources are not made twice. */
const keys = new WeakMap<SectionSource, Map<string, string[]>>();
function keysOf(study: StudyPart, member: Pick<FamilyMember, 'name' | 'source'>): string[] {
  const at = JSON.stringify([study.reynolds, study.mach, study.conditions]);
  const known = keys.get(member.source) ?? new Map<string, string[]>();
  keys.set(member.source, known);
  if (!known.has(at)) {
    const byRe = sweepsOf({ ...studyPlan(study, [member]), alphas: [0] });
    known.set(
      at,
      [...study.reynolds].sort((a, b) => a - b).map((re) => byRe.find((s) => s.input.conditions.reynolds === re)!.key),
    );
  }
  return known.get(at)!;
}
/** Sources of members, as long as their base and numbers are the same. */
const sources = new WeakMap<SectionSource, Map<string, SectionSource>>();

/** What a study comes to with the curves that are there. */
export function useFamily(study: ComputedRef<StudyPart | undefined>) {
  const project = useProject();
  const runs = useRuns();
  const factsOf = useCurveFacts();
  const base = computed<SectionSource | null>(() => {
    const s = study.value;
    if (!s || !project.document.sections[s.base]) return null;
    try {
      return resolvedSource(project.document.sections, s.base);
    } catch {
      return null;
    }
  });
  /** Why no family can be made of the study as it stands. */
  const problem = computed<string | null>(() => {
    const s = study.value;
    if (!s) return null;
    if (!base.value) return 'The base section is not there any more: choose another.';
    if (s.numbers.length === 0) return 'Add a number to vary.';
    if (studyAngles(s).length < 2) return 'The angles need two steps at least.';
    try {
      gridOf(s.numbers);
      memberSource(
        base.value,
        s.numbers,
        s.numbers.map((n) => n.values[0]),
      );
      return null;
    } catch (error) {
      return (error as Error).message;
    }
  });
  const members = computed<FamilyMember[]>(() => {
    const s = study.value;
    if (!s || problem.value) return [];
    const baseName = project.document.sections[s.base].name;
    const tries = s.tries.filter((t) => t.length === s.numbers.length);
    const grid = gridOf(s.numbers);
    const onGrid = new Set(grid.map(memberKey));
    const byKey = new Map(runs.curves.map((c) => [c.key, c]));
    const angles = studyAngles(s).length;
    const known = sources.get(base.value!) ?? new Map<string, SectionSource>();
    sources.set(base.value!, known);
    return uniqueMembers([...grid, ...tries]).map((member) => {
      const key = memberKey(member);
      const of = `${s.numbers.map((n) => n.id).join()}|${key}`;
      let source = known.get(of);
      if (!source) known.set(of, (source = memberSource(base.value!, s.numbers, member)));
      const name = memberName(baseName, s.numbers, member);
      const curves = keysOf(s, { name, source }).map((k) => byKey.get(k));
      const facts = curves.map((c) => (c && c.points > 0 ? factsOf(c) : null));
      const complete = curves.every((c) => c !== undefined && c.points >= angles);
      const asked = CURVE_QUANTITIES.filter((q) => s.criteria.some((c) => c.fact === q.id));
      const judged = facts.map((f) => ({
        facts: Object.fromEntries(
          asked.map((q) => [q.id, f === null ? null : q.id === 'thickness' ? thicknessOf(source) : q.of(f)]),
        ),
      }));
      const cost = complete && s.criteria.length > 0 ? costOf(judged, s.criteria) : null;
      return { key, member, name, source, curves, facts, complete, cost, tried: !onGrid.has(key) };
    });
  });
  const missing = computed(() => members.value.filter((m) => !m.complete));
  return { base, problem, members, missing };
}
