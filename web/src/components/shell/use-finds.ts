import { computed, shallowRef, watch, type Ref } from 'vue';
import { RESPONSES, SECTION_QUANTITIES, textOf, unitOf, type Quantity } from '@veldtwind/core/quantities';
import { call } from '@/api/client';
import { AREAS } from '@/areas';
import { searchHelp, type HelpPage } from '@/help/help-text';
import type { Command } from '@/lib/area';
import { markSetting } from '@/lib/evidence';
import { originOf } from '@/lib/origin';
import { router } from '@/router';
import { useHelp } from '@/store/help';
import { useLibrary } from '@/store/library';
import { LIBRARY_QUANTITIES } from '@/store/library-quantities';
import { useNumberSheet } from '@/store/number-sheet';
import { usePerformances } from '@/store/performances';
import { usePreferences } from '@/store/preferences';
import { useProject } from '@/store/project';
import { useWorkbench } from '@/store/workbench';
import type { Setting } from './settings-index';

/** Shorter queries ask for commands only. */
const LEAST_LETTERS = 2;
const MOST_PAGES = 5;
const MOST_SETTINGS = 6;

/**
 * What a project has that a query may mean: parts of its candidates, numbers of candidates and sections, pages of the help, other projects. Each is a
 * command that leads there; a number's keys are its value.
 */
export function useFinds(query: Ref<string>, open: Ref<boolean>) {
  const project = useProject();
  const workbench = useWorkbench();
  const performances = usePerformances();
  const preferences = usePreferences();
  const sheet = useNumberSheet();
  const help = useHelp();
  const pages = shallowRef<readonly HelpPage[]>([]);
  const settings = shallowRef<readonly Setting[]>([]);
  const others = shallowRef<{ id: string; name: string }[]>([]);
  watch(open, (now) => {
    if (!now) return;
    if (pages.value.length === 0) void import('@/help/help-pages').then((m) => (pages.value = m.HELP_PAGES));
    if (settings.value.length === 0) void import('./settings-index').then((m) => (settings.value = m.SETTINGS));
    void call('listProjects').then(
      (reply) => (others.value = reply.projects.filter((p) => p.id !== project.id)),
      // Without the server other projects cannot be opened.
      () => (others.value = []),
    );
  });
  const words = computed(() => query.value.toLowerCase().split(/\s+/).filter(Boolean));
  const asked = computed(() => open.value && query.value.trim().length >= LEAST_LETTERS);
  const fits = (name: string) => words.value.every((w) => name.toLowerCase().includes(w));
  const go = (name: string, params: object, c: string) =>
    void router.push({
      name,
      params: { project: project.id!, ...params },
      query: { ...router.currentRoute.value.query, c },
    });
  const capital = (name: string) => name.charAt(0).toUpperCase() + name.slice(1);
  const shown = (q: Pick<Quantity<never>, 'dimension' | 'digits' | 'per'>, value: number | null) =>
    `${textOf(q, value, preferences.units)} ${value === null ? '' : unitOf(q, preferences.units)}`.trim();

  const parts = computed<Command[]>(() =>
    project.candidates.flatMap((c) => [
      ...[...c.surfaces, ...c.bodies].map((s) => ({
        id: `part-${c.id}-${s.id}`,
        name: `${s.name} of ${c.letter}`,
        run: () => go('airframe', { surface: s.id }, c.id),
      })),
      ...c.massItems.map((m) => ({
        id: `mass-${c.id}-${m.id}`,
        name: `Mass item ${m.name} of ${c.letter}`,
        keys: shown({ dimension: 'mass' }, m.mass),
        run: () => go('balance', {}, c.id),
      })),
    ]),
  );
  const numbers = computed<Command[]>(() =>
    project.candidates.flatMap((c) => {
      const made = performances.madeOf(c.id);
      return RESPONSES.filter((q) => fits(`${q.name} of ${c.letter} ${c.name}`)).map((q) => {
        const value = q.of(made);
        return {
          id: `number-${c.id}-${q.id}`,
          name: `${capital(q.name)} of ${c.letter}`,
          keys: shown(q, value),
          run: () => {
            const { speed, altitude } = project.brief;
            const method = made.evaluation?.method ?? 'lattice';
            sheet.ask({
              title: capital(q.name),
              value: textOf(q, value, preferences.units),
              unit: unitOf(q, preferences.units),
              says: q.says,
              formula: q.formula,
              quantity: q.id,
              origin: originOf({ letter: c.letter, speed, altitude, method }, preferences.units, {
                provisional: workbench.provisional(c.id),
              }),
            });
          },
        };
      });
    }),
  );
  /** Numbers of sections whose name is among the words: facts of the shape are measured when they are asked for. */
  const facts = computed<Command[]>(() => {
    const named = project.sections.filter((s) => words.value.some((w) => s.name.toLowerCase().includes(w)));
    const wanted = SECTION_QUANTITIES.filter((q) => named.some((s) => fits(`${q.name} of ${s.name}`)));
    if (named.length === 0 || wanted.length === 0) return [];
    const rows = new Map(useLibrary().rows.map((row) => [row.id, row]));
    return named.flatMap((s) =>
      LIBRARY_QUANTITIES.filter((q) => !q.polar && fits(`${q.name} of ${s.name}`)).map((q) => {
        const row = rows.get(s.id);
        return {
          id: `fact-${s.id}-${q.id}`,
          name: `${capital(q.name)} of ${s.name}`,
          keys: shown(q, row ? q.of(row) : null),
          run: () => go('sections', { section: s.id }, workbench.active?.id ?? 'a'),
        };
      }),
    );
  });
  const areaNames = computed(() => new Map(AREAS.map((a) => [a.id, a.name])));
  /** Fields by their names, each in its group of the sheet. */
  const fields = computed<Command[]>(() =>
    settings.value
      .map((s) => ({ ...s, name: `${s.label}: setting in ${areaNames.value.get(s.area) ?? s.area}` }))
      .filter((s) => fits(`${s.name} ${s.group ?? ''}`))
      .slice(0, MOST_SETTINGS)
      .map((s) => ({
        id: `setting-${s.area}-${s.label}`,
        name: s.name,
        keys: s.group,
        run: () => {
          const key = `layout-${s.area}`;
          const layout = preferences.get<Record<string, unknown> | null>(key, null);
          if (layout && layout.sheetOpen === false) preferences.set(key, { ...layout, sheetOpen: true });
          go(s.area, {}, workbench.active?.id ?? 'a');
          void markSetting(s.label, s.group);
        },
      })),
  );
  const rest = computed<Command[]>(() => [
    ...searchHelp(pages.value, query.value)
      .slice(0, MOST_PAGES)
      .map((h) => ({
        id: `help-${h.page}-${h.section ?? ''}`,
        name: `Help: ${h.title}`,
        run: () => help.show({ page: h.page, section: h.section }),
      })),
    ...others.value
      .filter((p) => fits(`open ${p.name}`))
      .map((p) => ({ id: `project-${p.id}`, name: `Open ${p.name}`, run: () => void router.push(`/p/${p.id}/brief`) })),
  ]);
  return computed<Command[]>(() =>
    asked.value
      ? [...parts.value.filter((p) => fits(p.name)), ...numbers.value, ...facts.value, ...fields.value, ...rest.value]
      : [],
  );
}
