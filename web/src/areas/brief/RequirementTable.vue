<script setup lang="ts">
import { computed, onMounted, onUnmounted } from 'vue';
import { bandWords, inBand } from '@veldtwind/core/findings';
import { requirementKey, standingRequirements, type Requirement } from '@veldtwind/core/project';
import { responseOf, textOf, unitOf, valueOf, whyNone, type Response } from '@veldtwind/core/quantities';
import { displayUnit, formatQuantity } from '@veldtwind/core/units';
import { seriesStyle } from '@/lib/series-style';
import { COMPARED, usePerformances } from '@/store/performances';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';

/** All candidates that are looked at held against all requirements of the brief: what misses, by how much, and which is best. */
const project = useProject();
const workbench = useWorkbench();
const preferences = usePreferences();
const performances = usePerformances();
onMounted(() => (performances.tableOpen = true));
onUnmounted(() => (performances.tableOpen = false));

interface Cell {
  text: string;
  state: 'inside' | 'outside' | 'none' | 'open';
  by: string;
  best: boolean;
  /** Why there is no value. */ why?: string;
}
/** How far a value lies inside a band, as stored: below zero where it misses. */
const reserveOf = (value: number, min: number | null, max: number | null) =>
  Math.min(min === null ? Infinity : value - min, max === null ? Infinity : max - value);
const signed = (q: Response, by: number) =>
  `${by < 0 ? '−' : '+'}${textOf({ ...q, digits: q.digits }, Math.abs(by), preferences.units)}`;
/** The bands that every brief has, as requirements; those that are open say nothing. */
const fixed = computed(() => standingRequirements(project.brief).filter((r) => r.min !== null || r.max !== null));
/** What is compared besides. */
const open = computed(() => {
  const told = new Set([...fixed.value, ...project.brief.requirements].map((r) => r.quantity));
  return COMPARED.filter((id) => !told.has(id)).map((quantity): Requirement => ({
    quantity,
    min: null,
    max: null,
    weight: 'must',
  }));
});
const atSpeed = (v: number) =>
  `${formatQuantity(v, 'speed', preferences.units)} ${displayUnit('speed', preferences.units).symbol}`;
const rows = computed(() =>
  [...fixed.value, ...project.brief.requirements, ...open.value].flatMap((r) => {
    const q = responseOf(r.quantity);
    if (!q) return [];
    const limitless = r.min === null && r.max === null;
    const made = workbench.visible.map((c) => performances.madeOf(c.id));
    const values = made.map((m) => valueOf(q, m, r.speed));
    const reserves = values.map((v) => (v === null || limitless ? null : reserveOf(v, r.min, r.max)));
    const known = reserves.filter((v): v is number => v !== null);
    const most = known.length > 1 ? Math.max(...known) : null;
    const cells = values.map((v, i): Cell => {
      const reserve = reserves[i];
      if (v === null) return { text: '—', state: 'none', by: '', best: false, why: whyNone(q, made[i]) };
      return {
        text: textOf(q, v, preferences.units),
        state: limitless ? 'open' : inBand(v, r) ? 'inside' : 'outside',
        by: reserve === null || !Number.isFinite(reserve) ? '' : signed(q, reserve),
        best: most !== null && reserve !== null && Math.abs(reserve - most) <= 1e-9 * Math.max(1, Math.abs(most)),
      };
    });
    return [
      {
        key: requirementKey(r),
        id: r.quantity,
        name: `${q.name.replace(/^[a-z]/, (c) => c.toUpperCase())}${r.speed === undefined ? '' : ` at ${atSpeed(r.speed)}`}`,
        unit: unitOf(q, preferences.units),
        band: bandWords(r, q.dimension, preferences.units, q.digits, q.per) ?? '',
        wish: r.weight === 'wish',
        cells,
      },
    ];
  }),
);
</script>

<template>
  <table v-if="rows.length && workbench.visible.length" class="mt-1 w-full text-[13px]" data-test="requirement-table">
    <caption class="pb-1 text-left">
      <span class="serif text-[15px] font-semibold">Requirements</span>
      <span v-if="performances.busy" class="ml-2 text-[12.5px] text-soft" role="status">Computing…</span>
    </caption>
    <thead>
      <tr class="border-b border-rule text-left text-soft">
        <th class="py-1 font-normal">Quantity</th>
        <th class="font-normal">Band</th>
        <th v-for="c in workbench.visible" :key="c.id" class="pl-3 text-right font-normal">
          <i v-if="workbench.provisional(c.id)" class="mr-1">provisional</i>
          <span class="font-semibold" :style="{ color: seriesStyle(c.style).colour }">{{ c.letter }}</span>
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in rows" :key="r.key" class="border-b border-rule-light" :data-requirement="r.id">
        <th scope="row" class="py-1 text-left font-normal">
          {{ r.name }}<span v-if="r.unit" class="text-soft">, {{ r.unit }}</span>
        </th>
        <td class="text-soft">{{ r.band }}<i v-if="r.wish"> wish</i></td>
        <td
          v-for="(cell, i) in r.cells"
          :key="i"
          class="pl-3 text-right tabular-nums"
          :class="cell.state === 'outside' ? 'text-clay' : cell.state === 'inside' ? 'text-grass-text' : ''"
          :data-state="cell.state"
          :title="cell.why"
        >
          <b :class="cell.best ? 'font-semibold' : 'font-normal'">{{ cell.text }}</b>
          <span v-if="cell.by" class="ml-1 text-[12px]">{{ cell.by }}</span>
          <span v-if="cell.best" class="ml-1" title="best candidate" aria-label="best candidate">★</span>
        </td>
      </tr>
    </tbody>
  </table>
</template>
