import { area } from '@/lib/area';

export default area({
  id: 'brief',
  place: 1,
  name: 'Brief',
  group: '',
  question: 'What must it do?',
  path: 'brief',
  view: () => import('./BriefArea.vue'),
  mark: () => 'current',
});
