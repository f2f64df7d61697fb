<script setup lang="ts">
import { Switch, SwitchGroup, SwitchLabel } from '@headlessui/vue';

/** On or off, with its name. */
defineProps<{ label: string; modelValue: boolean; test?: string }>();
defineEmits<{ 'update:modelValue': [on: boolean] }>();
</script>

<template>
  <SwitchGroup as="div" class="grid grid-cols-[1fr_auto] items-center py-[3px]">
    <SwitchLabel class="text-soft">{{ label }}</SwitchLabel>
    <Switch
      :model-value="modelValue"
      class="switch"
      :data-test="test"
      @update:model-value="(v: boolean) => $emit('update:modelValue', v)"
      ><span class="switch-knob"
    /></Switch>
  </SwitchGroup>
</template>
