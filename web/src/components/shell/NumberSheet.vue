<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { toast } from 'vue-sonner';
import { isQuick, responseOf } from '@veldtwind/core/quantities';
import { formulaParts } from '@/lib/formula-parts';
import { useHelp } from '@/store/help';
import { useNumberSheet } from '@/store/number-sheet';
import { useProject } from '@/store/project';
import { useReports } from '@/store/reports';

/** What a number is and how it was made: definition, formula, method with its sources and range, conditions, doubts. */
const sheet = useNumberSheet();
const n = computed(() => sheet.asked);
const project = useProject();
const route = useRoute();
const reports = useReports();
const help = useHelp();
function read(page: string): void {
  sheet.close();
  help.show({ page });
}
/** A number of level flight at the design point follows the project; any other stays as it was, with its conditions. */
function putIntoReport(): void {
  const number = n.value!;
  const { quantity, origin, title } = number;
  const of = origin?.of;
  const { speed, altitude } = project.brief;
  const live =
    quantity !== undefined &&
    responseOf(quantity) !== undefined &&
    of !== undefined &&
    of.loading === undefined &&
    of.speed === speed &&
    of.altitude === altitude;
  const name = title.charAt(0).toUpperCase() + title.slice(1);
  const value = `${number.value} ${number.unit}`.trim();
  const markdown = live
    ? `${name} of candidate ${of.letter}: @{${of.letter} ${quantity}}`
    : `${name}: ${value}${origin ? ` (${origin.conditions}, ${origin.method.name})` : ''}`;
  reports.put({ kind: 'text', markdown });
  toast.success(live ? 'The number is in the report, and follows the project' : 'The number is in the report as it is');
  sheet.close();
}
const moved = computed(() => {
  const q = n.value?.quantity === undefined ? undefined : responseOf(n.value.quantity);
  return q !== undefined && isQuick(q) && project.id !== null;
});
</script>

<template>
  <Dialog :open="n !== null" class="relative z-50" @close="sheet.close">
    <div class="fixed inset-0 bg-ink/15" aria-hidden="true" />
    <div class="fixed inset-0 flex justify-center pt-24">
      <DialogPanel v-if="n" class="menu h-fit w-[30rem] p-6! text-[13.5px]" data-test="number-sheet">
        <DialogTitle class="serif text-lg font-semibold">{{ n.title }}</DialogTitle>
        <p class="mt-1 text-[22px] font-semibold">
          {{ n.value }}<span class="ml-1.5 text-[14px] font-normal text-soft">{{ n.unit }}</span>
        </p>
        <p v-if="n.says" class="mt-1.5">{{ n.says.charAt(0).toUpperCase() + n.says.slice(1) }}.</p>
        <p v-if="n.formula" class="serif mt-1.5 text-[15px] italic" data-test="number-formula">
          <template v-for="(p, i) in formulaParts(n.formula)" :key="i"
            ><sub v-if="p.low">{{ p.text }}</sub
            ><template v-else>{{ p.text }}</template></template
          >
        </p>
        <dl v-if="n.origin" class="mt-3 grid grid-cols-[6.5rem_1fr] gap-y-1.5 border-t border-rule-light pt-3">
          <dt class="text-soft">Conditions</dt>
          <dd>{{ n.origin.conditions }}</dd>
          <dt class="text-soft">Method</dt>
          <dd data-test="number-method">
            {{ n.origin.method.name
            }}<b v-if="n.origin.provisional" class="font-semibold text-clay">
              provisional: section polars are not there yet</b
            >
            <span class="block text-[12.5px] text-soft">{{ n.origin.method.says }}</span>
            <button class="link text-[12.5px]" data-test="number-help" @click="read(n.origin.method.page)">
              Read the method
            </button>
          </dd>
          <dt class="text-soft">Validity</dt>
          <dd>{{ n.origin.method.valid }}</dd>
          <dt class="text-soft">Sources</dt>
          <dd>
            <span v-for="s in n.origin.method.sources" :key="s" class="block text-[12.5px]">{{ s }}</span>
          </dd>
          <template v-if="n.origin.doubts.length">
            <dt class="text-clay">Doubts</dt>
            <dd>
              <span v-for="d in n.origin.doubts" :key="d" class="block text-clay">{{ d }}</span>
              <button class="link text-[12.5px]" @click="read('help/doubts')">What doubts mean</button>
            </dd>
          </template>
        </dl>
        <div class="mt-4 flex items-center gap-4">
          <button class="btn" @click="sheet.close">Close</button>
          <button v-if="project.id !== null" class="link" data-test="number-report" @click="putIntoReport">
            Put into the report
          </button>
          <RouterLink
            v-if="moved"
            class="link"
            data-test="what-moves-it"
            :to="{ name: 'studies', params: { project: project.id! }, query: { ...route.query, of: n.quantity } }"
            @click="sheet.close"
            >Sensitivities</RouterLink
          >
        </div>
      </DialogPanel>
    </div>
  </Dialog>
</template>
