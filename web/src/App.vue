<script setup lang="ts">
import { Toaster } from 'vue-sonner';
import { usePeople } from './store/people';
import { usePreferences } from './store/preferences';

const preferences = usePreferences();
const people = usePeople();
// Whoever is not signed in yet has no preferences to be read.
void people.load().then(() => (!people.me?.named || people.person ? preferences.load() : undefined));
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
