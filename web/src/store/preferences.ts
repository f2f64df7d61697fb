import { defineStore } from 'pinia';
import { reactive, ref, watchEffect } from 'vue';
import { showDecimalsBy, type DecimalMark, type UnitSet } from '@veldtwind/core/units';
import { ApiError, call } from '@/api/client';
import { readSmall, writeSmall } from '@/lib/browser-storage';
import { DATE_STYLES, showDatesBy, usualDates } from '@/lib/when';

const UNSENT = 'veldtwind-preferences-unsent';
function unsent(): string[] {
  try {
    const list: unknown = JSON.parse(readSmall(UNSENT) ?? '[]');
    return Array.isArray(list) ? list.filter((k) => typeof k === 'string') : [];
  } catch {
    return [];
  }
}

/** The mark that this browser's language puts before decimals. */
const usualMark = (): DecimalMark =>
  new Intl.NumberFormat().formatToParts(1.5).some((p) => p.type === 'decimal' && p.value === ',') ? 'comma' : 'point';
const marks = ['point', 'comma'] as const;

/** What the user chose for the interface: at once from this browser, then from the server, which keeps it for all. */
export const usePreferences = defineStore('preferences', () => {
  const cached = (() => {
    try {
      return JSON.parse(readSmall('veldtwind-preferences') ?? '{}') as Record<string, unknown>;
    } catch {
      return {};
    }
  })();
  const values = reactive<Record<string, unknown>>(cached);
  const theme = ref<'paper' | 'dusk'>(values.theme === 'dusk' ? 'dusk' : 'paper');
  const units = ref<UnitSet>((['metric', 'small', 'us'] as const).find((u) => u === values.units) ?? 'metric');
  const decimalMark = ref<DecimalMark>(marks.find((m) => m === values.decimalMark) ?? usualMark());
  let timer: ReturnType<typeof setTimeout> | undefined;
  /** What the server has not got yet; kept over a reload, so that its older value does not come back. */
  const dirty = new Set<string>(unsent());

  // Numbers are shown anew wherever they stand when another mark is chosen.
  showDecimalsBy(() => decimalMark.value);
  showDatesBy(() => DATE_STYLES.find((s) => s.id === values.dates)?.id ?? usualDates());
  watchEffect(() => {
    document.documentElement.dataset.theme = theme.value;
  });

  async function load(): Promise<void> {
    try {
      const kept = (await call('preferences')) as Record<string, unknown>;
      for (const [key, value] of Object.entries(kept)) if (!dirty.has(key)) values[key] = value;
      if (values.theme === 'dusk' || values.theme === 'paper') theme.value = values.theme;
      const set = (['metric', 'small', 'us'] as const).find((u) => u === values.units);
      if (set) units.value = set;
      decimalMark.value = marks.find((m) => m === values.decimalMark) ?? decimalMark.value;
      remember();
      if (dirty.size > 0) send();
    } catch {
      // The server is away: this browser's copy serves until it is back.
    }
  }

  function remember(): void {
    // Where it is full or blocked they hold for this page, and the server has them.
    writeSmall('veldtwind-preferences', JSON.stringify(values));
    writeSmall(UNSENT, JSON.stringify([...dirty]));
  }

  function send(): void {
    for (const name of dirty) {
      const value = values[name];
      void call('setPreference', { params: { key: name }, body: { value } })
        .then(() => {
          // Changed again in the meantime: it goes with the next sending.
          if (values[name] === value) dirty.delete(name);
          remember();
        })
        .catch((error: unknown) => {
          // Refused for what it is: this browser alone keeps it, and it is not sent again and again.
          if (!(error instanceof ApiError) || ![400, 413].includes(error.status)) return;
          if (values[name] === value) dirty.delete(name);
          remember();
        });
    }
  }

  function set(key: string, value: unknown): void {
    values[key] = value;
    dirty.add(key);
    remember();
    clearTimeout(timer);
    timer = setTimeout(send, 250);
  }

  function setTheme(next: 'paper' | 'dusk'): void {
    theme.value = next;
    set('theme', next);
  }
  function setUnits(next: UnitSet): void {
    units.value = next;
    set('units', next);
  }
  function setDecimalMark(next: DecimalMark): void {
    decimalMark.value = next;
    set('decimalMark', next);
  }
  const get = <T>(key: string, fallback: T): T => (values[key] === undefined ? fallback : (values[key] as T));
  return { values, theme, units, decimalMark, load, set, get, setTheme, setUnits, setDecimalMark };
});
