<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue';
import { UserPlus } from 'lucide-vue-next';
import { computed, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';
import { toast } from 'vue-sonner';
import { ROLES, type ReplyOf, type Role } from '@veldtwind/contract';
import { call } from '@/api/client';
import OneTimeSecret from '@/components/notice/OneTimeSecret.vue';
import { when } from '@/lib/when';
import { initials, usePeople } from '@/store/people';
import { useProject } from '@/store/project';

/** Who else is in the project, as small marks that lead to where they are; and who may do what in it. */
const project = useProject();
const people = usePeople();
const router = useRouter();
const MOST = 4;
const marks = computed(() => people.each.slice(0, MOST));
const more = computed(() => people.each.length - marks.value.length);
const team = shallowRef<ReplyOf<'team'> | null>(null);
const role = ref<Role>('edit');
const link = ref<string | null>(null);
const owns = computed(() => people.may('own'));
const WORDS: Record<Role, string> = { read: 'reads', comment: 'comments', edit: 'edits', own: 'owns' };
const open = computed(
  () => team.value?.invitations.filter((i) => !i.usedAt && i.expiresAt > new Date().toISOString()) ?? [],
);

async function act(job?: () => Promise<unknown>): Promise<void> {
  const id = project.id;
  if (!id) return;
  try {
    await job?.();
    team.value = await call('team', { params: { id } });
  } catch (error) {
    const { message, hint } = error as Error & { hint?: string };
    toast.error(message, { description: hint });
  }
}
const invite = () =>
  act(async () => {
    const made = await call('invite', { params: { id: project.id! }, body: { role: role.value, note: '' } });
    link.value = location.origin + made.link;
  });
function goTo(person: string, place: string): void {
  people.following = people.following === person ? null : person;
  if (people.following) void router.push(`/p/${project.id}/${place}`);
}
</script>

<template>
  <span class="flex items-center gap-1">
    <button
      v-for="p in marks"
      :key="p.person"
      class="grid size-6 place-items-center rounded-full border text-[10.5px] font-semibold"
      :class="
        people.following === p.person ? 'border-ochre bg-select text-ochre-text' : 'border-rule bg-field text-ink'
      "
      :title="`${p.name}: ${p.label}. ${people.following === p.person ? 'Click to stop following.' : 'Click to follow.'}`"
      :aria-label="`Follow ${p.name}`"
      :aria-pressed="people.following === p.person"
      data-test="someone"
      @click="goTo(p.person, p.place)"
    >
      {{ initials(p.name) }}
    </button>
    <span v-if="more > 0" class="text-[12px] text-soft">+{{ more }}</span>
    <Popover class="relative">
      <PopoverButton
        class="icon-btn"
        aria-label="People in this project"
        title="People in this project"
        data-test="team"
        @click="act()"
      >
        <UserPlus :size="15" />
      </PopoverButton>
      <PopoverPanel class="menu absolute right-0 mt-2 w-96 text-[13px] whitespace-normal">
        <div class="p-2">
          <h2 class="text-[15px] font-semibold">People in this project</h2>
          <ul class="mt-1 max-h-60 overflow-y-auto">
            <li
              v-for="p in team?.people"
              :key="p.id"
              class="flex items-center gap-2 border-t border-rule-light py-1 first:border-t-0"
              data-test="member"
            >
              <span class="min-w-0 flex-1 truncate">{{ p.name }}</span>
              <select
                v-if="owns"
                class="rounded border border-rule bg-field px-1 py-0.5"
                :aria-label="`Role of ${p.name}`"
                :value="p.role"
                @change="
                  (e) =>
                    act(() =>
                      call('setRole', {
                        params: { id: project.id!, person: p.id },
                        body: { role: (e.target as HTMLSelectElement).value as Role },
                      }),
                    )
                "
              >
                <option v-for="r in ROLES" :key="r" :value="r">{{ WORDS[r] }}</option>
              </select>
              <span v-else class="text-soft">{{ WORDS[p.role] }}</span>
              <button
                v-if="owns || p.id === people.person?.id"
                class="link"
                @click="act(() => call('dropRole', { params: { id: project.id!, person: p.id } }))"
              >
                {{ p.id === people.person?.id ? 'Leave' : 'Remove' }}
              </button>
            </li>
          </ul>
          <p v-if="team?.people.length === 0" class="text-soft">Only the server’s owner, so far.</p>
          <template v-if="owns">
            <form class="mt-2 flex items-center gap-2 border-t border-rule pt-2" @submit.prevent="invite">
              <span class="flex-1">Invite somebody who</span>
              <select
                v-model="role"
                class="rounded border border-rule bg-field px-1 py-0.5"
                aria-label="Role of the invitation"
                data-test="invite-role"
              >
                <option v-for="r in ROLES" :key="r" :value="r">{{ WORDS[r] }}</option>
              </select>
              <button class="btn" data-test="invite">Create a link</button>
            </form>
            <OneTimeSecret v-if="link" class="mt-2" label="Link for one person, valid for 7 days" :value="link" />
            <p v-for="i in open" :key="i.id" class="mt-1 flex text-[12px] text-soft">
              <span class="flex-1">Open: {{ i.role && WORDS[i.role] }}, until {{ when(i.expiresAt) }}</span>
              <button
                class="link"
                @click="act(() => call('withdrawInvitation', { params: { id: project.id!, invitation: i.id } }))"
              >
                Withdraw
              </button>
            </p>
          </template>
        </div></PopoverPanel
      >
    </Popover>
  </span>
</template>
