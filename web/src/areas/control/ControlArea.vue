<script setup lang="ts">
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import LoopsView from './LoopsView.vue';
import TorqueView from './TorqueView.vue';

/** Loops that control the aircraft, or what it takes to move its controls. */
const route = useRoute();
const torque = computed(() => route.query.view === 'torque');
</script>

<template>
  <TorqueView v-if="torque" />
  <LoopsView v-else />
</template>
