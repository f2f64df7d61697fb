<script setup lang="ts">
import { GripVertical } from 'lucide-vue-next';
import { computed } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import type { ReportBlock } from '@veldtwind/core/report';
import SheetGroup from '@/components/field/SheetGroup.vue';
import { useProject } from '@/store/project';
import { useReports } from '@/store/reports';
import { blockName } from './report-look';

/** All blocks in their order: a click goes to one, dragging moves it. */
const emit = defineEmits<{ go: [id: string] }>();
const project = useProject();
const reports = useReports();
const blocks = computed(() => reports.part?.blocks ?? []);
const nameOf = (b: ReportBlock) => blockName(b, (id) => project.document.candidates[id]?.name);
const indent = (b: ReportBlock) =>
  b.kind === 'heading' ? ['', 'pl-2', 'pl-4'][b.level - 1] + ' font-semibold' : 'pl-4 text-soft';
function moved(e: { oldIndex?: number; newIndex?: number }): void {
  const block = e.oldIndex === undefined ? undefined : blocks.value[e.oldIndex];
  if (block && e.newIndex !== undefined) reports.moveTo(block.id, e.newIndex);
}
</script>

<template>
  <SheetGroup title="Outline">
    <VueDraggable
      :model-value="[...blocks]"
      tag="ol"
      handle=".grip"
      :animation="120"
      class="max-h-[42vh] overflow-y-auto text-[12.5px]"
      aria-label="Report blocks"
      data-test="report-outline"
      @update="moved"
    >
      <li v-for="b in blocks" :key="b.id" class="flex items-center gap-1 rounded hover:bg-select">
        <span class="grip cursor-grab text-faint" aria-hidden="true"><GripVertical :size="12" /></span>
        <button class="min-w-0 flex-1 truncate py-[2px] text-left" :class="indent(b)" @click="emit('go', b.id)">
          {{ nameOf(b) }}
        </button>
      </li>
    </VueDraggable>
  </SheetGroup>
</template>
