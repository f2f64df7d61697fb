import { area } from '@/lib/area';
import { useWorkbench } from '@/store/workbench';

export default area({
  id: 'lift',
  place: 5,
  name: 'Lift',
  group: 'Flow',
  question: 'How does it lift?',
  path: 'lift',
  view: () => import('./LiftArea.vue'),
  mark: () => useWorkbench().markOf((e) => Boolean(e.lift)),
});
