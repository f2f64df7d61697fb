import { watch, type ComputedRef } from 'vue';
import { memberKey, memberName, memberSource, nextTries } from '@veldtwind/core/polar';
import type { StudyPart } from '@veldtwind/core/project';
import type { SectionSource } from '@veldtwind/core/shaping';
import { useProject } from '@/store/project';
import { useRuns } from '@/store/runs';
import { studyPlan, type FamilyMember } from './use-family';

/** Members tried at once: as many sweeps as keep the cores busy. */
const AT_ONCE = 4;

/**
 * Drives the search of a study: when all members are solved it asks the model for the next ones, keeps them in the study, and runs them. Everything it
 * goes by is in the project, so that it goes on after a reload; of several tabs one drives.
 */
export function useSearchDriver(
  study: ComputedRef<StudyPart | undefined>,
  base: ComputedRef<SectionSource | null>,
  members: ComputedRef<FamilyMember[]>,
): void {
  const project = useProject();
  const runs = useRuns();
  let busy = false;
  async function next(): Promise<void> {
    const s = study.value;
    if (!s || busy || !base.value || s.searching === null || !runs.loaded || members.value.length === 0) return;
    const open = members.value.filter((m) => !m.complete);
    // A task that failed leaves its members incomplete for good: they count as tried without success.
    if (open.length > 0 && runs.going.length > 0) return;
    busy = true;
    try {
      const id = s.id;
      if (s.searching <= 0) {
        project.edit(`End the search of ${s.name}`, (draft) => void (draft.studies[id].searching = null));
        return;
      }
      const planned = open.filter((m) => m.curves.some((c) => c === undefined));
      if (planned.length > 0) {
        await runs.start(`${s.name}: ${planned.length} sections`.slice(0, 80), studyPlan(s, planned));
        if (runs.failure)
          project.edit(`End the search of ${s.name}`, (draft) => void (draft.studies[id].searching = null));
        return;
      }
      const bounds = s.numbers.map(({ values }) => [Math.min(...values), Math.max(...values)] as const);
      const tried = members.value.map((m) => ({ member: m.member, cost: m.cost ?? Infinity }));
      const fresh = nextTries(bounds, tried, Math.min(AT_ONCE, s.searching));
      const known = new Set(s.tries.map(memberKey));
      const added = fresh.filter((m) => !known.has(memberKey(m)));
      project.edit(added.length ? `Search ${s.name}: ${added.length} more` : `End the search of ${s.name}`, (draft) => {
        const now = draft.studies[id];
        if (!now || now.searching === null) return;
        now.tries.push(...added);
        now.searching = added.length ? Math.max(0, now.searching - added.length) : null;
      });
      if (added.length === 0) return;
      const baseName = project.document.sections[s.base].name;
      const sections = added.map((m) => ({
        name: memberName(baseName, s.numbers, m),
        source: memberSource(base.value!, s.numbers, m),
      }));
      await runs.start(`${s.name}: ${added.length} tries`.slice(0, 80), studyPlan(s, sections));
    } finally {
      busy = false;
    }
  }
  // Held for the page's life by one tab; another takes it when that one is closed.
  const drive = () => {
    if (!('locks' in navigator)) return next();
    return navigator.locks.request(`veldtwind-search-${study.value?.id ?? ''}`, { ifAvailable: true }, (lock) =>
      lock ? next() : undefined,
    );
  };
  watch([study, members, () => runs.going.length, () => runs.loaded], () => void drive(), { immediate: true });
}
