import { computed, ref } from 'vue';
import { standing, type LiftingSurface } from '@veldtwind/core/airframe';
import { sectionLookup } from '@veldtwind/core/candidate';
import { isBuilt, SurfaceShape, type BuiltSurface, type Thicker } from '@veldtwind/core/members';
import type { Spar, SurfaceStructure } from '@veldtwind/core/structure';
import { useLive } from '@/lib/live';
import { useProject } from '@/store/project';
import { useStrength } from '@/store/strength';
import { useWorkbench } from '@/store/workbench';
import { lanes } from '@/worker/lane';

/** A surface without a structure gets one that suits its size: a spar with two caps, a nose skin, ribs. */
export function firstStructure(surface: LiftingSurface): SurfaceStructure {
  const chord = Math.max(...surface.stations.map((s) => s.chord));
  const round = (v: number, step: number) => Math.max(step, Math.round(v / step) * step);
  return {
    skin: { material: 'birch-plywood-45', thickness: round(chord / 240, 1e-4), to: 0.3 },
    spars: [firstSpar([], chord)],
    ribs: { material: 'balsa-light', thickness: round(chord / 150, 5e-4), spacing: round(chord / 4, 0.005) },
  };
}
/** A further spar. */
export function firstSpar(taken: readonly Spar[], chord: number): Spar {
  const round = (v: number, step: number) => Math.max(step, Math.round(v / step) * step);
  let n = taken.length + 1;
  while (taken.some((s) => s.id === `spar-${n}`)) n++;
  const at = n === 1 ? 0.3 : 0.65;
  return {
    id: `spar-${n}`,
    name: n === 1 ? 'Main spar' : `Spar ${n}`,
    kind: 'i',
    material: 'carbon-rod',
    webMaterial: 'birch-plywood',
    at,
    from: 0,
    to: 1,
    width: round((n === 1 ? 0.05 : 0.03) * chord, 1e-3),
    cap: round(chord / 200, 5e-4),
    web: round(chord / 200, 5e-4),
  };
}

/** The structure of the candidate that is worked on: its surfaces, what they hold, and the edits of what they are made of. */
export function useStructure() {
  const project = useProject();
  const workbench = useWorkbench();
  const active = computed(() => workbench.active);
  const picked = ref<string | null>(null);
  const surfaces = computed(() => active.value?.surfaces ?? []);
  const surface = computed(
    () =>
      surfaces.value.find((s) => s.id === picked.value) ??
      surfaces.value.find((s) => s.role === 'wing') ??
      surfaces.value[0] ??
      null,
  );
  const built = computed(() => surfaces.value.some(isBuilt));
  const strength = useStrength();
  const sizing = ref<string | null>(null);
  const sized = useLive(
    lanes.structure,
    'structure-sizing',
    () => {
      const of = sizing.value === null ? null : strength.input();
      return of && sizing.value !== null ? { ...of, surface: sizing.value } : null;
    },
    true,
  );
  /** Geometry of the chosen surface where it stands; null where it is no shape. */
  const shape = computed(() => {
    const c = active.value;
    const own = c && standing(c.surfaces, c.bodies).find((s) => s.id === surface.value?.id);
    if (!own) return null;
    try {
      return new SurfaceShape(own, sectionLookup(project.document.sections));
    } catch {
      return null;
    }
  });
  const own = computed(() => strength.now?.surfaces.find((s) => s.id === surface.value?.id) ?? null);

  function change(label: string, edit: (s: SurfaceStructure) => void): void {
    const [c, s] = [active.value, surface.value];
    if (!c || !s) return;
    project.edit(`${label} (${c.letter})`, (draft) => {
      const found = draft.candidates[c.id]?.surfaces.find((v) => v.id === s.id);
      if (found?.structure) edit(found.structure);
    });
  }
  /** Items of an estimate that the members replace. */
  const estimated = computed(
    () => active.value?.massItems.filter((m) => m.part === surface.value?.id && m.group === 'Structure') ?? [],
  );
  function begin(): void {
    const [c, s] = [active.value, surface.value];
    if (!c || !s) return;
    const gone = new Set(estimated.value.map((m) => m.id));
    project.edit(`Structure of ${s.name} (${c.letter})`, (draft) => {
      const own = draft.candidates[c.id];
      const found = own?.surfaces.find((v) => v.id === s.id);
      if (!own || !found) return;
      found.structure = firstStructure(found as LiftingSurface);
      own.massItems = own.massItems.filter((m) => !gone.has(m.id));
    });
  }
  function remove(): void {
    const [c, s] = [active.value, surface.value];
    if (!c || !s) return;
    project.edit(`No structure of ${s.name} (${c.letter})`, (draft) => {
      const found = draft.candidates[c.id]?.surfaces.find((v) => v.id === s.id);
      if (found) delete found.structure;
    });
  }
  /** Takes thicknesses over, to a hundredth of a millimetre. */
  function take(changes: readonly Thicker[]): void {
    change('Thick enough', (structure) => {
      for (const t of changes) {
        const [, group, id, key] = t.path.split('.');
        const to = Math.ceil(t.to * 1e5) / 1e5;
        if (group === 'skin' && structure.skin) structure.skin.thickness = to;
        const spar = structure.spars.find((s) => s.id === id);
        if (group !== 'spars' || !spar) continue;
        const tip = key === 'width' ? 'tipWidth' : key === 'cap' ? 'tipCap' : null;
        if (tip && spar[tip] !== undefined) spar[tip] *= t.to / t.from;
        (spar as unknown as Record<string, number>)[key] = to;
      }
    });
    sizing.value = null;
  }
  return {
    active,
    surfaces,
    surface,
    picked,
    built,
    strength,
    sizing,
    sized,
    shape,
    own,
    estimated,
    change,
    begin,
    remove,
    take,
  };
}
export type Structure = ReturnType<typeof useStructure>;
export const structureOf = (s: LiftingSurface | null): SurfaceStructure | null =>
  s && isBuilt(s) ? s.structure : null;
export type { BuiltSurface };
