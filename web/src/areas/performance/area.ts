import { area } from '@/lib/area';
import { useWorkbench } from '@/store/workbench';

export default area({
  id: 'performance',
  place: 7.5,
  name: 'Performance',
  group: 'Flight',
  question: 'How well does it do the job?',
  path: 'performance',
  view: () => import('./PerformanceArea.vue'),
  mark: () => useWorkbench().markOf((e) => Boolean(e.balance)),
});
