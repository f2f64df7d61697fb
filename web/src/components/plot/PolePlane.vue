<script setup lang="ts">
import { formatNumber } from '@veldtwind/core/units';

/** The ground that poles are drawn on: upper half of the plane, tinted where motion grows, with its grid and its numbers. */
type Scale = (v: number) => number;
defineProps<{
  x: Scale;
  y: Scale;
  width: number;
  height: number;
  margin: { left: number; right: number; top: number; bottom: number };
  xTicks: readonly number[];
  yTicks: readonly number[];
}>();
const text = (t: number) => formatNumber(t, Math.abs(t) < 1 && t !== 0 ? 1 : 0);
</script>

<template>
  <rect
    :x="x(0)"
    :y="margin.top"
    :width="Math.max(0, width - margin.right - x(0))"
    :height="Math.max(0, height - margin.top - margin.bottom)"
    fill="var(--clay)"
    opacity="0.07"
  />
  <g stroke="var(--rule-light)">
    <line v-for="t in xTicks" :key="`x${t}`" :x1="x(t)" :x2="x(t)" :y1="margin.top" :y2="height - margin.bottom" />
    <line v-for="t in yTicks" :key="`y${t}`" :x1="margin.left" :x2="width - margin.right" :y1="y(t)" :y2="y(t)" />
  </g>
  <g stroke="var(--soft)">
    <line :x1="x(0)" :x2="x(0)" :y1="margin.top" :y2="height - margin.bottom" />
    <line :x1="margin.left" :x2="width - margin.right" :y1="y(0)" :y2="y(0)" />
  </g>
  <g fill="var(--soft)" font-size="11">
    <text v-for="t in xTicks" :key="`x${t}`" :x="x(t)" :y="height - margin.bottom + 15" text-anchor="middle">
      {{ text(t) }}
    </text>
    <text v-for="t in yTicks" :key="`y${t}`" :x="width - margin.right + 6" :y="y(t) + 4">{{ text(t) }}</text>
    <text :x="width - margin.right" :y="height - 3" text-anchor="end" font-weight="600" fill="var(--ink)">
      real part, 1/s
    </text>
    <text :x="width - 2" :y="margin.top - 2" text-anchor="end" font-weight="600" fill="var(--ink)">rad/s</text>
  </g>
</template>
