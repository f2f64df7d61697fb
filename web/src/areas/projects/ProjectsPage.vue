<script setup lang="ts">
import { CircleHelp, Download, Trash2 } from 'lucide-vue-next';
import { useDropZone } from '@vueuse/core';
import { onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { toast } from 'vue-sonner';
import { addressOf, ApiError, call, upload } from '@/api/client';
import EmptyState from '@/components/notice/EmptyState.vue';
import ErrorNotice from '@/components/notice/ErrorNotice.vue';
import HelpBeside from '@/components/shell/HelpBeside.vue';
import { when } from '@/lib/when';
import { useHelp } from '@/store/help';
import { usePeople } from '@/store/people';
import ProjectPicture from './ProjectPicture.vue';
import SampleList from './SampleList.vue';

interface Row {
  id: string;
  name: string;
  version: number;
  updatedAt: string;
}
const router = useRouter();
const people = usePeople();
const help = useHelp();
const projects = ref<Row[] | null>(null);
const failure = ref('');
const name = ref('');
const doomed = ref<string | null>(null);

async function load(): Promise<void> {
  try {
    projects.value = (await call('listProjects')).projects;
    failure.value = '';
  } catch (error) {
    if (error instanceof ApiError && error.status === 401) return void (await router.replace('/sign-in'));
    failure.value = (error as Error).message;
  }
}
async function create(from: 'empty' | 'demo'): Promise<void> {
  try {
    const made = await call('createProject', {
      body: { name: from === 'demo' ? 'Seedsnipe' : name.value.trim() || 'New aircraft', from },
    });
    await router.push(`/p/${made.id}/brief`);
  } catch (error) {
    toast.error((error as Error).message);
  }
}
const input = ref<HTMLInputElement | null>(null);
/** The file that is being read. */
const reading = ref<string | null>(null);
const unread = ref<{ id: string; name: string; left: string[] } | null>(null);
async function open(file: File | undefined): Promise<void> {
  if (!file || reading.value) return;
  reading.value = file.name;
  try {
    const made = await upload('importProject', file);
    if (made.left.length === 0) return void (await router.push(`/p/${made.id}/brief`));
    unread.value = made;
    await load();
  } catch (error) {
    const { message, hint = '' } = error as Error & { hint?: string };
    toast.error(`${file.name}: ${message} ${hint}`.trim());
  } finally {
    reading.value = null;
    if (input.value) input.value.value = '';
  }
}
/** A file may be dropped anywhere on the page. */
const page = ref<HTMLElement | null>(null);
const { isOverDropZone } = useDropZone(page, { onDrop: (files) => void open(files?.[0]), multiple: false });
async function remove(row: Row): Promise<void> {
  if (doomed.value !== row.id) {
    doomed.value = row.id;
    return;
  }
  doomed.value = null;
  try {
    await call('removeProject', { params: { id: row.id } });
  } catch (error) {
    const { message, hint } = error as Error & { hint?: string };
    toast.error(message, { description: hint });
  }
  await load();
}
onMounted(load);
</script>

<template>
  <HelpBeside page="help/projects">
    <div ref="page" class="h-full overflow-y-auto" :class="isOverDropZone ? 'bg-select' : ''">
      <main class="mx-auto flex max-w-4xl flex-col px-6 pt-14 pb-10">
        <h1 class="flex items-baseline text-3xl font-semibold">
          Veldtwind<span class="flex-1" />
          <button
            class="icon-btn self-center"
            aria-label="Help"
            title="Help (F1)"
            data-test="help-open"
            @click="help.show({ page: 'help/projects' })"
          >
            <CircleHelp :size="16" />
          </button>
          <RouterLink
            v-if="people.person"
            to="/people"
            class="text-[13px] font-normal text-soft hover:text-ochre-text"
            data-test="people"
            >{{ people.person.name }} · people</RouterLink
          >
        </h1>
        <p class="serif mt-1 text-[16px] text-soft italic">
          From a brief and a sketch to: does it lift, does it trim, is it stable?
        </p>
        <form class="mt-7 flex gap-2" @submit.prevent="create('empty')">
          <input
            v-model="name"
            class="w-64 rounded border border-rule bg-field px-3 py-1"
            maxlength="80"
            placeholder="Name of a new project"
            aria-label="Name of a new project"
            data-test="new-name"
          />
          <button class="btn btn-main" data-test="new-project">Start a project</button>
          <RouterLink class="btn flex items-center" to="/layouts" data-test="layouts">Start from a layout</RouterLink>
          <button class="btn" type="button" data-test="new-demo" @click="create('demo')">
            Open a copy of the demo
          </button>
          <button class="btn" type="button" :disabled="reading !== null" data-test="open-file" @click="input?.click()">
            {{ reading ? `Reading ${reading}…` : 'Read a project file' }}
          </button>
          <input
            ref="input"
            type="file"
            class="hidden"
            accept=".zip"
            data-test="project-file"
            @change="open(input?.files?.[0])"
          />
        </form>
        <ErrorNotice
          v-if="unread"
          class="mt-6"
          :message="`${unread.name} was read, but for ${unread.left.length} thing${unread.left.length === 1 ? '' : 's'}: ${unread.left.join(' ')}`"
          hint="What could not be read is kept in the project as it is."
          ><RouterLink class="link" :to="`/p/${unread.id}/brief`">Open it</RouterLink></ErrorNotice
        >
        <ErrorNotice v-if="failure" class="mt-6" :message="failure" hint="Start the server again; nothing is lost."
          ><button class="link" @click="load">Try again</button></ErrorNotice
        >
        <EmptyState
          v-if="!failure && projects?.length === 0"
          title="No project yet"
          text="A project holds one brief, its sections, and the candidates that are weighed against each other."
        />
        <ul v-else-if="!failure" class="mt-7 divide-y divide-rule border-t border-rule">
          <li v-for="p in projects" :key="p.id" class="flex items-center gap-4 py-1.5">
            <ProjectPicture :project="p.id" />
            <RouterLink
              :to="`/p/${p.id}/brief`"
              class="serif flex-1 text-[16.5px] font-semibold hover:text-ochre-text"
              >{{ p.name }}</RouterLink
            >
            <span class="text-soft">{{ p.version }} edit{{ p.version === 1 ? '' : 's' }}</span>
            <span class="w-40 text-right text-soft">{{ when(p.updatedAt) }}</span>
            <a
              class="icon-btn"
              :href="addressOf('exportProject', { id: p.id })"
              :aria-label="`Export ${p.name} as a file`"
              title="Export as a file: parts, history, originals and results"
              download
              ><Download :size="14"
            /></a>
            <button
              class="icon-btn"
              :class="doomed === p.id ? 'bg-select text-clay' : ''"
              :aria-label="`Remove ${p.name}`"
              @click="remove(p)"
            >
              <Trash2 :size="14" /><span v-if="doomed === p.id" class="ml-1 text-[12px]">remove for good?</span>
            </button>
          </li>
        </ul>
        <SampleList />
      </main>
    </div>
  </HelpBeside>
</template>
