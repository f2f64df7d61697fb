<script setup lang="ts">
import { computed } from 'vue';
import type { Mode } from '@veldtwind/core/motion';
import { formatNumber } from '@veldtwind/core/units';
import { SHOWN_STATES, shownState } from './words';

/** What moves in a mode, as hands on a wheel: how much by their length, when by their direction. */
const props = defineProps<{ mode: Mode; speed: number }>();
const R = 62;
const COLOURS: Record<string, string> = {
  u: 'var(--sky)',
  w: 'var(--ochre)',
  q: 'var(--soft)',
  theta: 'var(--grass)',
  v: 'var(--ochre)',
  p: 'var(--soft)',
  r: 'var(--sky)',
  phi: 'var(--grass)',
};
/** Rates are left out: they follow from the angles. */
const hands = computed(() => {
  const list = props.mode.shape
    .filter((s) => s.state !== 'q' && s.state !== 'p')
    .map((s) => ({ ...s, size: Math.abs(shownState(s.state, s.size, props.speed)) }));
  const most = Math.max(1e-12, ...list.map((s) => s.size));
  const zero = list.reduce((a, b) => (b.size > a.size ? b : a)).phase;
  return list.map((s) => {
    const angle = s.phase - zero;
    const r = (R * s.size) / most;
    return {
      state: s.state,
      symbol: SHOWN_STATES[s.state].symbol,
      unit: SHOWN_STATES[s.state].unit,
      share: s.size / most,
      colour: COLOURS[s.state],
      x: r * Math.cos(angle),
      y: -r * Math.sin(angle),
    };
  });
});
</script>

<template>
  <div class="flex items-center gap-4">
    <svg width="118" height="118" viewBox="-75 -75 150 150" role="img" :aria-label="`Shape of the ${mode.name}`">
      <circle r="62" fill="none" stroke="var(--rule)" />
      <circle r="31" fill="none" stroke="var(--rule-light)" />
      <path d="M-66,0H66M0,-66V66" stroke="var(--rule-light)" />
      <g v-for="h in hands" :key="h.state">
        <line x1="0" y1="0" :x2="h.x" :y2="h.y" :stroke="h.colour" stroke-width="2.4" stroke-linecap="round" />
        <circle :cx="h.x" :cy="h.y" r="3.4" :fill="h.colour" />
      </g>
    </svg>
    <table class="text-[12.5px]">
      <caption class="sr-only">
        Sizes of the states in this mode
      </caption>
      <tbody>
        <tr v-for="h in hands" :key="h.state">
          <th class="pr-3 text-left font-semibold" :style="{ color: h.colour }">{{ h.symbol }}</th>
          <td class="text-right">{{ formatNumber(h.share, 2) }}</td>
          <td class="pl-1 text-soft">{{ h.unit }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
