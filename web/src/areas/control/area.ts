import { area } from '@/lib/area';
import { useWorkbench } from '@/store/workbench';

export default area({
  id: 'control',
  place: 9,
  name: 'Control',
  group: 'Flight',
  question: 'What loop makes it behave?',
  path: 'control',
  view: () => import('./ControlArea.vue'),
  mark: () => {
    const { active, markOf } = useWorkbench();
    return active?.autopilot?.chains.length ? markOf((e) => Boolean(e.mass && e.lift)) : 'empty';
  },
});
