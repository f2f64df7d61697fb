import { area } from '@/lib/area';
import { useWorkbench } from '@/store/workbench';

export default area({
  id: 'structure',
  place: 7.7,
  name: 'Structure',
  group: 'Flight',
  question: 'What is it made of, and does it hold?',
  path: 'structure',
  view: () => import('./StructureArea.vue'),
  mark: () => {
    const { active, markOf } = useWorkbench();
    return active?.surfaces.some((s) => s.structure) ? markOf((e) => Boolean(e.mass && e.lift)) : 'empty';
  },
});
