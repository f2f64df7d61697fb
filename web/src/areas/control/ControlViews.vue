<script setup lang="ts">
import { useRoute, useRouter } from 'vue-router';
import ChipRow from '@/components/field/ChipRow.vue';

/** The two views of the area. */
defineProps<{ on: 'loops' | 'torque' }>();
const route = useRoute();
const router = useRouter();
const VIEWS = [
  { id: 'loops', name: 'Loops' },
  { id: 'torque', name: 'Hinge torque' },
] as const;
</script>

<template>
  <ChipRow
    label="View"
    test="control-views"
    :options="VIEWS"
    :on="[on]"
    @pick="(id) => void router.replace({ query: { ...route.query, view: id === 'loops' ? undefined : id } })"
  />
</template>
