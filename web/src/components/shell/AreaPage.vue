<script setup lang="ts">
import { Pane, Splitpanes } from 'splitpanes';
import { PanelBottomClose, PanelBottomOpen, PanelRightClose, PanelRightOpen } from 'lucide-vue-next';
import { useWindowSize } from '@vueuse/core';
import { computed, nextTick, onMounted, ref, watch } from 'vue';
import { usePreferences } from '@/store/preferences';
import HelpMark from '@/components/field/HelpMark.vue';
import { HELP_WIDTH, RAIL_WIDTH, useHelp } from '@/store/help';
import FindingsBar from './FindingsBar.vue';
import TrialBar from './TrialBar.vue';

/** The one page pattern: figure, sheet at the right, ledger below. Panes are resized, folded, and remembered. */
const props = defineProps<{ area: string; title: string; question: string; noLedger?: boolean }>();
const preferences = usePreferences();
const USUAL = { sheet: 25, ledger: 26, sheetOpen: true, ledgerOpen: true };
const layout = computed(() => preferences.get(`layout-${props.area}`, USUAL));
const change = (more: Partial<typeof layout.value>) =>
  preferences.set(`layout-${props.area}`, { ...layout.value, ...more });
// The sheet keeps its width beside the help: the figure makes room.
const help = useHelp();
const { width: page } = useWindowSize();
const wider = computed(() =>
  help.open ? (page.value - RAIL_WIDTH) / Math.max(300, page.value - RAIL_WIDTH - HELP_WIDTH) : 1,
);
/** Room of figure and sheet, px. */
const room = computed(() => Math.max(300, page.value - RAIL_WIDTH - (help.open ? HELP_WIDTH : 0)));
/** Narrower a sheet cuts its labels; wider, as long as nobody wants it so, values stand far from their names; px. */
const SHEET = { least: 256, most: 430 };
const sheetSize = computed(() => {
  const share = (px: number) => (100 * px) / room.value;
  const usual = layout.value.sheet === USUAL.sheet ? share(SHEET.most) : 100;
  return Math.min(60, Math.max(share(SHEET.least), Math.min(layout.value.sheet * wider.value, usual)));
});
/** A splitter is a slider to a screen reader: it needs to say where it stands. */
const root = ref<HTMLElement | null>(null);
function announce(): void {
  void nextTick(() => {
    for (const el of root.value?.querySelectorAll('.splitpanes__splitter') ?? []) {
      const upright = el.parentElement?.classList.contains('splitpanes--vertical');
      el.setAttribute('aria-valuenow', String(Math.round(100 - (upright ? layout.value.sheet : layout.value.ledger))));
      el.setAttribute('aria-label', upright ? 'Width of the sheet' : 'Height of the ledger');
    }
  });
}
onMounted(() => setTimeout(announce, 0));
watch(layout, announce);
type Sizes = { panes?: { size: number }[] } | { size: number }[];
const sizes = (e: Sizes) => ('panes' in e && e.panes ? e.panes : (e as { size: number }[])).map((p) => p.size);
</script>

<template>
  <div ref="root" class="flex h-full min-h-0 flex-col">
    <div class="flex min-h-14 items-center gap-4 border-b border-rule px-5">
      <h1 class="text-[21px] font-semibold whitespace-nowrap">{{ title }}</h1>
      <p class="serif text-[15px] whitespace-nowrap text-soft italic">{{ question }}</p>
      <HelpMark class="-ml-2" :heading="title" />
      <span class="flex-1" />
      <FindingsBar />
      <span class="flex">
        <button
          class="icon-btn"
          :aria-label="layout.sheetOpen ? 'Fold the sheet' : 'Unfold the sheet'"
          :title="layout.sheetOpen ? 'Fold the sheet' : 'Unfold the sheet'"
          @click="change({ sheetOpen: !layout.sheetOpen })"
        >
          <PanelRightClose v-if="layout.sheetOpen" :size="15" /><PanelRightOpen v-else :size="15" />
        </button>
        <button
          v-if="!noLedger"
          class="icon-btn"
          :aria-label="layout.ledgerOpen ? 'Fold the ledger' : 'Unfold the ledger'"
          :title="layout.ledgerOpen ? 'Fold the ledger' : 'Unfold the ledger'"
          @click="change({ ledgerOpen: !layout.ledgerOpen })"
        >
          <PanelBottomClose v-if="layout.ledgerOpen" :size="15" /><PanelBottomOpen v-else :size="15" />
        </button>
      </span>
    </div>
    <TrialBar />
    <Splitpanes
      class="min-h-0 flex-1"
      @resized="(e: Sizes) => layout.sheetOpen && change({ sheet: sizes(e)[1] / wider })"
    >
      <Pane :size="layout.sheetOpen ? 100 - sheetSize : 100" :min-size="35">
        <Splitpanes
          horizontal
          @resized="(e: Sizes) => layout.ledgerOpen && !noLedger && change({ ledger: sizes(e)[1] })"
        >
          <Pane :size="layout.ledgerOpen && !noLedger ? 100 - layout.ledger : 100" :min-size="25">
            <section class="@container h-full min-h-0 overflow-auto" aria-label="Figure">
              <slot name="figure" />
            </section>
          </Pane>
          <Pane v-if="layout.ledgerOpen && !noLedger" :size="layout.ledger" :min-size="10">
            <section class="h-full min-h-0 overflow-hidden" aria-label="Ledger"><slot name="ledger" /></section>
          </Pane>
        </Splitpanes>
      </Pane>
      <Pane v-if="layout.sheetOpen" :size="sheetSize" :min-size="15">
        <aside class="relative h-full overflow-y-auto bg-leaf px-4.5 py-3.5" aria-label="Sheet">
          <slot name="sheet" />
        </aside>
      </Pane>
    </Splitpanes>
  </div>
</template>
