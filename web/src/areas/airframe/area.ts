import { area } from '@/lib/area';
import { useWorkbench } from '@/store/workbench';

export default area({
  id: 'airframe',
  place: 3,
  name: 'Airframe',
  group: 'Shape',
  question: 'What does the vehicle look like?',
  path: 'airframe/:surface?',
  view: () => import('./AirframeArea.vue'),
  mark: () => (useWorkbench().active?.surfaces.length ? 'current' : 'empty'),
});
