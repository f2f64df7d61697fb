import { useRoute } from 'vue-router';
import { AREAS } from '@/areas';

/** The name of the area that is looked at: where something that is kept comes from. */
export function useAreaName(): () => string {
  const route = useRoute();
  return () => AREAS.find((a) => a.id === route.name)?.name ?? String(route.name ?? '');
}
