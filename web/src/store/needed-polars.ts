import { defineStore } from 'pinia';
import { computed, onMounted, getCurrentInstance } from 'vue';
import { candidateNeeds, sectionLookup } from '@veldtwind/core/candidate';
import type { CurveReply } from '@veldtwind/core/contract';
import { coversAircraft, gathered, standIns, sweepFor, type PolarConditions } from '@veldtwind/core/flight';
import { FLAP_STEP, POLAR_ANGLES, sectionKey, type PolarNeed, type SectionPolars } from '@veldtwind/core/lift';
import { VeldtwindError } from '@veldtwind/core/numerics';
import { CURVE_VERSION, familyKey, SECONDS_A_POINT, type RunPlan, type Sweep } from '@veldtwind/core/polar';
import { DEFAULT_SPREAD } from '@veldtwind/core/section-flow';
import { useProject } from './project';
import { useRuns } from './runs';
import type { CandidatePart } from '@/lib/types';

/** Sweeps that are remembered for as long as the sections are the same. */
const MOST_SWEEPS = 300;
/** Angle of a flap, degrees, at which a polar takes twice as long. */
const LONGER_FROM = 12;

/** A polar that a candidate needs: which curve it is, and how much of it is there. */
export interface NeededPolar {
  need: PolarNeed;
  sweep: Sweep;
  /** Name of its section. */ name: string;
  /** Points that are there. */ points: number;
  curve: number | null;
  /** The project's own curves about its Reynolds number that it is read from where it is not there itself. */ between: number[];
}

/** The polars that candidates need, from the project's runs; what is missing is started with one click. */
export function useNeededPolars() {
  const polars = usePolarStore();
  const runs = useRuns();
  if (getCurrentInstance()) onMounted(() => void runs.refresh());
  return polars;
}

const usePolarStore = defineStore('needed-polars', () => {
  const project = useProject();
  const runs = useRuns();
  const ncrit = computed(() => project.document.brief.assumptions.criticalAmplification);
  /** Curves by their key: those of today's method first. */
  const curves = computed(() => {
    const list = runs.curves.slice().sort((a, b) => a.version - b.version);
    return new Map(list.filter((c) => c.version === CURVE_VERSION).map((c) => [c.key, c]));
  });
  /** Curves of today's method that cover an aircraft's angles, by what they share but for the Reynolds number. */
  const families = computed(() => {
    const out = new Map<string, { id: number; reynolds: number }[]>();
    for (const c of curves.value.values()) {
      if (c.input.kind !== 'fixed-re' || c.input.swept !== 'alpha' || !covers(c.id)) continue;
      const key = familyOf(c);
      out.set(key, [...(out.get(key) ?? []), { id: c.id, reynolds: c.input.conditions.reynolds }]);
    }
    return out;
  });
  // Each is a hash of a whole section, or a look at all points: made once a curve, and once for as long as it has these points.
  const familyKeys = new Map<number, string>();
  function familyOf({ id, input }: Pick<CurveReply, 'id' | 'input'>): string {
    const made = familyKeys.get(id) ?? familyKey(input);
    familyKeys.set(id, made);
    return made;
  }
  const looked = new WeakMap<object, boolean>();
  function covers(id: number): boolean {
    const points = runs.points.get(id);
    if (!points) return false;
    let known = looked.get(points);
    if (known === undefined) looked.set(points, (known = coversAircraft(points.map((p) => p.point))));
    return known;
  }
  const sweepFamilies = new WeakMap<Sweep, string>();
  function betweenOf(sweep: Sweep): number[] {
    let key = sweepFamilies.get(sweep);
    if (key === undefined) sweepFamilies.set(sweep, (key = familyKey(sweep.input)));
    const own = families.value.get(key) ?? [];
    const from = standIns(
      sweep.input.conditions.reynolds,
      own.map((c) => c.reynolds),
    );
    return own.filter((c) => from.includes(c.reynolds)).map((c) => c.id);
  }
  // Keys are hashes of whole sections: made once for as long as the document's parts are the same.
  const known = new WeakMap<object, Map<string, Sweep>>();
  function sweepOf(need: PolarNeed, conditions: PolarConditions): Sweep {
    const { sections } = project.document;
    let own = known.get(sections);
    if (!own) known.set(sections, (own = new Map()));
    const key = JSON.stringify([need, conditions]);
    let made = own.get(key);
    if (!made) {
      // Each speed and shape has its own: those of long ago are made again.
      if (own.size > MOST_SWEEPS) own.clear();
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
        const between = points >= ENOUGH * POLAR_ANGLES.length ? [] : betweenOf(sweep);
        return { need, sweep, name: sweep.name, points, curve: curve?.id ?? null, between };
      });
    } catch (error) {
      if (error instanceof VeldtwindError) return [];
      throw error;
    }
  }
  /** Less than this of a polar is no polar yet. */
  const ENOUGH = 0.9;
  const isOwn = (n: NeededPolar) => n.points >= ENOUGH * POLAR_ANGLES.length;
  const isThere = (n: NeededPolar) => isOwn(n) || n.between.length > 0;
  /** The polars that are there, as the aircraft reads them. A section of which none is there is left out. */
  function ready(list: readonly NeededPolar[]): SectionPolars[] {
    const pointsOf = (id: number) => (runs.points.get(id) ?? []).map((p) => p.point);
    const reynoldsOf = new Map([...curves.value.values()].map((c) => [c.id, c.input.conditions.reynolds]));
    const found = list.filter(isOwn).map(({ need, curve }) => ({ need, points: pointsOf(curve!) }));
    const taken = new Set<string>();
    for (const { need, between } of list)
      for (const id of between) {
        const key = `${id} ${sectionKey(need)}`;
        if (taken.has(key)) continue;
        taken.add(key);
        found.push({ need: { ...need, reynolds: reynoldsOf.get(id)! }, points: pointsOf(id) });
      }
    return gathered(found);
  }
  /** The same with the polars of turned controls that happen to be there: they tell what large deflections come to. */
  function readyTurned(candidate: CandidatePart, speeds: readonly number[]): SectionPolars[] {
    const own = needed(candidate, speeds);
    const controls = candidate.surfaces.flatMap((s) => s.controls ?? []);
    const turned = [...curves.value.values()].some((c) => c.input.flap);
    if (!turned || controls.length === 0) return ready(own);
    const most = Math.max(...controls.flatMap((c) => c.limitsDeg.map(Math.abs)));
    const steps = Array.from({ length: Math.floor(most / FLAP_STEP) }, (_, k) => (k + 1) * FLAP_STEP);
    const also = steps.flatMap((deg) =>
      [-1, 1].map((side) => Object.fromEntries(controls.map((c) => [c.id, (side * deg * Math.PI) / 180]))),
    );
    return ready(needed(candidate, speeds, also).filter(isThere));
  }
  /** Seconds that missing polars take on this machine's cores, as a first word; a flap's separated flow takes the longer the more it is turned. */
  const secondsFor = (list: readonly NeededPolar[]) => {
    const polars = list.reduce((sum, { need }) => sum + 1 + ((need.flap?.angleDeg ?? 0) / LONGER_FROM) ** 2, 0);
    return (polars * POLAR_ANGLES.length * SECONDS_A_POINT) / Math.max(1, navigator.hardwareConcurrency ?? 2);
  };
  /** Begins runs for what is missing: one for all sections that need the same Reynolds numbers. */
  async function compute(list: readonly NeededPolar[], title: string, priority?: number): Promise<void> {
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
      await runs.start(plans.size > 1 ? `${title} (${k} of ${plans.size})` : title, plan, false, priority);
    }
  }
  /** Whether it is known which polars there are: what is computed before would be made anew a moment later. */
  const listed = computed(() => runs.loaded || runs.failure !== null);
  /** Polars of a candidate at speeds for the method that the project means; null for the lattice alone, or while some are missing. */
  function forMethod(candidate: CandidatePart, speeds: readonly number[]): SectionPolars[] | null {
    if (project.document.brief.assumptions.method === 'lattice') return null;
    const list = needed(candidate, speeds);
    return list.length > 0 && list.every(isThere) ? readyTurned(candidate, speeds) : null;
  }
  return { needed, isThere, ready, readyTurned, forMethod, listed, compute, secondsFor, ncrit };
});
