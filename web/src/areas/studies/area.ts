import { area } from '@/lib/area';
import { useWorkbench } from '@/store/workbench';

export default area({
  id: 'studies',
  place: 11,
  name: 'Studies',
  group: 'Flight',
  question: 'What if, and what is best?',
  path: 'studies',
  view: () => import('./StudiesArea.vue'),
  mark: () => useWorkbench().markOf((e) => Boolean(e.balance)),
});
