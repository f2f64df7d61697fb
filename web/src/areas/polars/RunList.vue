<script setup lang="ts">
import { ArrowUpToLine, Pause, Play, Square, Trash2 } from 'lucide-vue-next';
import { computed } from 'vue';
import type { RunReply } from '@veldtwind/contract';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { isAutomatic } from '@/store/automatic-polars';
import { useRuns } from '@/store/runs';
import { duration } from './plan-form';

/** The runs with how far they have come. */
const runs = useRuns();
const done = (r: RunReply) => r.known + r.solved + r.doubtful + r.unsolved;
/** Of those that came by themselves, only what goes on or rests. */
const listed = computed(() =>
  runs.runs.filter((r) => !isAutomatic(r) || r.state === 'running' || r.state === 'paused'),
);
/** Where each run was when it was first seen, and when: time left follows from the rate since then. */
const seen = new Map<string, { done: number; at: number }>();
const left = (r: RunReply) => {
  if (r.state !== 'running') return '';
  const first = seen.get(r.id) ?? { done: done(r), at: Date.now() };
  seen.set(r.id, first);
  const fresh = done(r) - first.done;
  if (fresh < 3) return '';
  return `${duration((((Date.now() - first.at) / fresh) * (r.points - done(r))) / 1000)} left`;
};
const STATE = { running: 'running', paused: 'resting', cancelled: 'ended', finished: 'finished' };
const unsolved = computed(() => runs.curves.reduce((n, c) => n + (c.solved + c.doubtful > 0 ? c.unsolved : 0), 0));
const highest = computed(() => Math.max(0, ...runs.going.map((r) => r.priority)));
</script>

<template>
  <SheetGroup v-if="listed.length" title="Runs">
    <template #aside>
      <button
        v-if="unsolved > 0 && runs.going.length === 0"
        class="link text-[12.5px]"
        data-test="close-in"
        title="Tries what is unsolved again, in smaller steps beside what is solved"
        @click="runs.closeIn()"
      >
        Close in on {{ unsolved }} unsolved
      </button>
    </template>
    <p v-if="runs.notice" class="mb-2 text-[12.5px] text-clay" role="status" data-test="runs-notice">
      {{ runs.notice }}
    </p>
    <ul class="space-y-3">
      <li v-for="r in listed" :key="r.id" data-test="run">
        <div class="flex items-center gap-1">
          <span class="min-w-0 flex-1 truncate" :title="r.name">{{ r.name }}</span>
          <button
            v-if="r.state === 'running' && runs.going.length > 1"
            class="icon-btn disabled:opacity-40"
            aria-label="Run next"
            title="Run next"
            :disabled="r.priority === highest && runs.going.filter((g) => g.priority === highest).length === 1"
            @click="runs.setPriority(r.id, Math.min(100, highest + 1))"
          >
            <ArrowUpToLine :size="14" />
          </button>
          <button
            v-if="r.state === 'running'"
            class="icon-btn"
            aria-label="Pause"
            title="Pause"
            @click="runs.change(r.id, 'paused')"
          >
            <Pause :size="14" />
          </button>
          <button
            v-else-if="r.state !== 'finished' || r.failed > 0"
            class="icon-btn"
            aria-label="Resume"
            title="Resume"
            @click="runs.change(r.id, 'running')"
          >
            <Play :size="14" />
          </button>
          <button
            v-if="r.state === 'running' || r.state === 'paused'"
            class="icon-btn"
            aria-label="Cancel"
            title="Cancel; what is solved stays"
            @click="runs.change(r.id, 'cancelled')"
          >
            <Square :size="13" />
          </button>
          <button
            v-else
            class="icon-btn"
            aria-label="Remove the run"
            title="Remove it, with the curves that only it asked for"
            @click="runs.remove(r.id)"
          >
            <Trash2 :size="14" />
          </button>
        </div>
        <div
          class="h-[5px] overflow-hidden rounded bg-rule"
          role="progressbar"
          :aria-valuenow="done(r)"
          aria-valuemin="0"
          :aria-valuemax="r.points"
          :aria-label="`Points of ${r.name}`"
        >
          <div class="h-full bg-ochre" :style="{ width: `${(100 * done(r)) / r.points}%` }" />
        </div>
        <p class="mt-[2px] text-[12px] text-soft">
          {{ STATE[r.state] }}, {{ done(r) }} of {{ r.points
          }}<template v-if="r.unsolved">, {{ r.unsolved }} unsolved</template
          ><template v-if="left(r)">, {{ left(r) }}</template>
        </p>
        <p v-if="r.error" class="text-[12px] text-clay">{{ r.error }}</p>
      </li>
    </ul>
  </SheetGroup>
</template>
