import { refDebounced } from '@vueuse/core';
import { computed } from 'vue';
import { standingIn } from '@veldtwind/core/airframe';
import { flowState } from '@veldtwind/core/atmosphere';
import { sectionLookup } from '@veldtwind/core/candidate';
import { dragBuildUp, dragShape, type DragBuildUp, type DragShape } from '@veldtwind/core/drag';
import { VeldtwindError } from '@veldtwind/core/numerics';
import type { CandidatePart } from '@veldtwind/core/project';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';

/** The drag of one candidate, or why it cannot be told. */
export interface CandidateDrag {
  candidate: CandidatePart;
  shape: DragShape | null;
  built: DragBuildUp | null;
  why: string;
}

/** Drag of the candidates that are looked at, at the speed and altitude of the brief or at others. */
export function useDrag(speed: () => number, altitude: () => number) {
  const project = useProject();
  const workbench = useWorkbench();
  // Wetted areas are measured when a value has come to rest; laws and allowances answer at once.
  const rested = refDebounced(
    computed(() => workbench.visible),
    100,
  );
  /** Measured shapes by their surfaces, as long as all that they are made of is the same: parts are never changed in place. */
  const shapes = new WeakMap<object, { made: DragShape; of: readonly unknown[] }>();
  const shapeOf = (c: CandidatePart): DragShape => {
    const { sections } = project.document;
    const of = [c.bodies, c.reference, sections];
    const known = shapes.get(c.surfaces);
    if (known?.of.every((v, i) => v === of[i])) return known.made;
    const made = dragShape(standingIn(c), sectionLookup(sections));
    shapes.set(c.surfaces, { made, of });
    return made;
  };
  const at = (c: CandidatePart, shape: DragShape, v: number): DragBuildUp =>
    dragBuildUp(c, flowState(v, altitude()), sectionLookup(project.document.sections), shape);
  const all = computed<CandidateDrag[]>(() =>
    rested.value.map((old) => {
      const candidate = workbench.visible.find((c) => c.id === old.id) ?? old;
      let shape: DragShape | null = null;
      try {
        shape = shapeOf(old);
        return { candidate, shape, built: at(candidate, shape, speed()), why: '' };
      } catch (error) {
        if (!(error instanceof VeldtwindError)) throw error;
        return { candidate, shape, built: null, why: error.message };
      }
    }),
  );
  /** The same at another speed; null where no law holds. */
  const over = (d: CandidateDrag, v: number): DragBuildUp | null => {
    try {
      return d.shape ? at(d.candidate, d.shape, v) : null;
    } catch {
      return null;
    }
  };
  return { all, over };
}
