<script setup lang="ts">
import { Toaster } from 'vue-sonner';
import { usePreferences } from './store/preferences';

const preferences = usePreferences();
void preferences.load();
</script>

<template>
  <RouterView />
  <Toaster
    position="bottom-center"
    :theme="preferences.theme === 'dusk' ? 'dark' : 'light'"
    :duration="6000"
    close-button
  />
</template>
