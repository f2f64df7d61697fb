<script setup lang="ts">
import { computed } from 'vue';
import { RAD } from '@veldtwind/core/numerics';
import DerivedRow from '@/components/field/DerivedRow.vue';
import NumberField from '@/components/field/NumberField.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { formatNumber } from '@veldtwind/core/units';
import { usePreferences } from '@/store/preferences';
import type { SectionDetail } from '@veldtwind/core/shaping';

/** All facts of a section's shape; with a chord and a skin, moments in metres too. */
const props = defineProps<{ detail: SectionDetail }>();
const preferences = usePreferences();
const size = computed(() => preferences.get('section-size', { chord: 0.4, skin: 0.0008 }));
const set = (change: Partial<{ chord: number; skin: number }>) =>
  preferences.set('section-size', { ...size.value, ...change });
const f = computed(() => props.detail.facts);
const m = computed(() => props.detail.moments);
const lumps = computed(() => [...props.detail.smoothness.lumps].sort((a, b) => b.swing - a.swing));
/** cm⁴ */
const solid = (v: number) => v * size.value.chord ** 4 * 1e8;
const shell = (v: number) => v * size.value.chord ** 3 * size.value.skin * 1e8;
const show = (v: number) => (Math.abs(v) >= 0.01 ? formatNumber(v, 4) : v.toExponential(3).replace('-', '−'));
</script>

<template>
  <SheetGroup title="Shape">
    <DerivedRow label="Thickness" :value="f.thickness.max" dimension="ratio" :digits="3" />
    <DerivedRow label="Max. thickness at" :value="f.thickness.at" dimension="plain" :digits="4" unit="c" />
    <DerivedRow label="Camber" :value="f.camber.max" dimension="ratio" :digits="3" />
    <DerivedRow label="Max. camber at" :value="f.camber.at" dimension="plain" :digits="4" unit="c" />
    <DerivedRow label="Nose radius" :value="f.noseRadius" dimension="ratio" :digits="3" />
    <DerivedRow label="Edge angle" :value="f.trailingEdge.angle / RAD" dimension="angle" :digits="2" />
    <DerivedRow label="Edge gap" :value="f.trailingEdge.gap" dimension="ratio" :digits="3" />
    <DerivedRow label="Area" :value="f.area" dimension="plain" :digits="5" unit="c²" />
    <DerivedRow label="Perimeter" :value="m.perimeter" dimension="plain" :digits="5" unit="c" />
  </SheetGroup>
  <SheetGroup title="Smoothness">
    <p
      role="status"
      data-test="verdict"
      :class="detail.smoothness.verdict === 'smooth' ? 'text-(--grass-text)' : 'text-clay'"
    >
      <b class="font-semibold">{{ detail.smoothness.verdict }}</b>
    </p>
    <p v-if="detail.smoothness.lumps.length === 0" class="text-[12.5px] text-soft">
      The curvature runs evenly along both surfaces.
    </p>
    <p v-for="(l, i) in lumps.slice(0, 6)" :key="i" class="text-[12.5px]">
      {{ l.surface }} surface, {{ formatNumber(l.from, 2) }} to {{ formatNumber(l.to, 2) }} c: curvature varies by
      {{ formatNumber(100 * l.swing, 0) }} % of its mean
    </p>
  </SheetGroup>
  <SheetGroup title="Second moments">
    <NumberField
      label="Chord"
      dimension="length"
      :model-value="size.chord"
      :min="0.001"
      :max="100"
      :step="0.01"
      @commit="(v) => v && set({ chord: v })"
    />
    <NumberField
      label="Skin"
      dimension="length"
      :digits="4"
      :model-value="size.skin"
      :min="0.00001"
      :max="0.1"
      :step="0.0001"
      hint="thickness of the shell"
      @commit="(v) => v && set({ skin: v })"
    />
    <table class="mt-1 w-full text-[12.5px]">
      <thead class="text-soft">
        <tr>
          <th />
          <th class="text-right font-normal">solid, cm⁴</th>
          <th class="text-right font-normal">shell, cm⁴</th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <td class="text-soft">least</td>
          <td class="text-right">{{ show(solid(m.solid.least)) }}</td>
          <td class="text-right">{{ show(shell(m.shell.least)) }}</td>
        </tr>
        <tr>
          <td class="text-soft">greatest</td>
          <td class="text-right">{{ show(solid(m.solid.greatest)) }}</td>
          <td class="text-right">{{ show(shell(m.shell.greatest)) }}</td>
        </tr>
        <tr>
          <td class="text-soft">axis of the least</td>
          <td class="text-right">{{ formatNumber(m.solid.axis / RAD, 2) }}°</td>
          <td class="text-right">{{ formatNumber(m.shell.axis / RAD, 2) }}°</td>
        </tr>
        <tr>
          <td class="text-soft">centroid x / c</td>
          <td class="text-right">{{ formatNumber(m.centroid.x, 4) }}</td>
          <td class="text-right">{{ formatNumber(m.shell.centroid.x, 4) }}</td>
        </tr>
        <tr>
          <td class="text-soft">centroid y / c</td>
          <td class="text-right">{{ formatNumber(m.centroid.y, 4) }}</td>
          <td class="text-right">{{ formatNumber(m.shell.centroid.y, 4) }}</td>
        </tr>
      </tbody>
    </table>
    <p class="mt-1 text-[12px] text-soft">
      About axes through the centroid; per chord⁴ the solid has
      {{ m.solid.least.toExponential(4).replace('-', '−') }} and
      {{ m.solid.greatest.toExponential(4).replace('-', '−') }}.
    </p>
  </SheetGroup>
</template>
