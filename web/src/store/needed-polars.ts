import { computed, onMounted } from 'vue';
import { candidateNeeds, sectionLookup } from '@veldtwind/core/candidate';
import { gathered, sweepFor, type PolarConditions } from '@veldtwind/core/flight';
import { POLAR_ANGLES, type PolarNeed, type SectionPolars } from '@veldtwind/core/lift';
import { VeldtwindError } from '@veldtwind/core/numerics';
import { CURVE_VERSION, SECONDS_A_POINT, type RunPlan, type Sweep } from '@veldtwind/core/polar';
import { DEFAULT_SPREAD } from '@veldtwind/core/section-flow';
import { useProject } from './project';
import { useRuns } from './runs';
import { usePreferences } from './preferences';
import type { CandidatePart } from '@/lib/types';

/** A polar that a candidate needs: which curve it is, and how much of it is there. */
export interface NeededPolar {
  need: PolarNeed;
  sweep: Sweep;
  /** Name of its section. */ name: string;
  /** Points that are there. */ points: number;
  curve: number | null;
}

/** The polars that candidates need, from the project's runs; what is missing is started with one click. */
export function useNeededPolars() {
  const project = useProject();
  const runs = useRuns();
  const preferences = usePreferences();
  onMounted(() => void runs.refresh());
  const ncrit = computed(() => preferences.get<number>('lift-ncrit', 9));
  /** Curves by their key: those of today's method first. */
  const curves = computed(() => {
    const list = runs.curves.slice().sort((a, b) => a.version - b.version);
    return new Map(list.filter((c) => c.version === CURVE_VERSION).map((c) => [c.key, c]));
  });
  // Keys are hashes of whole sections: made once for as long as the document's parts are the same.
  const known = new WeakMap<object, Map<string, Sweep>>();
  function sweepOf(need: PolarNeed, conditions: PolarConditions): Sweep {
    const { sections } = project.document;
    let own = known.get(sections);
    if (!own) known.set(sections, (own = new Map()));
    const key = JSON.stringify([need, conditions]);
    let made = own.get(key);
    if (!made) {
      const name = sections[need.section]?.name ?? need.section.replace(/^naca:/, 'NACA ');
      own.set(key, (made = sweepFor(need, sectionLookup(sections), conditions, name)));
    }
    return made;
  }
  // A gain that is dragged changes no wing: asked again with the same surfaces and bodies, the answer is the same.
  const cut = new WeakMap<object, { bodies: unknown; needs: Map<string, ReturnType<typeof candidateNeeds>> }>();
  function needsOf(candidate: CandidatePart, speeds: readonly number[], also: readonly Record<string, number>[]) {
    const { surfaces, bodies } = candidate;
    let own = cut.get(surfaces);
    if (own?.bodies !== bodies) cut.set(surfaces, (own = { bodies, needs: new Map() }));
    const key = JSON.stringify([project.document.brief.altitude, speeds, also]);
    let made = own!.needs.get(key);
    if (!made) {
      const document = { ...project.document, candidates: { [candidate.id]: candidate } };
      if (own!.needs.size > 40) own!.needs.clear();
      own!.needs.set(key, (made = candidateNeeds(document, candidate.id, speeds, also)));
    }
    return made;
  }
  /** What a candidate needs between some speeds; nothing for a shape that is none. */
  function needed(
    candidate: CandidatePart,
    speeds: readonly number[],
    also: readonly Record<string, number>[] = [],
  ): NeededPolar[] {
    try {
      const { needs, mach } = needsOf(candidate, speeds, also);
      return needs.map((need) => {
        const sweep = sweepOf(need, { ncrit: ncrit.value, mach });
        const curve = curves.value.get(sweep.key);
        const points = curve ? (runs.points.get(curve.id)?.length ?? 0) : 0;
        return { need, sweep, name: sweep.name, points, curve: curve?.id ?? null };
      });
    } catch (error) {
      if (error instanceof VeldtwindError) return [];
      throw error;
    }
  }
  /** Less than this of a polar is no polar yet. */
  const ENOUGH = 0.9;
  const isThere = (n: NeededPolar) => n.points >= ENOUGH * POLAR_ANGLES.length;
  /** The polars that are there, as the aircraft reads them. A section of which none is there is left out. */
  function ready(list: readonly NeededPolar[]): SectionPolars[] {
    return gathered(
      list.filter(isThere).map((n) => ({
        need: n.need,
        points: (runs.points.get(n.curve!) ?? []).map((p) => p.point),
      })),
    );
  }
  /** Seconds that missing polars take on this machine's cores, as a first word. */
  const secondsFor = (list: readonly NeededPolar[]) =>
    (list.length * POLAR_ANGLES.length * SECONDS_A_POINT) / Math.max(1, (navigator.hardwareConcurrency ?? 2) / 1);
  /** Begins runs for what is missing: one for all sections that need the same Reynolds numbers. */
  async function compute(list: readonly NeededPolar[], title: string): Promise<void> {
    const bySection = new Map<string, NeededPolar[]>();
    for (const n of list) {
      const key = JSON.stringify([n.need.section, n.need.flap]);
      bySection.set(key, [...(bySection.get(key) ?? []), n]);
    }
    const plans = new Map<string, RunPlan>();
    for (const own of bySection.values()) {
      const reynolds = own.map((n) => n.need.reynolds).sort((a, b) => a - b);
      const [{ need, sweep }] = own;
      const { conditions, source, flap } = sweep.input;
      const key = JSON.stringify([reynolds, conditions.mach]);
      const plan = plans.get(key) ?? {
        sections: [],
        reynolds,
        mach: [conditions.mach ?? 0],
        conditions: { criticalAmplification: ncrit.value },
        sweep: 'fixed-re' as const,
        alphas: [...POLAR_ANGLES],
        spread: DEFAULT_SPREAD,
      };
      const id = project.document.sections[need.section] ? { id: need.section } : {};
      plan.sections.push({ name: sweep.name, source, flap, ...id });
      plans.set(key, plan);
    }
    let k = 0;
    for (const plan of plans.values()) {
      k++;
      await runs.start(plans.size > 1 ? `${title} (${k} of ${plans.size})` : title, plan);
    }
  }
  return { needed, isThere, ready, compute, secondsFor, ncrit };
}
