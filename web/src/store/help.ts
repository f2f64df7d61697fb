import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import type { HelpPlace } from '@/help/help-text';

/** Width of the areas' rail, px. */
export const RAIL_WIDTH = 112;
/** Width of the help page beside the work, px. */
export const HELP_WIDTH = 400;

/** What of the help is open, and the way there. */
export const useHelp = defineStore('help', () => {
  const way = ref<HelpPlace[]>([]);
  /** An area and a heading of it whose section is to be found once the pages are there. */
  const asked = ref<{ area: string; heading: string } | null>(null);
  const open = ref(false);
  const place = computed<HelpPlace | null>(() => way.value.at(-1) ?? null);
  const canGoBack = computed(() => way.value.length > 1);

  function show(to: HelpPlace): void {
    open.value = true;
    asked.value = null;
    const now = place.value;
    if (now?.page !== to.page || now.section !== to.section) way.value = [...way.value, to];
  }
  /** Help on a heading of an area; the area's page where the heading has no section of its own. */
  function about(area: string, heading: string): void {
    open.value = true;
    asked.value = { area, heading };
  }
  function back(): void {
    if (canGoBack.value) way.value = way.value.slice(0, -1);
  }
  function close(): void {
    open.value = false;
    way.value = [];
    asked.value = null;
  }
  return { open, place, asked, canGoBack, show, about, back, close };
});
