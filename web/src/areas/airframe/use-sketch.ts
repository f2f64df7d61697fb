import { computed, ref } from 'vue';
import type { DrawingView, SurfaceRole } from '@veldtwind/core/airframe';
import type { PicturePart } from '@veldtwind/core/project';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';

/** What an outline becomes. */
export type SketchTarget = SurfaceRole | 'body' | 'rise';
interface Kept {
  view: DrawingView;
  target: SketchTarget;
  points: [number, number][];
  snap: boolean;
}
const FRESH: Kept = { view: 'plan', target: 'wing', points: [], snap: true };

const on = ref(false);
/** `scale`: two points of a known distance on the picture are clicked instead. */
const tool = ref<'draw' | 'scale'>('draw');
const measured = ref<[number, number][]>([]);

/** The sketch that is being drawn: kept over a reload, by project, until it becomes a part. */
export function useSketch() {
  const preferences = usePreferences();
  const project = useProject();
  const key = computed(() => `sketch-${(project.id ?? 'none').slice(0, 8)}`);
  const kept = computed<Kept>(() => ({ ...FRESH, ...preferences.get<Partial<Kept>>(key.value, {}) }));
  const keep = (more: Partial<Kept>) => preferences.set(key.value, { ...kept.value, ...more });
  const picture = computed<PicturePart | undefined>(() =>
    Object.values(project.document.pictures).find((p) => p.view === kept.value.view),
  );
  return {
    on,
    tool,
    measured,
    view: computed(() => kept.value.view),
    target: computed(() => kept.value.target),
    points: computed(() => kept.value.points),
    snap: computed(() => kept.value.snap),
    picture,
    /** The picture under a view. */
    pictureIn: (view: DrawingView): PicturePart | undefined =>
      Object.values(project.document.pictures).find((p) => p.view === view),
    keep,
    add: (p: [number, number]) => keep({ points: [...kept.value.points, p] }),
    back: () => keep({ points: kept.value.points.slice(0, -1) }),
    clear: () => keep({ points: [] }),
  };
}
