import { computed, ref } from 'vue';
import { RESPONSES } from '@veldtwind/core/quantities';
import { useProject } from '@/store/project';

const MOST = 8;

/** Quantities that are offered behind an "@", and the keys that choose among them. @param take puts one in. */
export function useOffers(take: (id: string, asked: number) => void) {
  const project = useProject();
  /** What stands behind the last "@" before the caret; null where none is being typed. */
  const asked = ref<string | null>(null);
  const at = ref(0);
  function look(before: string): void {
    asked.value = /@([\w .-]{0,40})$/.exec(before)?.[1] ?? null;
    at.value = 0;
  }
  const offers = computed(() => {
    if (asked.value === null) return [];
    const [first, ...rest] = asked.value.toLowerCase().split(/\s+/).filter(Boolean);
    // A letter by itself names the candidate.
    const named = project.candidates.filter((c) => c.letter.toLowerCase() === first);
    const words = named.length > 0 ? rest : first === undefined ? [] : [first, ...rest];
    return (named.length > 0 ? named : project.candidates)
      .flatMap(({ letter }) => RESPONSES.map((q) => ({ id: `${letter} ${q.id}`, name: `${letter}: ${q.name}` })))
      .filter((o) => words.every((w) => `${o.name} ${o.id}`.toLowerCase().includes(w)))
      .slice(0, MOST);
  });
  function choose(id: string): void {
    // The "@" and what stands behind it make room.
    const length = (asked.value?.length ?? 0) + 1;
    asked.value = null;
    take(id, length);
  }
  /** @returns whether a key was for the list. */
  function key(e: KeyboardEvent): boolean {
    const { length } = offers.value;
    if (asked.value === null || length === 0) return false;
    if (e.key === 'ArrowDown' || e.key === 'ArrowUp')
      at.value = (at.value + (e.key === 'ArrowDown' ? 1 : length - 1)) % length;
    else if (e.key === 'Enter' || e.key === 'Tab') choose(offers.value[at.value].id);
    else if (e.key === 'Escape') asked.value = null;
    else return false;
    return true;
  }
  return { offers, at, look, choose, key };
}
