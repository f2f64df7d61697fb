import { defineStore } from 'pinia';
import { reactive, ref, watchEffect } from 'vue';
import type { UnitSet } from '@veldtwind/core/units';
import { api } from '@/api/client';

/** What the user chose for the interface: at once from this browser, then from the server, which keeps it for all. */
export const usePreferences = defineStore('preferences', () => {
  const cached = (() => {
    try {
      return JSON.parse(localStorage.getItem('veldtwind-preferences') ?? '{}') as Record<string, unknown>;
    } catch {
      return {};
    }
  })();
  const values = reactive<Record<string, unknown>>(cached);
  const theme = ref<'paper' | 'dusk'>(values.theme === 'dusk' ? 'dusk' : 'paper');
  const units = ref<UnitSet>((['metric', 'small', 'us'] as const).find((u) => u === values.units) ?? 'metric');
  let timer: ReturnType<typeof setTimeout> | undefined;
  const dirty = new Set<string>();

  watchEffect(() => {
    document.documentElement.dataset.theme = theme.value;
  });

  async function load(): Promise<void> {
    try {
      const kept = await api<Record<string, unknown>>('GET', '/preferences');
      for (const [key, value] of Object.entries(kept)) if (!dirty.has(key)) values[key] = value;
      if (values.theme === 'dusk' || values.theme === 'paper') theme.value = values.theme;
      const set = (['metric', 'small', 'us'] as const).find((u) => u === values.units);
      if (set) units.value = set;
      remember();
    } catch {
      // The server is away: this browser's copy serves until it is back.
    }
  }

  function remember(): void {
    localStorage.setItem('veldtwind-preferences', JSON.stringify(values));
  }

  function set(key: string, value: unknown): void {
    values[key] = value;
    dirty.add(key);
    remember();
    clearTimeout(timer);
    timer = setTimeout(() => {
      for (const name of dirty) {
        void api('PUT', `/preferences/${name}`, { value: values[name] })
          .then(() => dirty.delete(name))
          .catch(() => undefined);
      }
    }, 250);
  }

  function setTheme(next: 'paper' | 'dusk'): void {
    theme.value = next;
    set('theme', next);
  }
  function setUnits(next: UnitSet): void {
    units.value = next;
    set('units', next);
  }
  const get = <T>(key: string, fallback: T): T => (values[key] === undefined ? fallback : (values[key] as T));
  return { values, theme, units, load, set, get, setTheme, setUnits };
});
