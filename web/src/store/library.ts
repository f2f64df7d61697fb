import { defineStore } from 'pinia';
import { computed, ref, shallowRef, triggerRef, watch } from 'vue';
import { resolvedSource, usesOfSection, type SectionPart } from '@veldtwind/core/project';
import { designPoint } from '@veldtwind/core/candidate';
import type { SectionSummary } from '@veldtwind/core/shaping';
import { seriesStyle, type SeriesStyle } from '@/lib/series-style';
import { summaries, type SummaryResult } from './summaries';
import { LIBRARY_QUANTITIES, polarsOf, type LibraryPolar } from './library-quantities';
import { usePreferences } from './preferences';
import { useProject } from './project';
import { useRuns } from './runs';

/** A section with what is known of it. */
export interface LibraryRow {
  id: string;
  part: SectionPart;
  used: string;
  /** What was measured; undefined while it is not yet. */
  summary?: SectionSummary;
  /** What its polar says, where one was solved. */
  polar?: LibraryPolar;
  /** Why it cannot be made. */
  failure?: string;
}

export type Ranges = Record<string, { min: number | null; max: number | null }>;
const BATCH = 60;

/** Words for where a section's shape comes from. */
export function sourceWords(part: SectionPart): string {
  const { source } = part;
  const steps = part.steps.length ? `, ${part.steps.length} step${part.steps.length > 1 ? 's' : ''}` : '';
  switch (source.kind) {
    case 'designation': {
      const kind = source.designation.startsWith('16-')
        ? '16-series'
        : source.designation.replace(/-.*/, '').length === 4
          ? 'four digits'
          : 'five digits';
      return `${kind} ${source.designation}${steps}`;
    }
    case 'coordinates':
      return `${part.fileName ?? `${source.points.length} points`}${steps}`;
    case 'drawn':
      return `drawn, ${source.points.length} points${steps}`;
    case 'class-shape':
      return `fit of order ${source.upper.length - 1}${steps}`;
    case 'mix':
      return `mix, ${Math.round(100 * source.fraction)} %${steps}`;
  }
}

/** The library of the open project: facts as they arrive, search, filters, order, and what is compared. */
export const useLibrary = defineStore('library', () => {
  const project = useProject();
  const preferences = usePreferences();
  const search = ref('');
  const ranges = ref<Ranges>({});
  const order = ref<{ by: string; down: boolean }>({ by: 'name', down: false });
  const known = shallowRef(new WeakMap<SectionPart, SummaryResult>());
  const waiting = ref(0);

  let working = false;
  let shownAt = 0;
  async function fill(): Promise<void> {
    if (working) return;
    working = true;
    try {
      for (;;) {
        const missing = project.sections.filter((s) => !known.value.has(s));
        waiting.value = missing.length;
        const batch = missing.slice(0, BATCH);
        if (batch.length === 0) break;
        const sources = batch.map((s) => {
          try {
            return resolvedSource(project.document.sections, s.id);
          } catch {
            return null;
          }
        });
        const made = await summaries(sources.map((source) => source ?? { kind: 'coordinates', points: [] }));
        batch.forEach((s, i) => known.value.set(s, made[i]));
        // Shown at once for the first, then now and then: every showing goes through the whole list.
        if (performance.now() - shownAt > 800) {
          triggerRef(known);
          shownAt = performance.now();
        }
      }
    } finally {
      triggerRef(known);
      working = false;
    }
  }
  watch(
    () => project.sections,
    (list, before) => {
      // A mix changes with what it is made from.
      for (const s of list) {
        const mixed = s.source.kind === 'mix' || s.steps.some((t) => t.kind === 'mix');
        if (mixed && before !== list) known.value.delete(s);
      }
      void fill();
    },
    { immediate: true },
  );

  const uses = computed(() => {
    const map = new Map<string, string[]>();
    for (const c of project.candidates)
      for (const s of c.surfaces)
        for (const id of new Set(s.stations.map((t) => t.section)))
          map.set(id, [...(map.get(id) ?? []), `${c.letter} ${s.name.toLowerCase()}`]);
    return map;
  });
  /** Reynolds number that polars are shown at: the first candidate's mean chord at the design point. */
  const flownRe = computed(() => {
    try {
      const candidate = project.candidates[0];
      return (candidate && designPoint(project.brief, candidate).reynolds?.mean) ?? 1e6;
    } catch {
      return 1e6;
    }
  });
  const polars = computed(() =>
    polarsOf(useRuns().curves, flownRe.value, (id) => {
      try {
        return project.document.sections[id] ? resolvedSource(project.document.sections, id) : null;
      } catch {
        return null;
      }
    }),
  );
  const rows = computed<LibraryRow[]>(() =>
    project.sections.map((part) => {
      const made = known.value.get(part);
      const polar = polars.value.get(part.id);
      return {
        id: part.id,
        part,
        used: (uses.value.get(part.id) ?? []).join(', '),
        ...(polar ? { polar } : {}),
        ...(made?.ok ? { summary: made.summary } : { failure: made?.failure }),
      };
    }),
  );
  const matches = (row: LibraryRow, words: string[]) => {
    if (words.length === 0) return true;
    const text =
      `${row.part.name} ${sourceWords(row.part)} ${row.part.tags.join(' ')} ${row.part.note} ${row.used}`.toLowerCase();
    return words.every((w) => text.includes(w));
  };
  const shown = computed<LibraryRow[]>(() => {
    const words = search.value.toLowerCase().split(/\s+/).filter(Boolean);
    const limits = LIBRARY_QUANTITIES.flatMap((f) => {
      const r = ranges.value[f.id];
      return r && (r.min !== null || r.max !== null) ? [{ f, ...r }] : [];
    });
    const list = rows.value.filter(
      (row) =>
        matches(row, words) &&
        limits.every(({ f, min, max }) => {
          const v = f.of(row);
          if (v === null) return false;
          return (min === null || v >= min - 1e-9) && (max === null || v <= max + 1e-9);
        }),
    );
    const fact = LIBRARY_QUANTITIES.find((f) => f.id === order.value.by);
    if (fact) {
      const of = (r: LibraryRow) => fact.of(r) ?? Infinity;
      list.sort((a, b) => of(a) - of(b));
    }
    if (order.value.down) list.reverse();
    return list;
  });
  const filtered = computed(() => Object.values(ranges.value).some((r) => r.min !== null || r.max !== null));

  const short = computed(() => (project.id ?? 'none').slice(0, 8));
  const compared = computed<string[]>(() =>
    preferences.get<string[]>(`compare-${short.value}`, []).filter((id) => project.document.sections[id]),
  );
  const hidden = computed<string[]>(() => preferences.get<string[]>(`compare-hidden-${short.value}`, []));
  type Styled = Partial<SeriesStyle> & { place: number };
  const styles = computed(() => preferences.get<Record<string, Styled>>(`section-styles-${short.value}`, {}));

  function compare(id: string, on = !compared.value.includes(id)): void {
    if (on && !styles.value[id]) {
      const place = places.value.get(id) ?? 0;
      preferences.set(`section-styles-${short.value}`, { ...styles.value, [id]: { place } });
    }
    const rest = compared.value.filter((c) => c !== id);
    preferences.set(`compare-${short.value}`, on ? [...rest, id] : rest);
  }
  function toggleHidden(id: string): void {
    const list = hidden.value.includes(id) ? hidden.value.filter((h) => h !== id) : [...hidden.value, id];
    preferences.set(`compare-hidden-${short.value}`, list);
  }
  function restyle(id: string, change: Partial<SeriesStyle>): void {
    const own = styles.value[id] ?? { place: places.value.get(id) ?? 0 };
    preferences.set(`section-styles-${short.value}`, { ...styles.value, [id]: { ...own, ...change } });
  }
  /** Places of sections that were given none: those that curves were solved of first, then all others, each at the first that is free. */
  const places = computed(() => {
    const taken = new Set(Object.values(styles.value).map((s) => s.place));
    const solved = new Set(useRuns().curves.flatMap((c) => c.section ?? []));
    const all = Object.keys(project.document.sections).filter((id) => !styles.value[id]);
    const out = new Map<string, number>();
    let place = 0;
    for (const id of [...all.filter((s) => solved.has(s)), ...all.filter((s) => !solved.has(s))]) {
      while (taken.has(place)) place++;
      out.set(id, place++);
    }
    return out;
  });
  /** A section's colour, dash, marker and width, the same wherever it is drawn. */
  function styleOf(id: string): SeriesStyle {
    const own = styles.value[id];
    const { place = places.value.get(id) ?? 0, ...set } = own ?? {};
    return { width: 1.6, ...seriesStyle(place), ...set };
  }
  const used = (id: string) => usesOfSection(project.document, id);
  return {
    search,
    ranges,
    order,
    rows,
    shown,
    filtered,
    waiting,
    compared,
    hidden,
    compare,
    toggleHidden,
    restyle,
    styleOf,
    used,
  };
});
