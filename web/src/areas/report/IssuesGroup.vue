<script setup lang="ts">
import { computed, onMounted, ref } from 'vue';
import { Copy } from 'lucide-vue-next';
import { toast } from 'vue-sonner';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { when } from '@/lib/when';
import { useProject } from '@/store/project';
import { useReports } from '@/store/reports';

/** Issues of the report, which never change, and the links by which it is read without an account. */
const props = defineProps<{ shown: string | null }>();
const emit = defineEmits<{ look: [issue: string | null]; compare: [issue: string] }>();
const project = useProject();
const reports = useReports();
const note = ref('');
const busy = ref(false);
onMounted(() => void reports.refreshIssues());
const own = computed(() => reports.issues.filter((i) => i.reportId === reports.part?.id));
const links = computed(() => reports.links.filter((l) => l.reportId === reports.part?.id));
async function issue(): Promise<void> {
  busy.value = true;
  await reports.issue(note.value.trim());
  busy.value = false;
  note.value = '';
}
const addressOf = (token: string) => `${location.origin}/r/${token}`;
async function copy(token: string): Promise<void> {
  try {
    await navigator.clipboard.writeText(addressOf(token));
    toast.success('Link copied');
  } catch {
    toast.message('The link', { description: addressOf(token), duration: 20_000 });
  }
}
const ofLink = (issueId: string | null) => {
  const found = own.value.find((i) => i.id === issueId);
  return found ? `issue ${found.number}` : 'current state';
};
</script>

<template>
  <SheetGroup title="Issues">
    <form class="flex gap-1.5" @submit.prevent="issue">
      <input
        v-model="note"
        class="min-w-0 flex-1 rounded border border-rule bg-field px-2 py-[3px] text-[13px]"
        maxlength="1000"
        placeholder="Note"
        aria-label="Note on the issue"
      />
      <button class="btn btn-main" data-test="issue-report" :disabled="busy || !reports.part">
        {{ busy ? 'Issuing…' : 'Issue' }}
      </button>
    </form>
    <p v-if="!own.length" class="mt-1 text-[12px] text-soft">
      An issue keeps text, figures and numbers as they are now.
    </p>
    <ul class="mt-1 text-[12.5px]" data-test="issues">
      <li
        v-for="i in own"
        :key="i.id"
        class="flex items-baseline gap-2 py-[2px]"
        :class="i.id === props.shown ? 'bg-select' : ''"
      >
        <button
          class="link"
          :aria-pressed="i.id === props.shown"
          @click="emit('look', i.id === props.shown ? null : i.id)"
        >
          Issue {{ i.number }}
        </button>
        <span class="min-w-0 flex-1 truncate text-soft" :title="i.note"
          >{{ when(i.createdAt) }}{{ i.note ? `: ${i.note}` : '' }}</span
        >
        <button class="link" @click="emit('compare', i.id)">Compare</button>
        <button class="link" :aria-label="`Link to issue ${i.number}`" @click="reports.link(i.id)">Share</button>
      </li>
    </ul>
  </SheetGroup>
  <SheetGroup title="Read-only links">
    <button class="btn" data-test="share-report" :disabled="!reports.part" @click="reports.link(null)">
      Share the current state
    </button>
    <ul class="mt-1 text-[12.5px]" data-test="report-links">
      <li v-for="l in links" :key="l.token" class="flex items-baseline gap-2 py-[2px]">
        <a class="link min-w-0 flex-1 truncate" :href="addressOf(l.token)" target="_blank" rel="noreferrer"
          >{{ ofLink(l.issueId) }}, {{ when(l.createdAt) }}</a
        >
        <button class="icon-btn" aria-label="Copy the link" title="Copy the link" @click="copy(l.token)">
          <Copy :size="13" />
        </button>
        <button class="link" @click="reports.withdraw(l.token)">Withdraw</button>
      </li>
    </ul>
    <p class="mt-1 text-[12px] text-soft">
      Whoever has a link reads this one report of {{ project.name }}, and nothing else.
    </p>
  </SheetGroup>
</template>
