<script setup lang="ts">
import { CircleHelp, Keyboard, Moon, Redo2, Sun, Undo2 } from 'lucide-vue-next';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { designPoint } from '@veldtwind/core/candidate';
import { displayUnit, formatNumber, formatQuantity } from '@veldtwind/core/units';
import { reynoldsText } from '@/lib/reynolds-text';
import { usePreferences } from '@/store/preferences';
import { usePeople } from '@/store/people';
import { useProject } from '@/store/project';
import CandidateChips from './CandidateChips.vue';
import CommentList from './CommentList.vue';
import KeptVersions from './KeptVersions.vue';
import MethodMenu from './MethodMenu.vue';
import PeopleMarks from './PeopleMarks.vue';
import SaveState from './SaveState.vue';
import { useWorkbench } from '@/store/workbench';

defineEmits<{ palette: []; shortcuts: []; help: [] }>();
const project = useProject();
const people = usePeople();
const preferences = usePreferences();
const workbench = useWorkbench();
const route = useRoute();

const design = computed(() => {
  try {
    return designPoint(project.brief, workbench.active);
  } catch {
    try {
      return designPoint(project.brief);
    } catch {
      return null;
    }
  }
});
const show = (value: number, d: 'speed' | 'altitude' | 'mass') => ({
  value: formatQuantity(value, d, preferences.units, d === 'mass' && preferences.units !== 'small' ? 1 : undefined),
  unit: displayUnit(d, preferences.units).symbol,
});
const title = computed(() => {
  const d = design.value;
  if (!d) return 'The design point';
  const q = `dynamic pressure ${formatQuantity(d.flow.dynamicPressure, 'pressure', preferences.units)} ${displayUnit('pressure', preferences.units).symbol}, Mach ${formatNumber(d.flow.mach, 3)}`;
  const r = d.reynolds
    ? `; Reynolds number root ${reynoldsText(d.reynolds.root, 2)}, mean ${reynoldsText(d.reynolds.mean, 2)}, tip ${reynoldsText(d.reynolds.tip, 2)}`
    : '';
  return `Design point: ${q}${r}. Click to change it.`;
});
</script>

<template>
  <header class="flex items-center gap-4 max-[1350px]:gap-2.5 border-b border-rule px-4.5 whitespace-nowrap">
    <RouterLink to="/" class="serif text-[17px] font-semibold" aria-label="Veldtwind: all projects"
      >Veldtwind</RouterLink
    >
    <span class="serif ml-3 max-w-44 min-w-10 shrink-[8] truncate text-[15px]" :title="project.name">{{
      project.name
    }}</span>
    <CandidateChips v-if="project.id" />
    <span class="flex-1" />
    <RouterLink
      v-if="project.id && design"
      :to="{ name: 'brief', params: { project: project.id }, query: route.query }"
      class="flex shrink-0 gap-3.5 rounded px-1.5 py-0.5 text-[13px] hover:bg-select"
      :title="title"
      data-test="design-point"
    >
      <span
        ><b class="font-semibold">{{ show(project.brief.speed, 'speed').value }}</b
        >{{ ' ' }} <span class="text-soft">{{ show(project.brief.speed, 'speed').unit }}</span></span
      >
      <span
        ><b class="font-semibold">{{ show(project.brief.altitude, 'altitude').value }}</b
        >{{ ' ' }} <span class="text-soft">{{ show(project.brief.altitude, 'altitude').unit }}</span></span
      >
      <span
        ><b class="font-semibold">{{ show(project.brief.mass, 'mass').value }}</b
        >{{ ' ' }} <span class="text-soft">{{ show(project.brief.mass, 'mass').unit }}</span></span
      >
      <span v-if="design.CL !== null" class="max-[1150px]:hidden"
        ><span class="text-soft">CL</span>{{ ' ' }}<b class="font-semibold">{{ formatNumber(design.CL, 3) }}</b></span
      >
      <span v-if="design.reynolds" class="max-[1150px]:hidden" :class="{ 'max-[1400px]:hidden': people.named }"
        ><span class="text-soft">Re</span>{{ ' '
        }}<b class="font-semibold">{{ reynoldsText(design.reynolds.mean, 2) }}</b></span
      >
    </RouterLink>
    <MethodMenu />
    <span class="-mx-1 h-5 w-px bg-rule" />
    <span v-if="project.id" class="flex shrink-0 items-center">
      <button
        class="icon-btn"
        :disabled="!project.undoLabel"
        :title="project.undoLabel ? `Undo: ${project.undoLabel}` : 'Nothing to undo'"
        aria-label="Undo"
        data-test="undo"
        @click="project.step('undo')"
      >
        <Undo2 :size="15" />
      </button>
      <button
        class="icon-btn"
        :disabled="!project.redoLabel"
        :title="project.redoLabel ? `Redo: ${project.redoLabel}` : 'Nothing to redo'"
        aria-label="Redo"
        data-test="redo"
        @click="project.step('redo')"
      >
        <Redo2 :size="15" />
      </button>
      <PeopleMarks v-if="people.named" class="mx-1" />
      <CommentList />
      <KeptVersions />
    </span>
    <SaveState v-if="project.id" />
    <button
      class="icon-btn"
      :aria-label="preferences.theme === 'dusk' ? 'Paper theme' : 'Dusk theme'"
      :title="preferences.theme === 'dusk' ? 'Paper theme' : 'Dusk theme'"
      data-test="theme"
      @click="preferences.setTheme(preferences.theme === 'dusk' ? 'paper' : 'dusk')"
    >
      <Sun v-if="preferences.theme === 'dusk'" :size="15" /><Moon v-else :size="15" />
    </button>
    <button class="icon-btn" title="Help (F1)" aria-label="Help" data-test="help-open" @click="$emit('help')">
      <CircleHelp :size="15" />
    </button>
    <button class="icon-btn" title="Shortcuts (?)" aria-label="Shortcuts" @click="$emit('shortcuts')">
      <Keyboard :size="15" />
    </button>
    <button
      class="rounded border border-rule bg-field px-2 py-0.5 text-[11.5px] text-soft hover:border-ochre"
      title="Search everything"
      @click="$emit('palette')"
    >
      Ctrl K
    </button>
  </header>
</template>
