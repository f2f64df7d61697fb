<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue';
import type { Point3 } from '@veldtwind/core/airframe';
import type { Evaluation } from '@veldtwind/core/candidate';
import type { BriefPart } from '@veldtwind/core/project';
import { formatNumber } from '@veldtwind/core/units';
import ChipRow from '@/components/field/ChipRow.vue';
import DrawingView from '@/components/view3d/DrawingView.vue';
import { massPoints } from '@/lib/mass-points';
import type { CandidatePart, SectionPart } from '@/lib/types';
import { usePreferences } from '@/store/preferences';
import BalanceBeam from './BalanceBeam.vue';

// The space view comes when the page stands: its library is large.
const AirframeView = defineAsyncComponent(() => import('@/components/view3d/AirframeView.vue'));

/** Mass items where they lie: as a beam from the left, from above, from ahead, and in space. */
const props = defineProps<{
  /** With the items of parts where their parts lie. */ candidate: CandidatePart;
  evaluation: Evaluation | null;
  bands: BriefPart['bands'];
  sections: Record<string, SectionPart>;
}>();
const preferences = usePreferences();
const VIEWS = [
  { id: 'beam', name: 'Side' },
  { id: 'plan', name: 'Plan' },
  { id: 'front', name: 'Front' },
  { id: 'space', name: 'Space' },
] as const;
type View = (typeof VIEWS)[number]['id'];
const view = computed<View>(() => {
  const kept = preferences.get<View>('balance-view', 'beam');
  return VIEWS.some((v) => v.id === kept) ? kept : 'beam';
});
const balance = computed(() => props.evaluation?.balance ?? null);
const words = computed(() => {
  const behind = balance.value
    ? `, the neutral point lies ${formatNumber(100 * balance.value.staticMargin, 1)} % of it behind the centre of gravity`
    : '';
  return view.value === 'beam'
    ? `from the left; discs are mass items, the bar is the mean chord${behind}`
    : 'a disc or ball is a mass item, the larger the heavier';
});
const masses = computed(() => massPoints(props.candidate.massItems, preferences.units));
const points = computed(() => {
  const out: (Point3 & { text: string; colour: string })[] = [];
  const e = props.evaluation;
  if (e?.mass) out.push({ ...e.mass.centre, text: 'CG', colour: 'var(--ochre-text)' });
  if (e?.lift && balance.value)
    out.push({ ...e.lift.momentReference, x: balance.value.neutralPoint, text: 'NP', colour: 'var(--sky)' });
  return out;
});
</script>

<template>
  <div class="flex min-h-0 flex-col" data-test="mass-figure">
    <div class="flex flex-wrap items-baseline justify-between gap-x-3">
      <h3 class="pl-1 text-[15px] font-semibold">Mass and balance</h3>
      <ChipRow
        label="View of the masses"
        :options="VIEWS"
        :on="[view]"
        test="balance-view"
        @pick="(id) => preferences.set('balance-view', id)"
      />
    </div>
    <p class="pl-1 text-[12.5px] text-soft">{{ words }}</p>
    <BalanceBeam v-if="view === 'beam'" class="flex-1" :candidate="candidate" :evaluation="evaluation" :bands="bands" />
    <AirframeView
      v-else-if="view === 'space'"
      class="flex-1"
      :candidates="[candidate]"
      :active-id="candidate.id"
      :sections="sections"
      :points="points"
      :masses="masses"
      mode="see-through"
      :dimensions="false"
      :ribs="false"
    />
    <DrawingView
      v-else
      :key="view"
      class="flex-1"
      :view="view"
      :candidates="[candidate]"
      :active-id="candidate.id"
      :sections="sections"
      :points="points"
      :masses="masses"
      mass-names
      :section-lines="false"
      :mean-chord="false"
      :dimensions="false"
    />
  </div>
</template>
