import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { holds, type Me, type Role, type Someone } from '@veldtwind/contract';
import { call, TAB } from '@/api/client';
import { useProject } from './project';

/** How often a page says that it is still there, and how fast it follows a hand, ms. */
const BEAT = 20_000;
const HAND = 120;
/** How long somebody whom one follows may be away, ms. */
const MISSED = 15_000;

/** Where this page is. */
interface Here {
  place: string;
  label: string;
}

/** Who works here, where the server knows people by name: oneself, who else is in the project, and what was said of it. */
export const usePeople = defineStore('people', () => {
  const project = useProject();
  const me = shallowRef<Me | null>(null);
  /** The person whom this page follows. */
  const following = ref<string | null>(null);
  const named = computed(() => me.value?.named === true && me.value.person !== null);
  const person = computed(() => me.value?.person ?? null);
  const role = computed<Role | null>(() => {
    if (!me.value?.named || me.value.person?.keeper) return 'own';
    return project.id ? (me.value.roles[project.id] ?? null) : null;
  });
  const may = (needs: Role): boolean => me.value === null || holds(role.value, needs);
  const others = computed(() => project.there.filter((p) => p.tab !== TAB));
  /** One page of each: the one that spoke last. */
  const each = computed(() => [...new Map(others.value.map((p) => [p.person, p])).values()]);

  async function load(): Promise<void> {
    try {
      me.value = await call('me');
      project.self = me.value.person?.id ?? null;
    } catch {
      // The server is away: what was known stands.
    }
  }

  let here: Here | null = null;
  let beat: ReturnType<typeof setInterval> | undefined;
  let sending = false;
  let again = false;
  let handle: Someone['handle'] = null;
  /** Says where this page is. One at a time: what changes meanwhile is said after it. */
  async function say(): Promise<void> {
    const id = project.id;
    if (!named.value || !id || !here) return;
    if (sending) return void (again = true);
    sending = true;
    try {
      const { people } = await call('presence', { params: { id }, body: { ...here, handle } });
      if (project.id === id) project.there = people;
    } catch {
      // It is said again with the next beat.
    } finally {
      await new Promise((go) => setTimeout(go, HAND));
      sending = false;
      if (again) {
        again = false;
        void say();
      }
    }
  }
  /** Says where this page is now. */
  function at(next: Here): void {
    if (here?.place === next.place && here.label === next.label) return;
    here = next;
    beat ??= setInterval(() => void say(), BEAT);
    void say();
  }
  /** Says what is being dragged; null when it is let go. */
  function drag(next: Someone['handle']): void {
    if (handle === next) return;
    handle = next;
    if (others.value.length > 0 || next === null) void say();
  }
  /** Handles that others drag on something. */
  const handlesOn = (of: string) => others.value.filter((p) => p.handle?.of === of);

  function leave(): void {
    clearInterval(beat);
    beat = undefined;
    if (named.value && project.id && here)
      void call('presence', {
        params: { id: project.id },
        body: { ...here, handle: null, gone: true },
        last: true,
      }).catch(() => undefined);
    here = null;
    following.value = null;
  }
  // Whoever reloads a page is away for a moment.
  let missing: ReturnType<typeof setTimeout> | undefined;
  watch(others, (list) => {
    clearTimeout(missing);
    if (following.value && !list.some((p) => p.person === following.value))
      missing = setTimeout(() => (following.value = null), MISSED);
  });
  watch(() => project.rolesChanged, load);
  watch([role, () => project.id], () => {
    const refused = me.value !== null && project.id !== null && !may('edit');
    project.noEdits = refused
      ? `You may ${role.value === 'comment' ? 'read and comment on' : 'read'} this project, not change it.`
      : null;
  });
  // The stream begins anew after a while away: who is here is said again.
  watch(
    () => project.opened,
    () => void say(),
  );

  return {
    me,
    person,
    named,
    role,
    may,
    others,
    each,
    following,
    load,
    at,
    drag,
    handlesOn,
    leave,
  };
});

/** Two letters that stand for a name. */
export function initials(name: string): string {
  const words = name.trim().split(/\s+/);
  const letters =
    words.length > 1 ? [words[0], words.at(-1)!].map((w) => [...w][0]) : [...(words[0] ?? '')].slice(0, 2);
  return letters.join('').toUpperCase() || '?';
}
