import { area } from '@/lib/area';
import { useWorkbench } from '@/store/workbench';

export default area({
  id: 'balance',
  place: 7,
  name: 'Balance',
  group: 'Flight',
  question: 'Where is the mass, does it trim, is it stable?',
  path: 'balance',
  view: () => import('./BalanceArea.vue'),
  mark: () => useWorkbench().markOf((e) => Boolean(e.balance)),
});
