<script setup lang="ts">
import { ArrowLeft, X } from 'lucide-vue-next';
import { computed, nextTick, ref, shallowRef, watch } from 'vue';
import { AREAS } from '@/areas';
import { searchHelp, sectionFor, type HelpPage } from '@/help/help-text';
import { useHelp } from '@/store/help';

/** A page of help beside the work: about an area, a heading of it, a method. Everything is in the program. */
const help = useHelp();
const pages = shallowRef<readonly HelpPage[]>([]);
const html = shallowRef<((page: HelpPage) => string) | null>(null);
const query = ref('');
const body = ref<HTMLElement | null>(null);
const heading = ref<HTMLElement | null>(null);

// Texts and their renderer come when help is asked for the first time.
async function load(): Promise<void> {
  const [texts, renderer] = await Promise.all([import('@/help/help-pages'), import('@/help/help-markdown')]);
  html.value = (page) => renderer.helpHtml(page, texts.HELP_DRAWINGS);
  pages.value = texts.HELP_PAGES;
}
void load();
watch(
  [() => help.asked, pages],
  () => help.asked && pages.value.length > 0 && help.show(sectionFor(pages.value, help.asked.area, help.asked.heading)),
  { immediate: true },
);

const page = computed(() => pages.value.find((p) => p.id === help.place?.page) ?? null);
const markup = computed(() => (page.value && html.value ? html.value(page.value) : ''));
const hits = computed(() => searchHelp(pages.value, query.value));
const contents = computed(() => {
  const areas = AREAS.flatMap((a) => pages.value.filter((p) => p.id === `help/${a.id}`));
  const rest = pages.value.filter((p) => !areas.includes(p)).sort((a, b) => a.title.localeCompare(b.title));
  const inFolder = (folder: string) => rest.filter((p) => p.id.startsWith(`${folder}/`));
  return [
    { name: 'Areas', pages: areas },
    { name: 'General', pages: inFolder('help') },
    { name: 'Sample aircraft', pages: inFolder('samples') },
    { name: 'Methods', pages: inFolder('methods') },
    { name: 'Reference', pages: rest.filter((p) => !/^(help|methods|samples)\//.test(p.id)) },
  ];
});

/** The section that was asked for stands at the top and is marked. */
async function reveal(): Promise<void> {
  await nextTick();
  if (!body.value) return;
  for (const el of body.value.querySelectorAll('[data-asked]')) el.removeAttribute('data-asked');
  const to = help.place?.section;
  const target = to ? body.value.querySelector<HTMLElement>(`[data-section="${CSS.escape(to)}"]`) : null;
  target?.setAttribute('data-asked', '');
  if (target) target.scrollIntoView({ block: 'start' });
  else body.value.scrollTop = 0;
  heading.value?.focus({ preventScroll: true });
}
watch([() => help.place, markup], () => ((query.value = ''), reveal()), { immediate: true });

function follow(e: MouseEvent): void {
  const link = (e.target as HTMLElement).closest('a');
  if (!link) return;
  const { page: to, to: section } = link.dataset;
  if (to === undefined) return;
  e.preventDefault();
  help.show({ page: to, section });
}
</script>

<template>
  <aside
    class="flex min-h-0 flex-col border-l border-rule bg-leaf"
    aria-label="Help"
    data-test="help"
    @keydown.esc="help.close"
  >
    <div class="flex items-center gap-1 border-b border-rule-light px-3 py-2">
      <button
        class="icon-btn"
        :disabled="!help.canGoBack"
        aria-label="Back in the help"
        title="Back"
        @click="help.back"
      >
        <ArrowLeft :size="15" />
      </button>
      <input
        v-model="query"
        type="search"
        class="min-w-0 flex-1 rounded border border-rule bg-field px-2 py-1 text-[13px]"
        placeholder="Search the help"
        aria-label="Search the help"
        data-test="help-search"
      />
      <button class="link px-1 text-[13px]" @click="help.show({ page: 'contents' })">Contents</button>
      <button
        class="icon-btn"
        aria-label="Close the help"
        title="Close (Esc)"
        data-test="help-close"
        @click="help.close"
      >
        <X :size="15" />
      </button>
    </div>
    <div ref="body" class="min-h-0 flex-1 overflow-y-auto px-5 py-4">
      <ul v-if="query.trim()" data-test="help-hits">
        <li v-for="h in hits" :key="`${h.page}#${h.section}`" class="mb-3">
          <button class="text-left" @click="help.show({ page: h.page, section: h.section })">
            <b class="link font-semibold">{{ h.title }}</b>
            <span class="block text-[12.5px] text-soft">{{ h.excerpt }}</span>
          </button>
        </li>
        <li v-if="hits.length === 0" class="text-soft">No page has all of these words. Try fewer of them.</li>
      </ul>
      <template v-else-if="page">
        <h2 ref="heading" tabindex="-1" class="serif mb-2 text-[20px] font-semibold focus:outline-none!">
          {{ page.title }}
        </h2>
        <!-- The source is the program's own text, not a user's. -->
        <!-- eslint-disable-next-line vue/no-v-html -->
        <div class="help-text" data-test="help-text" @click="follow" v-html="markup" />
      </template>
      <template v-else-if="pages.length > 0">
        <h2 ref="heading" tabindex="-1" class="serif mb-2 text-[20px] font-semibold focus:outline-none!">Contents</h2>
        <section v-for="g in contents" :key="g.name" class="mb-4">
          <h3 class="mb-1 font-semibold">{{ g.name }}</h3>
          <ul>
            <li v-for="p in g.pages" :key="p.id">
              <button class="link text-left" @click="help.show({ page: p.id })">{{ p.title }}</button>
            </li>
          </ul>
        </section>
      </template>
    </div>
  </aside>
</template>
