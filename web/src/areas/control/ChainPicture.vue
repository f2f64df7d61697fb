<script setup lang="ts">
import { MEASURES, THRUST, type Chain } from '@veldtwind/core/control';
import { DEG } from '@veldtwind/core/numerics';
import { gainText } from './words';

/** A chain as it is computed: from the reference to the aircraft and back. A click on a block opens what it is made of. */
const props = defineProps<{ chain: Chain; control: string; loop: number; step: number; delay: number; off: number }>();
const emit = defineEmits<{ loop: [index: number]; open: [part: 'mover' | 'computing' | 'aircraft'] }>();
const outer = () => props.chain.laws.map((_, i) => i).reverse();
const short = (i: number) => {
  const l = props.chain.laws[i];
  return [l.kp && `P ${gainText(l.kp)}`, l.ki && `I ${gainText(l.ki)}`, l.kd && `D ${gainText(l.kd)}`]
    .filter(Boolean)
    .join(' · ');
};
/** What a law puts out at most: the reference of the loop within it, or a deflection. */
const limit = (i: number) => {
  const { limits } = props.chain.laws[i];
  if (!limits) return '';
  const inner = i === 0 ? null : MEASURES[props.chain.laws[i - 1].from];
  const [times, unit] = inner ? [inner.times, inner.unit] : props.chain.to === THRUST ? [1, 'N'] : [DEG, '°'];
  const said = limits.map((v) => gainText(v * times).replace('-', '−'));
  return `${limits[0] === -limits[1] ? `±${said[1]}` : `${said[0]} to ${said[1]}`}${unit === '°' ? '' : ' '}${unit}`;
};
const mover = () => {
  const m = props.chain.mover;
  if (!m) return 'ideal actuator';
  return 'timeConstant' in m ? `lag ${gainText(m.timeConstant)} s` : `${gainText(m.naturalFrequency)} rad/s`;
};
</script>

<template>
  <div
    class="flex items-stretch gap-0 overflow-x-auto pb-1"
    data-test="chain-picture"
    role="group"
    aria-label="Block diagram of the control law"
  >
    <span class="serif self-center pr-1 text-[13px] whitespace-nowrap text-soft italic"
      >{{ MEASURES[chain.laws[chain.laws.length - 1].from].symbol }} wanted</span
    >
    <template v-for="i in outer()" :key="i">
      <span class="arrow" aria-hidden="true" />
      <button
        class="block-btn"
        :class="{ on: i === loop }"
        :aria-pressed="i === loop"
        :data-test="`block-loop-${i}`"
        @click="emit('loop', i)"
      >
        <b>{{ MEASURES[chain.laws[i].from].name }}</b>
        <span>{{ short(i) || 'no gain yet' }}</span>
        <span v-if="chain.laws[i].limits">limit {{ limit(i) }}</span>
      </button>
    </template>
    <span class="arrow" aria-hidden="true" />
    <button class="block-btn" @click="emit('open', 'computing')">
      <b>computing</b><span>every {{ gainText(1000 * step) }} ms</span
      ><span v-if="delay > 0">{{ gainText(1000 * delay) }} ms late</span>
    </button>
    <span class="arrow" aria-hidden="true" />
    <button class="block-btn" @click="emit('open', 'mover')">
      <b>{{ control }}</b><span>{{ mover() }}</span>
    </button>
    <span class="arrow" aria-hidden="true" />
    <button class="block-btn plant" @click="emit('open', 'aircraft')">
      <b>aircraft</b><span>{{ off === 0 ? 'as in Motion' : `${off} changed` }}</span>
    </button>
    <span class="arrow" aria-hidden="true" />
    <span class="self-center text-[12.5px] text-soft">
      <span v-for="i in outer()" :key="i" class="block leading-tight">{{ MEASURES[chain.laws[i].from].symbol }} ↩</span>
    </span>
  </div>
</template>

<style scoped>
.arrow {
  align-self: center;
  width: 18px;
  min-width: 14px;
  height: 0;
  border-top: 1.5px solid var(--soft);
  position: relative;
}
.arrow::after {
  content: '';
  position: absolute;
  right: 0;
  top: -4.5px;
  border-left: 6px solid var(--soft);
  border-top: 4px solid transparent;
  border-bottom: 4px solid transparent;
}
.block-btn {
  display: flex;
  flex-direction: column;
  justify-content: center;
  gap: 1px;
  padding: 5px 10px;
  min-height: 50px;
  text-align: left;
  font-size: 12px;
  line-height: 1.25;
  color: var(--soft);
  white-space: nowrap;
  border: 1px solid var(--rule);
  border-radius: 5px;
  background: var(--field);
}
.block-btn b {
  color: var(--ink);
  font-size: 13px;
}
.block-btn:hover {
  background: var(--select);
}
.block-btn.on {
  border-color: var(--ochre);
  box-shadow: inset 0 -3px 0 var(--ochre);
}
.block-btn.plant {
  border-radius: 16px;
}
</style>
