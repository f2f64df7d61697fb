<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue';
import { ChevronDown, Copy, Eye, EyeOff, FileInput, FilePlus2, Shapes, Trash2 } from 'lucide-vue-next';
import { nextTick, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { toast } from 'vue-sonner';
import { readCandidateFile } from '@veldtwind/core/candidate';
import { VeldtwindError } from '@veldtwind/core/numerics';
import { addCandidate, addReadCandidate, type CandidatePart } from '@veldtwind/core/project';
import { COLOURS, DASHES, placeOfStyle, seriesStyle, styleParts } from '@/lib/series-style';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';

const project = useProject();
const router = useRouter();
const route = useRoute();
const workbench = useWorkbench();
const isShown = (c: CandidatePart) => workbench.visible.some((v) => v.id === c.id);

function add(from?: CandidatePart): void {
  let made = '';
  project.edit(from ? `Copy ${from.letter} ${from.name}` : 'New candidate', (draft) => {
    made = addCandidate(draft, from && draft.candidates[from.id]);
  });
  workbench.setActive(made);
}
const chips = ref<HTMLElement | null>(null);
watch(
  [() => workbench.active?.id, () => project.candidates.length],
  () =>
    void nextTick(() =>
      chips.value?.querySelector('[aria-pressed=true]')?.scrollIntoView({ inline: 'nearest', block: 'nearest' }),
    ),
  { immediate: true },
);
const input = ref<HTMLInputElement | null>(null);
async function read(files: FileList | null): Promise<void> {
  const file = files?.[0];
  if (!file) return;
  try {
    const { candidate, sections } = readCandidateFile(await file.text());
    let made = '';
    project.edit(`Candidate from ${file.name}`.slice(0, 120), (draft) => {
      made = addReadCandidate(draft, candidate, sections);
    });
    workbench.setActive(made);
  } catch (error) {
    if (!(error instanceof VeldtwindError)) throw error;
    toast.error(`${file.name} was not read`, { description: `${error.message} ${error.hint ?? ''}`, duration: 20_000 });
  } finally {
    if (input.value) input.value.value = '';
  }
}
/** Colour and dash that a candidate has in every figure. */
function restyle(c: CandidatePart, colour: number, dash: number): void {
  project.edit(`Line of ${c.letter} ${c.name}`, (draft) => {
    const own = draft.candidates[c.id];
    if (own) own.style = placeOfStyle(colour, dash);
  });
}
const lineOf = (c: CandidatePart) => styleParts(c.style);
const DASH_NAMES = DASHES.map((_, i) => (i === 0 ? 'full line' : `dash ${i}`));
function remove(c: CandidatePart): void {
  project.edit(`Remove candidate ${c.letter}`, (draft) => delete draft.candidates[c.id]);
  const next = project.candidates.find((o) => o.id !== c.id);
  if (next) workbench.setActive(next.id);
}
</script>

<template>
  <div class="flex min-w-0 items-center gap-1.5" role="group" aria-label="Candidates" data-test="candidates">
    <!-- Many candidates run past their room: they scroll, the one that is worked on in view. -->
    <div ref="chips" class="flex min-w-0 items-center gap-1.5 overflow-x-auto p-0.5 [scrollbar-width:none]">
      <div
        v-for="c in project.candidates"
        :key="c.id"
        class="flex shrink-0 items-center rounded-md border"
        :class="[
          c.id === workbench.active?.id ? 'border-ochre bg-leaf' : 'border-rule',
          isShown(c) ? '' : 'opacity-65',
        ]"
      >
        <button
          class="flex items-center gap-2 py-1 pl-2.5 text-[13px]"
          :class="c.id === workbench.active?.id ? 'font-semibold' : ''"
          :title="c.note || c.name"
          :aria-pressed="c.id === workbench.active?.id"
          :data-test="`candidate-${c.letter}`"
          @click="workbench.setActive(c.id)"
        >
          <svg width="22" height="8" aria-hidden="true">
            <line
              x1="0"
              x2="22"
              y1="4"
              y2="4"
              :style="{ stroke: seriesStyle(c.style).colour }"
              stroke-width="2.4"
              :stroke-dasharray="seriesStyle(c.style).dash"
            />
          </svg>
          <span class="max-w-28 truncate max-[1450px]:max-w-22"
            >{{ c.letter
            }}<span :class="c.id === workbench.active?.id ? '' : 'max-[1450px]:sr-only'">{{ ` ${c.name}` }}</span></span
          >
        </button>
        <button
          class="icon-btn mx-0.5"
          :disabled="c.id === workbench.active?.id"
          :aria-label="`${isShown(c) ? 'Hide' : 'Lay over'} ${c.letter} ${c.name}`"
          :title="
            c.id === workbench.active?.id
              ? 'The one being worked on is always shown'
              : isShown(c)
                ? 'Hide in the figures'
                : 'Lay over the others in the figures'
          "
          :data-test="`overlay-${c.letter}`"
          @click="workbench.toggle(c.id)"
        >
          <Eye v-if="isShown(c)" :size="13" /><EyeOff v-else :size="13" />
        </button>
      </div>
    </div>
    <Menu as="div" class="relative">
      <MenuButton
        class="icon-btn"
        aria-label="Candidate commands"
        title="Copy, add or remove a candidate"
        data-test="candidate-menu"
        ><ChevronDown :size="15"
      /></MenuButton>
      <MenuItems class="menu absolute left-0 mt-1">
        <MenuItem v-if="workbench.active" v-slot="{ active }"
          ><button class="menu-item" :data-on="active" @click="add(workbench.active)">
            <Copy :size="14" /> Copy {{ workbench.active.letter }} {{ workbench.active.name }}
          </button></MenuItem
        >
        <MenuItem v-slot="{ active }"
          ><button class="menu-item" :data-on="active" @click="add()">
            <FilePlus2 :size="14" /> New empty candidate
          </button></MenuItem
        >
        <MenuItem v-slot="{ active }"
          ><button
            class="menu-item"
            :data-on="active"
            data-test="layout-candidate"
            @click="router.push({ name: 'layout-candidate', params: { project: project.id! }, query: route.query })"
          >
            <Shapes :size="14" /> New from a starting layout…
          </button></MenuItem
        >
        <MenuItem v-slot="{ active }"
          ><button class="menu-item" :data-on="active" data-test="read-candidate" @click="input?.click()">
            <FileInput :size="14" /> Read a candidate file…
          </button></MenuItem
        >
        <template v-if="workbench.active">
          <p class="px-3 pt-1.5 text-[12px] text-soft">Line of {{ workbench.active.letter }}</p>
          <div class="flex px-2" role="group" aria-label="Colour of the line">
            <MenuItem v-for="(name, i) in COLOURS" :key="name" v-slot="{ active }">
              <button
                class="grid h-7 w-7 place-items-center rounded"
                :class="active ? 'bg-select' : ''"
                :aria-label="name"
                :title="name"
                :data-test="`line-colour-${name}`"
                @click="restyle(workbench.active!, i, lineOf(workbench.active!).dash)"
              >
                <span
                  class="h-4 w-4 rounded-full"
                  :class="lineOf(workbench.active!).colour === i ? 'outline-2 outline-offset-2 outline-ink' : ''"
                  :style="{ background: `var(--${name})` }"
                />
              </button>
            </MenuItem>
          </div>
          <div class="grid grid-cols-4 px-2 pb-1" role="group" aria-label="Dash of the line">
            <MenuItem v-for="(name, i) in DASH_NAMES" :key="name" v-slot="{ active }">
              <button
                class="grid h-6 place-items-center rounded"
                :class="[active ? 'bg-select' : '', lineOf(workbench.active!).dash === i ? 'border border-rule' : '']"
                :aria-label="name"
                :title="name"
                :data-test="`line-dash-${i}`"
                @click="restyle(workbench.active!, lineOf(workbench.active!).colour, i)"
              >
                <svg width="42" height="8" aria-hidden="true">
                  <line
                    x1="0"
                    x2="42"
                    y1="4"
                    y2="4"
                    :style="{ stroke: seriesStyle(workbench.active!.style).colour }"
                    stroke-width="2.4"
                    :stroke-dasharray="DASHES[i]"
                  />
                </svg>
              </button>
            </MenuItem>
          </div>
        </template>
        <MenuItem v-if="workbench.active && project.candidates.length > 1" v-slot="{ active }"
          ><button class="menu-item text-clay" :data-on="active" @click="remove(workbench.active)">
            <Trash2 :size="14" /> Remove {{ workbench.active.letter }} {{ workbench.active.name }}
          </button></MenuItem
        >
      </MenuItems>
    </Menu>
    <input
      ref="input"
      type="file"
      accept=".json,application/json"
      class="hidden"
      aria-label="A candidate file"
      data-test="candidate-file"
      @change="(e) => read((e.target as HTMLInputElement).files)"
    />
  </div>
</template>
