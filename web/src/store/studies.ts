import { defineStore } from 'pinia';
import { ref, shallowRef, watch } from 'vue';
import type { StudyReply, StudyWholeReply } from '@veldtwind/contract';
import type { StudyInput } from '@veldtwind/core/studies';
import { ApiError, call } from '@/api/client';
import { useProject } from './project';

/** Studies that the server makes of the open project, and the one that is looked at with its tries; they follow what the server tells. */
export const useStudies = defineStore('studies', () => {
  const project = useProject();
  const list = shallowRef<StudyReply[]>([]);
  const shown = shallowRef<StudyWholeReply | null>(null);
  const failure = ref('');
  let asking = false;
  let again = false;

  async function tried<T>(work: () => Promise<T>): Promise<T | null> {
    try {
      const made = await work();
      failure.value = '';
      return made;
    } catch (error) {
      failure.value =
        error instanceof ApiError ? [error.message, error.hint].filter(Boolean).join(' ') : (error as Error).message;
      return null;
    }
  }
  const put = (study: StudyReply) => {
    const others = list.value.filter((s) => s.id !== study.id);
    list.value = [study, ...others].sort((a, b) => b.createdAt.localeCompare(a.createdAt));
    if (shown.value?.study.id === study.id) shown.value = { ...shown.value, study };
  };
  async function refresh(): Promise<void> {
    const of = project.id;
    if (!of) return;
    const told = await tried(() => call('listStudies', { params: { id: of } }));
    if (told && project.id === of) list.value = told.studies as StudyReply[];
    await catchUp();
  }
  /** Reads the tries that came since. */
  async function catchUp(): Promise<void> {
    const [of, study] = [project.id, shown.value?.study.id];
    if (!of || study === undefined) return;
    if (asking) {
      again = true;
      return;
    }
    asking = true;
    const from = shown.value!.tries.length;
    const told = (await tried(() =>
      call('readStudy', { params: { id: of, study }, query: { from } }),
    )) as StudyWholeReply | null;
    asking = false;
    const now = shown.value;
    if (told && project.id === of && now?.study.id === study && now.tries.length === from)
      shown.value = { ...told, tries: [...now.tries, ...told.tries] };
    if (!again) return;
    again = false;
    await catchUp();
  }
  async function look(id: string | null): Promise<void> {
    const study = list.value.find((s) => s.id === id);
    shown.value = study ? { study, plan: null as never, method: 'lattice', result: null, tries: [] } : null;
    await catchUp();
  }
  async function start(name: string, candidate: string, input: StudyInput): Promise<void> {
    const of = project.id!;
    const body = { name: name.slice(0, 120), candidate, input: JSON.parse(JSON.stringify(input)) as never };
    const made = (await tried(() => call('startStudy', { params: { id: of }, body }))) as StudyReply | null;
    if (!made || project.id !== of) return;
    put(made);
    await look(made.id);
  }
  async function change(id: string, state: 'running' | 'paused'): Promise<void> {
    const made = (await tried(() =>
      call('changeStudy', { params: { id: project.id!, study: id }, body: { state } }),
    )) as StudyReply | null;
    if (made) put(made);
  }
  async function remove(id: string): Promise<void> {
    await tried(() => call('removeStudy', { params: { id: project.id!, study: id } }));
    list.value = list.value.filter((s) => s.id !== id);
    if (shown.value?.study.id === id) shown.value = null;
  }

  watch(
    () => [project.id, project.opened] as const,
    ([id], before) => {
      if (id !== before?.[0]) {
        list.value = [];
        shown.value = null;
      }
      if (id) void refresh();
    },
    { immediate: true },
  );
  watch(
    () => project.studied,
    (event) => {
      if (!event || event.project !== project.id) return;
      put(event.study);
      if (shown.value?.study.id === event.study.id) void catchUp();
    },
  );
  return { list, shown, failure, look, start, change, remove, refresh };
});
