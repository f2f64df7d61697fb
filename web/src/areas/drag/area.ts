import { area } from '@/lib/area';
import { useWorkbench } from '@/store/workbench';

export default area({
  id: 'drag',
  place: 6,
  name: 'Drag',
  group: 'Flow',
  question: 'Where does the drag come from?',
  path: 'drag',
  view: () => import('./DragArea.vue'),
  mark: () => (useWorkbench().active?.surfaces.length ? 'current' : 'empty'),
});
