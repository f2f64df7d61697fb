<script setup lang="ts">
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { AREAS } from '@/areas';
import { keyOfPlace, type AreaMark } from '@/lib/area';

const route = useRoute();
const marks = computed<Record<string, AreaMark>>(() => Object.fromEntries(AREAS.map((a) => [a.id, a.mark()])));
const words: Record<AreaMark, string> = { empty: 'empty', current: 'up to date', stale: 'being computed again' };
</script>

<template>
  <nav class="relative flex flex-col border-r border-rule pt-4" aria-label="Areas">
    <template v-for="(area, i) in AREAS" :key="area.id">
      <div
        v-if="area.group && area.group !== AREAS[i - 1]?.group"
        class="mt-4 px-4 pb-1 text-[10.5px] font-semibold tracking-[0.12em] text-soft uppercase"
      >
        {{ area.group }}
      </div>
      <RouterLink
        :to="{ name: area.id, params: { project: route.params.project }, query: route.query }"
        class="flex items-center justify-between border-l-3 gap-1 py-1.5 pr-3 pl-3.5 text-[13.5px] hover:bg-select"
        :class="route.name === area.id ? 'border-ochre bg-leaf font-semibold' : 'border-transparent text-soft'"
        :title="`${area.question} (${keyOfPlace(i)})`"
        :data-test="`area-${area.id}`"
      >
        {{ area.name }}
        <svg class="shrink-0" width="9" height="9" :aria-label="words[marks[area.id]]" role="img">
          <title>{{ words[marks[area.id]] }}</title>
          <circle
            cx="4.5"
            cy="4.5"
            r="3.4"
            :style="{
              fill: marks[area.id] === 'current' ? 'var(--grass)' : 'none',
              stroke:
                marks[area.id] === 'current'
                  ? 'var(--grass)'
                  : marks[area.id] === 'stale'
                    ? 'var(--ochre)'
                    : 'var(--faint)',
              strokeDasharray: marks[area.id] === 'empty' ? '1.5 1.5' : '',
            }"
            stroke-width="1.3"
          />
        </svg>
      </RouterLink>
    </template>
    <div id="below-areas" />
  </nav>
</template>
