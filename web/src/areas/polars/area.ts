import { area } from '@/lib/area';
import { useRuns } from '@/store/runs';

export default area({
  id: 'polars',
  place: 4,
  name: 'Polars',
  group: 'Flow',
  question: 'How do the sections behave, at which Reynolds numbers?',
  path: 'polars',
  view: () => import('./PolarsArea.vue'),
  mark: () => (useRuns().curves.length > 0 ? 'current' : 'empty'),
});
