<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import { ribPlaces, type SurfaceShape } from '@veldtwind/core/members';
import type { SurfaceStructure } from '@veldtwind/core/structure';
import type { SurfaceStrength } from '@veldtwind/core/candidate';
import { formatNumber } from '@veldtwind/core/units';

/** The half span from above, root at the left: its outline with ribs, spars and nose skin; members that fail in red. A click chooses the place that is cut. */
const props = defineProps<{
  shape: SurfaceShape;
  structure: SurfaceStructure;
  strength: SurfaceStrength | null;
  /** Share of the half span. */ place: number;
}>();
const emit = defineEmits<{ place: [share: number] }>();
const box = ref<HTMLElement | null>(null);
const { width, height } = useElementSize(box);
const PLACES = 25;
const MARGIN = { x: 12, y: 8 };

const frames = computed(() =>
  Array.from({ length: PLACES }, (_, k) => {
    const share = k / (PLACES - 1);
    const { station, chord, along } = props.shape.at(share);
    return { share, along, nose: station.leadingEdge.x, chord };
  }),
);
const scale = computed(() => {
  const noses = frames.value.map((f) => f.nose);
  const tails = frames.value.map((f) => f.nose + f.chord);
  const [low, high] = [Math.min(...noses), Math.max(...tails)];
  const k = Math.max(
    1,
    Math.min((width.value - 2 * MARGIN.x) / props.shape.total, (height.value - 2 * MARGIN.y) / (high - low)),
  );
  const left = 0.5 * (width.value - k * props.shape.total);
  const top = 0.5 * (height.value - k * (high - low));
  return { x: (along: number) => left + k * along, y: (x: number) => top + k * (x - low), k };
});
const frameAt = (share: number) => {
  const { station, chord, along } = props.shape.at(share);
  return { nose: station.leadingEdge.x, chord, along };
};
const point = (share: number, fraction: number) => {
  const f = frameAt(share);
  return `${scale.value.x(f.along).toFixed(1)},${scale.value.y(f.nose + fraction * f.chord).toFixed(1)}`;
};
const outline = computed(() => {
  const { x, y } = scale.value;
  const ahead = frames.value.map((f) => `${x(f.along).toFixed(1)},${y(f.nose).toFixed(1)}`);
  const behind = frames.value.map((f) => `${x(f.along).toFixed(1)},${y(f.nose + f.chord).toFixed(1)}`);
  return `M${ahead.join('L')}L${behind.reverse().join('L')}Z`;
});
const nose = computed(() => {
  const { skin } = props.structure;
  if (!skin) return '';
  const shares = frames.value.map((f) => f.share);
  return `M${shares.map((s) => point(s, 0)).join('L')}L${[...shares]
    .reverse()
    .map((s) => point(s, skin.to ?? 1))
    .join('L')}Z`;
});
const ribs = computed(() => {
  const { ribs: own } = props.structure;
  if (!own) return [];
  return ribPlaces(props.shape.total, own.spacing)
    .slice(0, 200)
    .map((s) => `M${point(s, 0)}L${point(s, 1)}`);
});
const fails = (member: string) => {
  const worst = props.strength?.members.find((m) => m.member === member)?.worst;
  return worst ? worst.reserve < 0 : false;
};
const spars = computed(() =>
  props.structure.spars.map((s) => {
    const shares = Array.from({ length: 13 }, (_, k) => s.from + ((s.to - s.from) * k) / 12);
    const at = (t: number) => s.at + t * ((s.tipAt ?? s.at) - s.at);
    const half = (t: number) => 0.5 * (s.width + t * ((s.tipWidth ?? s.width) - s.width));
    const side = (sign: number) =>
      shares.map((share, k) => {
        const f = frameAt(share);
        const x = f.nose + at(k / 12) * f.chord + sign * half(k / 12);
        return `${scale.value.x(f.along).toFixed(1)},${scale.value.y(x).toFixed(1)}`;
      });
    return { id: s.id, name: s.name, d: `M${side(-1).join('L')}L${side(1).reverse().join('L')}Z`, fails: fails(s.id) };
  }),
);
const cut = computed(() => `M${point(props.place, -0.06)}L${point(props.place, 1.06)}`);
/** Where each member has least in hand. */
const marks = computed(() =>
  (props.strength?.members ?? []).flatMap((m) => {
    if (!m.worst) return [];
    const spar = props.structure.spars.find((s) => s.id === m.member);
    const f = frameAt(Math.min(1, m.worst.place / props.shape.total));
    const fraction = spar ? spar.at : 0.12;
    return [
      {
        id: m.id,
        x: scale.value.x(f.along),
        y: scale.value.y(f.nose + fraction * f.chord),
        fails: m.worst.reserve < 0,
        text: `${m.name}: least reserve ${formatNumber(100 * m.worst.reserve, 0)} %`,
      },
    ];
  }),
);
function choose(e: MouseEvent): void {
  const x = e.clientX - box.value!.getBoundingClientRect().left;
  const along = (x - scale.value.x(0)) / scale.value.k;
  emit('place', Math.min(1, Math.max(0, along / props.shape.total)));
}
</script>

<template>
  <div ref="box" class="relative min-h-0 overflow-hidden">
    <svg
      v-if="width > 0"
      :width="width"
      :height="height"
      class="absolute inset-0 cursor-crosshair"
      role="img"
      :aria-label="`${shape.surface.name} from above with its members; root at the left`"
      data-test="structure-plan"
      @click="choose"
    >
      <path :d="outline" style="fill: var(--section-fill); stroke: var(--soft)" />
      <path v-if="nose" :d="nose" style="fill: var(--sky); opacity: 0.16" />
      <path v-for="(d, i) in ribs" :key="i" :d="d" style="stroke: var(--faint)" />
      <path
        v-for="s in spars"
        :key="s.id"
        :d="s.d"
        :style="{ fill: s.fails ? 'var(--clay)' : 'var(--ochre)', opacity: 0.85 }"
      >
        <title>{{ s.name }}</title>
      </path>
      <path :d="cut" style="stroke: var(--ink)" stroke-dasharray="5 3" />
      <circle
        v-for="m in marks"
        :key="m.id"
        :cx="m.x"
        :cy="m.y"
        r="4"
        :style="{ fill: 'var(--paper)', stroke: m.fails ? 'var(--clay)' : 'var(--ink)', strokeWidth: 1.8 }"
      >
        <title>{{ m.text }}</title>
      </circle>
    </svg>
  </div>
</template>
