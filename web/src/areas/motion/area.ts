import { area } from '@/lib/area';
import { useWorkbench } from '@/store/workbench';

export default area({
  id: 'motion',
  place: 8,
  name: 'Motion',
  group: 'Flight',
  question: 'How does it move after a disturbance?',
  path: 'motion',
  view: () => import('./MotionArea.vue'),
  mark: () => useWorkbench().markOf((e) => Boolean(e.mass && e.lift)),
});
