<script setup lang="ts">
import { useEventListener, useTitle } from '@vueuse/core';
import { computed, defineAsyncComponent, onBeforeUnmount, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { AREAS } from '@/areas';
import { placeOfKey } from '@/lib/area';
import { HELP_WIDTH, RAIL_WIDTH, useHelp } from '@/store/help';
import { usePeople } from '@/store/people';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import CommandPalette from './CommandPalette.vue';
import ConflictNotice from './ConflictNotice.vue';
import NavRail from './NavRail.vue';
import NumberSheet from './NumberSheet.vue';
import ShortcutSheet from './ShortcutSheet.vue';
import TopStrip from './TopStrip.vue';

const route = useRoute();
const router = useRouter();
const project = useProject();
const workbench = useWorkbench();
const help = useHelp();
const HelpPanel = defineAsyncComponent(() => import('./HelpPanel.vue'));
const palette = ref(false);
const shortcuts = ref(false);

watch(
  () => route.params.project as string | undefined,
  (id) => id && id !== project.id && void project.open(id),
  { immediate: true },
);
watch(
  () => route.query.c,
  (c) => typeof c === 'string' && workbench.setActive(c),
  { immediate: true },
);
watch(
  () => workbench.activeId,
  (c) => c !== route.query.c && route.params.project && void router.replace({ query: { ...route.query, c } }),
);
const area = computed(() => AREAS.find((a) => a.id === route.name));
// Where this page is, for others who are in the project; and after somebody whom it follows.
const people = usePeople();
const place = computed(() => {
  const rest = route.fullPath.replace(/^\/p\/[^/]+\//, '').replace(/#.*$/, '');
  const of = workbench.active ? `, candidate ${workbench.active.letter}` : '';
  return { place: rest, label: `${area.value?.name ?? ''}${of}` };
});
watch([place, () => people.named, () => project.id], () => project.id && people.at(place.value), { immediate: true });
watch(
  () => people.each.find((p) => p.person === people.following)?.place,
  (to) => to !== undefined && to !== place.value.place && void router.push(`/p/${project.id}/${to}`),
);
useEventListener('pagehide', () => people.leave());
onBeforeUnmount(() => {
  people.leave();
  project.close();
});

useTitle(computed(() => [area.value?.name, project.name, 'Veldtwind'].filter(Boolean).join(' · ')));

function cycle(step: number): void {
  const list = project.candidates;
  const at = list.findIndex((c) => c.id === workbench.active?.id);
  if (list.length > 1) workbench.setActive(list[(at + step + list.length) % list.length].id);
}

/** Help on the group that has the focus, else on the area. */
function askHelp(): void {
  const group = document.activeElement?.closest<HTMLElement>('[data-help]')?.dataset.help;
  help.about(area.value?.id ?? '', group ?? '');
}

useEventListener('keydown', (e: KeyboardEvent) => {
  const typing = (e.target as HTMLElement).closest('input, textarea, select, [contenteditable]');
  const mod = e.ctrlKey || e.metaKey;
  if (e.key === 'F1') {
    e.preventDefault();
    askHelp();
  } else if (mod && e.key.toLowerCase() === 'k') {
    e.preventDefault();
    palette.value = !palette.value;
  } else if (mod && e.key.toLowerCase() === 'z' && !typing) {
    e.preventDefault();
    void project.step(e.shiftKey ? 'redo' : 'undo');
  } else if (e.altKey && placeOfKey(e.code) >= 0) {
    const target = AREAS[placeOfKey(e.code)];
    if (target) {
      e.preventDefault();
      void router.push({ name: target.id, params: { project: project.id! }, query: route.query });
    }
  } else if (!typing && !mod && !e.altKey) {
    if (e.key === '?') shortcuts.value = true;
    else if (e.key === ']') cycle(1);
    else if (e.key === '[') cycle(-1);
  }
});
</script>

<template>
  <div
    class="relative grid h-full grid-rows-[46px_1fr] overflow-clip"
    :style="{ gridTemplateColumns: `${RAIL_WIDTH}px 1fr${help.open ? ` ${HELP_WIDTH}px` : ''}` }"
  >
    <TopStrip
      :class="help.open ? 'col-span-3' : 'col-span-2'"
      @palette="palette = true"
      @shortcuts="shortcuts = true"
      @help="askHelp"
    />
    <NavRail />
    <main class="min-h-0 min-w-0">
      <div v-if="project.failure" class="grid h-full place-items-center" role="alert">
        <div class="max-w-md text-center">
          <h1 class="text-xl font-semibold">{{ project.failure.message }}</h1>
          <p v-if="project.failure.hint" class="mt-2 text-soft">{{ project.failure.hint }}</p>
          <div class="mt-4 flex justify-center gap-2">
            <button class="btn btn-main" @click="project.open(String(route.params.project))">Try again</button>
            <RouterLink
              v-if="project.failure.signIn"
              class="btn"
              :to="{ path: '/sign-in', query: { to: route.fullPath } }"
              >Sign in</RouterLink
            >
            <RouterLink class="btn" to="/">All projects</RouterLink>
          </div>
        </div>
      </div>
      <RouterView v-else-if="project.id" />
    </main>
    <HelpPanel v-if="help.open" />
    <CommandPalette v-model="palette" @shortcuts="shortcuts = true" />
    <NumberSheet />
    <ShortcutSheet v-model="shortcuts" />
    <ConflictNotice />
  </div>
</template>
