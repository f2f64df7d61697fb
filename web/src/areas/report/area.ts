import { area } from '@/lib/area';
import { useProject } from '@/store/project';

export default area({
  id: 'report',
  place: 12,
  name: 'Report',
  group: '',
  question: 'What did we find, and why?',
  path: 'report',
  view: () => import('./ReportArea.vue'),
  mark: () => (Object.keys(useProject().document.reports).length > 0 ? 'current' : 'empty'),
});
