import { area } from '@/lib/area';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';

export default area({
  id: 'flights',
  place: 10,
  name: 'Flights',
  group: 'Flight',
  question: 'How does it fly, from launch to landing?',
  path: 'flights',
  view: () => import('./FlightsArea.vue'),
  mark: () =>
    Object.keys(useProject().document.scenarios).length
      ? useWorkbench().markOf((e) => Boolean(e.mass && e.lift))
      : 'empty',
});
