<script setup lang="ts">
import { computed } from 'vue';
import type { AirframeMotion, MethodPair } from '@veldtwind/core/candidate';
import { COMPARED, METHOD_NAMES } from '@veldtwind/core/findings';
import { displayUnit, formatQuantity } from '@veldtwind/core/units';
import DerivedRow from '@/components/field/DerivedRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import type { CandidatePart } from '@/lib/types';
import { usePreferences } from '@/store/preferences';

/** Mass, margins and inertia of a flight, what a pull-up asks for, and the same quantities by the other method. */
const props = defineProps<{
  motion: AirframeMotion;
  candidate: CandidatePart;
  pairs: readonly MethodPair[];
}>();
const preferences = usePreferences();
const DEG = 180 / Math.PI;
/** Deflection per g of the control that trims. */
const perG = computed(() => {
  const id = Object.keys(props.motion.trim.controls)[0];
  const name = props.candidate.surfaces.flatMap((v) => v.controls ?? []).find((c) => c.id === id)?.name;
  const value = name === undefined ? null : props.motion.manoeuvre.deflectionPerG[name];
  return name !== undefined && value != null ? { name, degrees: value * DEG } : null;
});
/** A table for each two methods. */
const tables = computed(() => {
  const kinds = new Map<string, { first: string; second: string; rows: ReturnType<typeof rowOf>[] }>();
  for (const p of props.pairs) {
    const [first, second] = [p.first, p.second].map(({ method }) => METHOD_NAMES[method]);
    const polars = p.first.method === 'section-polars';
    const key = polars ? 'polars' : `${first}, ${second}`;
    const table = kinds.get(key) ?? { first, second: polars ? METHOD_NAMES.lattice : second, rows: [] };
    table.rows.push(rowOf(p));
    kinds.set(key, table);
  }
  return [...kinds.values()];
});
const agree = computed(() => props.pairs.every((p) => p.agree));
const capital = (text: string) => text[0].toUpperCase() + text.slice(1);
function rowOf(p: MethodPair) {
  const { name, by = 1, dimension, digits, unit } = COMPARED[p.quantity];
  const symbol = unit ?? displayUnit(dimension, preferences.units).symbol;
  const told = (v: number) =>
    `${formatQuantity(by * v, dimension, preferences.units, digits)}${symbol && symbol !== '°' ? ' ' : ''}${symbol}`;
  return {
    key: p.quantity,
    agree: p.agree,
    label: capital(name),
    first: told(p.first.value),
    second: told(p.second.value),
    title: `${METHOD_NAMES[p.first.method]} and ${METHOD_NAMES[p.second.method]}; band ${p.absolute ? told(p.band) : `${Math.round(100 * p.band)} %`}`,
  };
}
</script>

<template>
  <SheetGroup title="Balance">
    <DerivedRow label="Mass" :value="motion.mass.mass" dimension="mass" />
    <DerivedRow label="Centre of gravity, x" :value="motion.mass.centre.x" dimension="length" />
    <DerivedRow label="Static margin" :value="motion.staticMargin" dimension="ratio" />
    <DerivedRow
      v-if="motion.stickFree"
      label="Stick-free margin"
      :note="`${motion.stickFree.name} floats by its hinge moment, thin-section theory`"
      :value="motion.stickFree.staticMargin"
      dimension="ratio"
    />
    <p class="pb-1 text-[12px] text-soft">
      {{ motion.method === 'polars' ? 'With section polars' : 'Inviscid lattice' }}, at the trim, with bodies.
    </p>
    <DerivedRow label="Ixx" :value="motion.case.Ixx" dimension="plain" :digits="3" unit="kg m²" />
    <DerivedRow label="Iyy" :value="motion.case.Iyy" dimension="plain" :digits="3" unit="kg m²" />
    <DerivedRow label="Izz" :value="motion.case.Izz" dimension="plain" :digits="3" unit="kg m²" />
    <DerivedRow label="Ixz = ∫xz dm" :value="motion.case.Ixz" dimension="plain" :digits="3" unit="kg m²" />
    <p class="text-[12px] text-soft">About the centre of gravity, along the stream and across it.</p>
  </SheetGroup>
  <SheetGroup v-if="tables.length" title="Comparison of methods">
    <div data-test="methods">
      <table v-for="t in tables" :key="t.first + t.second" class="mb-2 w-full text-[13px]">
        <thead>
          <tr class="text-left text-[12px] text-soft">
            <th class="font-normal"></th>
            <th class="py-1 pl-2 text-right align-bottom leading-tight font-normal">{{ capital(t.first) }}</th>
            <th class="py-1 pl-2 text-right align-bottom leading-tight font-normal">{{ capital(t.second) }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in t.rows" :key="r.key" :class="{ 'text-clay': !r.agree }" :title="r.title">
            <th class="py-[3px] text-left leading-tight font-normal" :class="{ 'text-soft': r.agree }">
              {{ r.label }}
            </th>
            <td class="pl-2 text-right font-medium whitespace-nowrap">{{ r.first }}</td>
            <td class="pl-2 text-right font-medium whitespace-nowrap">{{ r.second }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="text-[12px] text-soft">
      {{ agree ? 'The methods agree within their bands.' : 'The methods disagree where marked.' }}
    </p>
  </SheetGroup>
  <SheetGroup title="Pull-up">
    <DerivedRow
      label="Manoeuvre margin"
      note="How far aft the centre may go until a pull-up needs no deflection"
      :value="motion.manoeuvre.margin"
      dimension="ratio"
    />
    <DerivedRow v-if="perG" :label="`${perG.name} per g`" :value="perG.degrees" dimension="angle" :digits="2" />
  </SheetGroup>
</template>
